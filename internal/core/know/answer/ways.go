package answer

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Way is a direction in which one can go from a name.
type Way uint8

// The ways.
const (
	ToDefinition Way = iota
	ToType
	ToImplementations
	ToSupers // what it is derived from, overrides or implements
	ToReferences
	ToCallers
	ToCalled
	ToValues
	ToTests
)

var wayNames = [...]string{"definition", "type", "implementations", "supers", "references", "callers", "called", "values", "tests"}

// String names the way as it is kept.
func (w Way) String() string { return wayNames[w] }

// ParseWay reads the name of a way.
func ParseWay(name string) (Way, bool) {
	i := slices.Index(wayNames[:], name)
	return Way(max(i, 0)), i >= 0
}

// Destination is one place to which a way leads.
type Destination struct {
	Path      string
	Line, Col int // counted from 1, Col in bytes
	// At is the name there, in bytes.
	At   place.Range
	Name string
	// Role says in a word what is there: read, write, call, or the kind of what is
	// defined there.
	Role string
	// In is the function or type it stands in, "" for none.
	In string
	// Text is the line without the blanks around it, TextAt the name in it.
	Text      string
	TextAt    place.Range
	Certainty resolve.Certainty
	// Test says that it belongs to a test.
	Test bool
	// Symbol is what the place is called on the trail: what is defined there, or what
	// it stands in.
	Symbol string
	// Note is what else is to be said, such as the method through which a call may
	// come.
	Note string
}

// Place is where the destination is.
func (d *Destination) Place() place.Place { return place.Place{Path: d.Path, Line: d.Line, Col: d.Col} }

// MostFound is how many references are looked for before it is enough: a list of
// more is no help, and the names of basic types have tens of thousands.
const MostFound = 20000

// Along finds where a way leads from the name at a byte offset of a file, grouped by
// file: the file itself first, then the near ones, those of tests last; what is sure
// before what is not. It stops at MostFound references. Asked at a declaration, files that write come before those
// that only read.
func (g *Guide) Along(ctx context.Context, way Way, p string, offset int) (resolve.Result, []Destination) {
	var res resolve.Result
	var all []Destination
	spots := func(r resolve.Result, found []Spot) {
		res = r
		for _, s := range found {
			all = append(all, g.SpotDestination(s))
		}
	}
	switch way {
	case ToDefinition:
		spots(g.Definition(ctx, p, offset))
		return res, all
	case ToType:
		spots(g.TypeDefinition(ctx, p, offset))
		return res, all
	case ToImplementations:
		spots(g.Implementations(ctx, p, offset))
	case ToSupers:
		spots(g.Supertypes(ctx, p, offset, resolve.All))
		return res, all
	case ToTests:
		spots(g.Tests(ctx, p, offset))
		return res, all
	case ToReferences:
		res = g.EachReference(ctx, p, offset, resolve.Scope{}, func(refs []Reference) bool {
			for _, r := range refs {
				all = append(all, g.referenceDestination(ctx, r))
			}
			return len(all) < MostFound
		})
	case ToCallers, ToCalled:
		if res, all = g.callDestinations(ctx, way, p, offset); way == ToCalled {
			return res, all // in the order in which they are called
		}
	case ToValues:
		var values []Value
		res, values = g.Values(ctx, p, offset)
		for _, v := range values {
			d := g.referenceDestination(ctx, v.Reference)
			d.Role = v.Flow.String()
			if v.Flow == PassedOn && v.To.Name != "" {
				d.Note = "to " + v.To.Name
			}
			all = append(all, d)
		}
	}
	sortDestinations(all, p, g.isDeclaration(ctx, p, offset))
	return res, all
}

// isDeclaration says whether what stands at an offset is a definition itself.
func (g *Guide) isDeclaration(ctx context.Context, p string, offset int) bool {
	f, err := g.code.Load(ctx, p)
	return err == nil && f.Facts != nil && f.Facts.DefAt(offset) != facts.NoDef
}

// sortDestinations groups them by file, in the order that Along promises.
func sortDestinations(all []Destination, from string, writesFirst bool) {
	type group struct {
		certainty resolve.Certainty
		writes    bool
	}
	groups := map[string]*group{}
	for i := range all {
		g := groups[all[i].Path]
		if g == nil {
			g = &group{certainty: all[i].Certainty}
			groups[all[i].Path] = g
		}
		g.certainty = min(g.certainty, all[i].Certainty)
		g.writes = g.writes || gives(all[i].Role)
	}
	rank := func(d *Destination) int {
		g, n := groups[d.Path], 0
		if d.Test && d.Path != from {
			n += 4
		}
		if g.certainty == resolve.ByName {
			n += 2
		}
		if writesFirst && !g.writes {
			n++
		}
		return n
	}
	slices.SortStableFunc(all, func(a, b Destination) int {
		return cmp.Or(cmp.Compare(rank(&a), rank(&b)), cmp.Compare(far(from, a.Path), far(from, b.Path)),
			strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
	})
}

// gives says whether a role gives something a value.
func gives(role string) bool {
	switch role {
	case facts.Write.String(), facts.ReadWrite.String(), Initial.String(), Set.String(), Changed.String(), Passed.String():
		return true
	}
	return false
}

// spotDestination is the place where something is defined.
func (g *Guide) SpotDestination(s Spot) Destination {
	d := Destination{Path: s.Path, Line: s.Line, Col: s.Col, At: s.At, Name: s.Name, Role: s.Kind.String(), In: s.Container, Text: s.Text,
		Certainty: s.Certainty, Test: g.code.Languages().IsTest(s.Path), Symbol: s.Name}
	if s.Container != "" {
		d.Symbol = s.Container + "." + s.Name
	}
	d.find(s.Name)
	return d
}

// find marks the name in the text of the line, where that is cut at its front.
func (d *Destination) find(name string) {
	if i := strings.Index(d.Text, name); i >= 0 && name != "" {
		d.TextAt = place.Range{Start: uint32(i), End: uint32(i + len(name))}
	}
}

// referenceDestination is the place where something is used.
func (g *Guide) referenceDestination(ctx context.Context, r Reference) Destination {
	in := r.In.Name
	if in != "" && r.In.Container != "" {
		in = r.In.Container + "." + in
	}
	d := Destination{Path: r.Path, Line: r.Line, Col: r.Col, At: r.At, Name: r.Name, Role: r.Access.String(), In: in, Text: r.Text,
		Certainty: r.Certainty, Test: g.code.Languages().IsTest(r.Path), Symbol: in}
	f, err := g.code.Load(ctx, r.Path)
	if err != nil {
		d.find(r.Name)
		return d
	}
	line := f.Text.Line(r.Line)
	if start := r.Col - 1 - (len(line) - len(strings.TrimLeft(string(line), " \t"))); start >= 0 && start+r.At.Len() <= len(d.Text) {
		d.TextAt = place.Range{Start: uint32(start), End: uint32(start + r.At.Len())}
	}
	return d
}

// callDestinations are the places of the calls, in those that call, or of those in
// here, with what they call.
func (g *Guide) callDestinations(ctx context.Context, way Way, p string, offset int) (resolve.Result, []Destination) {
	res, callers := g.Calls(ctx, p, offset, way == ToCallers)
	var all []Destination
	for _, c := range callers {
		if way == ToCalled {
			d := g.SpotDestination(c.Spot)
			d.Note = through(c.Through)
			all = append(all, d)
			continue
		}
		in := c.Name
		if c.Container != "" {
			in = c.Container + "." + c.Name
		}
		for _, s := range c.Sites {
			f, err := g.code.Load(ctx, s.Path)
			if err != nil {
				continue // it has gone since
			}
			start := uint32(f.Text.Offset(s.Line, s.Col))
			name := res.Name
			d := Destination{Path: s.Path, Line: s.Line, Col: s.Col, At: place.Range{Start: start, End: start + uint32(len(name))}, Name: name,
				Role: facts.Call.String(), In: in, Text: search.LineText(f.Text, s.Line), Certainty: c.Certainty, Test: g.code.Languages().IsTest(s.Path), Symbol: in, Note: through(c.Through)}
			d.find(name)
			all = append(all, d)
		}
	}
	return res, all
}

func through(method string) string {
	if method == "" {
		return ""
	}
	return "through " + method
}

// mostCounted is how many references are counted before it is enough to say that
// there are more.
const mostCounted = 2000

// Ways are the numbers of places to which ways lead from a name.
type Ways struct {
	// References are all uses, with how many of them read, write and call, in so
	// many Files; Callers are the functions in which the calls stand, InTests the uses
	// in tests.
	References, Reads, Writes, Calls, Files, Callers, InTests int
	// Related says that what follows was counted, too.
	Related bool
	// More says that there are more references than were counted.
	More bool
	// Implementations and Supers count what is below and above; Abstract says that
	// those below are what does the work, as of an interface or a method in one.
	Implementations, Supers int
	Abstract                bool
	// Super is the name of the nearest of those above.
	Super string
	// Called counts what it calls.
	Called int
}

// CountWays counts where the ways from the name at an offset lead. What cannot be
// from a name of its kind stays 0.
func (g *Guide) CountWays(ctx context.Context, p string, offset int) Ways {
	return g.CountRelated(ctx, p, offset, g.CountUses(ctx, p, offset))
}

// CountUses counts no more than the references, which is the quick part.
func (g *Guide) CountUses(ctx context.Context, p string, offset int) Ways {
	var n Ways
	callers := map[string]bool{}
	g.EachReference(ctx, p, offset, resolve.Scope{}, func(refs []Reference) bool {
		n.count(refs, callers)
		return n.References < mostCounted
	})
	n.More, n.Callers = n.References >= mostCounted, len(callers)
	return n
}

// CountRelated adds to the counted references what is above, below and called.
func (g *Guide) CountRelated(ctx context.Context, p string, offset int, n Ways) Ways {
	n.Related = true
	res := g.resolver.Definition(p, offset)
	if len(res.Answers) == 0 || ctx.Err() != nil {
		return n
	}
	switch kind := res.Answers[0].Kind; {
	case kind.IsType():
		n.related(ctx, g, p, offset)
		n.Abstract = isAbstract(kind)
	case kind == facts.Method:
		n.related(ctx, g, p, offset)
		if f, id := g.definitionOf(ctx, res.Answers[0]); id != facts.NoDef {
			around := f.Facts.Defs[id].Parent
			n.Abstract = around != facts.NoDef && isAbstract(f.Facts.Defs[around].Kind)
		}
		fallthrough
	case kind.IsCallable():
		_, calls := g.resolver.Outgoing(ctx, p, offset)
		n.Called = len(calls)
	}
	return n
}

func isAbstract(k facts.Kind) bool { return k == facts.Interface || k == facts.Trait }

// related counts what is above and below.
func (n *Ways) related(ctx context.Context, w *Guide, p string, offset int) {
	n.Implementations = len(w.resolver.Implementations(ctx, p, offset).Answers)
	above := w.resolver.Supertypes(ctx, p, offset, resolve.All).Answers
	if n.Supers = len(above); n.Supers > 0 {
		n.Super = above[0].Name
		if above[0].Kind == facts.Method && above[0].Container != "" {
			n.Super = above[0].Container + "." + n.Super
		}
	}
}

// count adds the references of one file.
func (n *Ways) count(refs []Reference, callers map[string]bool) {
	n.Files++
	n.References += len(refs)
	for i := range refs {
		switch r := &refs[i]; r.Access {
		case facts.Write:
			n.Writes++
		case facts.ReadWrite:
			n.Writes++
			n.Reads++
		case facts.Call:
			n.Calls++
			callers[r.Path+"\x00"+r.In.Container+"."+r.In.Name] = true
		case facts.Read:
			n.Reads++
		}
	}
	if catalog.Set().IsTest(refs[0].Path) {
		n.InTests += len(refs)
	}
}
