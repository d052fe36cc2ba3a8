package restructure

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// inlineFunction puts what a function does where it is called.
func (s *scene) inlineFunction(at uint32) (*proposal.Proposal, error) {
	b := s.guide.Bound(s.ctx, s.path, int(at), false)
	switch {
	case b.Name == "":
		return nil, errors.New("there is no name here whose value could be put in its place")
	case len(b.Definitions) != 1 || !b.Kind.IsCallable():
		return nil, fmt.Errorf("%s is no variable of a function, nor a function that is defined once", b.Name)
	case len(b.Family) > 0:
		return nil, fmt.Errorf("%s overrides another, or is overridden; what a call does is only known when it is made", b.Name)
	}
	if len(b.References) == 0 {
		return nil, fmt.Errorf("nothing calls %s", b.Name)
	}
	def := b.Definitions[0]
	home, err := s.other(def.Path)
	if err != nil {
		return nil, err
	}
	f, err := home.small(def.At)
	if err != nil {
		return nil, err
	}
	atDefinition := b.Here
	slices.Reverse(b.References) // what is called within a call first
	for _, u := range b.References {
		if !atDefinition && !(u.Path == s.path && u.At.Start <= at && at <= u.At.End) {
			continue
		}
		o, err := s.other(u.Path)
		if err != nil {
			return nil, err
		}
		if err := o.putCall(f, u.At); err != nil {
			if !atDefinition {
				return nil, err
			}
			o.warn(u.At, true, "%s", err)
		}
	}
	if atDefinition {
		if l := s.lang; l.Outside.Visible(lang.Symbol{Def: f.def, Path: def.Path, Package: home.file.Facts.Package, Modifiers: f.def.Modifiers(home.text)}) {
			home.warn(def.At, false, "code outside this project may use %s", b.Name)
		}
		whole := f.host.Range()
		if f.def.Doc.Len() > 0 && f.def.Doc.End <= whole.Start {
			whole.Start = f.def.Doc.Start
		}
		gone := home.withLine(whole)
		for int(gone.End) < len(home.text) && (home.text[gone.End] == '\n' || home.text[gone.End] == '\r') {
			gone.End++
		}
		home.add(gone, "", "definition")
		if !slices.ContainsFunc(b.References, func(u resolve.Reference) bool { return u.Path == def.Path }) { // there it is still needed
			home.forget(gone)
		}
	}
	return s.done("%s put in place", b.Name)
}

// small is a function that is small enough to stand where it is called.
type small struct {
	home   *scene
	name   string
	node   syntax.Node // the function
	host   syntax.Node // with what belongs to it
	def    *facts.Def
	names  *names
	params []*variable
	types  []string
	// value is what it gives if that is all it does; else statements are what it does, and value what the last gives.
	value      syntax.Node
	statements []syntax.Node
	receiver   *variable
	gives      string
}

// small finds a function by its name, and says why it cannot stand elsewhere, if it cannot.
func (s *scene) small(at place.Range) (*small, error) {
	chain := s.around(at)
	f := &small{home: s, name: string(at.In(s.text))}
	for i := len(chain) - 1; i >= 0 && !f.node.OK(); i-- {
		if s.Is(chain[i], lang.Function) {
			f.node = chain[i]
		}
	}
	if f.node.OK() && f.node.Part("name").Range() != at || !f.node.OK() {
		return nil, fmt.Errorf("%s is no function with a name of its own", f.name)
	}
	f.host, _ = s.host(chain)
	id := s.file.Facts.DefAt(int(at.Start))
	if id == facts.NoDef || !inside(f.node.Range(), f.host.Range()) {
		return nil, fmt.Errorf("%s is not defined where it could be moved from", f.name)
	}
	f.def = &s.file.Facts.Defs[id]
	f.names = s.names(f.host.Range())
	if head := s.between(f.host.Range().Start, s.headEnd(f.node)); strings.Contains(head, "async ") || f.node.Part("type_parameters").OK() || f.host.Part("definition").OK() || strings.Contains(head, "function*") {
		return nil, fmt.Errorf("%s is more than a plain function", f.name)
	}
	if err := f.parameters(); err != nil {
		return nil, err
	}
	f.gives = s.resultOf(f.node)
	return f, f.body()
}

func (s *scene) resultOf(n syntax.Node) string {
	if r := n.Part("result"); r.OK() {
		return typesOnly(s, r)
	}
	if s.Type != nil {
		return n.Part("type").Text()
	}
	return ""
}

// parameters finds those of the function.
func (f *small) parameters() error {
	s := f.home
	find := func(at place.Range) *variable {
		for _, v := range f.names.variables {
			if inside(v.def.At, at) && v.all[0].at == v.def.At {
				return v
			}
		}
		return nil
	}
	if r := f.node.Part("receiver"); r.OK() {
		f.receiver = find(r.Range())
	}
	first := true
	for p := range f.node.Part("parameters").NamedChildren() {
		if strings.Contains(p.Type(), "comment") {
			continue
		}
		if s.Is(p, lang.Many) || p.Part("value").OK() || !s.Is(p, lang.Parameter) || strings.Contains(p.Part("pattern").Type(), "pattern") || strings.HasSuffix(p.Type(), "_pattern") {
			return fmt.Errorf("%s takes more than plain parameters", f.name)
		}
		method := first && s.Writer.Argument("a", "b") != "" && f.def.Container != ""
		first = false
		named := 0
		for c := range p.NamedChildren() {
			if c.FieldName() == "name" {
				named++
				f.params, f.types = append(f.params, find(c.Range())), append(f.types, p.Part("type").Text())
			}
		}
		if named > 0 {
			continue
		}
		if method {
			f.receiver = find(p.Range())
			continue
		}
		v := find(p.Range())
		f.params, f.types = append(f.params, v), append(f.types, strings.TrimSpace(strings.TrimPrefix(p.Part("type").Text(), ":")))
	}
	return nil
}

// body finds out what the function does.
func (f *small) body() error {
	s := f.home
	body := f.node.Part("body")
	for c := range body.NamedChildren() {
		if s.Is(c, lang.Statement) {
			f.statements = append(f.statements, c)
		}
	}
	if s.Writer.Argument("a", "b") != "" && len(f.statements) > 1 && firstPart(f.statements[0]).Type() == "string" {
		f.statements = f.statements[1:] // what is said of it
	}
	if len(f.statements) == 0 {
		return fmt.Errorf("%s does nothing", f.name)
	}
	last := f.statements[len(f.statements)-1]
	if s.Is(last, lang.Returns) {
		f.value = firstPart(last)
		if s.Is(f.value, lang.Several) {
			if count(f.value) != 1 {
				return fmt.Errorf("%s gives several values", f.name)
			}
			f.value = firstPart(f.value)
		}
		f.statements = f.statements[:len(f.statements)-1]
	}
	e := &extraction{scene: s, block: body, at: body.Range()}
	for _, st := range f.statements {
		if len(e.returnsUnder(st)) > 0 {
			return fmt.Errorf("%s is left in more than one place", f.name)
		}
		odd := ""
		s.each(st, st.Range(), func(n syntax.Node) bool {
			if s.Is(n, lang.Jumps|lang.Awaits) && !strings.HasPrefix(n.Type(), "labeled") && !strings.HasPrefix(n.Type(), "fallthrough") {
				odd = firstWord(n.Text())
			}
			return !s.Is(n, lang.Function)
		})
		if odd != "" {
			return fmt.Errorf("%s has to do with the function %s that it is in", odd, f.name)
		}
	}
	for _, u := range s.file.Facts.Uses {
		if inside(u.At, body.Range()) && (s.Own[u.Name] && u.Base == facts.NoExpr || u.Name == f.name && f.names.outer[u.At.Start].At == f.def.At) {
			return fmt.Errorf("%s in line %d has to do with the function that it is in", u.Name, s.line(u.At.Start))
		}
	}
	return nil
}

// returnsUnder are the return statements in a node, those of functions in it not.
func (e *extraction) returnsUnder(n syntax.Node) (all []syntax.Node) {
	switch {
	case e.Is(n, lang.Function):
	case e.Is(n, lang.Returns):
		all = append(all, n)
	default:
		for c := range n.NamedChildren() {
			all = append(all, e.returnsUnder(c)...)
		}
	}
	return all
}

// called is a call of a function.
type called struct {
	node, on  syntax.Node // the call, and what it is called on
	args      []syntax.Node
	statement syntax.Node // that which it stands in
	host      syntax.Node
	names     *names
}

// callAt finds the call of the function whose name stands somewhere.
func (s *scene) callAt(at place.Range) (*called, error) {
	chain := s.around(at)
	c := &called{}
	name := chain[len(chain)-1]
	for i := len(chain) - 2; i >= 0; i-- {
		n := chain[i]
		if s.Is(n, lang.Invokes) {
			function := n.Part("function")
			if !function.OK() {
				function = n.Part("name")
			}
			if !inside(at, function.Range()) || function.Range().End != name.Range().End {
				break
			}
			c.node = n
			if function.Range() != name.Range() {
				c.on = firstPart(function)
			} else if o := n.Part("object"); o.OK() {
				c.on = o
			}
			break
		}
	}
	if !c.node.OK() {
		return nil, fmt.Errorf("in line %d it is used without being called", s.line(at.Start))
	}
	for a := range c.node.Part("arguments").NamedChildren() {
		if strings.Contains(a.Type(), "comment") {
			continue
		}
		if s.Is(a, lang.Splice|lang.ByName) {
			return nil, fmt.Errorf("in line %d it is called with arguments that are not one for each parameter", s.line(at.Start))
		}
		c.args = append(c.args, a)
	}
	around := s.tree.Around(c.node.Range())
	for i := len(around) - 1; i > 0 && !c.statement.OK(); i-- {
		if s.Is(around[i], lang.Statement) && s.Is(around[i-1], lang.Block) {
			c.statement = around[i]
		}
	}
	c.host, _ = s.host(around)
	c.names = s.names(c.host.Range())
	return c, nil
}

// putCall puts what a function does in the place of a call of it.
func (s *scene) putCall(f *small, at place.Range) error {
	c, err := s.callAt(at)
	if err != nil {
		return err
	}
	where := fmt.Sprintf("in line %d ", s.line(at.Start))
	if len(c.args) != len(f.params) {
		return errors.New(where + "it is called with another number of arguments")
	}
	if err := s.visibleThere(f, c); err != nil {
		return err
	}
	subs, bound, err := s.bindings(f, c)
	if err != nil {
		return fmt.Errorf("%s%w", where, err)
	}
	if len(f.statements) == 0 && len(bound) == 0 && f.value.OK() {
		return s.putValue(f, c, subs)
	}
	return s.putStatements(f, c, subs, bound)
}

// putValue puts the value that a function gives in the place of its call.
func (s *scene) putValue(f *small, c *called, subs []text.Edit) error {
	written := f.home.dedented(f.value.Range(), subs)
	values, asked := f.home.values(check.Asked{Exprs: []place.Range{f.value.Range()}})
	node := f.value
	if asked {
		if of := values.Exprs[0]; f.gives != "" && (of.Type != f.gives || of.Constant) {
			written, node = conversion(f.gives)+"("+written+")", syntax.Node{}
		}
	} else if s.Type != nil {
		if of := f.home.typeOf(f.value); of != f.gives && s.Numbers[f.gives] {
			written, node = "(("+f.gives+") "+s.bracketed(written, f.value)+")", syntax.Node{}
		}
	}
	if s.alone(c.node, c.statement) && !s.Is(f.value, lang.Invokes) {
		return fmt.Errorf("in line %d what it gives is not used", s.line(c.node.Range().Start))
	}
	by, err := s.inPlaceOf(c.node, written, node)
	if err != nil {
		return err
	}
	s.add(c.node.Range(), by, "call")
	return nil
}

// putStatements puts what a function does in the place of the statement that calls it.
func (s *scene) putStatements(f *small, c *called, subs []text.Edit, bound []string) error {
	line := s.line(c.node.Range().Start)
	if !c.statement.OK() {
		return fmt.Errorf("in line %d there is no place for several statements", line)
	}
	all := append([]string{}, bound...)
	for _, st := range f.statements {
		all = append(all, f.home.dedented(st.Range(), subs))
	}
	for _, v := range f.names.variables {
		if inside(v.def.At, f.node.Part("body").Range()) || len(bound) > 0 && slices.Contains(f.params, v) {
			for _, o := range c.names.variables {
				if o.name == v.name {
					return fmt.Errorf("in line %d there is a %s already", line, v.name)
				}
			}
		}
	}
	whole := c.statement.Range()
	rest := ""
	switch {
	case s.alone(c.node, c.statement):
		if f.value.OK() && s.Is(f.value, lang.Invokes) {
			all = append(all, f.home.dedented(f.value.Range(), subs))
		} else if f.value.OK() && !f.home.harmless(f.value) {
			return fmt.Errorf("in line %d what it gives is not used, and working it out may do something", line)
		}
	case !f.value.OK():
		return fmt.Errorf("in line %d it is called within something else", line)
	default:
		if !s.onceWithin(c) {
			return fmt.Errorf("in line %d something else is evaluated before it, or it is not always evaluated", line)
		}
		by, err := s.inPlaceOf(c.node, f.home.dedented(f.value.Range(), subs), f.value)
		if err != nil {
			return err
		}
		s.now(whole)
		rest = edited(s.text, whole, []text.Edit{{Start: int(c.node.Range().Start), End: int(c.node.Range().End), New: []byte(by)}})
	}
	by := hung(strings.Join(all, "\n"), s.indent(whole.Start))
	if rest != "" {
		by += "\n" + s.indent(whole.Start) + rest
	}
	s.add(whole, s.written(by), "call")
	return nil
}

// onceWithin says whether a call is evaluated once, in any case, and before all other calls of its statement.
func (s *scene) onceWithin(c *called) bool {
	chain := s.tree.Around(c.node.Range())
	begun := false
	for i := 0; i+1 < len(chain); i++ {
		begun = begun || chain[i].Index() == c.statement.Index()
		if !begun {
			continue
		}
		around, node := chain[i], chain[i+1]
		if s.Is(around, lang.Function|lang.Loop) || s.mayBeLeft(around, node) || s.Is(around, lang.Branch|lang.Choice) {
			return false
		}
		if chain[i+1].Index() == c.node.Index() {
			break
		}
	}
	earlier := false
	s.each(c.statement, c.statement.Range(), func(n syntax.Node) bool {
		earlier = earlier || s.Is(n, lang.Invokes) && n.Range().End <= c.node.Range().Start
		return true
	})
	return !earlier
}

// isTakenAlong says whether a name of a function is that of an import, which goes along to where it is called.
func (s *scene) isTakenAlong(name string, home *scene) bool {
	_, _, imported := home.importOf(name)
	return imported && s.path != home.path
}

// takeAlong has the file of a call import what the names in the body of a function mean.
func (s *scene) takeAlong(f *small, body place.Range) error {
	for _, u := range f.home.file.Facts.Uses {
		if !inside(u.At, f.node.Range()) || u.Base != facts.NoExpr || !s.isTakenAlong(u.Name, f.home) || f.names.at[u.At.Start] != nil {
			continue
		}
		if !s.imports(u.Name, f.home) && inside(u.At, body) {
			return fmt.Errorf("%s is not known in %s, or means something else there", u.Name, s.path)
		}
	}
	return nil
}

// visibleThere says which name of a function means something else where it is called, or nothing.
func (s *scene) visibleThere(f *small, c *called) error {
	body := f.node.Part("body").Range()
	line := s.line(c.node.Range().Start)
	if err := s.takeAlong(f, body); err != nil {
		return err
	}
	for start, a := range f.names.outer {
		if u, ok := f.home.file.Facts.UseAt(int(start)); ok && s.isTakenAlong(u.Name, f.home) {
			continue
		}
		u, ok := f.home.file.Facts.UseAt(int(start))
		if !inside(place.Range{Start: start, End: start}, body) || !ok || u.Base != facts.NoExpr {
			continue
		}
		for _, v := range c.names.variables {
			if v.name == u.Name {
				return fmt.Errorf("%s means something else in line %d", u.Name, line)
			}
		}
		member := a.Container != ""
		switch {
		case member && s.Type != nil && (c.on.OK() && c.on.Text() != "this" || s.path != f.home.path):
			return fmt.Errorf("%s is a member of what %s is called on, in line %d", u.Name, f.name, line)
		case s.path != f.home.path && a.Path != "" && s.lang.Scopes.Sees != lang.SeesFolder && !s.lang.Scopes.Builtin[u.Name]:
			return fmt.Errorf("%s is not known in %s", u.Name, s.path)
		case s.path != f.home.path && !sameFolder(s.path, f.home.path) && !s.lang.Scopes.Builtin[u.Name]:
			return fmt.Errorf("%s is not known in %s", u.Name, s.path)
		}
	}
	self := false
	f.home.each(f.node.Part("body"), body, func(n syntax.Node) bool { self = self || s.Self[n.Type()]; return true })
	if self && c.on.OK() && c.on.Text() != "this" {
		return fmt.Errorf("this is another one in line %d", line)
	}
	return nil
}

// bindings say what stands for the parameters of a function: edits of its text, and declarations before it.
func (s *scene) bindings(f *small, c *called) (subs []text.Edit, bound []string, err error) {
	args, params, types := c.args, f.params, f.types
	if f.receiver != nil {
		if !c.on.OK() {
			return nil, nil, errors.New("it is not called on a value")
		}
		if s.Writer.Argument("a", "b") != "" && c.on.Text() == "super()" {
			return nil, nil, errors.New("it is called on what is above")
		}
		args, params, types = append([]syntax.Node{c.on}, args...), append([]*variable{f.receiver}, params...), append([]string{""}, types...)
	}
	asked := check.Asked{Within: f.node.Range()}
	own, typed := f.home.values(asked)
	var exprs []place.Range
	for _, a := range args {
		exprs = append(exprs, a.Range())
	}
	given, _ := s.values(check.Asked{Exprs: exprs})
	last := uint32(0) // where the parameter is used whose argument does something
	for i, p := range params {
		a := args[i]
		if p == nil {
			if !s.harmless(a) {
				return nil, nil, fmt.Errorf("%s would not be evaluated any more", short(a.Text()))
			}
			continue
		}
		uses, written := f.usesOf(p)
		written = written || own.Locals[p.def.At.Start].InPlace
		receiver := f.receiver != nil && i == 0
		simple := s.harmless(a) && !s.Is(a, lang.Function) || receiver && s.reads(a)
		once := len(uses) == 1 && uses[0].Range().Start > last && f.inOrder(uses[0])
		if receiver && written && typed {
			written = false // what it points to is changed, which it is as well where it is called
			if !strings.Contains(f.node.Part("receiver").Text(), "*") {
				return nil, nil, errors.New("it changes its own copy of what it is called on")
			}
		}
		if written || !simple && !once {
			if len(f.statements) == 0 {
				return nil, nil, fmt.Errorf("%s would be evaluated %d times, or in another order", short(a.Text()), len(uses))
			}
			bound = append(bound, s.Writer.Variable(lang.Variable{Name: p.name, Type: types[i], New: true, Changes: written}, s.argument(a, types[i], given, i, typed), s.lineEnd(c)))
			continue
		}
		if !simple {
			last = uses[0].Range().Start
		}
		by := s.argument(a, types[i], given, i, typed)
		node := a
		if by != a.Text() {
			node = syntax.Node{}
		}
		for _, u := range uses {
			put, err := f.home.inPlaceOf(u, by, node)
			if err != nil {
				return nil, nil, err
			}
			subs = append(subs, text.Edit{Start: int(u.Range().Start), End: int(u.Range().End), New: []byte(put)})
		}
	}
	slices.SortFunc(subs, func(a, b text.Edit) int { return a.Start - b.Start })
	return subs, bound, nil
}

func (s *scene) lineEnd(c *called) string {
	if strings.HasSuffix(c.statement.Text(), ";") {
		return ";"
	}
	return ""
}

// argument is how an argument is written in the place of a parameter of a type.
func (s *scene) argument(a syntax.Node, declared string, given check.Values, i int, typed bool) string {
	written := s.now(a.Range())
	if s.Type != nil && declared != "" && s.Is(a, lang.Nothing) {
		return "((" + declared + ") " + written + ")" // what it is handed to may be overloaded
	}
	if typed && declared != "" && i < len(given.Exprs) {
		if of := given.Exprs[i]; of.Type != declared || of.Constant && declared != "int" && declared != "string" && declared != "bool" {
			return conversion(declared) + "(" + written + ")"
		}
	}
	if s.Type != nil && s.Numbers[declared] {
		if of := s.typeOf(a); of != declared {
			return "((" + declared + ") " + s.bracketed(written, a) + ")"
		}
	}
	return written
}

// usesOf are the places in the body of a function where a parameter is used, and whether it is written there.
func (f *small) usesOf(p *variable) (uses []syntax.Node, written bool) {
	for _, o := range p.all {
		if o.at == p.def.At {
			continue
		}
		written = written || o.writes
		uses = append(uses, f.home.nodeAt(o.at))
	}
	return uses, written
}

// inOrder says whether a part of a function is evaluated once, in any case, and before anything is called.
func (f *small) inOrder(u syntax.Node) bool {
	s := f.home
	body := f.node.Part("body")
	chain := s.tree.Around(u.Range())
	begun := false
	for i := 0; i+1 < len(chain); i++ {
		if begun && (s.Is(chain[i], lang.Function|lang.Loop|lang.Choice) || s.Is(chain[i], lang.Branch) && s.Is(chain[i+1], lang.Block|lang.Statement) || s.mayBeLeft(chain[i], chain[i+1])) {
			return false
		}
		begun = begun || chain[i].Index() == body.Index()
	}
	earlier := false
	s.each(body, body.Range(), func(n syntax.Node) bool {
		earlier = earlier || s.Is(n, lang.Invokes|lang.Awaits) && n.Range().End <= u.Range().Start
		return true
	})
	return !earlier
}
