package index

import "iter"

// chains finds the entries of a hash: the last of them through a table, each of
// the others through the one behind it. A Go map of lists would do the same
// with many times the memory and the time to fill it. An entry counts from 1 in
// it, so that 0 is none.
type chains struct {
	last   []int32 // by hash; as long as a power of two
	before []int32 // by entry: the one of the same place in the table before it
}

// reserve makes room for so many entries in all.
func (c *chains) reserve(entries []entry, size int) {
	if size <= len(c.last) {
		return
	}
	length := max(1024, len(c.last))
	for length < size {
		length *= 2
	}
	c.last, c.before = make([]int32, length), make([]int32, 0, size)
	c.extend(entries, 0)
}

// extend takes in the entries from first on; those before it are there.
func (c *chains) extend(entries []entry, first int) {
	if len(entries) > len(c.last) {
		c.reserve(entries, 2*len(entries))
		return
	}
	for id := first; id < len(entries); id++ {
		at := &c.last[entries[id].hash&uint32(len(c.last)-1)]
		c.before = append(c.before, *at)
		*at = int32(id) + 1
	}
}

// all are the entries that may have the hash, the last one first.
func (c *chains) all(hash uint32) iter.Seq[int] {
	return func(yield func(int) bool) {
		if len(c.last) == 0 {
			return
		}
		for id := c.last[hash&uint32(len(c.last)-1)]; id != 0; id = c.before[id-1] {
			if !yield(int(id - 1)) {
				return
			}
		}
	}
}
