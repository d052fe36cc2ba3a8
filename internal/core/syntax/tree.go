// Package syntax reads a file into a concrete syntax tree that is quick to
// walk: the tree that tree-sitter makes, copied by one C call into a flat
// array in preorder. Walking that array costs a fraction of calling into C for
// each node.
package syntax

// #include <stdlib.h>
// #include "flatten.h"
import "C"

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
	"unsafe"

	sitter "github.com/smacker/go-tree-sitter"
)

// Grammar is the grammar of one language with the names of its node types and
// fields. It may be used by several goroutines.
type Grammar struct {
	language *sitter.Language
	symbols  []string
	fields   []string
	// blanks says that nodes may begin with blanks that do not belong to them.
	blanks bool
}

// NewGrammar wraps the grammar of a language.
func NewGrammar(language *sitter.Language) *Grammar {
	g := &Grammar{language: language}
	for i := range language.SymbolCount() {
		g.symbols = append(g.symbols, language.SymbolName(sitter.Symbol(i)))
	}
	g.fields = append(g.fields, "")
	for i := 1; i < 256; i++ {
		name := language.FieldName(i)
		if name == "" {
			break
		}
		g.fields = append(g.fields, name)
	}
	return g
}

// WithoutBlanks makes a grammar whose nodes never begin with blanks, for one
// that takes those in front of a word for a part of it.
func (g *Grammar) WithoutBlanks() *Grammar {
	trimmed := *g
	trimmed.blanks = true
	return &trimmed
}

// Types are the names of the types of nodes, by their numbers. Several numbers
// may have one name.
func (g *Grammar) Types() []string { return g.symbols }

// Field returns the number of a field, for Node.Field; 0 if the grammar has
// none of that name.
func (g *Grammar) Field(name string) Field {
	for i, f := range g.fields {
		if f == name {
			return Field(i)
		}
	}
	return 0
}

// Field is the number of a field of a grammar.
type Field uint8

// The limits beyond which a file is not parsed.
const (
	deepest = 4000 // levels of nesting
	// Parsing one file may take so long, and so much longer for every byte. Most
	// files take a hundredth of that; but there are grammars that never come to
	// an end with a few words that are not finished.
	longest        = time.Second
	longestPerByte = 3 * time.Microsecond
)

// The reasons for which a file is left as text.
var (
	ErrTooDeep = errors.New("nested too deeply")
	ErrTooSlow = errors.New("took too long to parse")
)

// Tree is the syntax tree of one text.
type Tree struct {
	grammar *Grammar
	text    []byte
	nodes   []flatNode
}

// flatNode has the layout of rt_node in flatten.h.
type flatNode struct {
	start, end, next uint32
	symbol           uint16
	field, flags     uint8
}

// Parse reads a text. Broken syntax is no error: what cannot be read stands in
// the tree as nodes of type ERROR. It fails when the text is nested too deeply
// or takes too long, and when ctx is cancelled.
func Parse(ctx context.Context, g *Grammar, text []byte) (*Tree, error) {
	limited, cancel := context.WithTimeout(ctx, longest+time.Duration(len(text))*longestPerByte)
	defer cancel()
	parser := sitter.NewParser()
	defer parser.Close()
	parser.SetLanguage(g.language)
	parsed, err := parser.ParseCtx(limited, nil, text)
	if err != nil {
		if ctx.Err() == nil && limited.Err() != nil {
			err = ErrTooSlow
		}
		return nil, fmt.Errorf("parsing: %w", err)
	}
	defer parsed.Close()
	t := &Tree{grammar: g, text: text}
	if t.nodes, err = flatten(parsed.RootNode()); err != nil {
		return nil, fmt.Errorf("parsing: %w", err)
	}
	if g.blanks {
		t.trim()
	}
	return t, nil
}

func (t *Tree) trim() {
	for i := range t.nodes {
		n := &t.nodes[i]
		for n.start < n.end && strings.IndexByte(" \t\r\n", t.text[n.start]) >= 0 {
			n.start++
		}
	}
}

// flatten relies on sitter.Node beginning with its TSNode, which a test checks
// by comparing the two trees.
func flatten(root *sitter.Node) ([]flatNode, error) {
	var out *C.rt_node
	n := C.rt_flatten(*(*C.TSNode)(unsafe.Pointer(root)), deepest, &out)
	if n == 0 {
		return nil, ErrTooDeep
	}
	defer C.free(unsafe.Pointer(out))
	nodes := make([]flatNode, n)
	copy(nodes, unsafe.Slice((*flatNode)(unsafe.Pointer(out)), int(n)))
	return nodes, nil
}

// Root is the node of the whole file.
func (t *Tree) Root() Node { return Node{t, 0} }
