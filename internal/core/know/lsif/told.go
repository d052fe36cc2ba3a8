package lsif

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"time"

	"github.com/sergi/go-diff/diffmatchpatch"

	"rooktrail/internal/core/file/check"
)

// Told is what a dump said that the name at a byte offset of a file means, as the texts are now, which present gives. same says that the
// texts are those of which it was said, by a compiler; else the place was followed through what has changed. ok is false if nothing was said.
func (x *Index) Told(file string, offset int, present func(path string) []byte) (t check.Target, same, ok bool) {
	if x == nil {
		return t, false, false
	}
	s := x.of(file)
	if s == nil {
		return t, false, false
	}
	here := x.follow(file, s, present(file))
	at, ok := here.before(offset)
	if !ok {
		return t, false, false
	}
	n, ok := slices.BinarySearchFunc(s.uses, uint32(at), func(u use, at uint32) int { return cmp.Compare(u.at, at) })
	if !ok {
		return t, false, false
	}
	u := s.uses[n]
	to := s.targets[u.target]
	there := x.of(to)
	if there == nil || int(u.targetAt+u.length) > len(there.text) {
		return t, false, false
	}
	where := x.follow(to, there, present(to))
	now, ok := where.after(int(u.targetAt))
	if !ok {
		return t, false, false
	}
	name := string(there.text[u.targetAt : u.targetAt+u.length])
	return check.Target{Folder: path.Dir(to), File: path.Base(to), Name: name, Offset: uint32(now), Local: true}, here.same() && where.same() && !s.unsure, true
}

// moves say which parts of a text are still there, and where.
type moves struct {
	now   []byte
	equal []part // nil if all is the same
}

// part is a part of a text that is at another place by now.
type part struct{ was, is, length int }

func (m *moves) same() bool { return m.equal == nil }

// after is where what was at an offset is now.
func (m *moves) after(offset int) (int, bool) {
	return m.through(offset, func(p part) int { return p.was }, func(p part) int { return p.is - p.was })
}

// before is where what is at an offset was.
func (m *moves) before(offset int) (int, bool) {
	return m.through(offset, func(p part) int { return p.is }, func(p part) int { return p.was - p.is })
}

func (m *moves) through(offset int, from, by func(part) int) (int, bool) {
	if m.same() {
		return offset, true
	}
	i, exact := slices.BinarySearchFunc(m.equal, offset, func(p part, at int) int { return cmp.Compare(from(p), at) })
	if !exact {
		i--
	}
	if i < 0 || offset >= from(m.equal[i])+m.equal[i].length {
		return 0, false
	}
	return offset + by(m.equal[i]), true
}

// follow finds out what has become of the text of a file of which something was said.
func (x *Index) follow(file string, s *said, now []byte) *moves {
	x.mu.Lock()
	known, ok := x.moved.Get(file)
	x.mu.Unlock()
	if ok && len(known.now) == len(now) && (len(now) == 0 || &known.now[0] == &now[0]) {
		return known
	}
	m := &moves{now: now}
	if !bytes.Equal(s.text, now) {
		m.equal = equalParts(string(s.text), string(now))
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	x.moved.Add(file, m)
	return m
}

// longestCompared is how long it is looked for what two texts have in common.
const longestCompared = 2 * time.Second

// equalParts are the lines that two texts have in common, in order. It is the algorithm of Myers, line by line.
func equalParts(before, after string) []part {
	d := diffmatchpatch.New()
	d.DiffTimeout = longestCompared
	a, b, all := d.DiffLinesToRunes(before, after)
	parts, was, is := []part{}, 0, 0
	for _, piece := range d.DiffCharsToLines(d.DiffMainRunes(a, b, false), all) {
		n := len(piece.Text)
		switch piece.Type {
		case diffmatchpatch.DiffEqual:
			parts = append(parts, part{was, is, n})
			was, is = was+n, is+n
		case diffmatchpatch.DiffDelete:
			was += n
		case diffmatchpatch.DiffInsert:
			is += n
		}
	}
	return parts
}
