package place

import "slices"

// Memory remembers a place as it was last found, and as it was when it was kept. Both are
// needed where the code goes to and fro, as with branches: what is written on one need not
// resemble what stands on the other.
type Memory struct {
	// Anchor is the place as it was last found.
	Anchor
	// Kept is the place as it was first; nil if that is the same.
	Kept *Anchor `json:"kept,omitempty"`
	// Former are paths that its file had before, the latest last.
	Former []string `json:"former,omitempty"`
}

// Remember begins a memory.
func Remember(a Anchor) Memory { return Memory{Anchor: a} }

// Found takes note of where the place is now, by what stands there.
func (m *Memory) Found(now Anchor) {
	if m.Kept == nil && (m.Text != now.Text || !slices.Equal(m.Before, now.Before) || !slices.Equal(m.After, now.After)) {
		kept := m.Anchor
		m.Kept = &kept
	}
	path := m.Path
	m.Anchor = now
	m.Path = path
	m.MoveTo(now.Path)
}

// MoveTo notes that the file of the place has another path.
func (m *Memory) MoveTo(path string) {
	if path == m.Path {
		return
	}
	m.Former = slices.DeleteFunc(slices.Clone(m.Former), func(p string) bool { return p == path })
	const most = 8
	m.Former = append(m.Former, m.Path)
	m.Former = m.Former[max(len(m.Former)-most, 0):]
	m.Path = path
}

// Recall finds a remembered place where it is now and says what became of it. It first
// looks for what stood there last, then for what stood there at the beginning; only where
// neither is there any more, for a line that has changed.
func (f *Finder) Recall(m *Memory) (Place, Fate) {
	at, fate := f.Find(m.Anchor)
	if m.Kept == nil || fate == Same || fate == Moved {
		return at, fate
	}
	kept := *m.Kept
	kept.Path = m.Path
	if p, f := f.Find(kept); f == Same || f == Moved || fate == Gone {
		return p, f
	}
	return at, fate
}
