package uitest

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Host is a program around a surface that does nothing of itself.
type Host struct {
	At  surface.Here
	way *surface.Asker
}

// Here implements surface.Host.
func (h *Host) Here() surface.Here { return h.At }

// Sight implements signpost.Host.
func (h *Host) Sight() surface.Here { return h.At }

// Asker implements surface.Host.
func (h *Host) Asker(owner surface.Surface) *surface.Asker {
	return surface.NewAsker(context.Background(), owner)
}

// Clock implements surface.Host.
func (h *Host) Clock() *sheet.Clock { return &sheet.Clock{} }

// Way implements surface.Host.
func (h *Host) Way() *surface.Asker {
	if h.way == nil {
		h.way = surface.NewAsker(context.Background(), nil)
	}
	return h.way
}

// Carry does the work that an intent begins, and delivers the answers, until there is no more: it
// gives all intents that came up, the first of them the one it was given.
func Carry(i surface.Intent) (all []surface.Intent) {
	all = []surface.Intent{i}
	for _, a := range Answers(i.Cmd) {
		if next, wanted := a.Deliver(); wanted {
			all = append(all, Carry(next)...)
		}
	}
	if i.Then != nil {
		all = append(all, Carry(i.Then())...)
	}
	return all
}

// Answers does some work and gives what it found out, not delivered yet.
func Answers(cmd tea.Cmd) (all []surface.Answer) {
	if cmd == nil {
		return nil
	}
	switch msg := cmd().(type) {
	case tea.BatchMsg:
		for _, c := range msg {
			all = append(all, Answers(c)...)
		}
	case surface.Answer:
		all = append(all, msg)
	}
	return all
}

// Press presses keys on a surface and does all work that comes of it; it gives all intents.
func Press(s surface.Surface, names ...string) (all []surface.Intent) {
	for _, k := range Keys(names...) {
		all = append(all, Carry(s.Update(k))...)
	}
	return all
}

// Last is what is to be done in all of them, one after the other.
func Last(all []surface.Intent) (last surface.Intent) {
	for _, i := range all {
		last = last.And(i)
	}
	last.Say = Said(last)
	return last
}

// Said is what an intent says, with the keys in it as they are delivered.
func Said(i surface.Intent) string { return keymap.Default().Fill(i.Say, false) }

// Of is the text of a surface of a size.
func Of(s surface.Surface, width, height int) string {
	s.Resize(width, height)
	return Text(s.Rows(Plain))
}
