package report

// Live reads a report of lines while it is being printed.
type Live struct {
	out  *Report
	take func(line string)
	end  func()
}

// NewLive begins to read a report of a form that is one of lines.
func NewLive(form Form) *Live {
	l := &Live{out: &Report{Form: form}, end: func() {}}
	l.take = l.out.line
	switch form {
	case GoTest:
		g := newGoTest(l.out)
		l.take, l.end = g.line, g.end
	case TAP:
		l.take = newTAP(l.out).line
	case Unittest:
		u := newUnittest(l.out)
		l.take, l.end = u.line, u.end
	case Cargo:
		c := newCargo(l.out)
		l.take, l.end = c.line, c.end
	}
	return l
}

// Line takes in a line, without its end.
func (l *Live) Line(line string) { l.take(line) }

// End says that there are no more lines, and gives the report.
func (l *Live) End() *Report {
	l.end()
	return l.out
}

// Results are those so far, from a number on.
func (l *Live) Results(from int) []Result { return l.out.Results[min(from, len(l.out.Results)):] }
