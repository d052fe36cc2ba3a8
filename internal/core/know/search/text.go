package search

import (
	"bytes"
	"context"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/work"
)

// TextHit is a place where a text was found.
type TextHit struct {
	place.Place
	// At is the found text in the file, in bytes; Mark the same in Text.
	At, Mark place.Range
	Role     find.Role
	// Text is the line, or the part of a very long line around the hit; Above
	// and Below are the lines before and after it, "" where there are none.
	Text, Above, Below string
}

// TextReport says what a search left out.
type TextReport struct {
	Files, Binary, Unreadable int
}

// longestShown is how much of a long line is shown with a hit, in bytes.
const longestShown = 400

// mostAhead is how many files are looked through before their hits are taken,
// so that somebody who takes them slowly does not fill the memory.
const mostAhead = 64

// FindText looks for a text in all files of the project, several at a time,
// and hands the hits over file by file, in the order of the paths; hits in one
// file come in theirs. It ends early when yield returns false or ctx is
// cancelled.
func (s *Searcher) FindText(ctx context.Context, m *find.Matcher, yield func([]TextHit) bool) TextReport {
	return s.findText(ctx, m, nil, yield)
}

// findText is FindText with some files before all others.
func (s *Searcher) findText(ctx context.Context, m *find.Matcher, front map[string]bool, yield func([]TextHit) bool) TextReport {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	var wanted []string
	for f := range s.code.Listing().Files() {
		if m.Wants(f.Path) {
			wanted = append(wanted, f.Path)
		}
	}
	slices.SortFunc(wanted, func(a, b string) int {
		if front[a] != front[b] {
			if front[a] {
				return -1
			}
			return 1
		}
		return strings.Compare(a, b)
	})
	going := &textSearch{in: s, matcher: m, paths: wanted, results: make([]chan []TextHit, len(wanted)), ahead: make(chan struct{}, mostAhead)}
	for i := range going.results {
		going.results[i] = make(chan []TextHit, 1)
	}
	wg := work.Group{Failed: func(*work.Panic) { cancel() }}
	for range work.Processors() {
		wg.Go(func() { going.work(ctx) })
	}
	for _, result := range going.results {
		var hits []TextHit
		select {
		case hits = <-result:
		case <-ctx.Done():
		}
		if ctx.Err() != nil || len(hits) > 0 && !yield(hits) {
			break
		}
		<-going.ahead
	}
	cancel()
	wg.Wait()
	going.report.Files = len(wanted)
	return going.report
}

// SearchText finds a text in the files of the project and hands the hits over
// file by file: first the files that define a symbol of that name, then the
// others in the order of their paths; at most limit hits. Words such as
// in:dispatch in the pattern narrow it; see ParseFilter. It ends early when
// yield returns false or ctx is cancelled.
func (s *Searcher) SearchText(ctx context.Context, q find.Query, limit int, yield func([]TextHit) bool) (TextReport, error) {
	rest, filter := parseFilter(q.Pattern, false)
	s.fillIn(ctx, &filter)
	if !filter.Empty() {
		q.Pattern = rest
	}
	m, err := find.Compile(q)
	if err != nil {
		return TextReport{}, err
	}
	defining := map[string]bool{}
	for _, sym := range s.code.Index().Named(q.Pattern) {
		defining[sym.Path] = true
	}
	left := limit
	return s.findText(ctx, m, defining, func(found []TextHit) bool {
		if !filter.Path(found[0].Path) {
			return true
		}
		found = found[:min(len(found), left)]
		left -= len(found)
		return yield(found) && left > 0
	}), nil
}

// TextFilter takes words such as in:dispatch out of the pattern of a query, and says which files they let through; nil
// for all. An error says what is wrong with a word.
func (s *Searcher) TextFilter(ctx context.Context, q *find.Query) (keep func(path string) bool, err error) {
	if err := s.CheckFilter(q.Pattern); err != nil {
		return nil, err
	}
	rest, filter := parseFilter(q.Pattern, false)
	if filter.Empty() {
		return nil, nil
	}
	s.fillIn(ctx, &filter)
	q.Pattern = rest
	return filter.Path, nil
}

// textSearch is a search under way.
type textSearch struct {
	in      *Searcher
	matcher *find.Matcher
	paths   []string
	results []chan []TextHit // one for each path
	ahead   chan struct{}    // holds an entry for each file that is not handed over yet

	mu     sync.Mutex
	next   int
	report TextReport
}

func (s *textSearch) work(ctx context.Context) {
	for {
		select {
		case s.ahead <- struct{}{}:
		case <-ctx.Done():
			return
		}
		s.mu.Lock()
		i := s.next
		s.next++
		s.mu.Unlock()
		if i >= len(s.paths) {
			<-s.ahead
			return
		}
		s.results[i] <- s.file(s.paths[i])
	}
}

// textOf is the text of a file as it is written, or else as it is on disk.
func (s *Searcher) textOf(p string) (*text.Document, error) {
	if f := s.code.Unsaved(p); f != nil {
		return f.Text, nil
	}
	return text.Load(s.code.Absolute(p))
}

// file looks through one file.
func (s *textSearch) file(path string) (hits []TextHit) {
	doc, err := s.in.textOf(path)
	if err != nil || doc.Binary() {
		s.mu.Lock()
		defer s.mu.Unlock()
		if err != nil {
			s.report.Unreadable++
		} else {
			s.report.Binary++
		}
		return nil
	}
	body := doc.Bytes()
	var offsets []int
	s.matcher.All(body, func(m find.Match) bool {
		offsets = append(offsets, m.Start)
		hits = append(hits, hitIn(path, doc, m))
		return true
	})
	if len(hits) == 0 {
		return nil
	}
	defined := s.in.code.Index().In(path)
	for i, role := range find.Roles(s.in.code.Languages().Signs(path), body, offsets) {
		hits[i].Role = role
		if n, ok := slices.BinarySearch(defined, offsets[i]); ok || n < len(defined) && defined[n] < int(hits[i].At.End) {
			hits[i].Role = find.Definition
		}
	}
	return hits
}

func hitIn(path string, doc *text.Document, m find.Match) TextHit {
	line, col := doc.Position(m.Start)
	full := doc.Line(line)
	from := 0
	if len(full) > longestShown && col > longestShown/4 {
		from = col - longestShown/4
	}
	shown := shownOf(full[from:])
	start := min(col-1-from, len(shown))
	return TextHit{
		Place: place.Place{Path: path, Line: line, Col: col},
		At:    place.Range{Start: uint32(m.Start), End: uint32(m.End)},
		Mark:  place.Range{Start: uint32(start), End: uint32(min(start+m.End-m.Start, len(shown)))},
		Text:  string(shown),
		Above: string(shownOf(doc.Line(line - 1))),
		Below: string(shownOf(doc.Line(line + 1))),
	}
}

// LineText is a line as it is listed: without the blanks around it, and of a very long one the
// beginning.
func LineText(doc *text.Document, line int) string {
	b := bytes.TrimSpace(doc.Line(line))
	if len(b) > longestListed {
		b = bytes.ToValidUTF8(b[:longestListed], nil)
	}
	return string(b)
}

// longestListed is how much of a line is listed, in bytes.
const longestListed = 2000

// shownOf is as much of a line as is shown.
func shownOf(line []byte) []byte {
	return bytes.ToValidUTF8(line[:min(len(line), longestShown)], []byte("?"))
}
