package facts

import (
	"cmp"
	"slices"
	"sync"
)

// nesting is how the definitions of a file that are not local lie in each other, worked out when
// it is first asked for, so that what is around a place is found without looking at all of them.
type nesting struct {
	once sync.Once
	// all are the definitions in the order in which their full texts begin, of those that
	// begin together the longest first; outer is, for each, the number in all of the nearest one
	// before that does not end before it; -1 for none.
	all   []DefID
	outer []int
}

func (n *nesting) of(f *File) *nesting {
	n.once.Do(func() {
		for i := range f.Defs {
			if d := &f.Defs[i]; d.Outlined() && (d.Kind != Variable || !f.Local(d)) {
				n.all = append(n.all, DefID(i))
			}
		}
		slices.SortStableFunc(n.all, func(a, b DefID) int {
			x, y := f.Defs[a].Full, f.Defs[b].Full
			return cmp.Or(cmp.Compare(x.Start, y.Start), cmp.Compare(y.End, x.End))
		})
		n.outer = make([]int, len(n.all))
		for i, id := range n.all {
			j := i - 1
			for j >= 0 && f.Defs[n.all[j]].Full.End < f.Defs[id].Full.End {
				j = n.outer[j]
			}
			n.outer[i] = j
		}
	})
	return n
}
