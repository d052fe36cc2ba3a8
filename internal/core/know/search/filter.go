package search

import (
	"path"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/find"
)

// Filter is what the words of the form name:value in a query narrow it to. The
// zero Filter lets everything through.
type Filter struct {
	in, extension []string
	include       []string // globs, one of which must match
	exclude       []string // globs, none of which may match
	kinds         []string
	test          bool
	tested        bool       // test says whether tests are wanted or not
	wild          [][]string // of each word with *, the pieces between them
	changed       bool       // only files that differ from the last commit
	all           bool       // also what is left out otherwise
	// isChanged knows which those are; it is given by who searches.
	isChanged map[string]bool
}

// ParseFilter takes the words in:FOLDER, kind:KIND, ext:EXTENSION, glob:GLOB,
// not:GLOB, is:test (or is:code, for what is no test), is:changed and is:all (also what
// is left out otherwise) out of a query. A word of that
// form that says nothing known stays in the query. So does a word with *, as
// letters to be found, and its pieces must lie in a name side by side.
func ParseFilter(query string) (rest string, f Filter) { return parseFilter(query, true) }

// parseFilter is ParseFilter; without stars, * is a letter like any other, as in
// a text that is looked for.
func parseFilter(query string, stars bool) (rest string, f Filter) {
	var words []string
	for _, w := range strings.Fields(query) {
		name, value, ok := strings.Cut(w, ":")
		switch {
		case ok && value != "" && f.take(name, strings.ToLower(value)):
		case stars && strings.Contains(w, "*") && len(w) > 1:
			f.wild = append(f.wild, pieces(w))
			if bare := strings.ReplaceAll(w, "*", ""); bare != "" {
				words = append(words, bare)
			}
		default:
			words = append(words, w)
		}
	}
	return strings.Join(words, " "), f
}

// pieces are what stands between the stars of a word, in small letters.
func pieces(w string) (list []string) {
	for _, p := range strings.Split(strings.ToLower(w), "*") {
		if p != "" {
			list = append(list, p)
		}
	}
	return list
}

// Wild says whether a name, a qualified one or a path, has the pieces of all
// words with * in their order.
func (f *Filter) Wild(name string) bool {
	lower := strings.ToLower(name)
	for _, word := range f.wild {
		rest := lower
		for _, p := range word {
			i := strings.Index(rest, p)
			if i < 0 {
				return false
			}
			rest = rest[i+len(p):]
		}
	}
	return true
}

func (f *Filter) take(name, value string) bool {
	switch {
	case name == "in":
		f.in = append(f.in, value)
	case name == "glob" && doublestar.ValidatePattern(value):
		f.include = append(f.include, value)
	case name == "not" && doublestar.ValidatePattern(value):
		f.exclude = append(f.exclude, value)
	case name == "ext":
		f.extension = append(f.extension, "."+strings.TrimPrefix(value, "."))
	case name == "kind":
		f.kinds = append(f.kinds, value)
	case name == "is" && value == "changed":
		f.changed = true
	case name == "is" && value == "all":
		f.all = true
	case name == "is" && (value == "test" || value == "code"):
		f.test, f.tested = value == "test", true
	default:
		return false
	}
	return true
}

// Empty says that the filter lets everything through.
func (f *Filter) Empty() bool {
	return len(f.in) == 0 && len(f.extension) == 0 && len(f.kinds) == 0 && !f.tested && len(f.wild) == 0 && !f.changed && len(f.include)+len(f.exclude) == 0
}

// Path says whether a file gets through.
func (f *Filter) Path(p string) bool {
	lower := strings.ToLower(p)
	if len(f.in) > 0 && !slices.ContainsFunc(f.in, func(in string) bool { return within(lower, strings.Trim(in, "/")) }) {
		return false
	}
	if len(f.extension) > 0 && !slices.ContainsFunc(f.extension, func(e string) bool { return strings.HasSuffix(lower, e) }) {
		return false
	}
	if len(f.include) > 0 && !find.AnyGlob(f.include, lower) || find.AnyGlob(f.exclude, lower) {
		return false
	}
	if f.changed && !f.isChanged[p] {
		return false
	}
	return !f.tested || catalog.Set().IsTest(p) == f.test
}

// within says whether a path, in small letters, lies in a folder that may be named by the beginnings of its names, or is a file
// that is named in full, or but for its ending.
func within(lower, in string) bool {
	if strings.Contains("/"+path.Dir(lower)+"/", "/"+in) {
		return true
	}
	rest, ok := strings.CutPrefix(lower, in)
	if i := strings.LastIndex(lower, "/"+in); !ok && i >= 0 {
		rest, ok = lower[i+1+len(in):], true
	}
	return ok && (rest == "" || rest == path.Ext(lower))
}

// Kind says whether a symbol of the kind gets through. A kind may be named by
// its beginning; "type" stands for everything that values can be of, "function"
// for all that is called, and "value" for what holds a value.
func (f *Filter) Kind(k facts.Kind) bool {
	return len(f.kinds) == 0 || slices.ContainsFunc(f.kinds, func(want string) bool {
		switch {
		case want == "type" && k.IsType(), want == "function" && k.IsCallable(), want == "value" && k.IsValue():
			return true
		}
		return strings.HasPrefix(strings.ReplaceAll(k.String(), " ", ""), want)
	})
}
