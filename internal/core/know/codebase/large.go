package codebase

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/know/index"
)

// A file that is too large for a grammar is read for its names in portions, which are cut where nothing is open: what is
// outermost in it is whole in one of them. Its inside is not known, as it would take too much memory to.

const (
	// largestNamed is the size in bytes beyond which not even the names of a file are read.
	largestNamed = 100 << 20
	// portionSize is about how many bytes of it are read at a time, and mostPortion how many at the most.
	portionSize = 1 << 20
	mostPortion = 4 << 20
)

// summariseLarge makes the summary of a text that is too large to be read as a whole.
func (b *Base) summariseLarge(ctx context.Context, p string, text []byte) (*index.Summary, error) {
	l := b.languages.Of(p)
	whole := &index.Summary{}
	failed := 0
	var front []byte // what each part but the first has to have in front of it
	for from, end := range portions(text, l.Signs) {
		part := text[from:end:end]
		if from > 0 && len(front) > 0 {
			part = slices.Concat(front, part)
		}
		found, err := b.readPortion(ctx, l, p, part)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil { // as where one is nested too deeply
			failed++
			whole.Skip(text[from:end])
			continue
		}
		if from == 0 {
			whole.Add(index.Summarise(part, found), 0, 0)
			front = packageLine(part, found)
		} else {
			whole.Add(index.Summarise(part, found), from-len(front), bytes.Count(front, []byte{'\n'}))
		}
		if end < len(text) && text[end-1] != '\n' { // the line goes on
			whole.Lines--
		}
	}
	if failed > 0 && whole.Len() == 0 {
		return nil, fmt.Errorf("reading %s: %w", p, errNoPortion)
	}
	return whole, nil
}

// packageLine is the line that says to which package a file belongs, without which some languages cannot be read; nil if none does.
func packageLine(text []byte, f *facts.File) []byte {
	if f.Package == "" {
		return nil
	}
	for line := range bytes.Lines(text) {
		if bytes.HasPrefix(line, []byte("package ")) {
			return line
		}
	}
	return nil
}

// errNoPortion is why nothing is known of a large file.
var errNoPortion = errors.New("not a part of it could be read")

// readPortion reads the facts of a part of a file. A reader that panics costs that part.
func (b *Base) readPortion(ctx context.Context, l *lang.Language, p string, part []byte) (found *facts.File, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("reading %s: the %s reader failed: %v", p, l.Name, r)
		}
	}()
	return l.ReadAt(ctx, b.around(l), p, part)
}

// portions cuts a text where no bracket, comment or string is open and a line begins that is not indented, about every portionSize
// bytes; where there is no such place for long, at the end of any line, and where there is none, anywhere.
func portions(text []byte, signs *lexical.Signs) func(yield func(from, end int) bool) {
	return func(yield func(from, end int) bool) {
		from := 0
		for from < len(text) {
			end := cut(text[from:], signs)
			if !yield(from, from+end) {
				return
			}
			from += end
		}
	}
}

// cut is where the first portion of a text ends.
func cut(text []byte, signs *lexical.Signs) int {
	if len(text) <= portionSize+portionSize/2 {
		return len(text)
	}
	window := text[:min(len(text), mostPortion)]
	runs := signs.Runs(window)
	depth, line := 0, 0
	for at := 0; at < len(window); at++ {
		for len(runs) > 0 && runs[0].At.End <= uint32(at) {
			runs = runs[1:]
		}
		if len(runs) > 0 && int(runs[0].At.Start) <= at {
			at = int(runs[0].At.End) - 1
			continue
		}
		switch window[at] {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			depth = max(0, depth-1)
		case '\n':
			line = at + 1
			if depth == 0 && at+1 >= portionSize && at+1 < len(window) && begins(window[at+1]) {
				return at + 1
			}
		}
	}
	if line > 0 {
		return line
	}
	return len(window)
}

// begins says whether something outermost may begin with a byte that is the first of its line.
func begins(c byte) bool {
	return c == '_' || c == '#' || c == '@' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || c >= 0x80
}
