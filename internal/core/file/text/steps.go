package text

import "slices"

// Steps are a history in a form that can be kept.
type Steps struct {
	// States are those of the text, the first as it was at the beginning; Here is the number of
	// the present one.
	States []KeptState
	Here   int
}

// KeptState is a state of a text: of which other it was made, to which one redoing leads (0 for
// none), and how.
type KeptState struct {
	Parent, Redo  int
	Forward, Back [][]Edit `json:",omitempty"` // step by step
}

// Steps gives the history to be kept, with what the caller keeps before and after each state.
func (h *History) Steps() (s Steps, before, after []any) {
	s.Here = h.here
	for _, r := range h.all {
		k := KeptState{Parent: r.parent, Redo: r.redo}
		for _, st := range r.steps {
			k.Forward, k.Back = append(k.Forward, st.forward), append(k.Back, st.back)
		}
		s.States = append(s.States, k)
		before, after = append(before, r.before), append(after, r.after)
	}
	return s, before, after
}

// HistoryOf is the history of a document, which is at its present state, from what was kept; ok is
// false if that does not belong to it.
func HistoryOf(d *Document, s Steps, before, after []any) (h History, ok bool) {
	n := len(s.States)
	if n == 0 || s.Here < 0 || s.Here >= n {
		return h, false
	}
	for i, k := range s.States {
		if (i == 0) != (k.Parent == -1) || k.Parent >= i || k.Parent < -1 || k.Redo < 0 || k.Redo >= n || len(k.Forward) != len(k.Back) {
			return h, false
		}
		r := revision{parent: k.Parent, redo: k.Redo, before: before[i], after: after[i]}
		for j := range k.Forward {
			r.steps = append(r.steps, step{k.Forward[j], k.Back[j]})
		}
		h.all = append(h.all, r)
	}
	for i, r := range h.all {
		if r.redo > 0 && h.all[r.redo].parent != i {
			return h, false
		}
	}
	h.here = s.Here
	return h, h.fits(d)
}

// fits says whether all edits of a history can be made, on the way back to its beginning and to
// each of its states.
func (h *History) fits(d *Document) bool {
	length := make([]int, len(h.all))
	known := make([]bool, len(h.all))
	length[h.here], known[h.here] = d.Len(), true
	var way []int // from the present state to the first
	for at := h.here; at > 0; at = h.all[at].parent {
		way = append(way, at)
	}
	for _, at := range way {
		after := length[at]
		for _, st := range slices.Backward(h.all[at].steps) {
			var ok bool
			if after, ok = lengthAfter(after, st.back); !ok {
				return false
			}
		}
		length[h.all[at].parent], known[h.all[at].parent] = after, true
	}
	for i := 1; i < len(h.all); i++ { // a parent comes before what was made of it
		now := length[h.all[i].parent]
		for _, st := range h.all[i].steps {
			var ok bool
			if now, ok = lengthAfter(now, st.forward); !ok {
				return false
			}
		}
		if known[i] && length[i] != now {
			return false // there and back again is elsewhere
		}
		length[i], known[i] = now, true
	}
	return true
}

// lengthAfter is how long a text of a length is after edits; ok is false if they do not fit it.
func lengthAfter(length int, edits []Edit) (now int, ok bool) {
	end := 0
	now = length
	for _, e := range edits {
		if e.Start < end || e.End < e.Start || e.End > length {
			return 0, false
		}
		end = e.End
		now += e.Shift()
	}
	return now, true
}
