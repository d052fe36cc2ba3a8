package resolve

import (
	"bytes"
	"cmp"
	"context"
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// orShared adds to what is known of a name by the rules of its language what it is as a name that files of several languages
// share. What the rules lead to goes before that; what merely has the name does not.
func (q *question) orShared(src *source, offset int, own Result) Result {
	all := src.SharedAt(offset)
	if len(all) == 0 {
		return own
	}
	own.Shared = all
	if own.Name == "" {
		own.Name, own.At = string(all[0].At.In(src.text)), all[0].At
	}
	if all[0].Import > 0 { // the rules know the sheet, but not what is in it
		own = Result{Name: own.Name, At: own.At, Shared: all}
	}
	isGiven := slices.ContainsFunc(all, func(s facts.Shared) bool { return s.Given })
	if own.Here && isGiven || !own.Here && len(own.Answers) > 0 && own.Answers[0].Certainty != ByName {
		return own
	}
	switch given := q.givers(src, all); {
	case len(given) > 0:
		own.Here, own.Answers, own.Outside = false, given, ""
	case isGiven:
		own.Here, own.Answers, own.Outside = true, []Answer{q.sharedAnswer(src, all[0])}, ""
	}
	return own
}

// givers are the places where shared names are given, but for the very place that is asked about.
func (q *question) givers(src *source, all []facts.Shared) (given []Answer) {
	for _, s := range all {
		only := q.sheetOf(src, s)
		q.eachShared(s, true, func(in *source, o facts.Shared) bool {
			if in == src && o.At == s.At || only != "" && in.path != only {
				return true
			}
			a := q.sharedAnswer(in, o)
			if only != "" {
				a.Certainty = Inferred
			}
			given = append(given, a)
			return true
		})
		switch s.Realm {
		case facts.Template:
			given = append(given, q.templateFile(src, s)...)
		case facts.Entry:
			return q.fieldsFor(src, given)
		}
	}
	return q.nearestFirst(src.path, given)
}

// sheetOf is the file in which a name is given that something imported has; "" if that may be anywhere.
func (q *question) sheetOf(src *source, s facts.Shared) string {
	if s.Import == 0 {
		return ""
	}
	imp := src.Imports[s.Import-1]
	imp.Name, imp.Alias = "", "_" // the sheet itself
	if sheet := q.imported(src, imp, 0).modules; len(sheet) > 0 {
		return sheet[0]
	}
	return ""
}

// fieldsFor are those of the fields with the name of a key whose type takes as many others of the keys of the file as any.
func (q *question) fieldsFor(keys *source, fields []Answer) []Answer {
	score, best := map[definedAt]int{}, 0
	for _, f := range fields {
		in := q.source(f.Path)
		n := q.common(keys, in, int(f.At.Start))
		score[definedAt{f.Path, f.At.Start}], best = n, max(best, n)
	}
	fields = slices.DeleteFunc(fields, func(f Answer) bool { return 2*score[definedAt{f.Path, f.At.Start}] < best })
	fields = q.nearestFirst(keys.path, fields)
	slices.SortStableFunc(fields, func(a, b Answer) int {
		return cmp.Compare(score[definedAt{b.Path, b.At.Start}], score[definedAt{a.Path, a.At.Start}])
	})
	return fields
}

// common counts the keys that both a file of configuration and the type around an offset of another one have.
func (q *question) common(keys, in *source, offset int) (n int) {
	around := in.Around(offset)
	for len(around) > 0 && !in.Defs[around[len(around)-1]].Kind.IsType() {
		around = around[:len(around)-1]
	}
	if len(around) == 0 {
		return 0
	}
	has := map[string]bool{}
	for i := range keys.Shared {
		if s := &keys.Shared[i]; s.Realm == facts.Entry && !s.Given {
			has[s.Name] = true
		}
	}
	whole := in.Defs[around[len(around)-1]].Full
	for i := range in.Shared {
		if s := &in.Shared[i]; s.Realm == facts.Entry && s.Given && whole.Holds(int(s.At.Start)) && has[s.Name] {
			n++
			has[s.Name] = false
		}
	}
	return n
}

// eachShared visits the places where a shared name, or one that may be the same, is given, or those where it is used.
func (q *question) eachShared(s facts.Shared, given bool, visit func(*source, facts.Shared) bool) {
	for _, p := range q.mentioning(s.Keys(given)) {
		in := q.source(p)
		if in == nil || q.ctx.Err() != nil {
			continue
		}
		for _, o := range in.Shared {
			if o.Given == given && s.Meets(&o) && !visit(in, o) {
				return
			}
		}
	}
}

// sharedUses reports where the names are used that are shared, and not given, and notes them as seen; it is false if no more
// are wanted.
func (q *question) sharedUses(from *source, names []facts.Shared, possible bool, seen map[definedAt]bool, report func([]Reference) bool) bool {
	byFile := map[string][]Reference{}
	for _, s := range names {
		sheet := q.sheetOf(from, s)
		if s.Given && s.Realm == facts.StyleClass {
			sheet = from.path
		}
		q.eachShared(s, s.Realm == facts.Slot, func(in *source, o facts.Shared) bool {
			at := definedAt{in.path, o.At.Start}
			if seen[at] || s.Realm == facts.Entry && (in != from || o.At != s.At) && !(s.Given && q.takes(from, s, in)) {
				return true
			}
			if other := q.sheetOf(in, o); other != "" && sheet != "" && other != sheet {
				return true // one of the same name of another sheet
			}
			seen[at] = true
			byFile[in.path] = append(byFile[in.path], Reference{Path: in.path, At: o.At, Name: string(o.At.In(in.text)), Access: facts.Read, Certainty: ByName, Possible: possible, In: q.around(in, int(o.At.Start))})
			return true
		})
	}
	for _, p := range slices.Sorted(maps.Keys(byFile)) {
		if !report(byFile[p]) {
			return false
		}
	}
	return true
}

// mostKeyFiles is in how many files a key may stand that is counted with a field: a name that all configuration has says nothing.
const mostKeyFiles = 100

// keysOf are the names that a field has elsewhere.
func (q *question) keysOf(field ref) (keys []facts.Shared) {
	for _, s := range field.src.Shared {
		if s.Realm == facts.Entry && s.Given && len(q.mentioning(s.Keys(false))) <= mostKeyFiles {
			if f := q.fieldBehind(field.src, s); f.ok() && f.at() == field.at() {
				keys = append(keys, s)
			}
		}
	}
	return keys
}

// takes says whether a file of configuration may be one that the type around a field is for: it has another key that the type
// takes, if that takes others.
func (q *question) takes(fields *source, field facts.Shared, keys *source) bool {
	const enough = 2
	n := q.common(keys, fields, int(field.At.Start))
	return n >= enough || n == q.common(fields.asKeys(), fields, int(field.At.Start))
}

// asKeys is a file of configuration that has all the keys that fields of a file take.
func (s *source) asKeys() *source {
	keys := &source{File: &facts.File{Shared: slices.Clone(s.Shared)}}
	for i := range keys.Shared {
		keys.Shared[i].Given = false
	}
	return keys
}

// sharedAnswer is the place where a name is given: the definition that stands there, if one does; what a field is called
// elsewhere leads to the field.
func (q *question) sharedAnswer(in *source, s facts.Shared) Answer {
	if id := in.DefAt(int(s.At.Start)); id != facts.NoDef && in.Defs[id].At == s.At {
		return answer(in.ref(id), ByName)
	}
	if field := q.fieldBehind(in, s); field.ok() {
		return answer(field, ByName)
	}
	a := Answer{Path: in.path, At: s.At, Name: string(s.At.In(in.text)), Realm: s.Realm, Certainty: ByName}
	if function := q.around(in, int(s.At.Start)); function.Name != "" {
		a.Container = function.Name
	}
	return a
}

// fieldBehind is the field that a key is said of: that around it, or the one before it on its line.
func (q *question) fieldBehind(in *source, key facts.Shared) ref {
	if key.Realm != facts.Entry {
		return ref{}
	}
	if around := in.Around(int(key.At.Start)); len(around) > 0 {
		if last := in.ref(around[len(around)-1]); last.def().Kind.IsValue() {
			return last
		}
	}
	line := uint32(bytes.LastIndexByte(in.text[:key.At.Start], '\n') + 1)
	for i := range in.Defs {
		if d := &in.Defs[i]; line <= d.At.Start && d.At.End <= key.At.Start && d.Kind.IsValue() {
			return in.ref(facts.DefID(i))
		}
	}
	return ref{}
}

// templateFile is the file of a template that is named by it.
func (q *question) templateFile(src *source, s facts.Shared) (all []Answer) {
	for _, p := range q.filesEnding(s.Name) {
		all = append(all, Answer{Path: p, Name: s.Name, Kind: facts.Module, Certainty: Inferred})
	}
	return q.nearestFirst(src.path, all)
}

// filesEnding are the files of the project whose paths end in one.
func (q *question) filesEnding(name string) (files []string) {
	for _, p := range q.code.FilesNamed(path.Base(name)) {
		if strings.HasSuffix("/"+p, "/"+strings.TrimLeft(path.Clean(name), "./")) {
			files = append(files, p)
		}
	}
	return files
}

// SharedPlaces finds all places where the name at an offset stands that files of several languages share, written out: those
// where it is given, which say so by their Access, and those where it is used. There are none if it is something by the rules
// of its language.
func (r *Resolver) SharedPlaces(ctx context.Context, path string, offset int) (name facts.Shared, places []Reference) {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	src := q.source(path)
	if src == nil || len(res.Shared) == 0 {
		return name, nil
	}
	name = res.Shared[0]
	for _, s := range res.Shared { // the one that is given somewhere, if it may be written in two ways
		q.eachShared(s, true, func(*source, facts.Shared) bool {
			name = s
			return false
		})
	}
	sheet := q.sheetOf(src, name)
	if name.Given && sheet == "" {
		sheet = path
	}
	seen, imported := map[definedAt]bool{}, map[definedAt]bool{}
	for _, s := range res.Shared {
		take := func(in *source, o facts.Shared) bool {
			at, other := definedAt{in.path, o.At.Start}, q.sheetOf(in, o)
			if seen[at] || strings.Contains(o.Name, facts.Built) || other != "" && other != sheet || other == "" && name.Import > 0 && in.path != sheet {
				return true
			}
			if seen[at] = true; other != "" {
				imported[at] = true
			}
			access := facts.Read
			if o.Given {
				access = facts.Write
			}
			places = append(places, Reference{Path: in.path, At: o.At, Name: string(o.At.In(in.text)), Access: access, Certainty: ByName})
			return true
		}
		q.eachShared(s, true, take)
		q.eachShared(s, false, take)
	}
	if len(imported) > 0 { // what others call so, beside the sheet that is imported, is something else
		places = slices.DeleteFunc(places, func(r Reference) bool { return r.Path != sheet && !imported[definedAt{r.Path, r.At.Start}] })
	}
	return name, places
}

// Rendering finds where templates are named that are a file of the project, by its path or the end of it.
func (r *Resolver) Rendering(ctx context.Context, file string) (refs []Reference) {
	q := r.ask(ctx)
	for name := file; ; {
		q.eachShared(facts.Shared{Realm: facts.Template, Name: name}, false, func(in *source, o facts.Shared) bool {
			if in.path != file {
				refs = append(refs, Reference{Path: in.path, At: o.At, Name: o.Name, Access: facts.ImportUse, Certainty: Inferred, In: q.around(in, int(o.At.Start))})
			}
			return true
		})
		i := strings.IndexByte(name, '/')
		if i < 0 {
			return refs
		}
		name = name[i+1:]
	}
}

// nearestFirst puts the answers in front that are near a file, each once.
func (q *question) nearestFirst(from string, all []Answer) []Answer {
	slices.SortStableFunc(all, func(a, b Answer) int {
		return cmp.Or(cmp.Compare(a.Certainty, b.Certainty), cmp.Compare(distance(from, a.Path), distance(from, b.Path)), cmp.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	return slices.CompactFunc(all, func(a, b Answer) bool { return a.Path == b.Path && a.At == b.At })
}
