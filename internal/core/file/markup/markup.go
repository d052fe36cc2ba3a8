// Package markup reads the words of documentation into blocks that can be drawn:
// paragraphs, headings, lists and code. It takes Markdown, and the tags and
// habits of the comments of several languages, which it turns into Markdown
// first.
package markup

import (
	"strconv"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"
)

// Kind is what a block is.
type Kind uint8

// The kinds of blocks.
const (
	Paragraph Kind = iota
	Heading
	Code
	Item  // of a list
	Quote // what somebody else said
	Rule  // a line across
)

// Style is how a run of words is set.
type Style uint8

// The styles.
const (
	Plain Style = iota
	Verbatim
	Strong
	Emphasis
	Link
)

// Run is words in one style.
type Run struct {
	Text  string
	Style Style
}

// Block is a part of the text.
type Block struct {
	Kind Kind
	// Depth is how many lists are around an item, counted from 0; of a heading
	// its level, counted from 1.
	Depth int
	// Mark stands in front of an item, such as "1.".
	Mark string
	// Runs are the words; Code has its lines in Text instead, and in Language the
	// name of its language, if that is known.
	Runs     []Run
	Text     string
	Language string
}

// Parse reads the words of a documentation comment, without its signs. It is
// written in the habits of a language, by the name facts have for it; code in it
// is of that language unless it says otherwise.
func Parse(words, language string) []Block {
	source := []byte(normalise(words))
	doc := goldmark.DefaultParser().Parse(text.NewReader(source))
	r := reader{source: source, language: language}
	for n := doc.FirstChild(); n != nil; n = n.NextSibling() {
		r.block(n, 0)
	}
	return r.blocks
}

// Summary is the prose with which the words of a documentation comment begin, as
// plain text with a blank line between paragraphs; more says that something else
// follows.
func Summary(words, language string) (prose string, more bool) {
	var paragraphs []string
	for _, b := range Parse(words, language) {
		if b.Kind != Paragraph {
			more = true
			break
		}
		text := ""
		for _, r := range b.Runs {
			text += r.Text
		}
		paragraphs = append(paragraphs, text)
	}
	return strings.Join(paragraphs, "\n\n"), more
}

type reader struct {
	source   []byte
	language string
	blocks   []Block
}

func (r *reader) add(b Block) { r.blocks = append(r.blocks, b) }

func (r *reader) block(n ast.Node, depth int) {
	switch n := n.(type) {
	case *ast.Heading:
		r.add(Block{Kind: Heading, Depth: n.Level, Runs: r.runs(n, Plain)})
	case *ast.FencedCodeBlock:
		language := string(n.Language(r.source))
		if language == "" {
			language = r.language
		}
		r.add(Block{Kind: Code, Text: r.lines(n), Language: language})
	case *ast.CodeBlock:
		r.add(Block{Kind: Code, Text: r.lines(n), Language: r.language})
	case *ast.HTMLBlock:
		r.add(Block{Kind: Paragraph, Runs: []Run{{Text: strings.TrimSpace(r.lines(n))}}})
	case *ast.ThematicBreak:
		r.add(Block{Kind: Rule})
	case *ast.Blockquote:
		for c := n.FirstChild(); c != nil; c = c.NextSibling() {
			from := len(r.blocks)
			r.block(c, depth)
			for i := from; i < len(r.blocks); i++ {
				if r.blocks[i].Kind == Paragraph {
					r.blocks[i].Kind = Quote
				}
			}
		}
	case *ast.List:
		r.list(n, depth)
	default:
		if runs := r.runs(n, Plain); len(runs) > 0 {
			r.add(Block{Kind: Paragraph, Runs: runs})
		}
	}
}

// list adds the items of a list; what an item holds beside its first words
// follows it.
func (r *reader) list(n *ast.List, depth int) {
	number := n.Start
	for item := n.FirstChild(); item != nil; item = item.NextSibling() {
		mark := "–"
		if n.IsOrdered() {
			mark = strconv.Itoa(number) + "."
			number++
		}
		first := true
		for c := item.FirstChild(); c != nil; c = c.NextSibling() {
			if nested, ok := c.(*ast.List); ok {
				r.list(nested, depth+1)
				continue
			}
			if runs := r.runs(c, Plain); first && len(runs) > 0 {
				r.add(Block{Kind: Item, Depth: depth, Mark: mark, Runs: runs})
				first = false
				continue
			}
			r.block(c, depth+1)
		}
	}
}

func (r *reader) lines(n ast.Node) string {
	var b strings.Builder
	for i := range n.Lines().Len() {
		at := n.Lines().At(i)
		b.Write(at.Value(r.source))
	}
	return strings.TrimRight(strings.ReplaceAll(b.String(), "\t", "    "), "\n")
}

// runs are the words below a node.
func (r *reader) runs(n ast.Node, style Style) (runs []Run) {
	put := func(s string, st Style) {
		if s == "" {
			return
		}
		if k := len(runs) - 1; k >= 0 && runs[k].Style == st {
			runs[k].Text += s
			return
		}
		runs = append(runs, Run{s, st})
	}
	for c := n.FirstChild(); c != nil; c = c.NextSibling() {
		switch c := c.(type) {
		case *ast.Text:
			put(string(c.Segment.Value(r.source)), style)
			if c.HardLineBreak() {
				put("\n", style)
			} else if c.SoftLineBreak() {
				put(" ", style)
			}
		case *ast.String:
			put(string(c.Value), style)
		case *ast.RawHTML:
			for i := range c.Segments.Len() {
				at := c.Segments.At(i)
				put(string(at.Value(r.source)), style)
			}
		case *ast.AutoLink:
			put(string(c.URL(r.source)), Link)
		default:
			for _, run := range r.runs(c, styleOf(c, style)) {
				put(run.Text, run.Style)
			}
		}
	}
	return runs
}

func styleOf(n ast.Node, around Style) Style {
	switch n := n.(type) {
	case *ast.CodeSpan:
		return Verbatim
	case *ast.Emphasis:
		if n.Level > 1 {
			return Strong
		}
		return Emphasis
	case *ast.Link, *ast.Image:
		return Link
	}
	return around
}
