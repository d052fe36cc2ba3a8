package restructure

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// variables finds out what the function takes and what it gives back.
func (e *extraction) variables() error {
	r := &e.routine
	var all []*variable
	for _, v := range e.names.variables {
		if v != e.self {
			all = append(all, v)
		}
	}
	slices.SortFunc(all, func(a, b *variable) int { return cmp.Compare(a.def.At.Start, b.def.At.Start) })
	for _, v := range all {
		u := e.usage(v)
		if !u.inside {
			continue
		}
		if err := e.captured(v, u); err != nil {
			return err
		}
		out := lang.Variable{Name: v.name, Changes: u.writtenLater}
		takes := !u.defined && u.takes
		gives := (u.defined || u.written) && u.needed && !(e.returns && e.leavesAlways())
		place := e.values.Locals[v.def.At.Start].InPlace && !u.defined
		if !takes && !gives && !place && (u.defined || !u.written) {
			continue
		}
		t, err := e.typeFor(v)
		if err != nil {
			return err
		}
		out.Type, out.New = t, u.defined
		switch {
		case place:
			out.Address = true
			r.Params = append(r.Params, out)
			continue
		case takes && t == "" && e.Typed:
			return fmt.Errorf("the type of %s is not written where it is declared (line %d)", v.name, e.line(v.def.At.Start))
		case takes:
			r.Params = append(r.Params, out)
		case !u.defined && u.written:
			e.fresh = append(e.fresh, out)
		}
		if gives {
			if u.defined && !u.surely {
				return fmt.Errorf("%s may have no value behind what is selected (line %d)", v.name, e.line(v.def.At.Start))
			}
			r.Results = append(r.Results, out)
		}
	}
	if len(r.Results) > 1 && !e.severalResults() {
		return fmt.Errorf("it would have to give back %s, and a function gives one value", lang.NamesOf(r.Results))
	}
	return nil
}

// severalResults says whether a function of the language can give several.
func (e *extraction) severalResults() bool { return !e.lang.Members.Overloads.Is() }

// leavesAlways says whether nothing behind what is selected is reached from it.
func (e *extraction) leavesAlways() bool {
	all := e.statements()
	for i := len(all) - 1; i >= 0; i-- {
		if e.Is(all[i], lang.Statement) {
			return e.always(all[i])
		}
	}
	return false
}

// usage is how a variable is used in what is selected, and outside of it.
type usage struct {
	inside, defined, surely bool // it is used in it; it is defined in it, in any case
	takes                   bool // its value from before is needed
	written                 bool // it is written in it, besides where it is defined
	needed                  bool // its value is needed behind it
	writtenLater            bool // it is written behind it
	inNested, outNested     bool // it is used in a function within it, or in another one outside
	writtenAnywhere         bool // it is written besides where it is defined
}

func (e *extraction) usage(v *variable) (u usage) {
	own := e.innerFunction(e.host.Range(), e.at)
	u.defined = inside(v.def.At, e.at)
	written := false // before anything else, in any case
	loop := e.loopBeyond(v)
	for i, o := range v.all {
		in := inside(o.at, e.at)
		writes := o.writes && !(o.defines && i == 0)
		u.writtenAnywhere = u.writtenAnywhere || writes
		switch {
		case in:
			u.inside = true
			u.surely = u.surely || o.writes && e.inAnyCase(o)
			u.written = u.written || o.writes
			if o.inner != own {
				u.inNested = true
			}
			if o.reads && !written || o.writes && !o.reads && !written && !e.inAnyCase(o) {
				u.takes = u.takes || !u.defined
			}
			if o.writes && e.inAnyCase(o) && !e.readsInStatement(v, o) {
				written = true
			}
		default:
			if o.inner != own && !e.holds(o.inner, e.at) {
				u.outNested = true
				u.needed = true
			}
			if o.writes && o.at.Start >= e.at.End {
				u.writtenLater = true
			}
			if o.reads && (o.at.Start >= e.at.End || inside(o.at, loop)) {
				u.needed = true
			}
			if o.inner != own && e.holds(own, o.at) {
				u.needed = true
			}
		}
		if in && o.reads && loop.Len() > 0 && u.takes {
			u.needed = true
		}
	}
	if !u.defined && e.definedOutsideOf(v, own) || e.isResult(v) {
		u.needed = true
	}
	if u.takes && !u.defined && v.def.Init == facts.NoExpr && e.lang.Members.Overloads.Is() && !e.writtenBefore(v) && v.def.Kind == facts.Variable {
		u.takes = e.eachOf(v)
	}
	return u
}

// eachOf says whether a variable has a value though none is written to it: that of each turn of a loop, or what was caught.
func (e *extraction) eachOf(v *variable) bool {
	for _, n := range e.tree.Around(v.def.At) {
		if e.Is(n, lang.Gives) {
			return true
		}
		if n.Part("name").Range() == v.def.At {
			return n.Part("value").OK()
		}
	}
	return false
}

// writtenBefore says whether a variable is written before what is selected, besides where it is declared.
func (e *extraction) writtenBefore(v *variable) bool {
	return slices.ContainsFunc(v.all, func(o occurrence) bool { return o.writes && !o.defines && o.at.Start < e.at.Start })
}

// isResult says whether a variable is what the function gives back by its name.
func (e *extraction) isResult(v *variable) bool {
	for _, n := range e.tree.Around(v.def.At) {
		if n.FieldName() == "result" {
			return true
		}
	}
	return false
}

// definedOutsideOf says whether a variable belongs to a function around that which is selected in.
func (e *extraction) definedOutsideOf(v *variable, own int) bool {
	return e.innerFunction(e.host.Range(), v.def.At) != own
}

// holds says whether the function of a number is around a range.
func (e *extraction) holds(function int, at place.Range) bool {
	for _, n := range e.tree.Around(at) {
		if n.Index() == function {
			return true
		}
	}
	return false
}

// loopBeyond is the outermost loop around what is selected in which a variable is not defined.
func (e *extraction) loopBeyond(v *variable) place.Range {
	for _, n := range e.tree.Around(e.at) {
		if e.Is(n, lang.Loop) && !inside(v.def.At, n.Range()) && inside(n.Range(), e.host.Range()) && inside(e.at, n.Range()) {
			return n.Range()
		}
	}
	return place.Range{}
}

// inAnyCase says whether something that is selected is done in any case.
func (e *extraction) inAnyCase(o occurrence) bool {
	chain := e.tree.Around(o.at)
	for i := len(chain) - 1; i > 0; i-- {
		if chain[i-1].Index() == e.block.Index() {
			return true
		}
		around := chain[i-1]
		if e.Is(around, lang.Branch|lang.Loop|lang.Choice|lang.Function) && !e.evaluatedOnce(around, chain[i]) || e.mayBeLeft(around, chain[i]) {
			return false
		}
	}
	return e.value.OK()
}

// evaluatedOnce says whether a part of a branch or loop is evaluated in any case.
func (e *extraction) evaluatedOnce(around, part syntax.Node) bool {
	return part.FieldName() == "initializer" || part.FieldName() == "condition" || part.FieldName() == "init" || strings.HasPrefix(around.Type(), "try") && part.FieldName() == "resources"
}

// readsInStatement says whether a variable is read in the statement in which it is written, before that.
func (e *extraction) readsInStatement(v *variable, o occurrence) bool {
	if o.reads {
		return true
	}
	for _, st := range e.statements() {
		if !inside(o.at, st.Range()) {
			continue
		}
		return slices.ContainsFunc(v.all, func(p occurrence) bool {
			return p.reads && inside(p.at, st.Range()) && !e.Is(st, lang.Branch|lang.Loop|lang.Choice)
		})
	}
	return false
}

// captured says why a variable cannot be handed over, if it cannot: a function that uses it would see another one.
func (e *extraction) captured(v *variable, u usage) error {
	if u.defined {
		if u.inNested && u.needed && u.writtenAnywhere {
			return fmt.Errorf("%s is used in a function in it, and changed", v.name)
		}
		return nil
	}
	if u.written && (u.inNested || u.outNested) || u.inNested && u.writtenAnywhere {
		return fmt.Errorf("%s is changed, and used in a function that is written within this one (line %d)", v.name, e.line(v.def.At.Start))
	}
	return nil
}

// typeFor is how the type of a variable is written.
func (e *extraction) typeFor(v *variable) (string, error) {
	if e.typed {
		t, ok := e.values.Locals[v.def.At.Start]
		switch {
		case !ok || t.Type == "" && !t.Local:
			return "", fmt.Errorf("the type of %s cannot be written here", v.name)
		case t.Local:
			return "", fmt.Errorf("the type of %s is known in this function alone", v.name)
		}
		for name, path := range t.Imports {
			return "", fmt.Errorf("the type of %s is in %s, which this file does not import as %s yet", v.name, path, name)
		}
		return t.Type, nil
	}
	t := declaredType(e.file.Facts, v.def, e.text)
	if t == "" {
		t = e.ofInit(e.file.Facts, v.def)
	}
	if t == "" && e.Plainly != nil {
		if around := e.parentOf(e.nodeAt(v.def.At)); around.Part("name").Range() == v.def.At {
			t = e.Plainly(around.Part("value"))
		}
	}
	if t == "" && e.Type != nil {
		return "", fmt.Errorf("the type of %s is not written where it is declared (line %d)", v.name, e.line(v.def.At.Start))
	}
	if t == "" && e.lang.Checker != lang.NoChecker {
		return "", fmt.Errorf("the type of %s is not known, as the compiler cannot be asked about this file", v.name)
	}
	if strings.HasPrefix(t, ":") {
		t = strings.TrimSpace(t[1:])
	}
	if t != "" && e.optional(v) {
		if strings.Contains(t, "=>") {
			t = "(" + t + ")"
		}
		t += " | undefined"
	}
	return t, nil
}

// optional says whether a variable is a parameter that may be left out.
func (e *extraction) optional(v *variable) bool {
	return e.Is(e.parentOf(e.nodeAt(v.def.At)), lang.Optional)
}

func (s *scene) nodeAt(at place.Range) syntax.Node {
	chain := s.around(at)
	return chain[len(chain)-1]
}
