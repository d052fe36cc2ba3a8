// Package find searches texts for what is written in them.
package find

import (
	"bytes"
	"fmt"
	"regexp"
	"regexp/syntax"
	"strings"
	"unicode/utf8"

	"rooktrail/internal/core/file/text"

	"github.com/bmatcuk/doublestar/v4"
)

// Query says what to look for, and where.
type Query struct {
	// Pattern is the text to look for, or a regular expression in RE2 syntax.
	Pattern string
	Regexp  bool
	// Word looks for whole words only.
	Word bool
	// Case lets letters match only in the same case. Without it a pattern in
	// small letters matches any case, and one with a capital only the same.
	Case bool
	// Include and Exclude are globs; ** stands for any folders. One without a
	// slash is about the name of the file.
	Include, Exclude []string
	// Folder, if not empty, is where to look, relative to the root.
	Folder string
}

// Match is where a text matches, in bytes from 0.
type Match struct{ Start, End int }

// Matcher looks for one query. It may be used by several goroutines.
type Matcher struct {
	query   Query
	literal []byte         // in small letters if fold
	fold    bool           // any case matches
	rare    int            // the byte of literal that is rarest in code
	pattern *regexp.Regexp // instead of literal
}

// Compile prepares a query. For a regular expression that is wrong the error
// says what is wrong with it.
func Compile(q Query) (*Matcher, error) {
	m := &Matcher{query: q}
	for _, g := range append(append([]string{}, q.Include...), q.Exclude...) {
		if !doublestar.ValidatePattern(g) {
			return nil, fmt.Errorf("the glob %q is not well formed; check its brackets", g)
		}
	}
	m.fold = !q.Case && strings.ToLower(q.Pattern) == q.Pattern
	if q.Pattern == "" {
		return nil, fmt.Errorf("there is nothing to look for: the pattern is empty")
	}
	if q.Regexp {
		return m, m.compile(q.Pattern)
	}
	if m.fold && !ascii(q.Pattern) {
		return m, m.compile(regexp.QuoteMeta(q.Pattern))
	}
	m.literal = []byte(q.Pattern)
	m.rare = rarest(m.literal)
	return m, nil
}

func (m *Matcher) compile(pattern string) error {
	flags := "(?m)"
	if m.fold {
		flags = "(?mi)"
	}
	re, err := regexp.Compile(flags + "(?:" + pattern + ")")
	if err != nil {
		what := err.Error()
		if e, ok := err.(*syntax.Error); ok {
			what = e.Code.String()
			if at := unclosed(pattern); e.Code == syntax.ErrMissingParen && at >= 0 {
				what += fmt.Sprintf(" for the one at column %d", at+1)
			} else if at := strings.Index(pattern, e.Expr); at >= 0 && e.Expr != "" && e.Expr != pattern {
				what += fmt.Sprintf(" at column %d: %s", at+1, e.Expr)
			}
		}
		return fmt.Errorf("the regular expression %q does not compile: %s", pattern, what)
	}
	m.pattern = re
	return nil
}

// unclosed is the offset of the last opening parenthesis that nothing closes;
// -1 if there is none.
func unclosed(pattern string) int {
	var open []int
	class := false // inside of [ ]
	for i := 0; i < len(pattern); i++ {
		switch c := pattern[i]; {
		case c == '\\':
			i++
		case class:
			class = c != ']'
		case c == '[':
			class = true
		case c == '(':
			open = append(open, i)
		case c == ')' && len(open) > 0:
			open = open[:len(open)-1]
		}
	}
	if len(open) == 0 {
		return -1
	}
	return open[len(open)-1]
}

func ascii(s string) bool {
	for i := range len(s) {
		if s[i] >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

// common are the bytes of code from the commonest on, roughly.
const common = " etarnoisl\tcdpumfhgb.(),_y\"=vkwxSEATCRINPLDOF01zqj"

// rarest chooses the byte to look for first: the one least common in code.
func rarest(literal []byte) int {
	best, rank := 0, -1
	for i, b := range literal {
		r := strings.IndexByte(common, b)
		if r < 0 {
			r = len(common)
		}
		if r > rank {
			best, rank = i, r
		}
	}
	return best
}

// Wants says whether the query is about the file of the path, relative to the
// root.
func (m *Matcher) Wants(path string) bool {
	q := &m.query
	if q.Folder != "" && q.Folder != "." && path != q.Folder && !strings.HasPrefix(path, strings.TrimSuffix(q.Folder, "/")+"/") {
		return false
	}
	if len(q.Include) > 0 && !AnyGlob(q.Include, path) {
		return false
	}
	return !AnyGlob(q.Exclude, path)
}

// AnyGlob says whether a path matches one of the globs; see Query.Include.
func AnyGlob(globs []string, path string) bool {
	for _, g := range globs {
		subject := path
		if !strings.Contains(g, "/") {
			subject = path[strings.LastIndexByte(path, '/')+1:]
		}
		if ok, err := doublestar.Match(g, subject); ok && err == nil {
			return true
		}
	}
	return false
}

// All calls yield for each match in the text that does not overlap the one
// before, until yield returns false.
func (m *Matcher) All(text []byte, yield func(Match) bool) {
	ahead := letters{-1, -1}
	for at := 0; at <= len(text); {
		start, end := m.next(text, at, &ahead)
		if start < 0 {
			return
		}
		if end > start && (!m.query.Word || wholeWord(text, start, end)) && !yield(Match{start, end}) {
			return
		}
		at = max(end, start+1)
		if m.query.Word && end > start {
			at = start + 1
		}
	}
}

// next finds the next match from an offset on; start is negative if there is
// none.
func (m *Matcher) next(text []byte, from int, ahead *letters) (start, end int) {
	switch {
	case m.pattern != nil:
		return m.nextPattern(text, from)
	case m.fold:
		start = m.nextFolded(text, from, ahead)
	default:
		if start = bytes.Index(text[from:], m.literal); start >= 0 {
			start += from
		}
	}
	return start, start + len(m.literal)
}

// nextPattern begins at the line of the offset, so that ^ and \b see what
// stands in front.
func (m *Matcher) nextPattern(text []byte, from int) (start, end int) {
	for _, loc := range m.pattern.FindAllIndex(text[from:], 1) {
		if loc[0] > 0 || from == 0 || text[from-1] == '\n' {
			return from + loc[0], from + loc[1]
		}
		line := bytes.LastIndexByte(text[:from], '\n') + 1
		for _, l := range m.pattern.FindAllIndex(text[line:], -1) {
			if line+l[0] >= from {
				return line + l[0], line + l[1]
			}
		}
		return -1, -1
	}
	return -1, -1
}

// letters are where the rarest letter of a pattern comes next, small and capital, so that a text is not looked through
// again for one of them at each match of the other.
type letters struct{ small, capital int }

// nextFolded looks for the rarest byte of the literal in both cases and
// compares around it.
func (m *Matcher) nextFolded(text []byte, from int, ahead *letters) int {
	small := m.literal[m.rare]
	capital := small
	if 'a' <= small && small <= 'z' {
		capital -= 'a' - 'A'
	}
	find := func(b byte, from int) int {
		if from >= len(text) {
			return len(text)
		}
		if i := bytes.IndexByte(text[from:], b); i >= 0 {
			return from + i
		}
		return len(text)
	}
	at := from + m.rare
	if ahead.small < at {
		ahead.small = find(small, at)
	}
	switch {
	case capital == small:
		ahead.capital = len(text)
	case ahead.capital < at:
		ahead.capital = find(capital, at)
	}
	for {
		i := min(ahead.small, ahead.capital)
		if i >= len(text) {
			return -1
		}
		if start := i - m.rare; start+len(m.literal) <= len(text) && m.equal(text[start:]) {
			return start
		}
		if i == ahead.small {
			ahead.small = find(small, i+1)
		} else {
			ahead.capital = find(capital, i+1)
		}
	}
}

// equal compares the literal with the beginning of a text, in any case.
func (m *Matcher) equal(text []byte) bool {
	for i, b := range m.literal {
		c := text[i]
		if 'A' <= c && c <= 'Z' {
			c += 'a' - 'A'
		}
		if c != b {
			return false
		}
	}
	return true
}

// wholeWord says whether no word goes on before start or behind end.
func wholeWord(data []byte, start, end int) bool {
	first, _ := utf8.DecodeRune(data[start:])
	last, _ := utf8.DecodeLastRune(data[:end])
	before, _ := utf8.DecodeLastRune(data[:start])
	after, _ := utf8.DecodeRune(data[end:])
	return !(text.InWord(first) && start > 0 && text.InWord(before)) && !(text.InWord(last) && end < len(data) && text.InWord(after))
}
