package resolve

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Calls is a function that calls, or is called, with the places of the calls.
type Calls struct {
	// Function is the definition; outside of all functions, the file, with no
	// name and the place of the first call.
	Answer
	// Possible says that no call was resolved: they have the name, and could be meant.
	Possible bool
	// Through is the qualified name of the method of an interface or supertype
	// through which the call may come; "" for one that is said outright.
	Through string
	// Sites are where the calls stand: for incoming ones in the function's own
	// file, for outgoing ones in that of the caller.
	Sites []place.Range
	// SitePath is the file of the sites.
	SitePath string
}

// Incoming finds the functions that call what the name at an offset means, and
// those that may, through a method that it overrides or implements, or through a field that it is put into; with scope.Possible also those that possibly do.
func (r *Resolver) Incoming(ctx context.Context, path string, offset int, scope Scope) (Result, []Calls) {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	t := q.target(path, res, Scope{Possible: scope.Possible})
	if t == nil {
		return res, nil
	}
	found := q.callers(t, "")
	if t.best.ok() && t.best.def().Kind == facts.Method {
		for _, o := range q.overridden(t.best) {
			d := o.def()
			up := &target{best: o, name: d.Name, names: []string{d.Name}, same: map[definedAt]bool{o.at(): true}, family: t.family}
			found = append(found, q.callers(up, d.Qualified())...)
		}
	}
	if t.best.ok() {
		for _, field := range q.fieldsHolding(t.best) {
			d := field.def()
			up := &target{best: field, name: d.Name, names: []string{d.Name}, same: map[definedAt]bool{field.at(): true}, family: t.family}
			found = append(found, q.callers(up, d.Qualified())...)
		}
	}
	return res, found
}

// callers groups the calls among the references to a target by where they
// stand.
func (q *question) callers(t *target, through string) []Calls {
	byFunction := map[calling]*Calls{}
	q.uses(t, func(refs []Reference) bool {
		for _, ref := range refs {
			if ref.Access != facts.Call {
				continue
			}
			in := ref.In
			if in.Name == "" || !in.Kind.IsCallable() {
				in = Answer{Path: ref.Path, At: ref.At}
			}
			key := calling{definedAt{in.Path, in.At.Start}, ref.Possible}
			c := byFunction[key]
			if c == nil {
				in.Certainty = ref.Certainty
				c = &Calls{Answer: in, Through: through, SitePath: ref.Path, Possible: ref.Possible}
				byFunction[key] = c
			}
			c.Certainty = max(c.Certainty, ref.Certainty)
			c.Sites = append(c.Sites, ref.At)
		}
		return true
	})
	return ordered(byFunction)
}

// calling is a function that calls another one, or only possibly does.
type calling struct {
	definedAt
	possible bool
}

func ordered(byFunction map[calling]*Calls) (calls []Calls) {
	for _, c := range byFunction {
		slices.SortFunc(c.Sites, func(a, b place.Range) int { return cmp.Compare(a.Start, b.Start) })
		calls = append(calls, *c)
	}
	slices.SortFunc(calls, func(a, b Calls) int {
		return cmp.Or(cmp.Compare(a.Certainty, b.Certainty), strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	return calls
}

// Outgoing finds what is called inside the function whose name stands at an
// offset, or that the name there means; the order is that of the calls.
func (r *Resolver) Outgoing(ctx context.Context, path string, offset int) (Result, []Calls) {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	if len(res.Answers) == 0 {
		return res, nil
	}
	from := q.refAt(res.Answers[0])
	if !from.ok() {
		return res, nil
	}
	if len(res.Twins) > 0 && !q.hasBody(from) { // what is but declared does what is written out elsewhere
		if body := q.refAt(res.Twins[0]); body.ok() {
			from = body
		}
	}
	byFunction := map[calling]*Calls{}
	for _, u := range usesWithin(from.src, from.def().Full) {
		if ctx.Err() != nil {
			break
		}
		if u.Role != facts.Call {
			continue
		}
		q.called(from.src, u, byFunction)
	}
	calls := ordered(byFunction)
	slices.SortStableFunc(calls, func(a, b Calls) int { return cmp.Compare(a.Sites[0].Start, b.Sites[0].Start) })
	return res, calls
}

// called notes what a use calls.
func (q *question) called(src *source, u facts.Use, byFunction map[calling]*Calls) {
	var res Result
	q.resolveUse(src, u, &res)
	if len(res.Answers) == 0 {
		return
	}
	a := res.Answers[0]
	for _, other := range res.Answers[1:] {
		if r := q.refAt(other); r.ok() && r.def().Abstract { // whichever it is, it is called through that
			a = other
		}
	}
	key := calling{definedAt{a.Path, a.At.Start}, false}
	c := byFunction[key]
	if c == nil {
		c = &Calls{Answer: a, SitePath: src.path}
		if r := q.refAt(a); r.ok() && a.Kind == facts.Method {
			if owner := q.owner(r); owner.ok() && (isInterface(owner) || r.def().Abstract) {
				c.Through = r.def().Qualified()
			}
		}
		byFunction[key] = c
	}
	c.Sites = append(c.Sites, u.At)
}

// usesWithin are the uses of a file inside a range.
func usesWithin(src *source, r place.Range) []facts.Use {
	from, _ := slices.BinarySearchFunc(src.Uses, r.Start, func(u facts.Use, at uint32) int { return cmp.Compare(u.At.Start, at) })
	to, _ := slices.BinarySearchFunc(src.Uses, r.End, func(u facts.Use, at uint32) int { return cmp.Compare(u.At.Start, at) })
	return src.Uses[from:to]
}
