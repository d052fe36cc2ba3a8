package reading

import (
	"strconv"
	"strings"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// foldings are the actions that fold.
func (m *Model) foldings() surface.Commands {
	all := surface.Commands{
		keymap.FoldHere: func() surface.Intent {
			return m.foldAt(func(set *fold.Set, line int) (fold.Region, bool, bool) { return set.Toggle(line) })
		},
		keymap.FoldParent: func() surface.Intent {
			return m.foldAt(func(set *fold.Set, line int) (fold.Region, bool, bool) {
				r, ok := set.FoldAround(line)
				return r, true, ok
			})
		},
		// Without the digit it was chosen as a command, and is asked for.
		keymap.FoldLevel: m.askLevel,
		keymap.FoldAll: func() surface.Intent {
			return m.foldAll(func(set *fold.Set) surface.Intent {
				want := fold.All
				if set.Any() {
					want = fold.None
				}
				switch n := set.FoldIf(want); {
				case n > 0:
					return folded(n, "")
				case !set.Foldable():
					return surface.Say("there is nothing in this file that could be folded")
				}
				return surface.Say("everything is open")
			})
		},
		keymap.FoldNone: func() surface.Intent {
			return m.foldAll(func(set *fold.Set) surface.Intent {
				set.FoldIf(fold.None)
				return surface.Say("everything is open")
			})
		},
		keymap.FoldBodies:   func() surface.Intent { return m.foldIf(fold.Bodies, "; only signatures are left") },
		keymap.FoldComments: func() surface.Intent { return m.foldIf(fold.Comments, "") },
	}
	return all
}

// askLevel asks from which level on is to be folded.
func (m *Model) askLevel() surface.Intent {
	if _, why := m.folds(); why != "" {
		return surface.Say("%s", why)
	}
	return m.question.Ask("fold from which level on, 1 to 9:", "2", func(answer string) surface.Intent {
		level, err := strconv.Atoi(strings.TrimSpace(answer))
		if err != nil || level < 1 || level > 9 {
			return surface.Say("%q is no level from 1 to 9", answer)
		}
		return m.FoldLevel(level)
	})
}

// FoldLevel folds what is deeper than a level, counted from 1.
func (m *Model) FoldLevel(level int) surface.Intent {
	return m.foldIf(fold.Level(level), " at level "+strconv.Itoa(level)+" and deeper")
}

// folds are those of the file; why says why there are none.
func (m *Model) folds() (set *fold.Set, why string) {
	c := m.host.Code()
	set = c.Folds()
	switch {
	case set == nil || c.File().Text.Binary():
		return nil, "there is nothing here to fold"
	case !c.File().Text.Whole():
		return nil, "the rest of this file is still being read; it can be folded then"
	}
	return set, ""
}

// foldAt folds at the line of the caret.
func (m *Model) foldAt(do func(set *fold.Set, line int) (r fold.Region, folded, ok bool)) surface.Intent {
	set, why := m.folds()
	if why != "" {
		return surface.Say("%s", why)
	}
	c, todo := m.host.Code(), surface.Intent{Caret: true}
	line, _ := c.Caret()
	switch r, folded, ok := do(set, line); {
	case !ok:
		todo = todo.And(surface.Say("nothing that could be folded is around this line"))
	case folded:
		c.Line(r.Line)
	}
	c.Refold()
	return todo
}

// foldAll folds by what the regions are, over all of the file.
func (m *Model) foldAll(do func(set *fold.Set) surface.Intent) surface.Intent {
	set, why := m.folds()
	if why != "" {
		return surface.Say("%s", why)
	}
	todo := do(set)
	m.host.Code().Refold()
	todo.Caret = true
	return todo
}

func (m *Model) foldIf(want func(fold.Region) bool, what string) surface.Intent {
	return m.foldAll(func(set *fold.Set) surface.Intent {
		if n := set.FoldIf(want); n > 0 {
			return folded(n, what)
		}
		return surface.Say("there is nothing of the kind in this file")
	})
}

func folded(n int, what string) surface.Intent {
	return surface.Say("%s folded%s; {fold-here} opens one, {fold-none} all", sheet.Count(n, "part is", "parts are"), what)
}
