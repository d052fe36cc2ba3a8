module Tarn
  class Loader
    class Through < Page # @use Page:inner
      def run
        open # @use open
      end
    end
  end
  class Other < Page # @use Page
  end
end
