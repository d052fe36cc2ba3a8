package syntax

import (
	"iter"
	"strings"

	"rooktrail/internal/core/file/place"
)

// Node is one node of a tree. The zero Node is no node; asking it anything is
// harmless.
type Node struct {
	tree  *Tree
	index uint32
}

// The flags of nodes, as in parse.h.
const (
	flagNamed   = 1
	flagMissing = 2
)

// OK says that there is a node.
func (n Node) OK() bool { return n.tree != nil }

func (n Node) flat() *flatNode { return &n.tree.nodes[n.index] }

// Index numbers the nodes of a tree in preorder, from 0.
func (n Node) Index() int { return int(n.index) }

// Type is the name the grammar gives the node; "" for no node.
func (n Node) Type() string {
	if n.tree == nil {
		return ""
	}
	if s := int(n.flat().symbol); s < len(n.tree.grammar.symbols) {
		return n.tree.grammar.symbols[s]
	}
	return "ERROR"
}

// Named says that the node stands for a rule of the grammar rather than for a
// word or sign of the language.
func (n Node) Named() bool { return n.tree != nil && n.flat().flags&flagNamed != 0 }

// Missing says that the node does not stand in the text, but had to for the rest to be read.
func (n Node) Missing() bool { return n.tree != nil && n.flat().flags&flagMissing != 0 }

// Broken says that what stands there could not be read.
func (n Node) Broken() bool { return n.tree != nil && n.flat().symbol == brokenSymbol }

// brokenSymbol is that of what could not be read, in all grammars.
const brokenSymbol = 0xffff

// Range is where the node stands in the text.
func (n Node) Range() place.Range {
	if n.tree == nil {
		return place.Range{}
	}
	return place.Range{Start: n.flat().start, End: n.flat().end}
}

// Text is what the node stands for.
func (n Node) Text() string { return string(n.Range().In(n.bytes())) }

func (n Node) bytes() []byte {
	if n.tree == nil {
		return nil
	}
	return n.tree.text
}

// Children are all nodes directly below, in order.
func (n Node) Children() iter.Seq[Node] {
	return func(yield func(Node) bool) {
		if n.tree == nil {
			return
		}
		for i := n.index + 1; i < n.flat().next; i = n.tree.nodes[i].next {
			if !yield(Node{n.tree, i}) {
				return
			}
		}
	}
}

// NamedChildren are the named nodes directly below, in order.
func (n Node) NamedChildren() iter.Seq[Node] {
	return func(yield func(Node) bool) {
		for c := range n.Children() {
			if c.Named() && !yield(c) {
				return
			}
		}
	}
}

// After is the node that begins next once this one has ended, which is its next
// sibling if it has one; no node at the end of the text.
func (n Node) After() Node {
	if n.tree == nil || int(n.flat().next) >= len(n.tree.nodes) {
		return Node{}
	}
	return Node{n.tree, n.flat().next}
}

// Child is the first node directly below in the field; no node if there is
// none. Field 0 has no children.
func (n Node) Child(f Field) Node {
	if f != 0 {
		for c := range n.Children() {
			if c.flat().field == uint8(f) {
				return c
			}
		}
	}
	return Node{}
}

// Part is the first node directly below in the field of that name; no node if
// there is none. Child is quicker where the number of the field is at hand.
func (n Node) Part(field string) Node {
	if n.tree == nil {
		return Node{}
	}
	fields := n.tree.grammar.fields
	for c := range n.Children() {
		if f := c.flat().field; f != 0 && fields[f] == field {
			return c
		}
	}
	return Node{}
}

// FieldName is the name of the field of its parent in which the node stands;
// "" for none.
func (n Node) FieldName() string {
	if n.tree == nil {
		return ""
	}
	return n.tree.grammar.fields[n.flat().field]
}

// Symbol is the number of the node's type in the grammar; see Grammar.Types.
func (n Node) Symbol() int {
	if n.tree == nil {
		return -1
	}
	return int(n.flat().symbol)
}

// Field is the field of its parent in which the node stands.
func (n Node) Field() Field {
	if n.tree == nil {
		return 0
	}
	return Field(n.flat().field)
}

// First is the first child of one of the types; no node if there is none.
func (n Node) First(types ...string) Node {
	for c := range n.Children() {
		t := c.Type()
		for _, want := range types {
			if t == want {
				return c
			}
		}
	}
	return Node{}
}

// Has says whether one of the direct children is of the type, which may be a
// word or sign of the language.
func (n Node) Has(kind string) bool { return n.First(kind).OK() }

// String writes the named part of the tree below the node, for tests and for
// whoever adds a language.
func (n Node) String() string {
	var b strings.Builder
	n.write(&b)
	return b.String()
}

func (n Node) write(b *strings.Builder) {
	b.WriteString("(" + n.Type())
	for c := range n.NamedChildren() {
		b.WriteString(" ")
		if f := c.Field(); f != 0 {
			b.WriteString(n.tree.grammar.fields[f] + ": ")
		}
		c.write(b)
	}
	b.WriteString(")")
}
