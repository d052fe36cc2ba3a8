package reader

import (
	"bytes"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// Said is how types are written in comments: names with something between them, with arguments in brackets; lists; one of several.
type Said struct {
	// Between stands between the names of what is in something.
	Between string
	// Arguments are the brackets around those of a type.
	Arguments []string
	// Nothing are the names of types that say nothing of a value, Basic those of the language itself that say something.
	Nothing, Basic lang.Words
}

// Type reads a type in a comment, where its names are uses; again says that these are noted already. It is NoExpr if the comment
// says nothing.
func (s *Said) Type(r *Reader, at place.Range, again bool) facts.ExprID {
	p := saidParser{Said: s, r: r, text: at.In(r.Text), start: at.Start, again: again}
	return p.union(0)
}

// saidParser is at one place of a type.
type saidParser struct {
	*Said
	r     *Reader
	text  []byte
	start uint32
	at    int
	again bool
}

// deepestSaid bounds how deep types in comments are put into each other.
const deepestSaid = 8

// use notes that a type is named.
func (p *saidParser) use(name string, at place.Range, base facts.ExprID) {
	if !p.again {
		p.r.Use(name, facts.TypeUse, at, base)
	}
}

// since is the range of what was read since.
func (p *saidParser) since(from int) place.Range {
	return place.Range{Start: p.start + uint32(from), End: p.start + uint32(p.at)}
}

func (p *saidParser) blanks() {
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n*?!~:", p.text[p.at]) >= 0 {
		p.at++
	}
}

// next says whether what comes next is a sign, and goes past it.
func (p *saidParser) next(sign string) bool {
	from := p.at
	p.blanks()
	if bytes.HasPrefix(p.text[p.at:], []byte(sign)) {
		p.at += len(sign)
		return true
	}
	p.at = from
	return false
}

func (p *saidParser) word() (name string, at place.Range) {
	p.blanks()
	from := p.at
	for p.at < len(p.text) && (p.text[p.at] == '_' || p.text[p.at] == '$' || '0' <= p.text[p.at] && p.text[p.at] <= '9' || 'a' <= p.text[p.at]|0x20 && p.text[p.at]|0x20 <= 'z') {
		p.at++
	}
	return string(p.text[from:p.at]), p.since(from)
}

// or says whether another type follows that it may be instead.
func (p *saidParser) or(depth int) bool {
	return p.next("|") || p.next(" or ") || depth == 0 && p.next(",")
}

func (p *saidParser) union(depth int) facts.ExprID {
	var all []facts.ExprID
	from := p.at
	for {
		if e := p.listed(depth); e != facts.NoExpr {
			all = append(all, e)
		}
		if !p.or(depth) {
			break
		}
	}
	switch len(all) {
	case 0:
		return facts.NoExpr
	case 1:
		return all[0]
	}
	return p.r.Expr(facts.Expr{Kind: facts.EitherOf, Args: all, At: p.since(from)})
}

func (p *saidParser) listed(depth int) facts.ExprID {
	p.next("...")
	from := p.at
	many := p.next("list of ")
	e := p.primary(depth)
	for many || p.next("[]") {
		many = false
		e = p.r.Expr(facts.Expr{Kind: facts.ListOf, Base: e, At: p.since(from)})
	}
	return e
}

func (p *saidParser) primary(depth int) facts.ExprID {
	if depth > deepestSaid {
		return facts.NoExpr
	}
	if p.next("(") {
		e := p.union(depth + 1)
		p.next(")")
		return e
	}
	p.next(p.Between) // of the outermost
	name, at := p.word()
	switch {
	case name == "":
		return facts.NoExpr
	case name == "import" && p.next("("):
		return p.imported(depth, at)
	case p.Nothing[name]:
		return facts.NoExpr
	case p.Basic[name]:
		return p.members(p.r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: at}), depth)
	}
	p.use(name, at, facts.NoExpr)
	return p.members(p.r.Expr(facts.Expr{Kind: facts.Name, Name: name, At: at}), depth)
}

// members reads the names behind one, and the arguments.
func (p *saidParser) members(e facts.ExprID, depth int) facts.ExprID {
	for p.at+1 < len(p.text) && bytes.HasPrefix(p.text[p.at:], []byte(p.Between)) && p.text[p.at+1] != '<' && p.text[p.at+1] != '.' && p.text[p.at+1] != ' ' {
		p.at += len(p.Between)
		name, at := p.word()
		p.use(name, at, e)
		e = p.r.Expr(facts.Expr{Kind: facts.Member, Name: name, Base: e, At: at})
	}
	for _, brackets := range p.Arguments {
		open, end := brackets[:len(brackets)-1], brackets[len(brackets)-1:]
		if bytes.HasPrefix(p.text[p.at:], []byte("[]")) || !p.next(open) {
			continue
		}
		of := facts.Expr{Kind: facts.GenericOf, Base: e, At: p.r.Facts().Exprs[e].At}
		for {
			of.Args = append(of.Args, p.union(depth+1))
			if !p.next(",") {
				break
			}
		}
		p.next(end)
		return p.r.Expr(of)
	}
	return e
}

// imported reads what a module has, behind the bracket in front of its path.
func (p *saidParser) imported(depth int, at place.Range) facts.ExprID {
	p.blanks()
	if p.at >= len(p.text) || strings.IndexByte(`"'`, p.text[p.at]) < 0 {
		return facts.NoExpr
	}
	end := bytes.IndexByte(p.text[p.at+1:], p.text[p.at])
	if end < 0 {
		return facts.NoExpr
	}
	module := string(p.text[p.at+1 : p.at+1+end])
	p.at += end + 2
	p.next(")")
	return p.members(p.r.Expr(facts.Expr{Kind: facts.ModuleOf, Name: module, At: at}), depth)
}
