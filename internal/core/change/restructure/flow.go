package restructure

import (
	"errors"
	"fmt"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// flow says why the statements cannot be left or begun as they are, if they cannot.
func (e *extraction) flow() error {
	x := exits{extraction: e, labels: map[string]bool{}}
	if e.value.OK() {
		x.visit(e.value, turns{})
	} else {
		for _, st := range e.statements() {
			x.visit(st, turns{})
		}
	}
	if x.failed != nil {
		return x.failed
	}
	if err := e.known(); err != nil {
		return err
	}
	if e.returns && !e.leaves() {
		return errors.New("there is a return in the middle of what is selected; it would leave the new function only")
	}
	return nil
}

// exits looks for what leaves the statements that are taken out.
type exits struct {
	*extraction
	labels map[string]bool
	failed error
}

// turns are how many loops, and statements with several cases, are around something within what is taken out; and
// whether a function is.
type turns struct {
	loops, choices int
	nested         bool
}

func (x *exits) visit(n syntax.Node, in turns) {
	if x.failed != nil {
		return
	}
	switch {
	case x.Is(n, lang.Function):
		in.nested = true
	case x.Is(n, lang.Delegates), x.Self[n.Part("function").Type()]:
		x.failed = fmt.Errorf("line %d calls another constructor, which only a constructor can", x.line(n.Range().Start))
	case x.Self[n.Type()]:
		x.selfUsed, x.selfAt = true, n
	case in.nested:
	case strings.HasPrefix(n.Type(), "labeled"):
		x.labels[firstPart(n).Text()] = true
	case x.Is(n, lang.Returns):
		x.returns = true
	case x.Is(n, lang.Breaks|lang.Continues):
		if label := firstPart(n); label.OK() && !x.labels[label.Text()] || !label.OK() && in.loops == 0 && (x.Is(n, lang.Continues) || in.choices == 0) {
			x.failed = fmt.Errorf("%s in line %d leaves what is selected", firstWord(n.Text()), x.line(n.Range().Start))
		}
	case x.Is(n, lang.Jumps) && !(in.choices > 0 && strings.HasPrefix(n.Type(), "fallthrough")):
		x.failed = x.ownOf(firstWord(n.Text()), n.Range().Start)
	case x.Is(n, lang.Awaits):
		x.routine.Awaits = true
	}
	if x.Is(n, lang.Loop) {
		in.loops++
	}
	if x.Is(n, lang.Choice) {
		in.choices++
	}
	for c := range n.NamedChildren() {
		x.visit(c, in)
	}
}

// ownOf says that something has to do with the function that it is in.
func (e *extraction) ownOf(word string, at uint32) error {
	return fmt.Errorf("%s in line %d has to do with the function that it is in", word, e.line(at))
}

// known says which name is known in this function alone, or means something of it, if one does.
func (e *extraction) known() error {
	for start, a := range e.names.outer {
		if !inside(place.Range{Start: start, End: start}, e.at) {
			continue
		}
		if id := e.defAt(a); id != facts.NoDef {
			if d := &e.file.Facts.Defs[id]; e.file.Facts.Local(d) && inside(d.At, e.host.Range()) && !inside(d.At, e.at) && (d.Kind.IsType() || d.Kind == facts.Import) {
				return fmt.Errorf("the %s %s (line %d) is known in this function alone", d.Kind, d.Name, e.line(d.At.Start))
			}
		}
	}
	for _, u := range e.file.Facts.Uses {
		if inside(u.At, e.at) && e.Own[u.Name] && e.names.at[u.At.Start] == nil && u.Base == facts.NoExpr {
			return e.ownOf(u.Name, u.At.Start)
		}
	}
	return nil
}

func firstWord(t string) string {
	word, _, _ := strings.Cut(strings.TrimSpace(t), " ")
	word, _, _ = strings.Cut(word, "\n")
	return strings.TrimRight(word, ";")
}

// statements are those that are taken out.
func (e *extraction) statements() (all []syntax.Node) {
	for c := range e.block.NamedChildren() {
		if inside(c.Range(), e.at) {
			all = append(all, c)
		}
	}
	return all
}

// leaves says whether what is selected leaves the function in any case, or whatever it does nothing comes behind it.
func (e *extraction) leaves() bool {
	all := e.statements()
	for len(all) > 0 && !e.Is(all[len(all)-1], lang.Statement) {
		all = all[:len(all)-1]
	}
	if len(all) == 0 {
		return false
	}
	if e.always(all[len(all)-1]) {
		return true
	}
	if e.gaveNothing() {
		body := e.function.Part("body")
		return body.Index() == e.block.Index() && e.trimmedEnd(body) == e.at.End
	}
	return false
}

// trimmedEnd is where the last statement of a block ends.
func (e *extraction) trimmedEnd(block syntax.Node) (end uint32) {
	for c := range block.NamedChildren() {
		end = c.Range().End
	}
	return end
}

// gaveNothing says whether no return statement that is taken out gives a value.
func (e *extraction) gaveNothing() bool {
	for _, n := range e.returnsIn() {
		if firstPart(n).OK() {
			return false
		}
	}
	return true
}

// returnsIn are the return statements that are taken out, those of functions in it not.
func (e *extraction) returnsIn() (all []syntax.Node) {
	var visit func(n syntax.Node)
	visit = func(n syntax.Node) {
		switch {
		case e.Is(n, lang.Function):
		case e.Is(n, lang.Returns):
			all = append(all, n)
		default:
			for c := range n.NamedChildren() {
				visit(c)
			}
		}
	}
	for _, st := range e.statements() {
		visit(st)
	}
	return all
}

// always says whether a statement leaves the function in any case.
func (s *scene) always(n syntax.Node) bool {
	switch {
	case s.Is(n, lang.Returns|lang.Throws):
		return true
	case s.Is(n, lang.Branch):
		return s.allBranches(n)
	case s.Is(n, lang.Block) || strings.HasSuffix(n.Type(), "_clause"):
		last := syntax.Node{}
		for c := range n.NamedChildren() {
			if s.Is(c, lang.Statement|lang.Block) {
				last = c
			}
		}
		return last.OK() && s.always(last)
	}
	return false
}

// allBranches says whether a statement leaves the function whichever way it goes.
func (s *scene) allBranches(n syntax.Node) bool {
	other := s.Is(n, lang.Tries)
	for c := range n.NamedChildren() {
		field := c.FieldName()
		switch {
		case s.Is(c, lang.Finally):
			continue
		case s.Is(c, lang.Else), field == "alternative" && !s.Is(c, lang.Clause):
			other = true
		case field == "consequence" || field == "body" || field == "handler" || s.Is(c, lang.Clause):
		default:
			continue
		}
		if !s.always(c) {
			return false
		}
	}
	return other
}
