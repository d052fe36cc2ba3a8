package javascript

import (
	"bytes"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Where no types are declared, comments may say them: @param {Team[]} teams, @returns {Promise<Team>}, @type {Team}, and
// @typedef {…} Team.

// saidTag is a word of documentation with a type behind it, up to the bracket in front of that.
var saidTag = regexp.MustCompile(`@(param|arg|argument|returns?|type|typedef|property|prop)\s*\{`)

// said is one of the types in a comment.
type said struct {
	tag, name string
	at        place.Range // of the type
	nameAt    uint32
}

// typesSaid are the types in a comment.
func typesSaid(text []byte, doc place.Range) (all []said) {
	if doc.Len() == 0 || !bytes.HasPrefix(doc.In(text), []byte("/**")) {
		return nil
	}
	comment := doc.In(text)
	for _, m := range saidTag.FindAllSubmatchIndex(comment, -1) {
		end := closingBrace(comment, m[1]-1)
		if end < 0 {
			continue
		}
		rest := comment[end+1:]
		blank := len(rest) - len(bytes.TrimLeft(rest, " \t["))
		n := blank
		for n < len(rest) && (rest[n] == '_' || rest[n] == '$' || rest[n] == '.' || '0' <= rest[n] && rest[n] <= '9' || 'a' <= rest[n]|0x20 && rest[n]|0x20 <= 'z') {
			n++
		}
		all = append(all, said{tag: string(comment[m[2]:m[3]]), name: string(rest[blank:n]), nameAt: doc.Start + uint32(end+1+blank),
			at: place.Range{Start: doc.Start + uint32(m[1]), End: doc.Start + uint32(end)}})
	}
	return all
}

// closingBrace is where the bracket closes that opens at an offset; -1 if it does not.
func closingBrace(text []byte, open int) int {
	depth := 0
	for i := open; i < len(text); i++ {
		switch text[i] {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// documented are the types that the comment on a function says.
type documented struct {
	r   *reader.Reader
	all []said
}

// documentedBy reads the comment on a definition.
func documentedBy(r *reader.Reader, owner facts.DefID) documented {
	if stateOf(r).typed || owner == facts.NoDef {
		return documented{r: r}
	}
	return documented{r, typesSaid(r.Text, r.At(owner).Doc)}
}

// result is the type of what the function gives.
func (d documented) result() facts.ExprID {
	for _, s := range d.all {
		if s.tag == "return" || s.tag == "returns" {
			return typeSaid(d.r, s.at)
		}
	}
	return facts.NoExpr
}

// parameter is the type of a parameter, by its name or else its number, counted from 0.
func (d documented) parameter(p syntax.Node, number int) facts.ExprID {
	if p.Type() == "assignment_pattern" {
		p = p.Part("left")
	}
	i := 0
	for _, s := range d.all {
		if s.tag != "param" && s.tag != "arg" && s.tag != "argument" || strings.Contains(s.name, ".") {
			continue
		}
		if p.Type() == "identifier" && s.name == p.Text() || p.Type() == "object_pattern" && i == number {
			if t := typeSaid(d.r, s.at); t != facts.NoExpr {
				return t
			}
			return d.members(s)
		}
		i++
	}
	return facts.NoExpr
}

// members is the type of a parameter that is an object of which the comment says the members, each with the name of the
// parameter in front; it is read once.
func (d documented) members(of said) facts.ExprID {
	all := slices.DeleteFunc(slices.Clone(d.all), func(s said) bool {
		rest, ok := strings.CutPrefix(s.name, of.name+".")
		return !ok || rest == "" || strings.Contains(rest, ".")
	})
	if len(all) == 0 {
		return facts.NoExpr
	}
	at := place.Range{Start: all[0].at.Start, End: all[len(all)-1].nameAt + uint32(len(all[len(all)-1].name))}
	if !stateOf(d.r).said[at.Start] {
		d.r.Inner(0, func() {
			d.r.In(facts.TypeScope, at, facts.NoDef, func() {
				for _, s := range all {
					name := place.Range{Start: s.nameAt + uint32(len(of.name)) + 1, End: s.nameAt + uint32(len(s.name))}
					d.r.Def(facts.Def{Name: s.name[len(of.name)+1:], Kind: facts.Property, At: name, Full: name, Head: place.Range{Start: s.at.Start - 1, End: name.End}, Type: typeSaid(d.r, s.at)})
				}
			})
		})
	}
	return d.r.Expr(facts.Expr{Kind: facts.Shape, At: at})
}

// parameters are the types of all of a function's, none if the comment says none.
func (d documented) parameters(list syntax.Node) (types []facts.ExprID) {
	some := false
	for p := range list.NamedChildren() {
		if p.Type() == "comment" {
			continue
		}
		t := d.parameter(p, len(types))
		some = some || t != facts.NoExpr
		types = append(types, t)
	}
	if !some {
		return nil
	}
	return types
}

// valueSaid is the type that the comment on a value says.
func valueSaid(r *reader.Reader, doc place.Range) facts.ExprID {
	if stateOf(r).typed {
		return facts.NoExpr
	}
	for _, s := range typesSaid(r.Text, doc) {
		if s.tag == "type" {
			return typeSaid(r, s.at)
		}
	}
	return facts.NoExpr
}

// valueSaidBefore is the type that a comment right before a name says, or else that on the whole.
func valueSaidBefore(r *reader.Reader, n syntax.Node, doc place.Range) facts.ExprID {
	if t := valueSaid(r, commentBefore(r.Text, n.Range().Start)); t != facts.NoExpr {
		return t
	}
	return valueSaid(r, doc)
}

// commentBefore is the comment that ends before an offset, with nothing but blanks between.
func commentBefore(text []byte, offset uint32) place.Range {
	before := bytes.TrimRight(text[:offset], " \t\r\n")
	if !bytes.HasSuffix(before, []byte("*/")) {
		return place.Range{}
	}
	open := bytes.LastIndex(before, []byte("/*"))
	if open < 0 {
		return place.Range{}
	}
	return place.Range{Start: uint32(open), End: uint32(len(before))}
}

// comment reads one that defines types.
func comment(r *reader.Reader, n syntax.Node) {
	if stateOf(r).typed || !bytes.Contains(n.Range().In(r.Text), []byte("@typedef")) {
		return
	}
	all := typesSaid(r.Text, n.Range())
	for i, s := range all {
		if s.tag != "typedef" || s.name == "" {
			continue
		}
		at := place.Range{Start: s.nameAt, End: s.nameAt + uint32(len(s.name))}
		d := facts.Def{Name: s.name, Kind: facts.Type, At: at, Full: n.Range(), Head: place.Range{Start: s.at.Start - 1, End: at.End}, Doc: n.Range()}
		r.Inner(0, func() {
			d.Type = typeSaid(r, s.at)
			id := r.Def(d)
			properties(r, id, all[i+1:], place.Range{Start: at.End, End: n.Range().End})
		})
	}
}

// properties defines those that follow the definition of a type in a comment.
func properties(r *reader.Reader, owner facts.DefID, all []said, at place.Range) {
	if len(all) == 0 || all[0].tag != "property" && all[0].tag != "prop" {
		return
	}
	r.In(facts.TypeScope, at, owner, func() {
		for _, s := range all {
			if s.tag != "property" && s.tag != "prop" {
				break
			}
			name := place.Range{Start: s.nameAt, End: s.nameAt + uint32(len(s.name))}
			if s.name != "" && !strings.Contains(s.name, ".") {
				r.Def(facts.Def{Name: s.name, Kind: facts.Property, At: name, Full: name, Head: place.Range{Start: s.at.Start - 1, End: name.End}, Type: typeSaid(r, s.at)})
			}
		}
	})
}

// castSaid is a value with a comment before its brackets that says its type.
func castSaid(r *reader.Reader, n syntax.Node) facts.ExprID {
	if t := valueSaid(r, commentBefore(r.Text, n.Range().Start)); t != facts.NoExpr {
		return r.Expr(facts.Expr{Kind: facts.Value, Base: t, At: n.Range()})
	}
	for c := range n.NamedChildren() {
		if c.Type() != "comment" {
			return r.Expression(c)
		}
	}
	return facts.NoExpr
}

// typeSaid reads a type in a comment; NoExpr if it says nothing.
func typeSaid(r *reader.Reader, at place.Range) facts.ExprID {
	read := stateOf(r).said
	again := read[at.Start]
	read[at.Start] = true
	return inComments.Type(r, at, again)
}

// inComments is how types are written there.
var inComments = reader.Said{Between: ".", Arguments: []string{".<>", "<>"},
	Nothing: lang.WordsOf("any unknown Object object Function function null undefined void never mixed"), Basic: lang.WordsOf("string number boolean")}
