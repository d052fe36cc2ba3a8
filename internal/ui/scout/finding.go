package scout

import (
	"context"
	"path"
	"slices"
	"strconv"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/sheet"
)

// finding is what a search needs to know, apart from the screen.
type finding struct {
	finder  Finder
	offers  offers
	options options
	before  Before
	present place.Place
	lines   int
}

// lanes finds the answers of all lanes and puts the lane with the best one
// first.
func (s finding) lanes(ctx context.Context, typed string) []lane {
	query := place.Split(typed)
	if n, err := strconv.Atoi(typed); err == nil && n > 0 && s.present.Path != "" {
		return append([]lane{s.line(n)}, s.find(ctx, place.Place{Path: typed}, typed)...)
	}
	return s.find(ctx, query, typed)
}

func (s finding) find(ctx context.Context, query place.Place, typed string) []lane {
	lanes := []lane{s.files(ctx, query, typed), s.symbols(ctx, query, typed), s.remembered(ctx, laneMarks, s.before.Marks, typed), s.remembered(ctx, laneStops, s.before.Stops, typed), s.offers.lane(typed), s.options.lane(typed)}
	slices.SortStableFunc(lanes, func(a, b lane) int {
		switch {
		case before(a, b):
			return -1
		case before(b, a):
			return 1
		}
		return 0
	})
	return lanes
}

// before says whether lane a belongs above lane b.
func before(a, b lane) bool {
	if len(a.rows) == 0 || len(b.rows) == 0 {
		return len(a.rows) > len(b.rows)
	}
	if a.place() != b.place() {
		return a.place() < b.place()
	}
	return a.best.Better(b.best)
}

// place is where a lane belongs by how sure its best answer is: first what surely was meant, then commands and
// settings that are called so, then what merely has the letters, and last what was only guessed.
func (l *lane) place() int {
	named := l.title == laneCommands || l.title == laneSettings
	switch {
	case l.guess:
		return 5
	case l.best.Close && !named && together(l.best.At) || l.sure:
		return 0
	case l.called:
		return 1
	case l.best.Close && !named:
		return 2
	case named:
		return 3
	}
	return 4
}

// together says whether the letters found stand next to each other.
func together(at []int) bool {
	return len(at) > 0 && at[len(at)-1]-at[0] == len(at)-1
}

func (s finding) line(n int) lane {
	name := "line " + sheet.Number(n) + " of " + path.Base(s.present.Path)
	if n > s.lines {
		name += ", which has " + sheet.Count(s.lines, "line", "lines")
	}
	return lane{title: laneLine, rows: []sheet.Row{{
		What: "go to", Name: name,
		Value: Choice{Place: place.Place{Path: s.present.Path, Line: n}, How: "line " + strconv.Itoa(n)},
	}}}
}

func (s finding) files(ctx context.Context, query place.Place, typed string) lane {
	hits := s.finder.Files(ctx, query.Path, mostHits)
	l := lane{title: laneFiles, full: len(hits) == mostHits}
	for i, h := range hits {
		if i == 0 {
			l.best = h.Match
		}
		row := s.before.fileRow(h.Path, h.Match.At, query.Line, "file: "+typed)
		l.rows = append(l.rows, row)
	}
	return l
}

func (s finding) symbols(ctx context.Context, query place.Place, typed string) lane {
	if query.Line > 0 {
		return lane{title: laneSymbols}
	}
	hits := s.finder.Symbols(ctx, typed, mostHits)
	l := lane{title: laneSymbols, full: len(hits) == mostHits}
	for i, h := range hits {
		if i == 0 {
			l.best = h.Match
		}
		l.rows = append(l.rows, sheet.Row{
			What: h.Kind.String(), Name: h.Qualified(), At: h.Match.At,
			Where: h.Path + " " + strconv.Itoa(h.Line),
			Value: Choice{Place: place.Place{Path: h.Path, Line: h.Line}, Symbol: h.Qualified(), Offset: h.Offset, Length: len(h.Name), How: "symbol: " + typed},
		})
	}
	return l
}

func (b Before) fileRow(p string, at []int, line int, how string) sheet.Row {
	dir, base := path.Split(p)
	row := sheet.Row{What: "file", Name: base, Where: dir, Value: Choice{Place: place.Place{Path: p, Line: line}, How: how}}
	if b.Unsaved[p] {
		row.What = "not saved"
	}
	if line > 0 {
		row.Name += " " + strconv.Itoa(line)
	}
	for _, i := range at {
		if i < len(dir) {
			row.WhereAt = append(row.WhereAt, i)
		} else {
			row.At = append(row.At, i-len(dir))
		}
	}
	return row
}
