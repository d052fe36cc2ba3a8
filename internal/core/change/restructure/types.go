package restructure

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// typeOf is how the type of an expression is written in the file, by what is declared; "" if that does not tell.
func (s *scene) typeOf(n syntax.Node) string {
	if s.Type == nil {
		return ""
	}
	return s.Type(n, func(name syntax.Node) string { return s.declared(name.Range()) })
}

// declared is the type with which what a name means is declared, or what it gives; "" if it is not, or cannot be
// written here.
func (s *scene) declared(name place.Range) string {
	a := s.resolver.Meanings(s.ctx, s.path, []int{int(name.Start)})[0]
	if a.Path == "" {
		return ""
	}
	f, text := s.code.Facts(s.ctx, a.Path)
	if f == nil {
		return ""
	}
	id := f.DefAt(int(a.At.Start))
	if id == facts.NoDef {
		return ""
	}
	t := declaredType(f, &f.Defs[id], text)
	if a.Path != s.path && !s.knows(t, a) {
		return ""
	}
	if t == "" && a.Path == s.path {
		return s.ofInit(f, &f.Defs[id])
	}
	return t
}

// ofInit is the type of what a variable is at first, where its own is left out.
func (s *scene) ofInit(f *facts.File, d *facts.Def) string {
	if d.Init == facts.NoExpr || d.Part != 0 || !d.Kind.IsValue() {
		return ""
	}
	chain := s.around(f.Exprs[d.Init].At)
	if n := chain[len(chain)-1]; n.Range() == f.Exprs[d.Init].At {
		return s.typeOf(n)
	}
	return ""
}

// declaredType is the type with which something is declared, as it is written there.
func declaredType(f *facts.File, d *facts.Def, body []byte) string {
	if d.Type == facts.NoExpr {
		return ""
	}
	at := f.Exprs[d.Type].At
	if int(at.End) > len(body) {
		return ""
	}
	for at.Start > 1 && body[at.Start-1] == '.' { // what it is inside of is written before it
		start := at.Start - 1
		for start > 0 && text.ByteInWord(body[start-1]) {
			start--
		}
		if start == at.Start-1 {
			break
		}
		at.Start = start
	}
	t := strings.TrimSpace(string(at.In(body)))
	if t == "var" || t == "auto" {
		return ""
	}
	if d.Kind == facts.Parameter && strings.HasPrefix(strings.TrimSpace(string(body[at.End:min(len(body), int(at.End)+8)])), "...") {
		t += "[]"
	}
	return t
}

// knows says whether a type that is written in another file means the same here: all its names are known to everybody,
// or here, too.
func (s *scene) knows(t string, a resolve.Answer) bool {
	if sameFolder(s.path, a.Path) && s.file.Facts.Package != "" {
		return true // but for what it imports, which is mostly the same
	}
	for _, name := range strings.FieldsFunc(t, func(r rune) bool { return strings.ContainsRune("<>[],.? ", r) }) {
		if s.lang.Scopes.Builtin[name] || s.lang.Names.Reserved[name] || name == "extends" {
			continue
		}
		known := false
		for _, i := range s.file.Facts.Imports {
			known = known || i.Path == name || strings.HasSuffix(i.Path, "."+name) || i.Name == name
		}
		for i := range s.file.Facts.Defs {
			known = known || s.file.Facts.Defs[i].Name == name && s.file.Facts.Defs[i].Kind.IsType()
		}
		if !known || len(name) == 1 { // one letter is a parameter of a type, which means something there alone
			return false
		}
	}
	return true
}
