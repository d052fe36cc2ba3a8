require_relative 'page'
module Tarn
  class Board < Page # @def Board @use Page
    attr_reader :name
    def initialize(name)
      @name = name
    end
    def draw(total) # @def draw @def total
      helper(total) # @use helper @use total
      title # @use title
      self.draw(1) # @use draw
    end
    def helper(x) = x # @def helper
  end
end
