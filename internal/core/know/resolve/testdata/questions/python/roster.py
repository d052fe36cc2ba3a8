class Pager: # @is Pager @under Pager = Bell,Horn
    def page(self, times): # @is page @under page = page:bell,page:horn
        raise NotImplementedError


class Bell(Pager): # @is Bell @over Bell = Pager
    def __init__(self):
        self.rings = 0 # @is rings @value rings

    def page(self, times): # @is page:bell @over page:bell = page
        self.rings += times # @ref rings readwrite @value rings

    def heard(self): # @is heard @called heard = alert
        return self.rings # @ref rings read @value rings


class Horn(Bell): # @is Horn @over Horn = Bell,Pager
    def page(self, times): # @is page:horn @over page:horn = page:bell,page
        super().page(times)


def alert(pager: Pager, level): # @is alert @is pager @is level @calls alert = page,quiet,heard,Horn
    if level > quiet(): # @value level
        pager.page(level) # @type pager = Pager @ref pager read @value level
    return Horn().heard()


def quiet(): # @is quiet @called quiet = alert
    return 1


def forgotten(): # @unused
    pass
