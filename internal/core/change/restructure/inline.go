package restructure

import (
	"context"
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
)

// Inline proposes to put what a name stands for in its place: of a variable its value, in all its uses; of a function
// what it does, where it is called, or everywhere if one asks at its definition.
func (r *Restructurer) Inline(ctx context.Context, of Part) (*proposal.Proposal, error) {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return nil, err
	}
	chain := s.tree.Around(place.Range{Start: of.At.Start, End: of.At.Start})
	if host, _ := s.host(chain); host.OK() {
		n := s.names(host.Range())
		for start, v := range n.at {
			if start <= of.At.Start && of.At.Start <= start+uint32(len(v.name)) && v.def.Kind != facts.Function {
				return s.inlineVariable(host, n, v)
			}
		}
	}
	return s.inlineFunction(of.At.Start)
}

// declaration is where a variable gets its value.
type declaration struct {
	statement, value, declarator syntax.Node
}

// declared2 finds where a variable gets its only value.
func (s *scene) declarationOf(v *variable) (d declaration, err error) {
	chain := s.around(v.def.At)
	for i := len(chain) - 1; i >= 0 && !d.statement.OK(); i-- {
		n := chain[i]
		if n.Type() == "expression_list" && n.FieldName() == "left" || n.Type() == "pattern_list" {
			if count(n) != 1 {
				return d, fmt.Errorf("%s is declared together with others", v.name)
			}
		}
		if !d.declarator.OK() {
			if value := n.Part("value"); value.OK() && !inside(v.def.At, value.Range()) {
				d.declarator, d.value = n, value
			} else if value := n.Part("right"); value.OK() && !inside(v.def.At, value.Range()) {
				d.declarator, d.value = n, value
			}
		}
		if s.Is(n, lang.Statement) {
			d.statement = n
			if i == 0 || !s.Is(chain[i-1], lang.Block) {
				return d, fmt.Errorf("%s is declared in the head of a statement", v.name)
			}
		}
	}
	if d.value.Type() == "expression_list" && count(d.value) == 1 && s.lang.Signs.Tabs {
		d.value = firstPart(d.value)
	}
	switch {
	case !d.statement.OK() || !d.value.OK() || s.Is(d.statement, lang.Loop|lang.Branch|lang.Choice):
		return d, fmt.Errorf("%s has no value of its own to put in its place", v.name)
	case !s.Is(d.value, lang.Value) && d.value.Type() != "expression_list":
		return d, fmt.Errorf("what %s is declared with is no single value", v.name)
	case s.several(d):
		return d, fmt.Errorf("%s is declared together with others", v.name)
	}
	return d, nil
}

func count(n syntax.Node) (c int) {
	for range n.NamedChildren() {
		c++
	}
	return c
}

// several says whether a statement declares more than one thing.
func (s *scene) several(d declaration) bool {
	n, same, names := 0, 0, 0
	s.each(d.statement, d.statement.Range(), func(c syntax.Node) bool {
		if c.Type() == d.declarator.Type() {
			same++
		}
		n++
		return !s.Is(c, lang.Function) && c.Index() != d.value.Index()
	})
	for c := range d.declarator.NamedChildren() {
		if c.FieldName() == "name" {
			names++
		}
	}
	return same > 1 || names > 1
}

// inlineVariable puts the value of a variable in the place of its uses.
func (s *scene) inlineVariable(host syntax.Node, n *names, v *variable) (*proposal.Proposal, error) {
	if v.def.Kind == facts.Parameter {
		return nil, fmt.Errorf("%s is a parameter, which has another value in each call", v.name)
	}
	d, err := s.declarationOf(v)
	if err != nil {
		return nil, err
	}
	var uses []syntax.Node
	for i, o := range v.all {
		switch {
		case i == 0:
		case o.writes:
			return nil, fmt.Errorf("%s is given another value in line %d", v.name, s.line(o.at.Start))
		default:
			uses = append(uses, s.nodeAt(o.at))
		}
	}
	if len(uses) == 0 {
		return nil, fmt.Errorf("nothing uses %s", v.name)
	}
	values, asked := s.values(check.Asked{Exprs: []place.Range{d.value.Range()}, Within: host.Range()})
	if values.Locals[v.def.At.Start].InPlace {
		return nil, fmt.Errorf("%s is changed in its place, or its address is taken", v.name)
	}
	chain := s.around(d.value.Range())
	x := &expressed{node: d.value, chain: chain, host: host, names: n}
	if err := s.movable(x, d, uses); err != nil {
		return nil, err
	}
	written, kind, err := s.converted(d, v, values, asked)
	if err != nil {
		return nil, err
	}
	if err := s.shadowed(x, uses); err != nil {
		return nil, err
	}
	for _, u := range uses {
		by, err := s.inPlaceOf(u, written, kind)
		if err != nil {
			return nil, err
		}
		s.add(u.Range(), by, "use")
	}
	s.add(s.withLine(d.statement.Range()), "", "declaration")
	return s.done("%s put in place", v.name)
}

// converted is a value as it has to be written where its variable stood, and the type of its node.
func (s *scene) converted(d declaration, v *variable, values check.Values, asked bool) (string, syntax.Node, error) {
	written := s.dedented(d.value.Range(), nil)
	declared := d.declarator.Part("type").Text()
	if declared == "" && s.Type != nil {
		declared = d.statement.Part("type").Text()
	}
	switch {
	case d.value.Type() == "expression_list": // several values make one
		return "(" + written + ")", syntax.Node{}, nil
	case declared == "" || declared == "var":
		return written, d.value, nil
	case asked:
		if of := values.Exprs[0]; of.Type != declared || of.Constant {
			return conversion(declared) + "(" + written + ")", syntax.Node{}, nil
		}
	case s.Type != nil:
		of := s.typeOf(d.value)
		switch {
		case of == declared:
		case promotes(declared) && promotes(of):
			return "((" + declared + ") " + s.bracketed(written, d.value) + ")", syntax.Node{}, nil
		case promotes(declared), strings.HasPrefix(d.value.Type(), "lambda"), d.value.Type() == "method_reference":
			return "", d.value, fmt.Errorf("%s has its type only by being declared as %s", v.name, declared)
		}
	}
	return written, d.value, nil
}

// conversion is how a conversion to a type begins.
func conversion(t string) string {
	if strings.HasPrefix(t, "*") || strings.HasPrefix(t, "<-") || strings.HasPrefix(t, "func") || strings.HasPrefix(t, "chan") {
		return "(" + t + ")"
	}
	return t
}

// promotes says whether values of a type become others by themselves.
func promotes(t string) bool {
	return slices.Contains([]string{"byte", "short", "char", "int", "long", "float", "double"}, t)
}

func (s *scene) bracketed(written string, n syntax.Node) string {
	if n.OK() && s.Is(n, lang.Loose) {
		return "(" + written + ")"
	}
	return written
}

// inPlaceOf is what stands in the place of a use: a value, in brackets where it needs some. The node is that of the
// value, or none if it needs none anywhere.
func (s *scene) inPlaceOf(u syntax.Node, written string, value syntax.Node) (string, error) {
	chain := s.tree.Around(u.Range())
	around := s.parentOf(u)
	for i := len(chain) - 1; i >= 0; i-- {
		if s.Is(chain[i], lang.Literal) || strings.Contains(chain[i].Type(), "string") {
			if strings.ContainsAny(written, "\"'`\\\n{}") {
				return "", fmt.Errorf("in line %d it stands within a text, into which its value does not fit", s.line(u.Range().Start))
			}
			break
		}
	}
	name := u.Text()
	by := written
	if value.OK() && s.Is(value, lang.Loose) && (s.Is(around, lang.Loose|lang.Reach|lang.Splice) || u.FieldName() == "function") && !binds(value, around) && !(around.Type() == "call_expression" && u.FieldName() != "function") && !(around.Type() == "subscript_expression" && u.FieldName() == "index") {
		by = "(" + written + ")"
	}
	if value.OK() && strings.HasPrefix(value.Type(), "composite") || strings.HasPrefix(written, "&") && strings.HasSuffix(written, "}") {
		if s.inHead(u) || s.Is(around, lang.Reach) && strings.HasPrefix(written, "&") {
			by = "(" + written + ")"
		}
	}
	if s.code.Shorthands(s.ctx, s.path, s.file.Text)[int(u.Range().Start)] {
		by = name + ": " + written
	}
	return s.written(hung(by, s.indent(u.Range().Start))), nil
}

// binds says whether the parts of a value are held together more firmly than by what is around it.
func binds(value, around syntax.Node) bool {
	inner, outer := firmness(value), firmness(around)
	return inner > outer && outer > 0
}

// firmness is how firmly an operator holds what is around it, on which all languages agree; 0 for what they do not.
func firmness(n syntax.Node) int {
	if count(n) != 2 {
		return 0
	}
	for c := range n.Children() {
		if c.Named() {
			continue
		}
		switch c.Type() {
		case "*", "/", "%":
			return 4
		case "+", "-":
			return 3
		case "<", ">", "<=", ">=", "==", "!=", "===", "!==":
			return 2
		case "&&", "||", "and", "or":
			return 1
		}
	}
	return 0
}

// inHead says whether a node stands in the head of a statement that has a body.
func (s *scene) inHead(n syntax.Node) bool {
	chain := s.tree.Around(n.Range())
	for i := len(chain) - 1; i > 0; i-- {
		if s.Is(chain[i-1], lang.Loop|lang.Branch|lang.Choice) {
			return true
		}
		if s.Is(chain[i], lang.Block) || chain[i].Type() == "argument_list" || chain[i].Type() == "parenthesized_expression" {
			return false
		}
	}
	return false
}

// withLine is a statement with the line it stands on, if nothing else does.
func (s *scene) withLine(at place.Range) place.Range {
	start, end := at.Start, at.End
	for start > 0 && (s.text[start-1] == ' ' || s.text[start-1] == '\t') {
		start--
	}
	for end < uint32(len(s.text)) && strings.IndexByte(" \t;", s.text[end]) >= 0 {
		end++
	}
	if (start == 0 || s.text[start-1] == '\n') && (end == uint32(len(s.text)) || s.text[end] == '\n' || s.text[end] == '\r') {
		for end < uint32(len(s.text)) && s.text[end] == '\r' {
			end++
		}
		return place.Range{Start: start, End: min(end+1, uint32(len(s.text)))}
	}
	return place.Range{Start: at.Start, End: end}
}

// movable says why a value cannot be evaluated where its variable is used, if it cannot.
func (s *scene) movable(x *expressed, d declaration, uses []syntax.Node) error {
	last := uses[len(uses)-1].Range()
	after := place.Range{Start: d.statement.Range().End, End: last.Start}
	for start, v := range x.names.at {
		if !inside(place.Range{Start: start, End: start}, x.node.Range()) || inside(v.def.At, x.node.Range()) {
			continue
		}
		for _, o := range v.all {
			if o.writes && !o.defines && (inside(o.at, after) || o.at.Start > after.Start && s.inLoopWith(o.at, uses, d)) {
				return fmt.Errorf("%s, of which it is made, is written in line %d, before it is used", v.name, s.line(o.at.Start))
			}
		}
	}
	if s.harmless(x.node) && !s.makes(x.node) {
		return nil
	}
	if s.reads(x.node) {
		if s.callsBetween(after) || s.nestedUse(uses, d) {
			return fmt.Errorf("%s may be something else by the time it is used, as something is called or written before", short(x.node.Text()))
		}
		return nil
	}
	return s.once(x.node, d, uses)
}

// makes says whether a value is another one each time it is evaluated.
func (s *scene) makes(n syntax.Node) bool {
	return s.Is(n, lang.Function) || strings.Contains(n.Type(), "literal_value")
}

// inLoopWith says whether something is done in a loop or function in which a variable is used, and not declared.
func (s *scene) inLoopWith(at place.Range, uses []syntax.Node, d declaration) bool {
	for _, u := range uses {
		for _, n := range s.tree.Around(u.Range()) {
			if s.Is(n, lang.Loop|lang.Function) && !inside(d.statement.Range(), n.Range()) && (inside(at, n.Range()) || s.Is(n, lang.Function)) {
				return true
			}
		}
	}
	return false
}

// nestedUse says whether something is used in a loop or function in which it is not declared.
func (s *scene) nestedUse(uses []syntax.Node, d declaration) bool {
	for _, u := range uses {
		for _, n := range s.tree.Around(u.Range()) {
			if s.Is(n, lang.Loop|lang.Function) && !inside(d.statement.Range(), n.Range()) {
				return true
			}
		}
	}
	return false
}

// reads says whether evaluating a node only reads.
func (s *scene) reads(n syntax.Node) bool {
	if n.Named() && s.Is(n, lang.Value) && (!s.Is(n, lang.Plain|lang.Reach) || s.Is(n, lang.Invokes|lang.Function)) {
		return false
	}
	for c := range n.Children() {
		if c.Type() == "<-" || !s.reads(c) {
			return false
		}
	}
	return true
}

// once says why something that does more than reading is not evaluated just once where its variable is used, if it is
// not.
func (s *scene) once(value syntax.Node, d declaration, uses []syntax.Node) error {
	what := short(value.Text())
	if len(uses) > 1 {
		return fmt.Errorf("%s would be evaluated %d times", what, len(uses))
	}
	u := uses[0]
	chain := s.tree.Around(u.Range())
	number := -1
	for i := range chain {
		if i > 0 && chain[i-1].Index() == s.parentOf(d.statement).Index() {
			number = i
		}
	}
	if number < 0 {
		return fmt.Errorf("%s would be evaluated elsewhere", what)
	}
	statement := chain[number]
	if between := (place.Range{Start: d.statement.Range().End, End: statement.Range().Start}); s.trimmedComments(between) {
		return fmt.Errorf("%s would be evaluated after what stands between it and its use", what)
	}
	for i := number; i+1 < len(chain); i++ {
		around, node := chain[i], chain[i+1]
		if s.Is(around, lang.Function) || s.Is(around, lang.Loop) && !s.Once[node.FieldName()] && !s.onceIn(node, u) || s.mayBeLeft(around, node) || s.Is(around, lang.Branch|lang.Choice) && s.Is(node, lang.Block|lang.Statement) && node.FieldName() != "initializer" {
			return fmt.Errorf("%s would not be evaluated once, and in any case", what)
		}
	}
	earlier := false
	s.each(statement, statement.Range(), func(n syntax.Node) bool {
		earlier = earlier || s.Is(n, lang.Invokes|lang.Awaits) && n.Range().End <= u.Range().Start
		return true
	})
	if earlier {
		return fmt.Errorf("%s would be evaluated after something else that is called", what)
	}
	return nil
}

// trimmedComments says whether there is something but blanks and comments in a range.
func (s *scene) trimmedComments(at place.Range) bool {
	runs := s.lang.Signs.Runs(s.text[at.Start:at.End])
	for i, c := range s.text[at.Start:at.End] {
		if strings.IndexByte(" \t\r\n;", c) >= 0 {
			continue
		}
		if _, ok := runs.At(i); !ok {
			return true
		}
	}
	return false
}

// shadowed says which name in a value would mean something else where it is used, if one would.
func (s *scene) shadowed(x *expressed, uses []syntax.Node) error {
	for _, w := range s.words(x.node) {
		mine := x.names.at[w.at]
		if _, outer := x.names.outer[w.at]; mine == nil && !outer {
			continue
		}
		for _, v := range x.names.variables {
			if v == mine || v.name != w.text || inside(v.def.At, x.node.Range()) {
				continue
			}
			scope := s.file.Facts.Scopes[v.scope].At
			for _, u := range uses {
				if inside(u.Range(), scope) && !inside(x.node.Range(), scope) || mine == nil && inside(u.Range(), scope) && s.free2(x, w.at) {
					return fmt.Errorf("%s means something else in line %d", v.name, s.line(u.Range().Start))
				}
			}
		}
	}
	return nil
}

// free2 says whether a name stands by itself, and not behind what it is a member of.
func (s *scene) free2(_ *expressed, at uint32) bool {
	u, ok := s.file.Facts.UseAt(int(at))
	return ok && u.Base == facts.NoExpr
}

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
	if head := s.text2(f.host.Range().Start, s.headEnd(f.node)); strings.Contains(head, "async ") || f.node.Part("type_parameters").OK() || f.host.Type() == "decorated_definition" || strings.Contains(head, "function*") {
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
		if f.value.Type() == "expression_list" {
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
		if of := f.home.typeOf(f.value); of != f.gives && promotes(f.gives) {
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
		if !s.first(c) {
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

// first says whether a call is what is evaluated first in its statement, once and in any case.
func (s *scene) first(c *called) bool {
	return s.once(c.node, declaration{statement: c.statement}, []syntax.Node{c.node}) == nil || s.onceWithin(c)
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

// visibleThere says which name of a function means something else where it is called, or nothing.
func (s *scene) visibleThere(f *small, c *called) error {
	body := f.node.Part("body").Range()
	line := s.line(c.node.Range().Start)
	for start, a := range f.names.outer {
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
	if typed && declared != "" && i < len(given.Exprs) {
		if of := given.Exprs[i]; of.Type != declared || of.Constant && declared != "int" && declared != "string" && declared != "bool" {
			return conversion(declared) + "(" + written + ")"
		}
	}
	if s.Type != nil && promotes(declared) {
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
