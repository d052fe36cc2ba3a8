package index

import "rooktrail/internal/core/file/facts"

// kinds says of a name and a kind whether no symbol is of both, so that whoever asks about each word of a file need not look for
// every one: a Bloom filter, in blocks of which only one is looked at for each question. Most of what is not there it knows not to be
// there.
type kinds []byte

const (
	kindsBlock = 64 // bytes of a block
	kindsBits  = 10 // for each symbol
	kindsMarks = 6  // bits that are set for each
)

// kindsSize is how many bytes there are for so many symbols.
func kindsSize(symbols int) int {
	if symbols == 0 {
		return 0
	}
	return (symbols*kindsBits/8/kindsBlock + 1) * kindsBlock
}

// kindsAt is where the block of a name and a kind begins among so many bytes, and the bits in it, nine for each.
func kindsAt(name []byte, kind facts.Kind, size int) (block int, marks uint64) {
	const prime = 1099511628211 // of the hash FNV-1a
	h := uint64(14695981039346656037)
	for _, c := range name {
		h = (h ^ uint64(c)) * prime
	}
	h = (h ^ uint64(kind)) * prime
	h ^= h >> 32
	h *= 0x9e3779b97f4a7c15
	return int(h>>32*uint64(size/kindsBlock)>>32) * kindsBlock, h * 0xd6e8feb86659fd93 >> 8
}

func (k kinds) add(name []byte, kind facts.Kind) {
	block, marks := kindsAt(name, kind, len(k))
	for range kindsMarks {
		k[block+int(marks&511)/8] |= 1 << (marks & 7)
		marks >>= 9
	}
}

// mayHave says whether some symbol of the segment may be of a name and a kind.
func (s *Segment) mayHave(name string, kind facts.Kind) bool {
	size := s.sections[inKinds].size
	if size == 0 {
		return false
	}
	at, marks := kindsAt([]byte(name), kind, size)
	block := s.bytes(inKinds, at, kindsBlock)
	if block == nil {
		return false // it is damaged, which is said
	}
	for range kindsMarks {
		if block[int(marks&511)/8]&(1<<(marks&7)) == 0 {
			return false
		}
		marks >>= 9
	}
	return true
}
