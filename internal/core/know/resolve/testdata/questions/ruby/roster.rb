class Pager # @is Pager @under Pager = Bell,Horn
  def page(times) # @is page @under page = page:bell,page:horn
  end
end

class Bell < Pager # @is Bell @over Bell = Pager
  def initialize # @is initialize
    @rings = 0
  end

  def page(times) # @is page:bell @over page:bell = page
    @rings += times
  end

  def heard # @is heard @called heard = alert
    @rings
  end
end

class Horn < Bell # @is Horn @ref Bell type @over Horn = Bell,Pager
  def page(times) # @is page:horn @over page:horn = page:bell,page
    super
  end
end

def alert(pager, level) # @is alert @is level @calls alert = quiet,page:bell,heard,initialize
  pager.page(level) if level > quiet # @value level
  Horn.new.heard
end

def quiet # @is quiet @called quiet = alert
  1
end

def forgotten # @unused
end

alert(Bell.new, 3) # @ref alert call @ref Bell read @value level
