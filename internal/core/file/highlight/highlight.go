// Package highlight tells which parts of a text to show how: what is a keyword,
// a string, the name of a type. It knows nothing of colours.
package highlight

import (
	"cmp"
	"context"
	"slices"
	"sort"
	"sync"

	"github.com/alecthomas/chroma/v2"
	"github.com/alecthomas/chroma/v2/lexers"

	"rooktrail/internal/core/file/facts"
)

// Role is what a part of the text is.
type Role uint8

// The roles that are told apart.
const (
	Plain Role = iota
	Keyword
	String
	Number
	Comment
	Type
	Function
	Defined // the name of a type or function where it is defined
)

// Span is a run of bytes with a role; offsets count from 0.
type Span struct {
	Start, End int
	Role       Role
}

// Spans lists the parts of a text that are not plain, in order and without
// overlaps.
type Spans []Span

// From returns the spans from the first that ends behind the offset.
func (s Spans) From(offset int) Spans {
	return s[sort.Search(len(s), func(i int) bool { return s[i].End > offset }):]
}

// Text finds the spans of a piece of a file that begins at the byte offset
// start. The file's name tells its language. With facts, the names of types
// and functions are known too; they may be nil. Cancelling ctx ends the work
// early, with what is there by then.
func Text(ctx context.Context, name string, piece []byte, start int, f *facts.File) Spans {
	return new(Painter).Text(ctx, name, piece, start, f)
}

// Painter finds spans as Text does, and keeps which language a name tells, which takes
// longer to find out than to read a line of it. The zero Painter is ready, and may be used
// by several goroutines.
type Painter struct{ lexers sync.Map }

// lexer is that of a name; nil if no language is known.
func (p *Painter) lexer(name string) chroma.Lexer {
	if l, ok := p.lexers.Load(name); ok {
		known, _ := l.(chroma.Lexer)
		return known
	}
	l := lexers.Match(name)
	p.lexers.Store(name, l) // nil as well
	return l
}

// Text is like the function Text.
func (p *Painter) Text(ctx context.Context, name string, piece []byte, start int, f *facts.File) Spans {
	spans := lexical(ctx, p.lexer(name), string(piece), start)
	if f != nil {
		spans = overlay(spans, names(f, start, start+len(piece)))
	}
	return spans
}

// lexical reads the tokens of the text.
func lexical(ctx context.Context, lexer chroma.Lexer, text string, start int) Spans {
	if lexer == nil {
		return nil
	}
	tokens, err := chroma.Coalesce(lexer).Tokenise(&chroma.TokeniseOptions{State: "root"}, text)
	if err != nil {
		return nil // a text without colours is still a text
	}
	var spans Spans
	at := start
	for n, t := 0, tokens(); t != chroma.EOF; n, t = n+1, tokens() {
		if n%1024 == 0 && ctx.Err() != nil {
			break
		}
		end := at + len(t.Value)
		if role := roleOf(t.Type); role != Plain {
			spans = append(spans, Span{at, end, role})
		}
		at = end
	}
	return spans
}

func roleOf(t chroma.TokenType) Role {
	switch {
	case t == chroma.KeywordType || t == chroma.NameClass:
		return Type
	case t.InCategory(chroma.Keyword) || t == chroma.NameTag || t == chroma.NameBuiltinPseudo:
		return Keyword
	case t.InSubCategory(chroma.LiteralNumber) || t == chroma.NameConstant || t == chroma.KeywordConstant:
		return Number
	case t.InSubCategory(chroma.LiteralString):
		return String
	case t.InCategory(chroma.Comment):
		return Comment
	case t == chroma.NameFunction || t == chroma.NameFunctionMagic || t == chroma.NameDecorator:
		return Function
	case t == chroma.GenericHeading || t == chroma.GenericSubheading:
		return Defined
	}
	return Plain
}

// names are the spans that the facts know, between two offsets.
func names(f *facts.File, from, to int) Spans {
	var spans Spans
	add := func(start, end uint32, role Role) {
		if int(start) >= from && int(end) <= to && start < end {
			spans = append(spans, Span{int(start), int(end), role})
		}
	}
	first := sort.Search(len(f.Defs), func(i int) bool { return int(f.Defs[i].At.Start) >= from })
	for i := first; i < len(f.Defs) && int(f.Defs[i].At.Start) <= to; i++ {
		d := &f.Defs[i]
		switch {
		case d.Kind == facts.TypeParameter:
			add(d.At.Start, d.At.End, Type)
		case d.Kind.IsType() || d.Kind.IsCallable():
			add(d.At.Start, d.At.End, Defined)
		}
	}
	first = sort.Search(len(f.Uses), func(i int) bool { return int(f.Uses[i].At.Start) >= from })
	for _, u := range f.Uses[first:] {
		if int(u.At.Start) > to {
			break
		}
		switch u.Role {
		case facts.TypeUse:
			add(u.At.Start, u.At.End, Type)
		case facts.Call:
			add(u.At.Start, u.At.End, Function)
		}
	}
	slices.SortFunc(spans, func(a, b Span) int { return cmp.Compare(a.Start, b.Start) })
	return spans
}

// overlay puts the upper spans over the lower ones, but never over comments,
// strings and keywords, which the tokens know better.
func overlay(lower, upper Spans) Spans {
	out := make(Spans, 0, len(lower)+len(upper))
	for len(lower) > 0 && len(upper) > 0 {
		l, u := lower[0], upper[0]
		switch {
		case l.End <= u.Start:
			out, lower = append(out, l), lower[1:]
		case u.End <= l.Start:
			out, upper = append(out, u), upper[1:]
		case l.Role == Comment || l.Role == String || l.Role == Keyword:
			upper = upper[1:]
		default:
			lower = lower[1:]
		}
	}
	return append(append(out, lower...), upper...)
}
