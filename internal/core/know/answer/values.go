package answer

import (
	"bytes"
	"cmp"
	"context"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Flow is what happens to a value at a place.
type Flow uint8

// The flows; the first four give a value, the others take it.
const (
	noFlow   Flow = iota
	Initial       // it is defined with this value
	Set           // it is set
	Changed       // it is read and set
	Passed        // an argument is passed for it
	ReadHere      // it is read
	PassedOn      // it is passed as an argument to something
	Result        // it is what a function gives back
)

// String names the flow as the commands print it.
func (f Flow) String() string {
	return [...]string{"", "initial", "set", "changed", "passed", "read", "passed on", "result"}[f]
}

// gives says whether a value is given there.
func (f Flow) gives() bool { return f != noFlow && f <= Passed }

// flows gives an answer another flow; to is the parameter or function it leads to.
func (a Answer) flows(f Flow, to resolve.Answer) Answer {
	a.flow, a.Role, a.To, a.Why = f, f.String(), to, ""
	if f == PassedOn && to.Name != "" {
		a.Why = "to " + to.Name
	}
	return a
}

// values are where the variable, field or parameter at an offset gets its value, and
// where that goes; the places that set it come first.
func (g *Guide) values(ctx context.Context, p string, offset int) (resolve.Result, []Answer) {
	res, refs := g.All(ctx, Question{Way: ToReferences, Path: p, Offset: offset})
	if len(res.Answers) == 0 || res.Answers[0].Kind.IsCallable() || res.Answers[0].Kind.IsType() {
		return res, []Answer{}
	}
	best := res.Answers[0]
	values := []Answer{}
	if v, ok := g.initial(ctx, best); ok {
		values = append(values, v)
	}
	if best.Kind == facts.Parameter {
		values = append(values, g.passed(ctx, best)...)
	}
	for _, r := range refs {
		switch r.Access {
		case facts.Write:
			r = r.flows(Set, resolve.Answer{})
		case facts.ReadWrite:
			r = r.flows(Changed, resolve.Answer{})
		case facts.Read, facts.Call:
			r = r.flows(g.goesTo(ctx, r))
		default:
			continue
		}
		values = append(values, r)
	}
	slices.SortStableFunc(values, func(a, b Answer) int { return cmp.Compare(order(a.flow), order(b.flow)) })
	return res, values
}

// order puts the flows that give a value before those that take it.
func order(f Flow) int {
	if f.gives() {
		return 0
	}
	return 1
}

// definitionOf finds the facts of a definition that an answer names.
func (g *Guide) definitionOf(ctx context.Context, a resolve.Answer) (f *codebase.File, id facts.DefID) {
	f, err := g.code.Load(ctx, a.Path)
	if err != nil || f.Facts == nil {
		return nil, facts.NoDef
	}
	if id = f.Facts.DefAt(int(a.At.Start)); id == facts.NoDef || f.Facts.Defs[id].At != a.At {
		return nil, facts.NoDef
	}
	return f, id
}

// initial is the definition itself, where that gives a value.
func (g *Guide) initial(ctx context.Context, a resolve.Answer) (v Answer, ok bool) {
	f, id := g.definitionOf(ctx, a)
	if f == nil {
		return v, false
	}
	d := &f.Facts.Defs[id]
	behind := place.Range{Start: d.At.End, End: max(d.At.End, d.Full.End)}
	if d.Init == facts.NoExpr && !bytes.ContainsRune(behind.In(f.Text.Bytes()), '=') && !isSet(f.Text.Bytes()[d.At.End:]) {
		return v, false
	}
	return g.valueAt(f, d.At, Initial, a), true
}

// isSet says whether what stands behind a name gives it a value.
func isSet(behind []byte) bool {
	behind = bytes.TrimLeft(behind, " \t")
	return bytes.HasPrefix(behind, []byte("=")) && !bytes.HasPrefix(behind, []byte("==")) && !bytes.HasPrefix(behind, []byte("=>"))
}

// valueAt is a value at a place of a file.
func (g *Guide) valueAt(f *codebase.File, at place.Range, flow Flow, of resolve.Answer) Answer {
	access := facts.Write
	if flow == Passed {
		access = facts.Read
	}
	return used(f, resolve.Reference{Path: f.Path, At: at, Name: of.Name, Access: access, Certainty: of.Certainty}).flows(flow, resolve.Answer{})
}

// passed finds the arguments that are passed for a parameter.
func (g *Guide) passed(ctx context.Context, a resolve.Answer) (values []Answer) {
	f, id := g.definitionOf(ctx, a)
	if f == nil {
		return nil
	}
	d := &f.Facts.Defs[id]
	owner := f.Facts.Scopes[d.Scope].Owner
	if owner == facts.NoDef {
		return nil
	}
	number := g.numberOf(f.Facts, owner, id)
	_, refs := g.All(ctx, Question{Way: ToReferences, Path: f.Path, Offset: int(f.Facts.Defs[owner].At.Start), Scope: resolve.Scope{Family: true}})
	for _, r := range refs {
		if r.Access != facts.Call {
			continue
		}
		site, err := g.code.Load(ctx, r.Path)
		if err != nil {
			continue
		}
		if args, ok := g.code.Ground(ctx, site).Arguments(int(r.At.End)); ok && number >= 0 {
			if at, ok := argument(args, number, d.Name, site.Text.Bytes()); ok {
				v := g.valueAt(site, at, Passed, a)
				v.In, v.Symbol, v.Certainty = r.In, r.Symbol, r.Certainty
				values = append(values, v)
			}
		}
	}
	return values
}

// argument is the one of the arguments that is given by name, or else the one
// at the position.
func argument(args []place.Range, number int, name string, text []byte) (at place.Range, ok bool) {
	for _, a := range args {
		if rest, named := bytes.CutPrefix(a.In(text), []byte(name)); named {
			if rest = bytes.TrimLeft(rest, " "); len(rest) > 1 && (rest[0] == '=' && rest[1] != '=' || rest[0] == ':' && rest[1] != ':') {
				return a, true
			}
		}
	}
	if number >= len(args) {
		return place.Range{}, false
	}
	return args[number], true
}

// numberOf tells which parameter of a function a definition is, counted from 0,
// not counting the one that stands in front of the dot; -1 if it is none.
func (g *Guide) numberOf(f *facts.File, owner, id facts.DefID) int {
	number := 0
	receiver := f.Defs[owner].Head
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Kind != facts.Parameter || d.Scope != f.Defs[owner].Body || d.At.Start < f.Defs[owner].At.End {
			continue // a receiver stands in front of the name
		}
		if number == 0 && f.Defs[owner].Container != "" && (d.Name == "self" || d.Name == "cls") {
			continue
		}
		if facts.DefID(i) == id {
			if d.At.Start > receiver.End && receiver.End > 0 {
				return -1
			}
			return number
		}
		number++
	}
	return -1
}

// goesTo tells what becomes of a value that is read.
func (g *Guide) goesTo(ctx context.Context, r Answer) (Flow, resolve.Answer) {
	f, err := g.code.Load(ctx, r.Path)
	if err != nil || f.Facts == nil {
		return ReadHere, resolve.Answer{}
	}
	name, number, ok := g.code.Ground(ctx, f).Call(int(r.At.Start))
	if ok && r.Access == facts.Read {
		args, _ := g.code.Ground(ctx, f).Arguments(int(name.End))
		if number < len(args) && endsWith(f.Text.Bytes(), args[number], r.At) {
			return PassedOn, g.parameterOf(ctx, f, int(name.Start), number)
		}
	}
	before := bytes.TrimSpace(f.Text.Bytes()[f.Text.Offset(r.Line, 1):r.At.Start])
	if word, _, _ := bytes.Cut(before, []byte(" ")); string(word) == "return" && r.In.Kind.IsCallable() {
		return Result, r.In
	}
	return ReadHere, resolve.Answer{}
}

// endsWith says whether a name is what an argument comes down to: all of it, or
// the member behind its last dot.
func endsWith(text []byte, argument, name place.Range) bool {
	if name.End != argument.End {
		return false
	}
	return !bytes.ContainsAny(text[argument.Start:name.Start], " ,+-*/%<>=!&|?([{") || bytes.Equal(bytes.TrimLeft(text[argument.Start:name.Start], "&*"), nil)
}

// parameterOf is the parameter for which an argument of a call is passed.
func (g *Guide) parameterOf(ctx context.Context, f *codebase.File, callee, number int) resolve.Answer {
	res := g.resolver.Definition(ctx, f.Path, callee)
	if len(res.Answers) == 0 || res.Answers[0].Certainty == resolve.ByName || !res.Answers[0].Kind.IsCallable() {
		return resolve.Answer{}
	}
	of, owner := g.definitionOf(ctx, res.Answers[0])
	if of == nil {
		return resolve.Answer{}
	}
	for i := range of.Facts.Defs {
		d := &of.Facts.Defs[i]
		if d.Scope == of.Facts.Defs[owner].Body && d.Kind == facts.Parameter && g.numberOf(of.Facts, owner, facts.DefID(i)) == number {
			return resolve.Answer{Path: of.Path, At: d.At, Name: d.Name, Container: res.Answers[0].Name, Kind: d.Kind, Certainty: res.Answers[0].Certainty}
		}
	}
	return resolve.Answer{}
}
