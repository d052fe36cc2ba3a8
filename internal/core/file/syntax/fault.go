package syntax

import (
	"bytes"
	"context"
	"fmt"
	"strings"

	"rooktrail/internal/core/file/place"
)

// Fault is where a text does not follow the rules of its language.
type Fault struct {
	At place.Range
	// Text says what is wrong, as a sentence without its full stop.
	Text string
}

// mostFaults is how many faults of a text are told: what is wrong early has what comes later misread.
const mostFaults = 20

// Brackets finds the brackets of a text that nothing closes or opens, if the grammar cannot read it.
func (g *Grammar) Brackets(ctx context.Context, text []byte) ([]Fault, error) {
	tree, err := Parse(ctx, g, text)
	if err != nil || !tree.broken() {
		return nil, err
	}
	return tree.brackets(), nil
}

// Faults finds what the grammar cannot read in a text. Where brackets do not go together all else follows from that,
// and only these are told.
func (g *Grammar) Faults(ctx context.Context, text []byte) ([]Fault, error) {
	tree, err := Parse(ctx, g, text)
	if err != nil || !tree.broken() {
		return nil, err
	}
	if found := tree.brackets(); len(found) > 0 {
		return found, nil
	}
	return tree.unread(), nil
}

// broken says whether something could not be read.
func (t *Tree) broken() bool {
	for i := range t.nodes {
		if t.nodes[i].symbol == brokenSymbol || t.nodes[i].flags&flagMissing != 0 {
			return true
		}
	}
	return false
}

// unread are what could not be read, the outermost of each, and what is missing.
func (t *Tree) unread() (all []Fault) {
	for i := uint32(0); int(i) < len(t.nodes) && len(all) < mostFaults; {
		n := Node{t, i}
		i++
		switch {
		case n.Missing():
			all = append(all, Fault{t.before(n.flat().start), fmt.Sprintf("%s is missing", n.spelled())})
		case n.Broken():
			at := n.Range()
			if at.Len() == 0 {
				at = t.before(at.Start)
			}
			at = t.firstLine(at)
			if what := strings.TrimSpace(string(at.In(t.text))); what != "" {
				all = append(all, Fault{at, fmt.Sprintf("this cannot be read: %s", shortened(what))})
			}
			i = n.flat().next
		}
	}
	return all
}

// spelled is how something that is missing is told.
func (n Node) spelled() string {
	if n.Named() {
		return "a " + strings.ReplaceAll(n.Type(), "_", " ")
	}
	return n.Type()
}

const mostSpelled = 40

func shortened(s string) string {
	if r := []rune(s); len(r) > mostSpelled {
		return string(r[:mostSpelled-1]) + "…"
	}
	return s
}

// before is the last sign that stands before an offset, where one looks for what is missing.
func (t *Tree) before(offset uint32) place.Range {
	end := uint32(len(bytes.TrimRight(t.text[:offset], " \t\r\n")))
	if end == 0 {
		return place.Range{Start: offset, End: offset}
	}
	return place.Range{Start: end - 1, End: end}
}

// firstLine is the part of a range that stands on its first line with anything on it.
func (t *Tree) firstLine(at place.Range) place.Range {
	text := at.In(t.text)
	at.Start += uint32(len(text) - len(bytes.TrimLeft(text, " \t\r\n")))
	if n := bytes.IndexByte(at.In(t.text), '\n'); n >= 0 {
		at.End = at.Start + uint32(n)
	}
	return at
}

// bracket is one of a text.
type bracket struct {
	at     place.Range
	sign   byte
	closes byte // what closes it; 0 for one that closes another
	first  bool // of its line
	indent int  // of that line
}

var closing = map[byte]byte{'(': ')', '[': ']', '{': '}'}

// brackets finds those that do not go together. Of several that could be meant, that is told which the lines are not
// moved in for: what closes a bracket stands as far to the left as the line that opens it.
func (t *Tree) brackets() (all []Fault) {
	signs := t.signs()
	if balanced(signs) {
		return nil
	}
	var open []bracket
	for _, s := range signs {
		if s.closes != 0 {
			open = append(open, s)
		} else {
			open, all = t.closed(open, s, all)
		}
	}
	for _, b := range open {
		all = append(all, t.unclosed(b))
	}
	return all[:min(len(all), mostFaults)]
}

// signs are all brackets of a text, in order.
func (t *Tree) signs() (all []bracket) {
	for i := range t.nodes {
		n := Node{t, uint32(i)}
		if n.Named() || n.Range().Len() == 0 || n.flat().next != uint32(i)+1 {
			continue
		}
		kind, b := n.Type(), bracket{at: n.Range()}
		b.first, b.indent = t.begins(b.at.Start)
		switch b.sign = kind[len(kind)-1]; {
		case len(kind) <= 2 && closing[b.sign] != 0:
			b.closes = closing[b.sign]
		case kind != ")" && kind != "]" && kind != "}":
			continue
		}
		all = append(all, b)
	}
	return all
}

func balanced(signs []bracket) bool {
	var open []byte
	for _, s := range signs {
		switch {
		case s.closes != 0:
			open = append(open, s.closes)
		case len(open) == 0 || open[len(open)-1] != s.sign:
			return false
		default:
			open = open[:len(open)-1]
		}
	}
	return len(open) == 0
}

// closed takes in a bracket that closes another one.
func (t *Tree) closed(open []bracket, s bracket, all []Fault) ([]bracket, []Fault) {
	k := len(open) - 1
	for k >= 0 && open[k].closes != s.sign {
		k--
	}
	if k >= 0 && s.first && open[k].indent != s.indent {
		for j := k - 1; j >= 0; j-- {
			if open[j].closes == s.sign && open[j].indent == s.indent {
				k = j // what is moved in farther has lost what closes it
				break
			}
		}
	}
	if k < 0 || s.first && open[k].indent < s.indent {
		return open, append(all, Fault{s.at, fmt.Sprintf("nothing opens this %c", s.sign)})
	}
	for _, b := range open[k+1:] {
		all = append(all, t.unclosed(b))
	}
	return open[:k], all
}

func (t *Tree) unclosed(b bracket) Fault {
	return Fault{b.at, fmt.Sprintf("this %s is not closed: %c is missing", b.at.In(t.text), b.closes)}
}

// begins says whether nothing stands before an offset on its line, and how far that line is moved in.
func (t *Tree) begins(offset uint32) (first bool, indent int) {
	begin := bytes.LastIndexByte(t.text[:offset], '\n') + 1
	line := t.text[begin:offset]
	indent = len(line) - len(bytes.TrimLeft(line, " \t"))
	return indent == len(line), indent
}
