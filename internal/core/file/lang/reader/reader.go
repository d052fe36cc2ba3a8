// Package reader reads the facts of a file from its syntax tree by rules: for
// each type of node, what such a node stands for. Most languages share most
// of what their nodes stand for (a name, a member of something, a call, a
// value set, a block), so that a language is a table of those, with a few
// functions of its own for what it alone has.
package reader

import (
	"bytes"
	"context"
	"iter"
	"math"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Rule is what nodes of one type stand for. What a Rule leaves out is done in
// the plainest way: the children are read, and no type is known.
type Rule struct {
	// Visit notes what is defined and used in the node.
	Visit func(r *Reader, n syntax.Node)
	// Write does the same for a node that a value is given to.
	Write func(r *Reader, n syntax.Node, role facts.Role)
	// Call does the same for a node that is called with so many arguments.
	Call func(r *Reader, n syntax.Node, arguments int)
	// Type does the same for a node that stands where a type belongs.
	Type func(r *Reader, n syntax.Node)
	// Expr keeps what helps to find out the type of the node's value; of a
	// node that is a type, that type.
	Expr func(r *Reader, n syntax.Node) facts.ExprID
	// Anew says that it is kept once more wherever it stands, also where others are kept
	// once, as types are: a name in one may mean something else when what it stands for is
	// being worked out.
	Anew bool
}

// Rules are those of a language, by the types of nodes.
type Rules map[string]Rule

// Language is what the reader has to know of a language.
type Language struct {
	Name    string
	Grammar *syntax.Grammar
	Rules   Rules
	// Signs are those of comments, which may describe something or set it apart.
	Signs *lexical.Signs
	// Ease may give back the text with what the grammar does not know replaced by
	// something as long that it does, and the names it hid; nil changes nothing.
	Ease func(text []byte) (eased []byte, hidden []place.Range)
	// Prepare may give back another text for the grammar to read, which leads back to
	// the one that is written; it comes before Ease. Nil changes nothing.
	Prepare func(text []byte) Prepared
	// Once says that what is kept of an expression is kept once, in the scope in which
	// it was first met, however often it stands in others.
	Once bool
	// State makes what the language itself notes while it reads a file, which is then
	// that of the Reader; nil for nothing.
	State func() any

	bySymbol []Rule
	comments []string // what comments begin with
}

// Prepared is a text that is read in place of the one that is written.
type Prepared struct {
	Text []byte
	// Hidden are names that are written, but not in it.
	Hidden []place.Range
	facts.Origin
}

// New prepares the rules of a language for reading.
func New(l Language) *Language {
	l.comments = l.Signs.Marks()
	types := l.Grammar.Types()
	l.bySymbol = make([]Rule, len(types))
	for i, t := range types {
		l.bySymbol[i] = l.Rules[t]
	}
	return &l
}

// Reader is at work on one file.
type Reader struct {
	*facts.Builder
	Text []byte
	lang *Language
	// members are the scopes that hold members of a type which is defined
	// elsewhere, with its name.
	members map[facts.ScopeID]string
	// State is what the language itself notes; see Language.
	State     any
	kept      map[int]facts.ExprID // the expressions that are kept once, by node
	seen      map[string]bool
	given     facts.Expr // what the function is given that is read next; of no kind if that is not known
	declaring bool
}

// Facts reads one file. Its signature is that of lang.Extractor.
func (l *Language) Facts(ctx context.Context, text []byte) (*facts.File, error) {
	if l.Prepare != nil {
		return l.FactsOf(ctx, text, l.Prepare(text))
	}
	return l.FactsOf(ctx, text, Prepared{Text: text})
}

// FactsOf is Facts for a text that something else is to be read in place of.
func (l *Language) FactsOf(ctx context.Context, text []byte, prepared Prepared) (*facts.File, error) {
	eased := prepared.Text
	var hidden []place.Range
	if l.Ease != nil {
		eased, hidden = l.Ease(prepared.Text)
	}
	tree, err := syntax.Parse(ctx, l.Grammar, eased)
	if err != nil {
		return nil, err
	}
	r := &Reader{Builder: facts.NewBuilder(l.Name, len(prepared.Text)), Text: prepared.Text, lang: l, members: map[facts.ScopeID]string{}}
	if l.Once {
		r.kept = map[int]facts.ExprID{}
	}
	if l.State != nil {
		r.State = l.State()
	}
	r.All(tree.Root())
	for _, at := range hidden {
		r.Use(string(at.In(prepared.Text)), facts.Read, at, facts.NoExpr)
	}
	if prepared.Origin != nil {
		r.WrittenAt(prepared.Origin, len(text))
	}
	for _, at := range prepared.Hidden {
		r.Use(string(at.In(text)), facts.Read, at, facts.NoExpr)
	}
	lang.Sections(r.Builder, text, l.comments...)
	return r.File(), nil
}

func (r *Reader) rule(n syntax.Node) *Rule {
	if s := n.Symbol(); s >= 0 && s < len(r.lang.bySymbol) {
		return &r.lang.bySymbol[s]
	}
	return &Rule{}
}

// Visit reads a node; see Rule.Visit.
func (r *Reader) Visit(n syntax.Node) {
	if f := r.rule(n).Visit; f != nil {
		f(r, n)
		return
	}
	r.All(n)
}

// All visits the children of a node.
func (r *Reader) All(n syntax.Node) {
	for c := range n.NamedChildren() {
		r.Visit(c)
	}
}

// Write reads a node that is given a value; see Rule.Write.
func (r *Reader) Write(n syntax.Node, role facts.Role) {
	if f := r.rule(n).Write; f != nil {
		f(r, n, role)
		return
	}
	r.Visit(n)
}

// Called reads a node that is called; see Rule.Call.
func (r *Reader) Called(n syntax.Node, arguments int) {
	if f := r.rule(n).Call; f != nil {
		f(r, n, arguments)
		return
	}
	r.Visit(n)
}

// UseType notes the names used in a type; see Rule.Type.
func (r *Reader) UseType(n syntax.Node) {
	if f := r.rule(n).Type; f != nil {
		f(r, n)
		return
	}
	for c := range n.NamedChildren() {
		r.UseType(c)
	}
}

// Expression keeps what is known of a value or a type; see Rule.Expr.
func (r *Reader) Expression(n syntax.Node) facts.ExprID {
	rule := r.rule(n)
	f := rule.Expr
	if f == nil {
		return facts.NoExpr
	}
	if r.kept == nil || rule.Anew {
		return f(r, n)
	}
	if e, ok := r.kept[n.Index()]; ok {
		return e
	}
	e := f(r, n)
	r.kept[n.Index()] = e
	return e
}

// Kept is what was kept of an expression already, where it is kept once; NoExpr if
// nothing was.
func (r *Reader) Kept(n syntax.Node) facts.ExprID { return r.kept[n.Index()] }

// Keep says what is known of an expression, where it is kept once.
func (r *Reader) Keep(n syntax.Node, e facts.ExprID) { r.kept[n.Index()] = e }

// TypeOf notes the names used in a type and keeps it.
func (r *Reader) TypeOf(n syntax.Node) facts.ExprID {
	r.UseType(n)
	return r.Expression(n)
}

// NameOf keeps a node as the name of something.
func (r *Reader) NameOf(n syntax.Node) facts.ExprID {
	return r.Expr(facts.Expr{Kind: facts.Name, Name: n.Text(), At: n.Range()})
}

// Begin starts a definition by what all have in common: the whole of it, the
// name, and the body that its head ends before, which may be missing.
func (r *Reader) Begin(whole, id, body syntax.Node, kind facts.Kind) facts.Def {
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Container: r.members[r.Scope()]}
	if r.firstOnLine(whole.Range().Start) {
		d.Doc = lang.CommentAbove(r.Text, whole.Range().Start, r.lang.comments...)
	}
	if body.OK() && body.Range().Start > d.Head.Start {
		d.Head.End = body.Range().Start
	}
	r.trim(&d.Head)
	return d
}

// firstOnLine says whether only blanks stand before the offset on its line.
func (r *Reader) firstOnLine(offset uint32) bool {
	start, ok := lang.LineStart(r.Text, offset)
	return ok && len(bytes.TrimSpace(r.Text[start:offset])) == 0
}

// trim takes the blanks and the semicolon off the end of a head.
func (r *Reader) trim(head *place.Range) {
	for head.End > head.Start && strings.IndexByte(" \t\r\n;", r.Text[head.End-1]) >= 0 {
		head.End--
	}
}

// SkipHead moves the beginning of a head behind a node that stands in front of
// what people read, such as an annotation.
func (r *Reader) SkipHead(d *facts.Def, n syntax.Node) {
	at := n.Range().End
	for int(at) < len(r.Text) && strings.IndexByte(" \t\r\n", r.Text[at]) >= 0 {
		at++
	}
	if at < d.Head.End && at > d.Head.Start {
		d.Head.Start = at
	}
}

// Local defines a name that is known from where it stands on; no node is no
// name, and gives NoDef.
func (r *Reader) Local(whole, id syntax.Node, kind facts.Kind, t, init facts.ExprID) facts.DefID {
	if !id.OK() {
		return facts.NoDef
	}
	d := facts.Def{Name: id.Text(), Kind: kind, At: id.Range(), Full: whole.Range(), Head: whole.Range(), Type: t, Init: init, From: id.Range().Start}
	if kind == facts.Parameter || kind == facts.TypeParameter {
		d.From = 0
	}
	r.trim(&d.Head)
	return r.Def(d)
}

// MembersOf reads members of a type that is defined elsewhere, under the name
// it has there.
func (r *Reader) MembersOf(name string, at place.Range, walk func()) {
	r.In(facts.TypeScope, at, facts.NoDef, func() {
		r.members[r.Scope()] = name
		walk()
	})
}

// Passing reads the arguments of a call, each of which may be a function without
// a name, whose parameters are what the callee passes to it; see Given.
func (r *Reader) Passing(callee facts.ExprID, arguments iter.Seq[syntax.Node], read func(argument syntax.Node)) {
	was := r.given
	var before []facts.ExprID
	for a := range arguments {
		r.given = facts.Expr{}
		if callee != facts.NoExpr && len(before) <= math.MaxUint8 {
			r.given = facts.Expr{Kind: facts.Given, Base: callee, Arg: uint8(len(before)), Args: slices.Clone(before)}
		}
		read(a)
		before = append(before, r.Expression(a))
	}
	r.given = was
}

// Given is what the function without a name that is read gets for a parameter,
// counted from 0, where it is the argument of a call; see Passing. What is read
// inside of it is given nothing of that.
func (r *Reader) Given(at place.Range, part int) facts.ExprID {
	if r.given.Kind != facts.Given || part > math.MaxUint8 {
		return facts.NoExpr
	}
	e := r.given
	e.Part, e.At = uint8(part), at
	return r.Expr(e)
}

// Taken reads the inside of a function without a name, behind its parameters.
func (r *Reader) Taken(read func()) {
	was := r.given
	r.given = facts.Expr{}
	read()
	r.given = was
}

// First says whether it is called for the first time with the key.
func (r *Reader) First(key string) bool {
	if r.seen == nil {
		r.seen = map[string]bool{}
	}
	was := r.seen[key]
	r.seen[key] = true
	return !was
}

// Declaring reads a type while noting whether something is declared to be of it,
// which Declares tells.
func (r *Reader) Declaring(something bool, read func()) {
	was := r.declaring
	r.declaring = something
	read()
	r.declaring = was
}

// Declares says whether something is declared to be of the type that is read.
func (r *Reader) Declares() bool { return r.declaring }

// Holds notes what tests say of values for a part of the text in which they hold.
func (r *Reader) Holds(at place.Range, list []facts.Narrowing) {
	if at.Len() == 0 {
		return
	}
	for _, n := range list {
		n.At = at
		r.Narrow(n)
	}
}

// Block reads a node in a scope of its own.
func (r *Reader) Block(n syntax.Node) {
	r.In(facts.BlockScope, n.Range(), facts.NoDef, func() { r.All(n) })
}

// Enter reads the inside of a definition, from behind its name.
func (r *Reader) Enter(id facts.DefID, kind facts.ScopeKind, whole syntax.Node, walk func()) {
	at := place.Range{Start: max(r.At(id).At.End, whole.Range().Start), End: whole.Range().End}
	r.In(kind, at, id, walk)
}

// InFunction says whether the walk is inside a function.
func (r *Reader) InFunction() bool {
	return r.Enclosing(facts.FunctionScope, facts.TypeScope) != 0 && !r.InType()
}

// InType says whether the walk is among the members of a type.
func (r *Reader) InType() bool {
	_, elsewhere := r.members[r.Scope()]
	return elsewhere || r.Enclosing(facts.TypeScope) == r.Scope() && r.Scope() != 0
}

// OwnerType keeps the type whose inside the walk is in, as that of its own
// values is for the members of an enumeration; none outside of all types.
func (r *Reader) OwnerType() facts.ExprID {
	owner := r.Owner(facts.TypeScope)
	if owner == facts.NoDef {
		return facts.NoExpr
	}
	return r.Expr(facts.Expr{Kind: facts.Name, Name: r.At(owner).Name, At: r.At(owner).At})
}
