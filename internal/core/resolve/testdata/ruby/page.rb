module Tarn
  class Page # @def Page
    def title; end # @def title
  end
end
