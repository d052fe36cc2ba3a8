package restructure

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
)

// Function proposes a function for the statements that are selected, or for the expression.
func (r *Restructurer) Function(ctx context.Context, of Part, name string) (*proposal.Proposal, error) {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return nil, err
	}
	if err := s.allowed(name); err != nil {
		return nil, err
	}
	e, err := s.extraction(of.At)
	if err != nil {
		return nil, err
	}
	e.routine.Name = name
	if err := e.work(); err != nil {
		return nil, err
	}
	return s.done("function %s", name)
}

// ErrNoStatements says that what is selected is nothing of which a function can be made.
var ErrNoStatements = errors.New("no whole statements are selected, nor an expression")

// Extractable tells whether a function can be made of a part, before one asks for its name.
func (r *Restructurer) Extractable(ctx context.Context, of Part) error {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return err
	}
	e, err := s.extraction(of.At)
	if err != nil {
		return err
	}
	return e.workOut()
}

// extraction is a part of a function that is to become one of its own.
type extraction struct {
	*scene
	// at is what is taken out: statements of block, or one value.
	at    place.Range
	block syntax.Node
	value syntax.Node
	// function is the innermost function around it, host what stands at the top around it.
	function, host syntax.Node
	// self is what a method is called on, if that is used in it, as a variable; selfUsed says so where it is none.
	self     *variable
	selfUsed bool
	selfAt   syntax.Node

	names   *names
	values  check.Values
	typed   bool // the compiler was asked
	routine lang.Routine
	returns bool
	// fresh are variables that are written before they are read, and so are no parameters though they come from outside.
	fresh []lang.Variable
}

// extraction finds the statements that are selected, or the expression.
func (s *scene) extraction(at place.Range) (*extraction, error) {
	at = s.trimmed(at)
	if at.Len() == 0 {
		return nil, ErrNoStatements
	}
	e := &extraction{scene: s, at: at}
	chain := s.tree.Around(at)
	for i := len(chain) - 1; i >= 0 && !e.block.OK(); i-- {
		if s.Is(chain[i], lang.Block) && s.whole(chain[i], at) {
			e.block, chain = chain[i], chain[:i+1]
		}
	}
	if !e.block.OK() {
		chain = s.around(at)
		if last := chain[len(chain)-1]; last.Range() != at || !s.Is(last, lang.Value) {
			return nil, ErrNoStatements
		}
		if err := s.isValue(chain); err != nil {
			return nil, err
		}
		e.value = chain[len(chain)-1]
	}
	e.host, _ = s.host(chain)
	for i := len(chain) - 1; i >= 0; i-- {
		if s.Is(chain[i], lang.Function) {
			e.function = chain[i]
			break
		}
	}
	if !e.host.OK() || !e.function.OK() || !inside(e.function.Range(), e.host.Range()) {
		return nil, errors.New("that stands in no function")
	}
	e.names = s.names(e.host.Range())
	return e, s.ctx.Err()
}

// whole says whether a range is that of some statements of a block.
func (s *scene) whole(block syntax.Node, at place.Range) bool {
	begins, ends := false, false
	for c := range block.NamedChildren() {
		if c.FieldName() == "value" || c.FieldName() == "communication" || c.FieldName() == "type" {
			continue
		}
		r := c.Range()
		if r.Start == at.Start && s.Is(c, lang.Statement) {
			begins = true
		}
		if r.Start < at.Start && r.End > at.Start || r.Start < at.End && r.End > at.End {
			return false
		}
		if r.End == at.End || s.trimmed(place.Range{Start: r.End, End: at.End}).Len() == 0 && r.End < at.End {
			ends = true
		}
	}
	return begins && ends
}

// workOut works out what the function is, but for its name.
func (e *extraction) workOut() error {
	if err := e.flow(); err != nil {
		return err
	}
	e.ask()
	if err := e.belongs(); err != nil {
		return err
	}
	if err := e.variables(); err != nil {
		return err
	}
	return e.gives()
}

// work works the function out and adds what changes.
func (e *extraction) work() error {
	if err := e.workOut(); err != nil {
		return err
	}
	if err := e.nameFree(); err != nil {
		return err
	}
	e.routine.Indent = e.step()
	if e.ends(e.host) {
		e.routine.End = ";"
	}
	e.put()
	return e.ctx.Err()
}

// ask has the compiler tell the types.
func (e *extraction) ask() {
	asked := check.Asked{Within: e.at}
	if e.value.OK() {
		asked.Exprs = []place.Range{e.at}
	}
	e.values, e.typed = e.scene.values(asked)
}

// belongs finds out whether the function is to be a method, and of what.
func (e *extraction) belongs() error {
	r := &e.routine
	host, marks := e.host, ""
	if d := host.Part("definition"); d.OK() {
		marks, host = e.between(host.Range().Start, d.Range().Start), d
	}
	e.self = e.receiver(host)
	if e.self != nil {
		used, written := false, false
		for _, o := range e.self.all {
			if inside(o.at, e.at) {
				used, written = true, written || o.writes
			}
		}
		if written {
			return fmt.Errorf("%s is given another value in it", e.self.name)
		}
		if e.values.Locals[e.self.def.At.Start].InPlace && !strings.Contains(host.Part("receiver").Text(), "*") {
			return fmt.Errorf("%s is changed in it, and is a copy in each method", e.self.name)
		}
		r.Receiver, r.On = host.Part("receiver").Text(), e.self.name
		r.Method = used || strings.Contains(r.Receiver, "[")
		if strings.Contains(marks, "@classmethod") {
			r.Marks = "@classmethod\n"
		}
		if !r.Method {
			e.self = nil
		}
	}
	if word := "static"; slices.Contains(strings.Fields(string(e.text[host.Range().Start:e.headEnd(host)])), word) {
		r.Static = true
	}
	if len(e.Self) > 0 && e.Writer.Call(&lang.Routine{Name: "f", Method: true, On: "this"}) == "f()" { // methods see each other
		r.Method = true
	} else if e.selfUsed {
		if !e.inClass() || e.function.Index() != e.host.Index() && !e.arrowsOnly() {
			return fmt.Errorf("%s in line %d belongs to the function that it is used in", e.selfAt.Text(), e.line(e.selfAt.Range().Start))
		}
		r.Method, r.On = true, "this"
	}
	if !(r.Method && r.Receiver != "") {
		e.generic()
	}
	if t := host.First("throws"); t.OK() {
		r.Throws = t.Text()
	}
	return nil
}

// inClass says whether what stands at the top around it is a method of a class.
func (e *extraction) inClass() bool {
	parent := e.parentOf(e.host)
	return e.Is(parent, lang.Holder) && parent.Index() != e.tree.Root().Index()
}

// generic takes along the type parameters of the functions around, and of the types if it is to stand outside of them.
func (e *extraction) generic() {
	var written []string
	open, end := "", ""
	for _, n := range e.tree.Around(e.at) {
		g := n.Part("type_parameters")
		if !e.Is(n, lang.Function) && (e.routine.Method || !e.inClass()) || !g.OK() || inside(n.Range(), e.at) {
			continue
		}
		s := g.Text()
		open, end = s[:1], s[len(s)-1:]
		for c := range g.NamedChildren() {
			written = append(written, c.Text())
			for name := range c.NamedChildren() {
				if name.FieldName() == "name" || e.Is(name, lang.Name) {
					e.routine.Types = append(e.routine.Types, name.Text())
				}
				if name.FieldName() != "name" {
					break
				}
			}
		}
	}
	if len(written) > 0 {
		e.routine.Generic = open + strings.Join(written, ", ") + end
	}
}

// between is the text between two offsets.
func (s *scene) between(start, end uint32) string { return string(s.text[start:end]) }

// headEnd is where the body of a function begins.
func (s *scene) headEnd(n syntax.Node) uint32 {
	if b := n.Part("body"); b.OK() {
		return b.Range().Start
	}
	return n.Range().Start
}

// arrowsOnly says whether the functions between the outermost one and the innermost have no this of their own.
func (e *extraction) arrowsOnly() bool {
	for _, n := range e.tree.Around(e.at) {
		if e.Is(n, lang.Function) && !e.Is(n, lang.Open) && n.Index() != e.host.Index() && inside(n.Range(), e.host.Range()) && !inside(n.Range(), e.at) {
			return false
		}
	}
	return true
}

// receiver is the variable that stands for what a method was called on; nil for none.
func (e *extraction) receiver(host syntax.Node) *variable {
	at := place.Range{}
	if r := host.Part("receiver"); r.OK() {
		at = r.Range()
	} else if e.Writer.Argument("a", "b") != "" && e.Is(e.parentOf(e.parentOf(e.host)), lang.Holder) {
		marks := e.between(e.host.Range().Start, host.Range().Start)
		if strings.Contains(marks, "@staticmethod") {
			return nil
		}
		at = firstPart(host.Part("parameters")).Range()
	}
	for _, v := range e.names.variables {
		if at.Len() > 0 && inside(v.def.At, at) {
			return v
		}
	}
	return nil
}

// gives finds out what the function gives besides variables.
func (e *extraction) gives() error {
	r := &e.routine
	switch {
	case e.value.OK() && e.typed:
		of := e.values.Exprs[0]
		switch {
		case of.Count != 1:
			return fmt.Errorf("%s does not give one value", short(e.value.Text()))
		case of.Type == "" || len(of.Imports) > 0:
			return fmt.Errorf("the type of %s cannot be written here", short(e.value.Text()))
		case of.Constant:
			return fmt.Errorf("%s is a constant, which needs no function", short(e.value.Text()))
		}
		r.Gives = of.Type
	case e.value.OK() && e.Type != nil:
		if r.Gives = e.typeOf(e.value); r.Gives == "" {
			return fmt.Errorf("what type %s has cannot be told here", short(e.value.Text()))
		}
	case e.value.OK():
		if e.Typed && e.Is(e.parentOf(e.value), lang.Returns) {
			r.Gives = e.declaredResult()
		}
	case e.returns:
		return e.givesOfFunction()
	}
	return nil
}

// declaredResult is the type that the function around says it gives; "" for none, or where what it gives is wrapped in it.
func (e *extraction) declaredResult() string {
	if head := e.between(e.function.Range().Start, e.headEnd(e.function)); strings.Contains(head, "async") || strings.Contains(head, "function*") {
		return ""
	}
	return strings.TrimSpace(strings.TrimPrefix(e.function.Part("return_type").Text(), ":"))
}

// givesOfFunction takes over what the function around says that it gives.
func (e *extraction) givesOfFunction() error {
	r := &e.routine
	r.Returns = e.leavesAlways()
	if !r.Returns || e.gaveNothing() && !e.named() {
		r.Returns = r.Returns && e.Type == nil && !e.typed
		return nil
	}
	if e.named() && e.gaveNothing() {
		return errors.New("a return gives back what the function names, which the new one would not")
	}
	switch result := e.function.Part("result"); {
	case result.OK():
		r.Gives = typesOnly(e.scene, result)
	case e.function.Part("return_type").OK():
		r.Gives = e.declaredResult()
	case e.Type != nil:
		if e.function.Index() != e.host.Index() || !e.function.Part("type").OK() {
			return errors.New("what type is given back is not written where it is returned from")
		}
		r.Gives = e.function.Part("type").Text()
	}
	return nil
}

// named says whether the function around names its results.
func (e *extraction) named() bool {
	result := e.function.Part("result")
	for p := range result.NamedChildren() {
		if e.Is(p, lang.Parameter) && p.Part("name").OK() {
			return true
		}
	}
	return false
}

// typesOnly is a list of results without their names.
func typesOnly(s *scene, result syntax.Node) string {
	if !strings.HasPrefix(result.Text(), "(") {
		return result.Text()
	}
	var types []string
	for p := range result.NamedChildren() {
		n := 0
		for c := range p.NamedChildren() {
			if c.FieldName() == "name" {
				n++
			}
		}
		for range max(n, 1) {
			types = append(types, p.Part("type").Text())
		}
	}
	if len(types) == 1 {
		return types[0]
	}
	return "(" + strings.Join(types, ", ") + ")"
}

// nameFree says what has the name already, if something has.
func (e *extraction) nameFree() error {
	name := e.routine.Name
	for _, v := range e.names.variables {
		if v.name == name && !e.routine.Method {
			return fmt.Errorf("there is a variable %s already (line %d)", name, e.line(v.def.At.Start))
		}
	}
	if e.routine.Method {
		for i := range e.file.Facts.Defs {
			if d := &e.file.Facts.Defs[i]; inside(d.At, e.host.Range()) && d.Kind.IsCallable() && d.Scope != 0 {
				return e.taken(int(d.At.Start), name)
			}
		}
		return nil
	}
	return e.topFree(name)
}

// topFree says what has a name at the top of the file, or of what it sees by itself, if something has.
func (s *scene) topFree(name string) error {
	for i := range s.file.Facts.Defs {
		if d := &s.file.Facts.Defs[i]; d.Name == name && d.Scope == 0 && d.Container == "" {
			return fmt.Errorf("there is a %s %s already (line %d)", d.Kind, name, s.line(d.At.Start))
		}
	}
	if s.lang.Scopes.Sees == lang.SeesFolder {
		for _, o := range s.code.Named(name) {
			if sameFolder(o.Path, s.path) && o.Container == "" {
				return fmt.Errorf("there is a %s %s already, in %s", o.Kind, name, o.Path)
			}
		}
	}
	return nil
}

// put adds the function and its call.
func (e *extraction) put() {
	r := &e.routine
	body := e.dedented(e.at, e.throughAddresses())
	if e.value.OK() {
		body = "return " + body + r.End
	}
	var lines []string
	for _, v := range e.fresh {
		if declared := e.Writer.Variable(v, "", r.End); !strings.HasSuffix(declared, "= None") {
			lines = append(lines, declared)
		}
	}
	lines = append(lines, body)
	if len(r.Results) > 0 {
		lines = append(lines, e.Writer.Return(r.Results, r.End))
	}
	r.Body = strings.Join(lines, "\n")
	call := ""
	if e.value.OK() {
		call = e.Writer.Call(r)
		if r.Awaits && e.Is(e.parentOf(e.value), lang.Reach|lang.Loose) {
			call = "(" + call + ")"
		}
	} else {
		call = e.Writer.Take(r)
	}
	e.add(e.at, e.written(hung(call, e.indent(e.at.Start))), "call")
	host := e.host
	if chain := e.tree.Around(e.at); !r.Method && len(e.Self) > 0 && e.inClass() && len(chain) > 1 {
		host = chain[1] // behind the class, of which it needs nothing
	}
	e.behind(host, r)
}

// behind adds a function behind another one.
func (e *extraction) behind(host syntax.Node, r *lang.Routine) {
	end := host.Range().End
	for end < uint32(len(e.text)) && e.text[end] != '\n' {
		end++
	}
	indent := e.indent(host.Range().Start)
	written := e.Writer.Routine(r)
	if indent == "" {
		written = e.formatted(written)
	}
	written = lang.Lines(written, indent)
	blank := strings.Repeat("\n", e.Writer.Blank(indent != ""))
	if end == uint32(len(e.text)) {
		e.add(place.Range{Start: end, End: end}, e.written("\n"+blank+written), "new function")
		return
	}
	e.add(place.Range{Start: end + 1, End: end + 1}, e.written(blank+written+"\n"), "new function")
}

// throughAddresses has variables that are handed over by their address be used through it.
func (e *extraction) throughAddresses() (all []text.Edit) {
	for _, p := range e.routine.Params {
		if !p.Address {
			continue
		}
		for _, v := range e.names.variables {
			if v.name != p.Name || inside(v.def.At, e.at) {
				continue
			}
			for _, o := range v.all {
				if !inside(o.at, e.at) {
					continue
				}
				n := e.nodeAt(o.at)
				around := e.parentOf(n)
				switch {
				case e.Is(around, lang.Loose) && around.Has("&") && count(around) == 1:
					all = append(all, text.Edit{Start: int(around.Range().Start), End: int(around.Range().End), New: []byte(p.Name)})
				case e.Is(around, lang.Member):
				case e.Is(around, lang.Reach|lang.Loose):
					all = append(all, text.Edit{Start: int(o.at.Start), End: int(o.at.End), New: []byte("(*" + p.Name + ")")})
				default:
					all = append(all, text.Edit{Start: int(o.at.Start), End: int(o.at.End), New: []byte("*" + p.Name)})
				}
			}
		}
	}
	slices.SortFunc(all, func(a, b text.Edit) int { return cmp.Compare(a.Start, b.Start) })
	return all
}
