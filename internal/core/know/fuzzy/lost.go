package fuzzy

// What texts lose of what a group can score at the most is told for 64 of them at a time: a letter that does not lie behind the one
// before it in a base name, or begins no word of it, scores less there, and most names have such letters here and there. The
// losses are added up in units, as numbers whose bits lie in planes, one bit a text.

const (
	lossUnit = 7 // what a letter loses is 0, or little more than one or two of these
	planes   = 6
)

// lost is how many units each of 64 texts loses; over are those that lose more than the planes can hold.
type lost struct {
	plane [planes]uint64
	over  uint64
}

// add counts units more for some texts.
func (l *lost) add(some uint64, units int) {
	for at := 0; units > 0; at, units = at+1, units>>1 {
		if units&1 == 0 {
			continue
		}
		carry := some
		for k := at; k < planes && carry != 0; k++ {
			l.plane[k], carry = l.plane[k]^carry, l.plane[k]&carry
		}
		l.over |= carry
	}
}

// than are the texts that lose more than so many units.
func (l *lost) than(units int) uint64 {
	if units >= 1<<planes-1 {
		return l.over
	}
	more, same := l.over, ^uint64(0)
	for k := planes - 1; k >= 0; k-- {
		if units>>k&1 == 0 {
			more |= same & l.plane[k]
			same &^= l.plane[k]
		} else {
			same &= l.plane[k]
		}
	}
	return more
}

// near leaves those texts of a group that may be good enough for the only word of a query.
func (s *scanner) near(g group, some chosen, is *common) chosen {
	spare := (s.atMost(is) - s.out.least) / lossUnit
	w := &s.q.words[0]
	if spare >= 2*len(w.letters) {
		return some
	}
	for place := range some {
		if some[place] == 0 {
			continue
		}
		var l lost
		if s.mayHead(w, w.letters[0], is) {
			l.add(^g.heading(w.letters[0], place), (mostHead-mostOther)/lossUnit)
		}
		for i := 1; i < len(w.letters); i++ {
			letter, top := w.letters[i], s.furtherAtMost(w, i, is)
			apart := ^g.word(2*letterRows+int(pairOf(w.letters[i-1], letter)), place)
			heads := uint64(0)
			if s.mayHead(w, letter, is) {
				heads = g.heading(letter, place)
			}
			l.add(^apart&^heads, max(0, top-mostRun)/lossUnit)
			l.add(apart&heads, (top-(mostHead-1))/lossUnit)
			l.add(apart&^heads, (top-(mostOther-1))/lossUnit)
		}
		some[place] &^= l.than(max(spare, 0))
	}
	return some
}
