package code

import "rooktrail/internal/core/file/text"

// Look is how code is shown, as the user has set it.
type Look struct {
	Numbers Numbers
	// Wrap breaks long lines into rows of the screen.
	Wrap bool
	// Tabs is how many columns lie between two tab stops.
	Tabs text.Tabs
	// Margin is how many rows stay in sight above and below the caret, plus 1; 0 for as many as is usual.
	Margin int
}

// Numbers is how lines are numbered.
type Numbers string

// The ways to number lines.
const (
	FromTheStart Numbers = "absolute"
	FromTheCaret Numbers = "relative"
	NoNumbers    Numbers = "none"
)

// usualMargin is how many rows stay in sight above and below the caret, if nothing else is set.
const usualMargin = 3

// SetLook has the code be shown otherwise.
func (m *Model) SetLook(l Look) {
	if l == m.looks {
		return
	}
	if l.Tabs != m.looks.Tabs {
		m.rulers = nil
	}
	m.looks = l
	m.part = 0
	if l.Wrap {
		m.left = 0
	}
	if m.seen.Rows() > 0 {
		m.want = m.across()
		m.settle()
	}
}

// Look is how the code is shown.
func (m *Model) Look() Look { return m.looks }

// margin is how many rows stay between the caret and the edge.
func (m *Model) margin() int {
	most := (m.height - 1) / 2
	switch {
	case m.flush:
		return 0
	case m.looks.Margin > 0:
		return min(m.looks.Margin-1, most)
	}
	return min(usualMargin, most)
}
