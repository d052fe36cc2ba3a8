class Pager # @is Pager @under Pager = Bell,Horn
  def page(times) # @is page @under page = page:bell,page:horn
  end
end

class Bell < Pager # @is Bell @over Bell = Pager
  def initialize
    @rings = 0
  end

  def page(times) # @is page:bell @over page:bell = page
    @rings += times
  end

  def heard # @is heard
    @rings
  end
end

class Horn < Bell # @is Horn @over Horn = Bell,Pager
  def page(times) # @is page:horn @over page:horn = page:bell,page
    super
  end
end

def alert(pager, level) # @is alert @is level
  pager.page(level) if level > quiet # @value level
  Horn.new.heard
end

def quiet # @is quiet
  1
end

def forgotten # @unused
end

alert(Bell.new, 3) # @value level
