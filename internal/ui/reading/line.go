package reading

import (
	"strconv"
	"strings"

	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// askLine asks for the number of a line.
func (m *Model) askLine() surface.Intent {
	here := m.host.Here()
	if here.File == nil {
		return here.Lack("there are no lines here")
	}
	last := here.File.Text.Lines()
	words := "line, of " + sheet.Number(last) + " (also 42:7, +5, -5, 50%):"
	return m.question.Ask(words, "", func(answer string) surface.Intent {
		line, col, ok := lineOf(answer, here.View.Place.Line, last)
		if !ok {
			return surface.Say("%q is not a line; it may be 42, 42:7 with a column, +5 or -5 from here, 50%% of the file", answer)
		}
		todo := surface.Go(surface.Visit{Path: here.View.Place.Path, Line: line, Col: col, How: "line " + strconv.Itoa(line)})
		if line > last {
			todo.Say = "there is no line " + sheet.Number(line) + "; this is the last, " + sheet.Number(last)
		}
		return todo
	})
}

// lineOf reads which line is meant, seen from the present one in a file of so many, and which column, from
// 1 and in bytes; 0 if none is said.
func lineOf(answer string, present, last int) (line, col int, ok bool) {
	answer = strings.TrimSpace(answer)
	if percent, cut := strings.CutSuffix(answer, "%"); cut {
		n, err := strconv.Atoi(percent)
		return max(1, (last*min(n, 100)+99)/100), 0, err == nil && n >= 0
	}
	number, column, both := strings.Cut(answer, ":")
	line, err := strconv.Atoi(number)
	if err != nil {
		return 0, 0, false
	}
	if strings.HasPrefix(number, "+") || strings.HasPrefix(number, "-") {
		line = max(1, present+line)
	}
	if both {
		if col, err = strconv.Atoi(column); err != nil || col < 1 {
			return 0, 0, false
		}
	}
	return line, col, line > 0
}
