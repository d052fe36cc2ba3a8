package keyboard

import (
	"bytes"
	"io"
	"time"
)

// errClosed says that the terminal is gone.
var errClosed = io.EOF

// A lone escape byte waits for what may follow it. What belongs to it comes at once, in the same
// packet on a line, or split from it in the middle of a sequence; a hand is slower than that.
const (
	letterAfter   = 10 * time.Millisecond
	sequenceAfter = 40 * time.Millisecond
	restAfter     = 100 * time.Millisecond
)

// escape is the key Esc in a form that begins nothing else: that of the keyboard protocol which
// terminals share.
const escape = "\x1b[27u"

// The marks around what was pasted, in which an escape byte is no key.
var (
	pasteBegins = []byte("\x1b[200~")
	pasteEnds   = []byte("\x1b[201~")
)

// sorter tells presses of Esc from sequences by the times at which bytes came.
type sorter struct {
	held    []byte // an escape byte, or the beginning of a sequence
	at      time.Time
	pasting bool
}

// waits is for how long to wait for more; negative if nothing is held.
func (s *sorter) waits() time.Duration {
	if len(s.held) == 0 {
		return -1
	}
	limit := restAfter
	if len(s.held) == 1 {
		limit = sequenceAfter
	}
	return max(limit-time.Since(s.at), 0) // on a busy machine it may have waited longer already
}

// expire gives what was held for too long.
func (s *sorter) expire(now time.Time) []byte {
	limit := restAfter
	if len(s.held) == 1 {
		limit = sequenceAfter
	}
	if len(s.held) == 0 || now.Sub(s.at) < limit {
		return nil
	}
	return s.flush()
}

// flush gives whatever is held.
func (s *sorter) flush() []byte {
	held := s.held
	s.held = nil
	if len(held) == 1 && !s.pasting {
		return []byte(escape)
	}
	return held
}

// sort takes bytes that came at a time and gives those that are sure.
func (s *sorter) sort(came []byte, now time.Time) (out []byte) {
	in := bytes.Clone(came)
	if len(s.held) > 0 {
		waited := now.Sub(s.at)
		begins := in[0] == '[' || in[0] == 'O' || in[0] == ']' || in[0] == 'P' || in[0] == '_'
		if len(s.held) == 1 && !s.pasting && (waited > sequenceAfter || waited > letterAfter && !begins || in[0] == 0x1b) {
			out = append(out, s.flush()...)
		} else {
			in = append(s.held, in...)
			s.held = nil
		}
	}
	for len(in) > 0 {
		if s.pasting {
			end := bytes.Index(in, pasteEnds)
			if end < 0 {
				keep := unfinished(in, pasteEnds)
				return append(out, s.hold(in, len(in)-keep, now)...)
			}
			out = append(out, in[:end+len(pasteEnds)]...)
			in = in[end+len(pasteEnds):]
			s.pasting = false
			continue
		}
		begin := bytes.Index(in, pasteBegins)
		if begin < 0 {
			return append(out, s.hold(in, beginning(in), now)...)
		}
		out = append(out, in[:begin+len(pasteBegins)]...)
		in = in[begin+len(pasteBegins):]
		s.pasting = true
	}
	return out
}

// hold keeps what is behind an offset for later and gives the rest.
func (s *sorter) hold(in []byte, from int, now time.Time) []byte {
	if from < len(in) {
		s.held, s.at = bytes.Clone(in[from:]), now
	}
	return in[:from]
}

// beginning is where an escape byte or the beginning of a sequence stands at the end; the length
// if there is none.
func beginning(in []byte) int {
	at := bytes.LastIndexByte(in, 0x1b)
	if at < 0 || len(in)-at > 64 {
		return len(in)
	}
	switch rest := in[at+1:]; {
	case len(rest) == 0 || len(rest) == 1 && (rest[0] == '[' || rest[0] == 'O') && at == 0:
		return at
	case rest[0] == '[' && bytes.IndexFunc(rest[1:], func(r rune) bool { return r >= 0x40 && r <= 0x7e }) < 0:
		return at
	}
	return len(in)
}

// unfinished is how many bytes at the end may be the beginning of a mark.
func unfinished(in, mark []byte) int {
	for n := min(len(mark)-1, len(in)); n > 0; n-- {
		if bytes.HasSuffix(in, mark[:n]) {
			return n
		}
	}
	return 0
}
