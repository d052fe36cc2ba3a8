module Tarn
  class Page # @def Page
    def title; end # @def title
  end
end
module Tarn
  class Loader
    class Page < Base # @def Page:inner
      def open; end # @def open
    end
  end
end
