package topline

import (
	"strconv"
	"time"

	"rooktrail/internal/ui/sheet"
)

// Standing is how things stand, which the right of the line says.
type Standing struct {
	// Reading says that the project is still being read, and Read how much of it was, in per cent.
	Reading bool
	// Rest is about how long that still takes; 0 if it is not known.
	Rest time.Duration
	Read int
	// Line and Col are where the caret is, from 1; 0 without a file.
	Line, Col int
	// Leaf says that one is in the leaf, Solo that a function or type is alone on the screen.
	Leaf, Solo bool
	// Marks and Problems say how many bookmarks there are, and how much is wrong; "" for none.
	Marks, Problems string
	// Sweeping says that there is a sweep, with so much of it to do.
	Sweeping bool
	ToDo     int
	// Outside says that the file lies outside of the project, Foreign that it is not the project's own.
	Outside, Foreign bool
	// Files is how many are open, Unsaved how many have changes that are not saved, and Lost that these would be lost.
	Files, Unsaved int
	Lost           bool
	// Writing says that letters are typed.
	Writing bool
}

// Words are what is said of it.
func (s Standing) Words() (words []Word) {
	add := func(so bool, rank int, text string) {
		if so {
			words = append(words, Word{Text: text, Rank: rank})
		}
	}
	add(s.Reading, 7, "reading "+strconv.Itoa(s.Read)+" %"+left(s.Rest))
	add(s.Line > 0, 6, "line "+strconv.Itoa(s.Line)+" column "+strconv.Itoa(s.Col))
	add(s.Leaf, 1, "in the leaf")
	add(s.Solo, 1, "solo")
	add(s.Problems != "", 2, s.Problems)
	add(s.Marks != "", 3, s.Marks)
	add(s.Sweeping, 2, "sweep "+strconv.Itoa(s.ToDo)+" to do")
	add(s.Outside, 0, "outside the project")
	add(!s.Outside && s.Foreign, 0, "not the project's own")
	add(s.Files > 1, 4, sheet.Count(s.Files, "file", "files")+" open")
	add(s.Unsaved > 0 && !s.Lost, 0, strconv.Itoa(s.Unsaved)+" not saved")
	add(s.Unsaved > 0 && s.Lost, 0, strconv.Itoa(s.Unsaved)+" not saved, NOT kept")
	add(s.Writing, 0, "WRITE")
	add(!s.Writing, 0, "roam")
	return words
}

// left says how long something still takes, if that is long enough to wonder.
func left(rest time.Duration) string {
	switch {
	case rest < 20*time.Second:
		return ""
	case rest < 90*time.Second:
		return ", " + strconv.Itoa(int(rest/(10*time.Second))*10) + " s left"
	}
	return ", " + strconv.Itoa(int((rest+30*time.Second)/time.Minute)) + " min left"
}
