package text

import (
	"time"
)

// History is what was done to a text, as a tree in which nothing is lost: when one undoes
// something and then does something else, both are kept. The zero History is that of a text
// to which nothing was done.
type History struct {
	all  []revision // the first is the text as it was
	here int
	// group says that what is done next may belong to the step before.
	open bool
	last time.Time
	kind Kind
}

// Kind is what sort of change a step is; those of the same sort that follow each other are
// one step.
type Kind uint8

// The kinds.
const (
	Other  Kind = iota // a step of its own
	Typing             // letters of a word
	Blank              // blanks between words
	Erasing
)

// revision is a state of the text.
type revision struct {
	parent int
	redo   int    // the state to which redo leads; 0 for none
	steps  []step // from the parent to here
	before any    // what the caller keeps: where the carets were
	after  any
}

type step struct{ forward, back []Edit }

// pause is after how long a new step begins, even in the middle of a word.
const pause = 2 * time.Second

// Did notes edits that were made to a document, with what the caller wants back with the text
// before and after them.
func (h *History) Did(d *Document, edits []Edit, kind Kind, now time.Time, before, after any) {
	if len(h.all) == 0 {
		h.all = []revision{{parent: -1}}
	}
	s := step{edits, d.Inverse(edits)}
	if h.open && kind != Other && kind == h.kind && now.Sub(h.last) < pause && h.all[h.here].redo == 0 {
		r := &h.all[h.here]
		r.steps, r.after = append(r.steps, s), after
	} else {
		h.all = append(h.all, revision{parent: h.here, steps: []step{s}, before: before, after: after})
		h.all[h.here].redo = len(h.all) - 1
		h.here = len(h.all) - 1
	}
	h.open, h.kind, h.last = true, kind, now
}

// Break makes what is done next a step of its own.
func (h *History) Break() { h.open = false }

// At names the present state, so that it can be told whether the text is as it was then.
func (h *History) At() int { return h.here }

// Latest is the present state, or the nearest of those from which it was made for which is
// holds; -1 if it holds for none.
func (h *History) Latest(is func(state int) bool) int {
	for at := h.here; at >= 0; at = h.all[at].parent {
		if is(at) {
			return at
		}
		if len(h.all) == 0 {
			break
		}
	}
	return -1
}

// Undo gives the document before the last step; ok is false at the beginning.
func (h *History) Undo(d *Document) (before *Document, keep any, ok bool) {
	if len(h.all) == 0 || h.here == 0 {
		return d, nil, false
	}
	r := h.all[h.here]
	for i := len(r.steps) - 1; i >= 0; i-- {
		d = d.Apply(r.steps[i].back)
	}
	h.all[r.parent].redo = h.here
	h.here, h.open = r.parent, false
	return d, r.before, true
}

// Redo gives the document after the step that was undone last; ok is false if there is none.
func (h *History) Redo(d *Document) (after *Document, keep any, ok bool) {
	if len(h.all) == 0 || h.all[h.here].redo == 0 {
		return d, nil, false
	}
	h.here = h.all[h.here].redo
	r := h.all[h.here]
	for _, s := range r.steps {
		d = d.Apply(s.forward)
	}
	h.open = false
	return d, r.after, true
}

// Earlier gives the document as it was one step before in time, also if that was on a way
// that was undone since; Later the one after it. ok is false at the ends.
func (h *History) Earlier(d *Document) (*Document, any, bool) { return h.to(d, h.here-1) }

// Later is the reverse of Earlier.
func (h *History) Later(d *Document) (*Document, any, bool) { return h.to(d, h.here+1) }

// to goes to a state by way of the one that both come from.
func (h *History) to(d *Document, state int) (*Document, any, bool) {
	if state < 0 || state >= len(h.all) {
		return d, nil, false
	}
	above := map[int]bool{}
	for at := state; at >= 0; at = h.all[at].parent {
		above[at] = true
	}
	var keep any
	for !above[h.here] {
		d, keep, _ = h.Undo(d)
	}
	var down []int
	for at := state; at != h.here; at = h.all[at].parent {
		down = append(down, at)
	}
	for i := len(down) - 1; i >= 0; i-- {
		h.all[h.here].redo = down[i]
		d, keep, _ = h.Redo(d)
	}
	return d, keep, true
}
