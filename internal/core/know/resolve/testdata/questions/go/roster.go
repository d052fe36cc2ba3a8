package tarn

type Pager interface { // @is Pager @under Pager = Bell,Horn @over Pager = -
	Page(times int) error // @is Page @under Page = Page:bell,Page:horn
}

type Bell struct{ rings int } // @is Bell @is rings @over Bell = Pager

func (b *Bell) Page(times int) error { // @is Page:bell @over Page:bell = Page @called Page:bell = alert,Page:horn
	b.rings += times // @ref rings readwrite @value rings
	return nil
}

type Horn struct{ Bell } // @is Horn @over Horn = Bell,Pager

func (h Horn) Page(times int) error { // @is Page:horn
	return h.Bell.Page(h.rings) // @ref rings read @value rings @type rings = -
}

func alert(p Pager, level int) { // @is alert @is level @calls alert = Page,quiet @tests alert = TestAlert @called alert = TestAlert,main @ref Pager type
	if level > quiet() { // @value level
		_ = p.Page(level) // @type p = Pager @value level
	}
}

func quiet() int { return 1 } // @is quiet @called quiet = alert @calls quiet = -

func forgotten() {} // @unused

func main() { // @is main
	alert(&Bell{}, 3) // @value level
	alert(Horn{}, 4)  // @value level
}
