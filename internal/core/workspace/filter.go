package workspace

import (
	"path"
	"strings"

	"rooktrail/internal/core/facts"
)

// Filter is what the words of the form name:value in a query narrow it to. The
// zero Filter lets everything through.
type Filter struct {
	in, extension []string
	kinds         []string
	test          bool
	tested        bool // test says whether tests are wanted or not
}

// ParseFilter takes the words in:FOLDER, kind:KIND, ext:EXTENSION and is:test
// (or is:code, for what is no test) out of a query. A word of that form that
// says nothing known stays in the query.
func ParseFilter(query string) (rest string, f Filter) {
	var words []string
	for _, w := range strings.Fields(query) {
		name, value, ok := strings.Cut(w, ":")
		if !ok || value == "" || !f.take(name, strings.ToLower(value)) {
			words = append(words, w)
		}
	}
	return strings.Join(words, " "), f
}

func (f *Filter) take(name, value string) bool {
	switch {
	case name == "in":
		f.in = append(f.in, value)
	case name == "ext":
		f.extension = append(f.extension, "."+strings.TrimPrefix(value, "."))
	case name == "kind":
		f.kinds = append(f.kinds, value)
	case name == "is" && (value == "test" || value == "code"):
		f.test, f.tested = value == "test", true
	default:
		return false
	}
	return true
}

// Empty says that the filter lets everything through.
func (f *Filter) Empty() bool {
	return len(f.in) == 0 && len(f.extension) == 0 && len(f.kinds) == 0 && !f.tested
}

// Path says whether a file gets through.
func (f *Filter) Path(p string) bool {
	lower := strings.ToLower(p)
	if len(f.in) > 0 && !any(f.in, func(in string) bool { return strings.Contains("/"+path.Dir(lower)+"/", "/"+strings.Trim(in, "/")) }) {
		return false
	}
	if len(f.extension) > 0 && !any(f.extension, func(e string) bool { return strings.HasSuffix(lower, e) }) {
		return false
	}
	return !f.tested || IsTest(p) == f.test
}

// Kind says whether a symbol of the kind gets through. A kind may be named by
// its beginning, and "type" stands for everything that values can be of.
func (f *Filter) Kind(k facts.Kind) bool {
	return len(f.kinds) == 0 || any(f.kinds, func(want string) bool {
		return want == "type" && k.IsType() || strings.HasPrefix(strings.ReplaceAll(k.String(), " ", ""), want)
	})
}

func any(list []string, holds func(string) bool) bool {
	for _, s := range list {
		if holds(s) {
			return true
		}
	}
	return false
}

// IsTest says whether a file holds tests, by what it is called.
func IsTest(p string) bool {
	base := strings.ToLower(path.Base(p))
	stem, _, _ := strings.Cut(base, ".")
	switch {
	case strings.HasPrefix(stem, "test_"), strings.HasSuffix(stem, "_test"), strings.HasSuffix(stem, "_tests"), stem == "conftest",
		strings.Contains(base, ".test."), strings.Contains(base, ".spec."), strings.HasSuffix(stem, "test") && path.Ext(base) == ".java":
		return true
	}
	for _, folder := range strings.Split(path.Dir(strings.ToLower(p)), "/") {
		if folder == "test" || folder == "tests" || folder == "__tests__" || folder == "testdata" {
			return true
		}
	}
	return false
}
