// Package spoken is the screen for a program that reads it out: one thing at a time, in words, with the cursor
// where it is. Nothing is drawn.
package spoken

import (
	"strings"

	"rooktrail/internal/ui/ink"
)

// Screen is what there is to say.
type Screen struct {
	// Where says where one is, in a few words each.
	Where []string
	// Line is the line of the caret, and Column in which column of it the caret is, from 0.
	Line   string
	Column int
	// Over are the rows of what lies over the code, nil for nothing; Typed says that their first is typed into,
	// and At is where the cursor is in it.
	Over  []string
	Typed bool
	At    int
	// Ways says where one can go, Message what happened, Lesson what is to be done; "" for nothing.
	Ways, Message, Lesson string
}

// mostRows is how many rows of something that is no list are shown.
const mostRows = 40

// Rows are the lines of the screen, at most so many of a width, and where the cursor is among them.
func (s *Screen) Rows(width, height int) (rows []string, x, y int) {
	put := func(words string) {
		if words != "" && len(rows) < height {
			rows = append(rows, ink.Fit(words, width))
		}
	}
	put(s.Message)
	switch {
	case s.Over == nil:
		line := s.Line
		x, y = s.Column, len(rows)
		if x >= width { // what lies far to the left is left out
			runes := []rune(line)
			line = string(runes[min(x-width/2, len(runes)):])
			x = width / 2
		}
		rows = append(rows, ink.Fit(line, width))
		put(strings.Join(s.Where, ", "))
		put(s.Ways)
	default:
		if s.Typed {
			x, y = min(s.At, width-1), len(rows)
			put(s.Over[0])
		}
		if chosen := Chosen(s.Over); chosen >= 0 {
			if !s.Typed {
				x, y = 0, len(rows)
			}
			put(Said(s.Over[chosen]))
		} else if !s.Typed || len(s.Over) > 1 {
			if !s.Typed {
				y = len(rows)
			}
			rest := s.Over
			if s.Typed {
				rest = rest[1:]
			}
			for _, r := range rest[:min(len(rest), mostRows)] {
				put(Said(r))
			}
		}
		put(Said(s.Over[len(s.Over)-1]))
	}
	put(s.Lesson)
	for len(rows) < height {
		rows = append(rows, ink.Fit("", width))
	}
	return rows[:height], x, y
}
