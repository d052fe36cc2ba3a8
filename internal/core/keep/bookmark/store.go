package bookmark

import (
	"rooktrail/internal/core/keep/userdata"
)

// Version is that of the form in which bookmarks are kept.
const Version = 1

// NewStore keeps the lists of a project in a folder, one file each. Several programs may
// use it at the same time.
func NewStore(folder string) *userdata.Store[List] {
	return userdata.NewStore(folder, userdata.Kind[List]{
		What: "list of bookmarks", Version: Version,
		Form: func(l *List) int { return l.Version }, ID: func(l *List) *string { return &l.ID }, Name: func(l *List) *string { return &l.Name },
		Merge: (*List).Merge,
	})
}
