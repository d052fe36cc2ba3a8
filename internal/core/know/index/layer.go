package index

// layer is a segment of which some files are live: how they are. Of each path no more than one is, in
// memory and all layers.
type layer struct {
	*Segment
	live bitset
	// confirmed are those of which it is known that they are how the files are.
	confirmed bitset
	alive     int // symbols of those that are live
}

func newLayer(s *Segment) *layer {
	l := &layer{Segment: s, live: newBitset(s.files), confirmed: newBitset(s.files), alive: s.symbols}
	for i := range s.files {
		l.live.add(i)
	}
	for _, f := range s.older() {
		l.drop(f)
	}
	return l
}

// drop says of a file that it is not that any more.
func (l *layer) drop(file int) {
	if l.live.has(file) {
		l.live.drop(file)
		l.alive -= l.record(file).count
	}
}

func (l *layer) revive(file int) {
	if !l.live.has(file) {
		l.live.add(file)
		l.alive += l.record(file).count
	}
}

// dropAll is drop for all that is known of the path of a file, the newest of which has that number.
func (l *layer) dropAll(file int) {
	path := l.path(file)
	for ; file < l.files && l.path(file) == path; file++ {
		l.drop(file)
	}
}

// of is the number of the file of a path that is live; ok is false if none is.
func (l *layer) of(path string) (file int, ok bool) {
	for file, ok = l.find(path, 0); ok && file < l.files && l.path(file) == path; file++ {
		if l.live.has(file) {
			return file, true
		}
	}
	return 0, false
}
