package write

import "rooktrail/internal/core/file/text"

// History is what was done to a text, in a form that can be kept.
type History struct {
	text.Steps
	// Carets are where the carets were before and after each state, by its number; the first
	// state has none.
	Before, After [][]KeptCaret
}

// KeptCaret is a caret as it is kept; Main says that the screen follows it.
type KeptCaret struct {
	At, From int
	Main     bool `json:",omitempty"`
}

func keptCarets(at any) (kept []KeptCaret) {
	p, _ := at.(place)
	for i, c := range p.carets {
		kept = append(kept, KeptCaret{c.At, c.From, i == p.main})
	}
	return kept
}

func placeOf(kept []KeptCaret) any {
	if len(kept) == 0 {
		return nil
	}
	var p place
	for i, k := range kept {
		p.carets = append(p.carets, Caret{At: k.At, From: k.From})
		if k.Main {
			p.main = i
		}
	}
	return p
}

// History is what was done to the text so far; nil if nothing was.
func (e *Editor) History() *History {
	e.history.Break()
	steps, before, after := e.history.Steps()
	if len(steps.States) < 2 {
		return nil
	}
	h := &History{Steps: steps}
	for i := range steps.States {
		h.Before, h.After = append(h.Before, keptCarets(before[i])), append(h.After, keptCarets(after[i]))
	}
	return h
}

// Resume goes on with what was done to the same text before; it is false, and changes nothing, if
// something was done to it meanwhile or the history is not sound.
func (e *Editor) Resume(h *History) bool {
	n := len(h.States)
	if e.history.At() != 0 || len(h.Before) != n || len(h.After) != n {
		return false
	}
	before, after := make([]any, n), make([]any, n)
	for i := range n {
		before[i], after[i] = placeOf(h.Before[i]), placeOf(h.After[i])
	}
	history, ok := text.HistoryOf(e.doc, h.Steps, before, after)
	if !ok {
		return false
	}
	e.history, e.saved = history, history.At()
	return true
}
