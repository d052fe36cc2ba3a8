protocol Pager { // @is Pager @under Pager = Bell,Horn
    func page(times: Int) // @is page @under page = page:bell,page:horn
}

class Bell: Pager { // @is Bell @over Bell = Pager
    var rings = 0 // @is rings @value rings
    func page(times: Int) { // @is page:bell @over page:bell = page
        self.rings += times // @ref rings readwrite @value rings
    }
    func heard() -> Int { return rings } // @is heard @ref rings read @value rings @called heard = alert
}

class Horn: Bell { // @is Horn @over Horn = Bell,Pager
    override func page(times: Int) { super.page(times: times) } // @is page:horn @over page:horn = page:bell,page
}

func alert(pager: Pager, level: Int) -> Int { // @is alert @is pager @is level @calls alert = quiet,page,heard,Horn
    if level > quiet() { // @value level
        pager.page(times: level) // @type pager = Pager @value level
    }
    return Horn().heard()
}

func quiet() -> Int { return 1 } // @is quiet @called quiet = alert

func forgotten() {} // @unused

_ = alert(pager: Bell(), level: 3) // @value level
