package restructure

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
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

// declarationOf finds where a variable gets its only value.
func (s *scene) declarationOf(v *variable) (d declaration, err error) {
	chain := s.around(v.def.At)
	for i := len(chain) - 1; i >= 0 && !d.statement.OK(); i-- {
		n := chain[i]
		if s.Is(n, lang.Several) && n.FieldName() == "left" {
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
	if s.Is(d.value, lang.Several) && count(d.value) == 1 && s.lang.Signs.Tabs {
		d.value = firstPart(d.value)
	}
	switch {
	case !d.statement.OK() || !d.value.OK() || s.Is(d.statement, lang.Loop|lang.Branch|lang.Choice):
		return d, fmt.Errorf("%s has no value of its own to put in its place", v.name)
	case !s.Is(d.value, lang.Value|lang.Several):
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
	case s.Is(d.value, lang.Several): // several values make one
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
		case s.Numbers[declared] && s.Numbers[of]:
			return "((" + declared + ") " + s.bracketed(written, d.value) + ")", syntax.Node{}, nil
		case s.Numbers[declared], s.Is(d.value, lang.Untyped):
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
	if value.OK() && s.Is(value, lang.Loose) && (s.Is(around, lang.Loose|lang.Reach|lang.Splice) || u.FieldName() == "function") && !binds(value, around) && !enclosed(u) {
		by = "(" + written + ")"
	}
	if s.Is(value, lang.Composite) || strings.HasPrefix(written, "&") && strings.HasSuffix(written, "}") {
		if s.inHead(u) || s.Is(around, lang.Reach) && strings.HasPrefix(written, "&") {
			by = "(" + written + ")"
		}
	}
	if s.shorthand(u.Range().Start) {
		by = name + ": " + written
	}
	return s.written(hung(by, s.indent(u.Range().Start))), nil
}

// shorthand says whether a name stands at an offset for a member and its value at once.
func (s *scene) shorthand(at uint32) bool {
	if s.short == nil {
		s.short = s.code.Shorthands(s.ctx, s.path, s.file.Text)
		if s.short == nil {
			s.short = map[int]bool{}
		}
	}
	return s.short[int(at)]
}

// enclosed says whether a node stands in brackets of what is around it.
func enclosed(n syntax.Node) bool {
	return slices.Contains([]string{"index", "subscript", "arguments"}, n.FieldName())
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
		if s.Is(chain[i], lang.Block) || s.Is(chain[i], lang.Brackets) || chain[i].FieldName() == "arguments" {
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
	return s.Is(n, lang.Function|lang.Composite)
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
	if between := (place.Range{Start: d.statement.Range().End, End: statement.Range().Start}); s.anythingIn(between) {
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

// anythingIn says whether there is something but blanks and comments in a range.
func (s *scene) anythingIn(at place.Range) bool {
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
				if inside(u.Range(), scope) && !inside(x.node.Range(), scope) || mine == nil && inside(u.Range(), scope) && s.byItself(x, w.at) {
					return fmt.Errorf("%s means something else in line %d", v.name, s.line(u.Range().Start))
				}
			}
		}
	}
	return nil
}

// byItself says whether a name stands by itself, and not behind what it is a member of.
func (s *scene) byItself(_ *expressed, at uint32) bool {
	u, ok := s.file.Facts.UseAt(int(at))
	return ok && u.Base == facts.NoExpr
}
