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
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Expression is one that can get a name.
type Expression struct {
	// At is where it stands, Text how it is written.
	At   place.Range
	Text string
	// Equal are where else the same stands, with the same value as far as can be told.
	Equal []place.Range
	// Suggested is a name for it.
	Suggested string
}

// ErrNoExpression says that what is selected is none.
var ErrNoExpression = errors.New("no expression is selected")

// Expressions tells of the expression that is selected, or of all around a place, the smallest first.
func (r *Restructurer) Expressions(ctx context.Context, of Part) (all []Expression, err error) {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return nil, err
	}
	at := s.candidates(of.At)
	values, asked := s.values(check.Asked{Exprs: at})
	for i, at := range at {
		x, failed := s.expression(at)
		if failed == nil && asked {
			failed = single(x.node, values.Exprs[i])
		}
		if failed != nil {
			err = failed
			continue
		}
		e := Expression{At: x.node.Range(), Text: x.node.Text(), Suggested: s.suggested(x.node)}
		for _, n := range s.equal(x) {
			e.Equal = append(e.Equal, n.Range())
		}
		all = append(all, e)
	}
	if len(all) > 0 {
		return all, ctx.Err()
	}
	return nil, cmp.Or(ctx.Err(), err)
}

// candidates are the expressions that are meant by a part: what is selected, or else all around that are more than a
// name, within the statement.
func (s *scene) candidates(at place.Range) (all []place.Range) {
	if at.Len() > 0 {
		return []place.Range{at}
	}
	if int(at.End) < len(s.text) {
		at.End++
	}
	chain := s.tree.Around(at)
	for i := len(chain) - 1; i >= 0 && !s.Is(chain[i], lang.Block|lang.Function); i-- {
		n := chain[i]
		if !s.Is(n, lang.Value) || s.Is(n, lang.Name|lang.Brackets) || len(all) > 0 && all[len(all)-1] == n.Range() {
			continue
		}
		all = append(all, n.Range())
	}
	if len(all) == 0 {
		return []place.Range{at}
	}
	return all
}

// Variable proposes a variable for an expression; with all, for all that are equal to it.
func (r *Restructurer) Variable(ctx context.Context, of Part, name string, all bool) (*proposal.Proposal, error) {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return nil, err
	}
	if err := s.allowed(name); err != nil {
		return nil, err
	}
	x, err := s.expression(of.At)
	if err != nil {
		return nil, err
	}
	uses := []syntax.Node{x.node}
	if all {
		uses = append(uses, s.equal(x)...)
		slices.SortFunc(uses, func(a, b syntax.Node) int { return int(a.Range().Start) - int(b.Range().Start) })
	}
	v, err := s.typed(x.node, name)
	if err != nil {
		return nil, err
	}
	at, err := s.room(uses)
	if err != nil {
		return nil, err
	}
	if err := s.free(x, at, name); err != nil {
		return nil, err
	}
	s.declare(at, v, x.node, uses)
	return s.done("%s for %s", name, short(x.node.Text()))
}

// short is the beginning of a text, on one line.
func short(t string) string {
	t = strings.Join(strings.Fields(t), " ")
	if r := []rune(t); len(r) > 40 {
		return string(r[:39]) + "…"
	}
	return t
}

// expressed is an expression and what is around it.
type expressed struct {
	node syntax.Node
	// chain are the nodes around it, outermost first, itself the last.
	chain []syntax.Node
	host  syntax.Node
	names *names
}

// expression finds the expression that is selected, or the smallest one around a place.
func (s *scene) expression(at place.Range) (*expressed, error) {
	at = s.trimmed(at)
	chain := s.around(at)
	for last := chain[len(chain)-1]; last.Range() == at && s.Is(last, lang.Brackets) && count(last) == 1; last = chain[len(chain)-1] {
		at = firstPart(last).Range() // its brackets may belong to what it stands in
		chain = s.around(at)
	}
	if last := chain[len(chain)-1]; last.Range() != at || !s.Is(last, lang.Value) {
		return nil, ErrNoExpression
	}
	x := &expressed{node: chain[len(chain)-1], chain: chain}
	x.host, _ = s.host(chain)
	if !x.host.OK() || !s.functions(chain) {
		return nil, errors.New("it stands in no function, so there is no place for a variable before it")
	}
	if d := s.file.Facts.DefAt(int(x.node.Range().Start)); d != facts.NoDef && s.file.Facts.Defs[d].At == x.node.Range() {
		return nil, errors.New("a name is defined here; that is no value")
	}
	if err := s.isValue(chain); err != nil {
		return nil, err
	}
	if s.Around != nil && s.Around(x.node) {
		return nil, errors.New("its parameters have their types only from where it stands; write them first")
	}
	x.names = s.names(x.host.Range())
	return x, s.ctx.Err()
}

// functions says whether one of some nodes is a function.
func (s *scene) functions(chain []syntax.Node) bool {
	return slices.ContainsFunc(chain, func(n syntax.Node) bool { return s.Is(n, lang.Function) })
}

// isValue says why an expression, the last of some nodes, does not stand for a value, if it does not.
func (s *scene) isValue(chain []syntax.Node) error {
	for i := len(chain) - 1; i > 0; i-- {
		around, node := chain[i-1], chain[i]
		if i == len(chain)-1 && s.Is(around, lang.Invokes) && node.FieldName() == "function" {
			return fmt.Errorf("%s is what is called here; select the call with its arguments", short(node.Text()))
		}
		if s.Place(around, node) {
			return fmt.Errorf("%s does not stand for its value here: it is written, or called later, or is a name of something", short(chain[len(chain)-1].Text()))
		}
		if first := firstPart(around); !s.Is(around, lang.Reach|lang.Brackets|lang.Several) || first.Index() != node.Index() && !s.Is(around, lang.Several) {
			return nil
		}
	}
	return nil
}

func firstPart(n syntax.Node) syntax.Node {
	for c := range n.NamedChildren() {
		return c
	}
	return syntax.Node{}
}

// room is where a declaration goes.
type room struct {
	// before is the statement in front of which it goes; wrap says that there is room for one statement alone, value
	// that it is no statement but a value that a function gives.
	before syntax.Node
	wrap   bool
	value  bool
}

// room finds where a declaration can stand so that all uses see it.
func (s *scene) room(uses []syntax.Node) (room, error) {
	first, last := uses[0].Range(), uses[len(uses)-1].Range()
	both := s.tree.Around(place.Range{Start: first.Start, End: last.End})
	chain := s.around(first)
	for i := len(both) - 1; i >= 0; i-- {
		block := both[i]
		switch {
		case s.Is(block, lang.Block) && i+1 < len(chain):
			st := chain[i+1]
			if !s.Is(st, lang.Statement) {
				continue // the value of a case
			}
			if s.lang.Signs.Tabs || !s.onLineOf(block, st) { // else the line before is that of what the block belongs to
				return room{before: st}, nil
			}
			if s.Writer.Wrap("", "", "") == "" {
				return room{}, fmt.Errorf("it stands on the line of what it belongs to; give it a line of its own first")
			}
			return room{before: st}, nil
		case s.Is(block, lang.Function) && len(uses) >= 1 && i+1 < len(both) && both[i+1].FieldName() == "body" && !s.Is(both[i+1], lang.Block):
			if s.Writer.Wrap("", "", "") == "" {
				return room{}, errors.New("there is no place for a variable in a function that is one expression")
			}
			return room{before: both[i+1], wrap: true, value: true}, nil
		case i > 0 && s.Is(block, lang.Statement) && s.Is(both[i-1], lang.Branch|lang.Loop) && !s.Is(block, lang.Block) && block.FieldName() != "initializer" && block.FieldName() != "init" && block.FieldName() != "condition" && block.FieldName() != "update",
			i > 0 && s.Is(block, lang.Statement) && s.Is(both[i-1], lang.Else) && !s.Is(block, lang.Block):
			return room{before: block, wrap: true}, nil
		}
	}
	return room{}, errors.New("there is no place for a variable before it")
}

// onLineOf says whether a statement of a block begins in the line in which what the block belongs to begins.
func (s *scene) onLineOf(block, st syntax.Node) bool {
	r := block.Range()
	around := s.tree.Around(r)
	for i, n := range around {
		if n.Index() == block.Index() && i > 0 {
			return s.line(around[i-1].Range().Start) == s.line(st.Range().Start) && s.Is(block, lang.Block) && around[i-1].Range() != r
		}
	}
	return false
}

// free says why an expression cannot be evaluated where its variable would be declared, if it cannot.
func (s *scene) free(x *expressed, at room, name string) error {
	where := at.before.Range()
	harmless := s.harmless(x.node)
	// What it is made of must be there already.
	for start, v := range x.names.at {
		if !inside(place.Range{Start: start, End: start}, x.node.Range()) {
			continue
		}
		if d := v.def.At; d.Start >= where.Start && d.End <= where.End && !inside(d, x.node.Range()) {
			return fmt.Errorf("%s is only known within the statement (line %d)", v.name, s.line(d.Start))
		}
		for _, o := range v.all {
			if o.writes && o.at.Start >= where.Start && o.at.Start < x.node.Range().Start && !inside(o.at, x.node.Range()) {
				return fmt.Errorf("%s is written in the same statement before it (line %d)", v.name, s.line(o.at.Start))
			}
		}
	}
	// It must be evaluated there if it is now, and as often.
	for i := len(x.chain) - 1; i > 0 && x.chain[i].Index() != at.before.Index(); i-- {
		around, node := x.chain[i-1], x.chain[i]
		if around.Index() == at.before.Index() && !at.value && s.Is(around, lang.Block) {
			break
		}
		switch {
		case s.Is(around, lang.Function) && !harmless:
			return errors.New("it is evaluated each time the function is called that it stands in; a variable before that would have it evaluated once")
		case s.Is(around, lang.Loop) && !s.Once[node.FieldName()] && !s.Is(node, lang.Block) && !s.onceIn(node, x.node) && (!harmless || s.writtenIn(around, x)):
			return errors.New("it is evaluated in each turn of the loop; a variable before that would have it evaluated once")
		case s.mayBeLeft(around, node) && !harmless:
			return errors.New("it is not always evaluated where it stands; a variable before that would have it evaluated in any case")
		}
	}
	return s.unused(x, where, name)
}

// onceIn says whether an expression stands in a part of the head of a loop that is evaluated once.
func (s *scene) onceIn(head, x syntax.Node) bool {
	for c := range head.NamedChildren() {
		if inside(x.Range(), c.Range()) {
			return s.Once[c.FieldName()]
		}
	}
	return false
}

// writtenIn says whether something of which an expression is made is written in a node.
func (s *scene) writtenIn(in syntax.Node, x *expressed) bool {
	for start, v := range x.names.at {
		if inside(place.Range{Start: start, End: start}, x.node.Range()) {
			for _, o := range v.all {
				if o.writes && inside(o.at, in.Range()) {
					return true
				}
			}
		}
	}
	return false
}

// mayBeLeft says whether a part of a node may not be evaluated when the node is.
func (s *scene) mayBeLeft(around, node syntax.Node) bool {
	if !s.Is(around, lang.Short) {
		return false
	}
	if firstPart(around).Index() == node.Index() && s.Is(around, lang.Value) && !s.Is(around, lang.Later) {
		return false
	}
	if node.FieldName() == "operator" {
		return false
	}
	if !s.Is(around, lang.Value) {
		return true // of one of several cases
	}
	if !strings.HasPrefix(around.Type(), "binary") {
		return true
	}
	return around.Has("&&") || around.Has("||") || around.Has("??")
}

// harmless says whether evaluating a node does nothing, cannot fail, and gives the same as long as nothing is written
// that is named in it.
func (s *scene) harmless(n syntax.Node) bool {
	if n.Named() && !s.Is(n, lang.Plain) {
		return false
	}
	for c := range n.Children() {
		switch c.Type() {
		case "/", "%", "//", "<-":
			return false
		case "*": // what a pointer points to, if there is nothing before it
			if firstChild(n).Index() == c.Index() {
				return false
			}
		}
		if s.Is(n, lang.Function) {
			return true // it is not called here
		}
		if !s.harmless(c) {
			return false
		}
	}
	return true
}

func firstChild(n syntax.Node) syntax.Node {
	for c := range n.Children() {
		return c
	}
	return syntax.Node{}
}

// unused says why a name cannot be given to a variable that is declared somewhere, if it cannot.
func (s *scene) unused(x *expressed, where place.Range, name string) error {
	in := x.host.Range()
	for i := len(x.chain) - 1; i >= 0; i-- { // the block in which it would be seen
		if r := x.chain[i].Range(); s.Is(x.chain[i], lang.Block) && r.Start <= where.Start && r.End >= where.End {
			in = r
			break
		}
	}
	for _, v := range x.names.variables {
		if v.name == name && (inside(v.def.At, in) || slices.ContainsFunc(v.all, func(o occurrence) bool { return inside(o.at, in) })) {
			return fmt.Errorf("there is a %s here already (line %d)", name, s.line(v.def.At.Start))
		}
	}
	for _, u := range s.file.Facts.Uses {
		if u.Name == name && u.Base == facts.NoExpr && inside(u.At, in) {
			if a, ok := x.names.outer[u.At.Start]; !ok || a.Container == "" {
				return fmt.Errorf("%s means something else here (line %d)", name, s.line(u.At.Start))
			}
		}
	}
	return nil
}

// typed is the variable for an expression.
func (s *scene) typed(n syntax.Node, name string) (lang.Variable, error) {
	v := lang.Variable{Name: name, New: true}
	values, ok := s.values(check.Asked{Exprs: []place.Range{n.Range()}})
	if !ok {
		v.Type = s.typeOf(n)
		if v.Type == "void" {
			return v, fmt.Errorf("%s has no value that a variable could hold", short(n.Text()))
		}
		if s.Type != nil && v.Type == "" {
			s.warn(n.Range(), false, "its type cannot be told here, and is left to the compiler")
		}
		return v, nil
	}
	of := values.Exprs[0]
	v.Type, v.Constant = of.Type, of.Constant
	return v, single(n, of)
}

// single says why a variable cannot hold what an expression gives, if it cannot.
func single(n syntax.Node, of check.Value) error {
	switch {
	case of.Count > 1:
		return fmt.Errorf("%s gives %d values, and a variable holds one", short(n.Text()), of.Count)
	case of.Count == 0:
		return fmt.Errorf("%s has no value that a variable could hold", short(n.Text()))
	}
	return nil
}

// declare adds the declaration and has all uses name it.
func (s *scene) declare(at room, v lang.Variable, value syntax.Node, uses []syntax.Node) {
	where := at.before.Range()
	if len(uses) == 1 && !at.wrap && s.alone(uses[0], at.before) {
		// It is a statement by itself: what it gives is kept, and not named for nothing.
		s.kept = v.Name
		s.add(uses[0].Range(), strings.TrimSuffix(s.Writer.Variable(v, value.Text(), ""), ";"), "new variable")
		return
	}
	end := ""
	if s.ends(at.before) {
		end = ";"
	}
	declaration := s.formatted(s.Writer.Variable(v, s.dedented(value.Range(), nil), end))
	indent := s.indent(where.Start)
	if !at.wrap {
		before := s.written(declaration) + s.newline() + indent
		if start := s.file.Text.Offset(s.line(where.Start), 1); strings.TrimSpace(s.between(uint32(start), where.Start)) != "" {
			before = strings.TrimSuffix(s.written(declaration), ";") + "; " // something stands before it on its line
		}
		if uses[0].Range().Start == where.Start {
			s.add(uses[0].Range(), before+v.Name, "new variable")
			uses = uses[1:]
		} else {
			s.add(place.Range{Start: where.Start, End: where.Start}, before, "new variable")
		}
		for _, u := range uses {
			s.use(u, v.Name)
		}
		return
	}
	inner, given := declaration, s.dedented(where, edits(uses, v.Name))
	switch {
	case at.value && uses[0].Range() == where:
		given = v.Name
	case at.value:
	case len(uses) == 1 && s.alone(uses[0], at.before):
		given = ""
	default:
		inner, given = inner+"\n"+given, ""
	}
	before := where.Start
	for before > 0 && strings.IndexByte(" \t\r\n", s.text[before-1]) >= 0 {
		before--
	}
	by := s.written(hung(s.Writer.Wrap(inner, given, s.step()), s.indent(before)))
	line := uint32(s.file.Text.Offset(s.line(before), 1))
	if run, ok := s.lang.Signs.Runs(s.text[line:before]).At(int(before-line) - 1); before > line && ok && run.Role == lexical.Comment {
		before, by = where.Start, strings.TrimLeft(by, " ") // behind a comment there is no room
	} else {
		by = " " + by
	}
	s.add(place.Range{Start: before, End: where.End}, by, "new variable")
}

// hung is a text of several lines with indentation in front of all but the first.
func hung(t, indent string) string {
	first, rest, more := strings.Cut(t, "\n")
	if !more {
		return t
	}
	return first + "\n" + lang.Lines(rest, indent)
}

// use has a variable stand in the place of an expression.
func (s *scene) use(u syntax.Node, name string) {
	at := u.Range()
	if p := s.parentOf(u); s.Is(p, lang.Brackets) && s.Is(s.parentOf(p), lang.Value|lang.Invokes) && !s.calledWith(p) {
		at = p.Range()
	}
	s.add(at, name, "use")
}

// calledWith says whether brackets are those of a call or a condition, and not just around a value.
func (s *scene) calledWith(n syntax.Node) bool {
	p := s.parentOf(n)
	return n.FieldName() == "arguments" || n.FieldName() == "condition" || !s.Is(p, lang.Loose|lang.Reach)
}

// parentOf is the node directly around one.
func (s *scene) parentOf(n syntax.Node) syntax.Node {
	chain := s.tree.Around(n.Range())
	for i, c := range chain {
		if c.Index() == n.Index() && i > 0 {
			return chain[i-1]
		}
	}
	return syntax.Node{}
}

// alone says whether an expression is all of a statement.
func (s *scene) alone(n, statement syntax.Node) bool {
	return strings.TrimSuffix(strings.TrimSpace(statement.Text()), ";") == n.Text() && s.Is(statement, lang.Alone)
}

// ends says whether statements such as one end with a sign.
func (s *scene) ends(statement syntax.Node) bool {
	host, _ := s.host(s.tree.Around(statement.Range()))
	with, without := 0, 0
	s.each(host, host.Range(), func(n syntax.Node) bool {
		if s.Is(n, lang.Ends) {
			if strings.HasSuffix(n.Text(), ";") {
				with++
			} else {
				without++
			}
		}
		return true
	})
	return with > without || with == 0 && without == 0 && strings.Contains(string(s.text), ";")
}

// suggested is a name for the value of an expression, by what it is made of.
func (s *scene) suggested(n syntax.Node) string {
	last := s.lastName(n)
	for _, prefix := range []string{"get", "Get", "new", "New", "to", "To", "is", "Is"} {
		if rest := strings.TrimPrefix(last, prefix); rest != last && rest != "" && strings.ToUpper(rest[:1]) == rest[:1] && rest[0] != '_' {
			last = rest
			break
		}
	}
	if last == "" {
		return "value"
	}
	name := strings.ToLower(last[:1]) + last[1:]
	if strings.ToUpper(last) == last {
		name = strings.ToLower(last)
	}
	if _, ok := s.lang.Names.Allows(name); !ok || name == last {
		name += "Value"
		if strings.Contains(last, "_") || s.Writer.Argument("a", "b") != "" {
			name = last + "_value"
		}
	}
	return name
}

// lastName is the name of what an expression calls, or the last one in it.
func (s *scene) lastName(n syntax.Node) (last string) {
	at := n.Range()
	for _, part := range []string{"function", "name"} {
		if p := n.Part(part); p.OK() && s.Is(n, lang.Invokes) {
			at = p.Range()
			break
		}
	}
	for _, u := range s.file.Facts.Uses {
		if inside(u.At, at) {
			last = u.Name
		}
	}
	return last
}
