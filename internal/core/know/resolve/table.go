package resolve

import (
	"slices"
	"sort"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// A call through a field that holds a function may lead to each function that is put into that field anywhere: by an assignment,
// under its name in a list of values, or in its place there.

// heldFunctions are the functions that a field holds somewhere, as far as they are written out where it is set.
func (q *question) heldFunctions(field ref) []ref {
	d := field.def()
	if field.src.sees() != lang.SeesIncludes || !d.Kind.IsValue() {
		return nil
	}
	table := &table{question: q, field: field}
	t := &target{name: d.Name, names: []string{d.Name}, same: map[definedAt]bool{field.at(): true}, best: field, family: q.family(field.src.path)}
	t.alone = q.alone(t)
	var mu sync.Mutex
	var set []Reference
	q.uses(t, func(some []Reference) bool {
		mu.Lock()
		defer mu.Unlock()
		for _, u := range some {
			if u.Access == facts.Write || u.Access == facts.ReadWrite {
				set = append(set, u)
			}
		}
		return len(set) < mostSet
	})
	for _, u := range set {
		if src := q.source(u.Path); src != nil {
			table.after(src, int(u.At.End))
		}
	}
	if owner := q.owner(field); owner.ok() {
		table.inPlaces(owner)
	}
	slices.SortFunc(table.found, byPlace)
	return table.found
}

// mostSet is how many places that set a field are looked at.
const mostSet = 5000

// table gathers the functions that a field holds.
type table struct {
	*question
	field ref
	found []ref
}

// after takes the value behind a name and a sign that sets it.
func (t *table) after(src *source, at int) {
	text := src.text
	for at < len(text) && (isBlank(text[at]) || text[at] == ']') {
		at++
	}
	if at+1 < len(text) && text[at] == '=' && text[at+1] != '=' {
		t.value(src, at+1)
	}
}

// value takes the function that a value names which begins at an offset, be it behind a cast.
func (t *table) value(src *source, at int) {
	i := sort.Search(len(src.Uses), func(i int) bool { return int(src.Uses[i].At.Start) >= at })
	for ; i < len(src.Uses); i++ {
		u := src.Uses[i]
		for ; at < int(u.At.Start); at++ {
			if c := src.text[at]; !isBlank(c) && c != '&' && c != '(' && c != ')' && c != '*' {
				return
			}
		}
		at = int(u.At.End)
		refs := t.meant(src, u).refs
		if u.Role == facts.TypeUse || len(refs) > 0 && refs[0].def().Kind.IsType() { // of a cast
			continue
		}
		for ; at < len(src.text) && (isBlank(src.text[at]) || src.text[at] == ')'); at++ {
		}
		if u.Role == facts.Call || at < len(src.text) && src.text[at] != ',' && src.text[at] != ';' && src.text[at] != '}' {
			return
		}
		if len(refs) > 0 && refs[0].def().Kind.IsCallable() && !slices.ContainsFunc(t.found, func(o ref) bool { return o.at() == refs[0].at() }) {
			t.found = append(t.found, refs[0])
		}
		return
	}
}

// fieldsHolding are the fields that a function is put into, by way of which it may be called.
func (q *question) fieldsHolding(f ref) (fields []ref) {
	if f.src.sees() != lang.SeesIncludes || f.def().Kind != facts.Function {
		return nil
	}
	add := func(r ref) {
		if r.ok() && r.def().Kind == facts.Field && !slices.ContainsFunc(fields, func(o ref) bool { return o.at() == r.at() }) {
			fields = append(fields, r)
		}
	}
	t := &target{name: f.def().Name, names: []string{f.def().Name}, same: map[definedAt]bool{f.at(): true}, best: f, family: q.family(f.src.path)}
	for _, r := range q.again(f) {
		t.same[r.at()] = true
	}
	var mu sync.Mutex
	var read []Reference
	q.uses(t, func(some []Reference) bool {
		mu.Lock()
		defer mu.Unlock()
		for _, u := range some {
			if u.Access == facts.Read {
				read = append(read, u)
			}
		}
		return len(read) < mostSet
	})
	for _, u := range read {
		src := q.source(u.Path)
		if src == nil {
			continue
		}
		if set, ok := src.setBy(int(u.At.Start)); ok {
			if refs := q.meant(src, set).refs; len(refs) > 0 {
				add(refs[0])
			}
			continue
		}
		for _, field := range q.placed(src, int(u.At.Start), f) {
			add(field)
		}
	}
	return fields
}

// setBy is the use of the name that is set to the value at an offset.
func (s *source) setBy(at int) (facts.Use, bool) {
	i := at - 1
	for i > 0 && (isBlank(s.text[i]) || s.text[i] == '&' || s.text[i] == '(' || s.text[i] == ')') {
		if s.text[i] == ')' { // of a cast
			for i > 0 && s.text[i] != '(' {
				i--
			}
		}
		i--
	}
	if i < 1 || s.text[i] != '=' || !isBlank(s.text[i-1]) && !isLetter(s.text[i-1]) && s.text[i-1] != ']' {
		return facts.Use{}, false
	}
	for i--; i > 0 && !isLetter(s.text[i]); i-- {
		if !isBlank(s.text[i]) {
			return facts.Use{}, false
		}
	}
	return s.UseAt(i)
}

// placed are the fields that get a function in the list of values around an offset, by their places.
func (q *question) placed(src *source, at int, f ref) (fields []ref) {
	for id := range src.Defs {
		d := &src.Defs[id]
		if !d.Kind.IsValue() || !d.Full.Holds(at) || d.Type == facts.NoExpr {
			continue
		}
		open := listBehind(src.text, int(d.At.End), int(d.Full.End))
		of := q.elementType(src.ref(facts.DefID(id)))
		if open < 0 || !of.named.ok() {
			continue
		}
		all := fieldsOf(of.named)
		names := make([]string, len(all))
		for i, field := range all {
			names[i] = field.def().Name
		}
		for _, field := range all {
			t := &table{question: q, field: field}
			if t.list(src, open, names); slices.ContainsFunc(t.found, func(o ref) bool { return o.def().Name == f.def().Name }) {
				fields = append(fields, field)
			}
		}
	}
	return fields
}

// fieldsOf are the fields of a type in their order.
func fieldsOf(owner ref) (fields []ref) {
	for id := range owner.src.Defs {
		if d := &owner.src.Defs[id]; d.Scope == owner.def().Body && d.Kind == facts.Field {
			fields = append(fields, owner.src.ref(facts.DefID(id)))
		}
	}
	return fields
}

// elementType is the type of a variable, or of what it has in its lists.
func (q *question) elementType(r ref) Type {
	of := q.typeOfRef(r, 0)
	for e := of.expr(); e.Kind == facts.ListOf; e = of.expr() {
		of = q.inside(of, e.Base, 0)
	}
	return of
}

func isBlank(c byte) bool { return c == ' ' || c == '\t' || c == '\n' || c == '\r' }

// inPlaces takes the values in the place of the field in lists of values for the type that it belongs to.
func (t *table) inPlaces(owner ref) {
	var fields []string
	for _, f := range fieldsOf(owner) {
		fields = append(fields, f.def().Name)
	}
	names := []string{owner.def().Name}
	for _, o := range t.again(owner) {
		names = append(names, o.def().Name)
	}
	for _, p := range t.mentioning(names) {
		src := t.source(p)
		if src == nil || src.sees() != lang.SeesIncludes || t.ctx.Err() != nil {
			continue
		}
		for id := range src.Defs {
			d := &src.Defs[id]
			if !d.Kind.IsValue() || d.Type == facts.NoExpr {
				continue
			}
			open := listBehind(src.text, int(d.At.End), int(d.Full.End))
			if open < 0 {
				continue
			}
			if of := t.elementType(src.ref(facts.DefID(id))); of.named.ok() && of.named.at() == owner.at() {
				t.list(src, open, fields)
			}
		}
	}
}

// listBehind is where the list of values behind a name begins; -1 if there is none.
func listBehind(text []byte, at, end int) int {
	for ; at < min(end, len(text)); at++ {
		switch text[at] {
		case '=':
			for at++; at < end && isBlank(text[at]); at++ {
			}
			if at < end && text[at] == '{' {
				return at
			}
			return -1
		case ';', '{', '(':
			return -1
		}
	}
	return -1
}

// list takes the value of the field from a list of values, or from the lists in it.
func (t *table) list(src *source, open int, fields []string) {
	place := 0
	for _, at := range elements(src.text, open) {
		switch src.text[at] {
		case '{':
			t.list(src, at, fields)
		case '[': // the place in a list of lists
			for at < len(src.text) && src.text[at] != '=' {
				at++
			}
			if open := listBehind(src.text, at, len(src.text)); open >= 0 {
				t.list(src, open, fields)
			}
		case '.':
			name := at + 1
			end := name
			for end < len(src.text) && isLetter(src.text[end]) {
				end++
			}
			place = slices.Index(fields, string(src.text[name:end])) + 1 // the value was found by its name
		default:
			if place < len(fields) && fields[place] == t.field.def().Name {
				t.value(src, at)
			}
			place++
		}
	}
}

func isLetter(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
}

// elements are where the elements of a list in braces begin.
func elements(text []byte, open int) (all []int) {
	depth, begins := 0, false
	for i := open; i < len(text); i++ {
		switch c := text[i]; {
		case isBlank(c):
			continue
		case c == '/' && i+1 < len(text) && (text[i+1] == '*' || text[i+1] == '/'):
			i = commentEnd(text, i)
			continue
		case depth == 1 && begins && c != '}' && c != ',':
			all, begins = append(all, i), false
		}
		switch c := text[i]; c {
		case '{', '(', '[':
			if depth++; depth == 1 {
				begins = true
			}
		case '}', ')', ']':
			if depth--; depth == 0 {
				return all
			}
		case ',':
			begins = begins || depth == 1
		case '"', '\'':
			for i++; i < len(text) && text[i] != c; i++ {
				if text[i] == '\\' {
					i++
				}
			}
		}
	}
	return all
}

// commentEnd is the last byte of a comment.
func commentEnd(text []byte, at int) int {
	line := text[at+1] == '/'
	for i := at + 2; i < len(text); i++ {
		if line && text[i] == '\n' || !line && text[i] == '/' && text[i-1] == '*' {
			return i
		}
	}
	return len(text)
}
