package problem

import (
	"bytes"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
)

// names finds names that nothing defines, where the language allows to tell.
func (l *looking) names() {
	if l.file.Facts == nil || l.mayComeAlong() {
		return
	}
	text := l.file.Text.Bytes()
	for u := range l.unknown() {
		if l.lang.Wrong.Bare(u, text) && l.meansNothingHere(u.At) {
			l.named[u.Name] = true
			l.add(u.At, Name, Tool, resolve.Inferred, "nothing defines "+u.Name)
		}
	}
}

// mayComeAlong says whether the file imports all that something has, whatever that is.
func (l *looking) mayComeAlong() bool {
	return slices.ContainsFunc(l.file.Facts.Imports, func(i facts.Imported) bool { return i.Alias == "" && (i.Name == "*" || strings.HasSuffix(i.Path, "*")) })
}

// slips finds names that nothing defines, that stand nowhere else in the project, and that are but one letter away from another
// name of the file.
func (l *looking) slips() {
	if l.file.Facts == nil || !l.lang.Wrong.Slips.Is() || l.mayComeAlong() {
		return
	}
	uses := map[string]int{}
	for _, u := range l.file.Facts.Uses {
		uses[u.Name]++
	}
	for u := range l.unknown() {
		if len(u.Name) < leastSlip || uses[u.Name] != 1 || l.named[u.Name] {
			continue
		}
		near, ok := l.near(u, uses)
		if !ok || slices.ContainsFunc(l.code.Mentioning(u.Name), func(p string) bool { return p != l.file.Path }) || !l.meansNothing(u.At) {
			continue
		}
		l.named[u.Name] = true
		l.add(u.At, Name, Tool, resolve.ByName, "nothing defines "+u.Name+"; "+near+" is but a letter away")
	}
}

// leastSlip is how long a name has to be for a letter of it to be a slip.
const leastSlip = 4

// near is a name that the file defines, or uses more than once, and that is but a letter away from that of a use.
func (l *looking) near(u facts.Use, uses map[string]int) (name string, ok bool) {
	for i := range l.file.Facts.Defs {
		if d := &l.file.Facts.Defs[i]; isSlip(u.Name, d.Name) {
			return d.Name, true
		}
	}
	best := ""
	for other, n := range uses {
		if n > 1 && isSlip(u.Name, other) && (best == "" || other < best) {
			best = other
		}
	}
	return best, best != ""
}

// isSlip says whether one name is another but for a letter too few, too many, or wrong, or two that changed places.
func isSlip(a, b string) bool {
	if a == b || len(a) > len(b)+1 || len(b) > len(a)+1 {
		return false
	}
	start := 0
	for start < len(a) && start < len(b) && a[start] == b[start] {
		start++
	}
	end := 0
	for end < len(a)-start && end < len(b)-start && a[len(a)-1-end] == b[len(b)-1-end] {
		end++
	}
	x, y := a[start:len(a)-end], b[start:len(b)-end]
	switch {
	case strings.EqualFold(x, y), strings.ContainsAny(x+y, "?!=_$"):
		return false // another kind of name
	case isNumber(x) && isNumber(y):
		return false // one of several that are numbered
	case len(x) == 2 && len(y) == 2:
		return x[0] == y[1] && x[1] == y[0]
	}
	return len(x) <= 1 && len(y) <= 1
}

func isNumber(s string) bool {
	for _, b := range []byte(s) {
		if b < '0' || b > '9' {
			return false
		}
	}
	return s != ""
}

// unknown are the uses of names with nothing in front of them that neither the file nor the language defines.
func (l *looking) unknown() func(yield func(facts.Use) bool) {
	f, text := l.file.Facts, l.file.Text.Bytes()
	return func(yield func(facts.Use) bool) {
		known := map[string]bool{}
		for i := range f.Defs {
			known[f.Defs[i].Name] = true
		}
		for _, i := range f.Imports {
			known[i.Name] = true
		}
		for _, u := range f.Uses {
			if u.Base != facts.NoExpr || u.Role == facts.ImportUse || known[u.Name] || l.lang.Scopes.Builtin[u.Name] || l.lang.Names.Reserved[u.Name] ||
				isMember(text[:u.At.Start]) || l.isProse(u.At) {
				continue
			}
			if l.ctx.Err() != nil || !yield(u) {
				return
			}
		}
	}
}

// meansNothing says whether nothing is known that a name could mean.
func (l *looking) meansNothing(at place.Range) bool {
	res := l.resolver.Definition(l.ctx, l.file.Path, int(at.Start))
	return len(res.Answers) == 0 && res.Outside == ""
}

// meansNothingHere says whether nothing is known that a name could mean but what has the same name elsewhere.
func (l *looking) meansNothingHere(at place.Range) bool {
	res := l.resolver.Definition(l.ctx, l.file.Path, int(at.Start))
	return res.Outside == "" && !slices.ContainsFunc(res.Answers, func(a resolve.Answer) bool { return a.Certainty != resolve.ByName })
}

// isDefined says whether the file defines a name anywhere.
func (l *looking) isDefined(name string) bool {
	if l.defined == nil {
		l.defined = map[string]bool{}
		for i := range l.file.Facts.Defs {
			l.defined[l.file.Facts.Defs[i].Name] = true
		}
	}
	return l.defined[name]
}

// isOfType says whether a name stands in front of that of a type, which may be known everywhere.
func (l *looking) isOfType(u facts.Use) bool {
	if l.types == nil {
		l.types = map[uint32]bool{}
		for _, o := range l.file.Facts.Uses {
			l.types[o.At.Start] = l.types[o.At.Start] || o.Role == facts.TypeUse
		}
	}
	return l.types[u.At.End+1]
}

// isProse says whether something stands in a comment or a string.
func (l *looking) isProse(at place.Range) bool {
	_, said := l.prose.At(int(at.Start))
	return said
}

// isMember says whether what follows a text belongs to what stands before it.
func isMember(text []byte) bool {
	text = bytes.TrimRight(text, " \t\r\n\\")
	return slices.ContainsFunc([]string{".", "->", "::", "@", "$", "#"}, func(sign string) bool { return bytes.HasSuffix(text, []byte(sign)) })
}
