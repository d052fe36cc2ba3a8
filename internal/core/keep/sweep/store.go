package sweep

import (
	"cmp"
	"slices"
	"strings"

	"rooktrail/internal/core/keep/userdata"
)

// Version is that of the form in which sweeps are kept.
const Version = 1

// Store keeps the sweeps of a project in a folder, one file each. Several programs may
// use it at the same time.
type Store struct{ *userdata.Store[Sweep] }

// NewStore keeps sweeps in a folder, which is made when the first is saved.
func NewStore(folder string) *Store {
	return &Store{userdata.NewStore(folder, userdata.Kind[Sweep]{
		What: "sweep", Version: Version,
		Form: func(s *Sweep) int { return s.Version }, ID: func(s *Sweep) *string { return &s.ID }, Name: func(s *Sweep) *string { return &s.Name },
		Merge: (*Sweep).Merge,
	})}
}

// Load reads all sweeps, the one used last first. Of files that cannot be read the
// error tells; they are left alone, and the others are there all the same.
func (st *Store) Load() ([]*Sweep, error) {
	all, err := st.Store.Load()
	slices.SortFunc(all, func(a, b *Sweep) int { return cmp.Or(b.Used.Compare(a.Used), strings.Compare(a.ID, b.ID)) })
	return all, err
}
