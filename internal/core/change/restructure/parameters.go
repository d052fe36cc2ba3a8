package restructure

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// Signature is what a function takes.
type Signature struct {
	Path string
	// Offset is where its name is defined.
	Offset int
	Name   string
	// Params is what it takes as it is written, without the brackets around.
	Params string
}

// Signature tells what the function takes that is named at a place, or that it is in.
func (r *Restructurer) Signature(ctx context.Context, of Part) (Signature, error) {
	s, err := r.open(ctx, of.Path)
	if err != nil {
		return Signature{}, err
	}
	def, err := s.callable(int(of.At.Start))
	if err != nil {
		return Signature{}, err
	}
	home, err := s.other(def.Path)
	if err != nil {
		return Signature{}, err
	}
	list, err := home.parametersAt(def.At)
	if err != nil {
		return Signature{}, err
	}
	sig := Signature{Path: def.Path, Offset: int(def.At.Start), Name: string(def.At.In(home.text)), Params: home.between(list.node.Range().Start+1, list.node.Range().End-1)}
	sig.Params = strings.Join(strings.Fields(sig.Params), " ")
	return sig, ctx.Err()
}

// callable is the function that is defined or named at an offset, or that the offset is in.
func (s *scene) callable(offset int) (resolve.Answer, error) {
	f := s.file.Facts
	here := func(id facts.DefID) resolve.Answer {
		return resolve.Answer{Path: s.path, At: f.Defs[id].At, Name: f.Defs[id].Name, Kind: f.Defs[id].Kind}
	}
	if id := f.DefAt(offset); id != facts.NoDef && f.Defs[id].Kind.IsCallable() {
		return here(id), nil
	}
	b := s.guide.Bound(s.ctx, s.path, offset, false)
	if b.Kind.IsCallable() && len(b.Definitions) > 0 {
		return b.Definitions[0], nil
	}
	if b.Kind.IsCallable() && b.Outside != "" {
		return resolve.Answer{}, fmt.Errorf("%s is defined outside this project", b.Name)
	}
	found := facts.NoDef
	for i := range f.Defs {
		if d := &f.Defs[i]; d.Kind.IsCallable() && int(d.Full.Start) <= offset && offset <= int(d.Full.End) && d.At.Len() > 0 {
			found = facts.DefID(i)
		}
	}
	if found == facts.NoDef {
		return resolve.Answer{}, errors.New("there is no function here")
	}
	return here(found), nil
}

// list are the parameters of one function.
type list struct {
	node   syntax.Node // with the brackets
	params []param
}

// param is one parameter as it is written.
type param struct {
	name, text, rest string // rest is what stands behind the name, or before it: its type
	at               place.Range
	value, many      bool // it has a value of its own where none is given; it stands for any number
	sign             bool // it is none, but says that those behind it are given by their names, or may not be
}

// parametersAt finds the parameters of the function whose name stands somewhere.
func (s *scene) parametersAt(at place.Range) (l list, err error) {
	chain := s.around(at)
	for i := len(chain) - 1; i >= 0; i-- {
		for _, in := range []syntax.Node{chain[i], chain[i].Part("value"), chain[i].Part("type"), chain[i].Part("declarator")} {
			if p := in.Part("parameters"); p.OK() && strings.HasPrefix(p.Text(), "(") {
				return s.listOf(p), nil
			}
		}
		if s.Is(chain[i], lang.Block|lang.Holder) {
			break
		}
	}
	return l, fmt.Errorf("%s is not defined with parameters in brackets", string(at.In(s.text)))
}

// listOf reads parameters. Several names that share a type are several parameters.
func (s *scene) listOf(n syntax.Node) (l list) {
	l.node = n
	for p := range n.NamedChildren() {
		if strings.Contains(p.Type(), "comment") {
			continue
		}
		l.params = append(l.params, s.paramsOf(p)...)
	}
	return l
}

func (s *scene) paramsOf(p syntax.Node) (all []param) {
	one := param{text: p.Text(), at: p.Range(), value: p.Part("value").OK() || s.Is(p, lang.Optional), many: s.Is(p, lang.Many) || s.Is(p.Part("pattern"), lang.Many) || s.Is(firstPart(p), lang.Many)}
	if strings.Trim(p.Text(), "*/") == "" {
		one.name, one.sign = p.Text(), true
		return []param{one}
	}
	var names []syntax.Node
	for c := range p.NamedChildren() {
		if c.FieldName() == "name" {
			names = append(names, c)
		}
	}
	if len(names) > 1 { // a, b T
		for _, n := range names {
			two := one
			two.name, two.rest = n.Text(), p.Part("type").Text()
			two.text, two.at = two.name+" "+two.rest, n.Range()
			all = append(all, two)
		}
		return all
	}
	name := p
	for _, field := range []string{"name", "pattern", "left"} {
		if n := p.Part(field); n.OK() {
			name = n
			break
		}
	}
	if name.Index() == p.Index() || name.Range() == p.Range() && count(name) > 0 {
		for c := range p.NamedChildren() {
			if s.Is(c, lang.Name) || c.Part("name").OK() {
				name = c
				break
			}
		}
	}
	one.name = name.Text()
	one.rest = strings.TrimSpace(s.between(p.Range().Start, name.Range().Start) + " " + s.between(name.Range().End, p.Range().End))
	return []param{one}
}

// Change is a change of what a function takes.
type Change struct {
	// Of is where it is defined.
	Of Signature
	// Params is what it is to take, written as in its language.
	Params string
	// Given is what calls give for those that are new and have no value of their own, by name.
	Given map[string]string
}

// Fresh are the names of the parameters that are new in a change, and for which calls have to give something.
func (r *Restructurer) Fresh(ctx context.Context, c Change) ([]string, error) {
	s, err := r.open(ctx, c.Of.Path)
	if err != nil {
		return nil, err
	}
	old, now, err := s.lists(c)
	if err != nil {
		return nil, err
	}
	var fresh []string
	for _, p := range now.params {
		if !slices.ContainsFunc(old.params, func(o param) bool { return o.name == p.name }) && !p.value && !p.many && !p.sign {
			fresh = append(fresh, p.name)
		}
	}
	return fresh, nil
}

// lists are what a function takes and what it is to take.
func (s *scene) lists(c Change) (old, now list, err error) {
	old, err = s.parametersAt(place.Range{Start: uint32(c.Of.Offset), End: uint32(c.Of.Offset + len(c.Of.Name))})
	if err != nil {
		return old, now, err
	}
	now, err = s.read(old.node, c.Params)
	if err != nil {
		return old, now, err
	}
	return old, now, s.sound(old, now)
}

// read reads parameters that somebody has written in the place of others.
func (s *scene) read(at syntax.Node, params string) (list, error) {
	r := at.Range()
	written := string(s.text[:r.Start]) + "(" + params + ")" + string(s.text[r.End:])
	tree, err := syntax.Parse(s.ctx, s.Grammar, []byte(written))
	if err != nil {
		return list{}, err
	}
	o := *s
	o.tree, o.text = tree, []byte(written)
	want := place.Range{Start: r.Start, End: r.Start + uint32(len(params)) + 2}
	chain := o.around(want)
	n := chain[len(chain)-1]
	bad := n.Range() != want
	o.each(n, want, func(c syntax.Node) bool {
		bad = bad || c.Type() == "ERROR"
		return true
	})
	if bad {
		return list{}, fmt.Errorf("(%s) cannot be read as parameters", params)
	}
	return o.listOf(n), nil
}

// sound says what is wrong with a change of parameters.
func (s *scene) sound(old, now list) error {
	seen := map[string]bool{}
	for _, p := range now.params {
		if why, ok := s.lang.Names.Allows(strings.TrimLeft(p.name, "*.")); !ok && !strings.ContainsAny(p.name, "{[*/.") && p.name != "this" {
			return errors.New(why)
		}
		if seen[p.name] {
			return fmt.Errorf("there are two parameters %s", p.name)
		}
		seen[p.name] = true
	}
	for i, o := range old.params {
		if i < len(now.params) && !seen[o.name] && len(old.params) == len(now.params) && now.params[i].rest == o.rest && !slices.ContainsFunc(old.params, func(p param) bool { return p.name == now.params[i].name }) {
			return fmt.Errorf("to have %s be called %s, rename it", o.name, now.params[i].name)
		}
		if o.many && !o.sign && (!seen[o.name] || s.Writer.Argument("a", "b") == "" && now.params[len(now.params)-1].name != o.name) {
			return fmt.Errorf("%s stands for any number of arguments; it stays, and stays last", o.name)
		}
	}
	return nil
}

// Parameters proposes to have a function take something else, with all that overrides it and all its calls.
func (r *Restructurer) Parameters(ctx context.Context, c Change) (*proposal.Proposal, error) {
	s, err := r.open(ctx, c.Of.Path)
	if err != nil {
		return nil, err
	}
	old, now, err := s.lists(c)
	if err != nil {
		return nil, err
	}
	if slices.EqualFunc(old.params, now.params, func(a, b param) bool { return a.text == b.text }) {
		return nil, errors.New("that is what it takes now")
	}
	b := s.everywhere(c.Of)
	if len(b.Elsewhere) > 0 {
		return nil, fmt.Errorf("%s overrides a method of something outside this project, which takes what it takes", b.Name)
	}
	for _, d := range b.Definitions {
		o, err := s.other(d.Path)
		if err != nil {
			return nil, err
		}
		if err := o.newList(d, old, now, c.Params); err != nil {
			o.warn(d.At, true, "%s", err)
		}
	}
	slices.Reverse(b.References) // what is called within a call first
	for _, u := range b.References {
		o, err := s.other(u.Path)
		if err != nil {
			return nil, err
		}
		o.newCall(u, b, old, now, c)
	}
	if b.Definitions[0].Kind != facts.NoKind {
		s.public(b)
	}
	return s.done("%s takes (%s)", b.Name, short(c.Params))
}

// everywhere is a function with all that has to take what it takes, and all that calls it.
func (s *scene) everywhere(of Signature) resolve.Bound {
	f := s.file.Facts
	id := f.DefAt(of.Offset)
	if id == facts.NoDef || f.Defs[id].Kind != facts.Constructor && !slices.Contains(s.lang.Members.Constructors, of.Name) {
		return s.guide.Bound(s.ctx, s.path, of.Offset, true)
	}
	d := &f.Defs[id]
	b := resolve.Bound{Kind: facts.Constructor, Definitions: []resolve.Answer{{Path: s.path, At: d.At, Name: d.Name, Kind: d.Kind, Certainty: resolve.Inferred}}}
	b.Name = d.Name
	take := func(all []resolve.Reference) bool {
		for _, u := range all {
			if u.Access == facts.Call {
				b.References = append(b.References, u)
			}
		}
		return true
	}
	s.resolver.References(s.ctx, s.path, of.Offset, resolve.Scope{Unsure: true}, take)
	if d.Parent != facts.NoDef && f.Defs[d.Parent].Name != d.Name {
		s.resolver.References(s.ctx, s.path, int(f.Defs[d.Parent].At.Start), resolve.Scope{Unsure: true}, take)
	}
	s.each(s.tree.Root(), s.tree.Root().Range(), func(n syntax.Node) bool {
		if s.Is(n, lang.Delegates) || s.Self[n.Part("function").Type()] {
			s.warn(n.Range(), false, "calls by this and super are not changed; look whether this one is of the constructor")
		}
		return true
	})
	slices.SortStableFunc(b.References, func(a, b resolve.Reference) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	b.References = slices.CompactFunc(b.References, func(a, b resolve.Reference) bool { return a.Path == b.Path && a.At == b.At })
	return b
}

// public notes that code outside the project may call a function.
func (s *scene) public(b resolve.Bound) {
	id := s.file.Facts.DefAt(int(b.Definitions[0].At.Start))
	if id == facts.NoDef {
		return
	}
	d := &s.file.Facts.Defs[id]
	if s.lang.Outside.Visible(lang.Symbol{Def: d, Path: s.path, Package: s.file.Facts.Package, Modifiers: d.Modifiers(s.text)}) {
		s.warn(d.At, false, "code outside this project may call %s as it is", d.Name)
	}
}

// newList writes the parameters of one definition. Those that it has under another name keep it.
func (s *scene) newList(d resolve.Answer, old, now list, params string) error {
	mine, err := s.parametersAt(d.At)
	if err != nil {
		return err
	}
	if len(mine.params) != len(old.params) {
		return fmt.Errorf("%s takes another number of parameters here", d.Name)
	}
	same := true
	for i := range mine.params {
		same = same && mine.params[i].text == old.params[i].text
	}
	written := params
	if !same {
		var all []string
		for _, p := range now.params {
			if i := slices.IndexFunc(old.params, func(o param) bool { return o.name == p.name }); i >= 0 {
				all = append(all, mine.params[i].text)
			} else {
				all = append(all, p.text)
			}
		}
		written = strings.Join(all, ", ")
	}
	for i, p := range old.params {
		if !slices.ContainsFunc(now.params, func(n param) bool { return n.name == p.name }) {
			s.stillUsed(d, mine.params[i].name)
		}
	}
	s.addPart(mine.node.Range(), "("+written+")", "definition")
	return nil
}

// addPart adds a place of which only a part is otherwise.
func (s *scene) addPart(at place.Range, by, what string) {
	was := string(at.In(s.text))
	front := 0
	for front < len(was) && front < len(by) && was[front] == by[front] {
		front++
	}
	for front > 0 && front < len(was) && text.ByteInWord(was[front-1]) {
		front--
	}
	back := 0
	for back < len(was)-front && back < len(by)-front && was[len(was)-1-back] == by[len(by)-1-back] {
		back++
	}
	for back > 0 && text.ByteInWord(was[len(was)-back]) {
		back--
	}
	s.add(place.Range{Start: at.Start + uint32(front), End: at.End - uint32(back)}, by[front:len(by)-back], what)
}

// stillUsed notes where a parameter is used that is taken away.
func (s *scene) stillUsed(d resolve.Answer, name string) {
	chain := s.tree.Around(d.At)
	host, _ := s.host(chain)
	for _, v := range s.names(host.Range()).variables {
		if v.name != name || v.def.Kind != facts.Parameter {
			continue
		}
		if owner := s.file.Facts.Scopes[v.scope].Owner; owner == facts.NoDef || s.file.Facts.Defs[owner].At != d.At {
			continue
		}
		for _, o := range v.all {
			if o.at != v.def.At {
				s.warn(o.at, true, "%s is used here", name)
				return
			}
		}
	}
}

// newCall has a call give what the function takes then.
func (s *scene) newCall(u resolve.Reference, b resolve.Bound, old, now list, c Change) {
	if u.Access == facts.ImportUse {
		return
	}
	call, err := s.argumentsAt(u.At)
	if err != nil {
		if u.Certainty != resolve.ByName {
			s.warn(u.At, true, "here %s is used without being called, so that it has to take what it does", b.Name)
		}
		return
	}
	written, err := s.given(call, old, now, c)
	if err != nil {
		s.warn(u.At, u.Certainty != resolve.ByName, "%s", err)
		return
	}
	if written == call.node.Text() {
		return
	}
	s.now(call.node.Range())
	s.addPart(call.node.Range(), written, "call")
	if u.Certainty == resolve.ByName {
		f := s.proposal.File(s.path)
		at := &f.Places[len(f.Places)-1]
		at.Group, at.Out, at.Certainty = proposal.ByName, true, resolve.ByName
	}
}

// arguments are those of a call.
type arguments struct {
	node syntax.Node // with the brackets
	all  []syntax.Node
}

// argumentsAt finds the arguments of the call of what is named somewhere.
func (s *scene) argumentsAt(at place.Range) (a arguments, err error) {
	chain := s.around(at)
	for i := len(chain) - 2; i >= 0; i-- {
		n := chain[i]
		if !s.Is(n, lang.Invokes|lang.Delegates) {
			continue
		}
		list := n.Part("arguments")
		if !list.OK() || list.Range().Start < at.End || s.trimmed(place.Range{Start: at.End, End: list.Range().Start}).Len() > 0 && !strings.HasPrefix(s.between(at.End, list.Range().Start), "<") && !strings.HasPrefix(s.between(at.End, list.Range().Start), "[") && !strings.HasPrefix(s.between(at.End, list.Range().Start), "?") {
			break
		}
		a.node = list
		for c := range list.NamedChildren() {
			if !strings.Contains(c.Type(), "comment") {
				a.all = append(a.all, c)
			}
		}
		return a, nil
	}
	return a, errors.New("it is not called")
}

// given writes the arguments of a call for what the function takes then.
func (s *scene) given(call arguments, old, now list, c Change) (string, error) {
	args := call.all
	receiver := 0 // what a method takes that calls do not write
	if len(old.params) > 0 && s.Writer.Argument("a", "b") != "" && (old.params[0].name == "self" || old.params[0].name == "cls") || len(old.params) > 0 && old.params[0].name == "this" && s.lang.Signs.Raw == "`" {
		receiver = 1
	}
	was := slices.DeleteFunc(slices.Clone(old.params[receiver:]), func(p param) bool { return p.sign })
	at, byName, rest := map[string]string{}, map[string]bool{}, []string(nil)
	for i, a := range args {
		switch {
		case s.Is(a, lang.ByName):
			name := firstPart(a).Text()
			at[name], byName[name] = s.now(a.Range()), true
		case s.Is(a, lang.Splice) && !(i >= len(was)-1 && len(was) > 0 && was[len(was)-1].many):
			return "", errors.New("here it is called with several arguments at once, of which it cannot be told which is which")
		case i < len(was) && !was[i].many:
			at[was[i].name] = s.now(a.Range())
		default:
			rest = append(rest, s.now(a.Range()))
		}
	}
	var written []string
	left := false // one before was left out, so that those behind it need their names
	if len(now.params) < receiver {
		return "", errors.New("it has to take what it is called on")
	}
	for _, p := range now.params[receiver:] {
		value, have := at[p.name]
		known := slices.ContainsFunc(was, func(o param) bool { return o.name == p.name })
		delete(at, p.name)
		switch {
		case p.sign:
			left = left || strings.Contains(p.name, "*")
			continue
		case p.many:
			if left && len(rest) > 0 {
				return "", fmt.Errorf("here %s is left out, which stands before others", p.name)
			}
			written = append(written, rest...)
			rest, left = nil, true
			continue
		case !have && known || !known && p.value && c.Given[p.name] == "":
			left = true
			continue
		case !have:
			value = c.Given[p.name]
			if value == "" {
				return "", fmt.Errorf("it is not said what calls give for %s", p.name)
			}
		}
		if left && !byName[p.name] {
			if value = s.Writer.Argument(p.name, value); value == "" {
				return "", fmt.Errorf("here what stands before %s is left out", p.name)
			}
		}
		written = append(written, value)
		left = left || byName[p.name]
	}
	for _, a := range args { // what it took by name, and takes no more, is left out; what it never named stays
		if name := firstPart(a).Text(); s.Is(a, lang.ByName) && !slices.ContainsFunc(was, func(o param) bool { return o.name == name }) {
			written = append(written, s.now(a.Range()))
		}
	}
	return "(" + strings.Join(append(written, rest...), ", ") + ")", s.dropped(args, was, now)
}

// dropped says which argument that is not given any more does something, if one does.
func (s *scene) dropped(args []syntax.Node, was []param, now list) error {
	for i, a := range args {
		if i < len(was) && !s.Is(a, lang.ByName) && !slices.ContainsFunc(now.params, func(p param) bool { return p.name == was[i].name }) && !s.reads(a) {
			return fmt.Errorf("here %s would not be evaluated any more", short(a.Text()))
		}
	}
	return nil
}
