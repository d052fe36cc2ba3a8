// Package syntax reads a file into a concrete syntax tree that is quick to
// walk: the tree that tree-sitter makes, copied by one C call into a flat
// array in preorder. Walking that array costs a fraction of calling into C for
// each node.
package syntax

// #include <stdlib.h>
// #include "parse.h"
import "C"

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync/atomic"
	"time"
	"unsafe"

	sitter "github.com/smacker/go-tree-sitter"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/work"
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
	deepest = 2000 // levels of nesting
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
	ErrDied    = errors.New("too much for the parser")
	ErrTooLong = errors.New("a line of it is too long to parse")
	// ErrStuck may be otherwise the next time, on a machine that is less busy.
	ErrStuck = errors.New("the parser did not come back")
)

// IsForGood says whether an error of parsing is one that the same text will lead to again, though
// what took too long may do with less on another day.
func IsForGood(err error) bool {
	return errors.Is(err, ErrTooDeep) || errors.Is(err, ErrTooSlow) || errors.Is(err, ErrDied) || errors.Is(err, ErrTooLong)
}

// longestLine is how long a line may be, in bytes: parsers look back to the beginning of their
// line, over and over.
const longestLine = 1 << 20

// hasLongLine says whether a text has a line that is longer than that.
func hasLongLine(text []byte) bool {
	for len(text) > longestLine {
		end := bytes.LastIndexByte(text[:longestLine+1], '\n')
		if end < 0 {
			return true
		}
		text = text[end+1:]
	}
	return false
}

// Tree is the syntax tree of one text.
type Tree struct {
	grammar *Grammar
	text    []byte
	nodes   []flatNode
}

// flatNode has the layout of rt_node in parse.h.
type flatNode struct {
	start, end, next uint32
	symbol           uint16
	field, flags     uint8
}

// Parse reads a text. Broken syntax is no error: what cannot be read stands in
// the tree as nodes of type ERROR. It fails when the text is nested too deeply,
// takes too long or is too much for the parser, and when ctx is cancelled.
func Parse(ctx context.Context, g *Grammar, text []byte) (*Tree, error) {
	t := &Tree{grammar: g, text: text}
	var err error
	if t.nodes, err = parse(ctx, g, text); err != nil {
		return nil, fmt.Errorf("parsing: %w", err)
	}
	if g.blanks {
		t.trim()
	}
	return t, nil
}

// pause is after how many microseconds of parsing it is seen whether somebody
// still wants to know.
const pause = 50_000

// stuckAfter is after how long without a sign a parser is left to itself: it is
// asked to stop between two words only, and may be stuck in one.
const stuckAfter = 20 * time.Second

type parsed struct {
	nodes []flatNode
	err   error
}

func parse(ctx context.Context, g *Grammar, text []byte) ([]flatNode, error) {
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	if hasLongLine(text) {
		return nil, ErrTooLong
	}
	limit := longest + time.Duration(len(text))*longestPerByte
	done := make(chan parsed, 1)
	var sign atomic.Int64 // when the parser was last heard of
	sign.Store(time.Now().UnixNano())
	go func() {
		var p parsed
		if failed := work.Try(func() { p.nodes, p.err = parseWithin(ctx, limit, g, text, &sign) }); failed != nil {
			p = parsed{err: failed}
		}
		done <- p
	}()
	stuck := time.NewTicker(stuckAfter / 4)
	defer stuck.Stop()
	for {
		select {
		case p := <-done:
			return p.nodes, p.err
		case now := <-stuck.C:
			if now.Sub(time.Unix(0, sign.Load())) > stuckAfter {
				return nil, ErrStuck
			}
		}
	}
}

// parseWithin parses for so long of the processor's time: how busy the machine is with
// other things does not count.
func parseWithin(ctx context.Context, limit time.Duration, g *Grammar, text []byte, sign *atomic.Int64) ([]flatNode, error) {
	parser := C.ts_parser_new()
	// sitter.Language holds nothing but the pointer, which a test makes sure of
	// by comparing trees.
	C.ts_parser_set_language(parser, *(**C.TSLanguage)(unsafe.Pointer(g.language)))
	var spent time.Duration
	for {
		nodes, took, err := parseOn(parser, text)
		sign.Store(time.Now().UnixNano())
		spent += took
		if errors.Is(err, ErrDied) {
			return nil, err // what is left of the parser is not touched again
		}
		if errors.Is(err, errPaused) {
			switch {
			case ctx.Err() != nil:
				err = ctx.Err()
			case spent > limit:
				err = ErrTooSlow
			default:
				continue
			}
		}
		C.ts_parser_delete(parser)
		return nodes, err
	}
}

// errPaused says that the parser is not done yet.
var errPaused = errors.New("not done yet")

// parseOn parses for a moment, and says how long that took of the processor.
func parseOn(parser *C.TSParser, text []byte) ([]flatNode, time.Duration, error) {
	input := unsafe.Pointer(unsafe.StringData(" "))
	if len(text) > 0 {
		input = unsafe.Pointer(&text[0])
	}
	var out *C.rt_node
	var count C.uint32_t
	var spent C.uint64_t
	status := C.rt_parse(parser, (*C.char)(input), C.uint32_t(len(text)), pause, deepest, &out, &count, &spent)
	took := time.Duration(spent)
	switch status {
	case C.RT_DONE:
		defer C.free(unsafe.Pointer(out))
		nodes := make([]flatNode, count)
		copy(nodes, unsafe.Slice((*flatNode)(unsafe.Pointer(out)), int(count)))
		return nodes, took, nil
	case C.RT_PAUSED:
		return nil, took, errPaused
	case C.RT_TOO_DEEP:
		return nil, took, ErrTooDeep
	}
	return nil, took, ErrDied
}

func (t *Tree) trim() {
	for i := range t.nodes {
		n := &t.nodes[i]
		for n.start < n.end && strings.IndexByte(" \t\r\n", t.text[n.start]) >= 0 {
			n.start++
		}
	}
}

// Pieces are the ranges of the nodes that stand for rules of the grammar.
func (t *Tree) Pieces() []place.Range {
	pieces := make([]place.Range, 0, len(t.nodes)/2)
	for i := range t.nodes {
		if n := &t.nodes[i]; n.flags&flagNamed != 0 && n.start < n.end {
			pieces = append(pieces, place.Range{Start: n.start, End: n.end})
		}
	}
	return pieces
}

// Pieces reads the ranges of what stands in a text. Its signature is that of
// lang.Cutter.
func (g *Grammar) Pieces(ctx context.Context, text []byte) ([]place.Range, error) {
	tree, err := Parse(ctx, g, text)
	if err != nil {
		return nil, err
	}
	return tree.Pieces(), nil
}

// Nodes gives a function that reads the ranges of the nodes of some types. Its signature is that
// of lang.Cutter.
func (g *Grammar) Nodes(types ...string) func(ctx context.Context, text []byte) ([]place.Range, error) {
	return func(ctx context.Context, text []byte) (all []place.Range, err error) {
		tree, err := Parse(ctx, g, text)
		if err != nil {
			return nil, err
		}
		for i := range tree.nodes {
			if n := (Node{tree, uint32(i)}); slices.Contains(types, n.Type()) {
				all = append(all, n.Range())
			}
		}
		return all, nil
	}
}

// Root is the node of the whole file.
func (t *Tree) Root() Node { return Node{t, 0} }

// Around are the nodes that hold all of a range, from the whole file to the smallest. Of nodes that stand for the same
// range all are among them.
func (t *Tree) Around(at place.Range) (path []Node) {
	n := t.Root()
	for n.OK() {
		path = append(path, n)
		next := Node{}
		for c := range n.Children() {
			if r := c.Range(); r.Start <= at.Start && r.End >= at.End && (r.Len() > 0 || at.Len() == 0) {
				next = c
				break
			}
		}
		n = next
	}
	return path
}
