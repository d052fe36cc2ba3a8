// Package fuzzy finds names and paths from what a person half remembers of
// them, and says which letters matched.
//
// A query is one or more words, in any order, each of which must be found: its
// letters in their order, not necessarily side by side. A small letter matches
// both cases, a capital only itself. Of the many ways in which the letters can
// lie in a text the best is taken, by dynamic programming over (letter of the
// query, byte of the text) as in the local alignment of sequences: letters at
// the starts of words, humps and path parts and letters that follow each other
// count more, gaps count less, and the base name counts more than what stands
// before it. See score.go for the weights.
//
// A word of four letters or more that is not found as it stands may have one
// slip in it: a letter doubled, wrong, or swapped with its neighbour. (A letter
// that is missing needs no forgiving, since letters need not be side by side.)
// Whatever was found with a slip ranks below everything found without.
package fuzzy

import (
	"slices"
	"strings"
)

// Match is how a query lies in a text.
type Match struct {
	// Score orders matches of one query; a higher one is better.
	Score int
	// Slip says that the match needed a slip forgiven.
	Slip bool
	// Close says that the letters lie so close together, or so plainly at the
	// beginnings of words, that this is surely what was meant.
	Close bool
	// At holds the byte offsets of the matched letters, ascending.
	At []int
}

// Better orders two matches of one query: clean ones first, then by score.
func (m Match) Better(other Match) bool {
	if m.Slip != other.Slip {
		return !m.Slip
	}
	return m.Score > other.Score
}

// longestWord is how many bytes of one word of a query are looked at.
const longestWord = 64

// LongestText is how many bytes at the end of a text are looked at.
const LongestText = 512

// Query is what was typed, ready for matching. The zero Query is empty and
// matches everything with score 0. A Query may be used by several goroutines.
type Query struct{ words []word }

type word struct {
	letters string // as typed
	mask    mask
	joined  bool // holds a separator, so it reaches across containers or folders
	slips   []slip
}

// separators stand between containers, or folders, and what is in them.
const separators = "./\\:#"

// Parse takes a query apart into words at spaces.
func Parse(typed string) Query {
	var q Query
	for _, w := range strings.Fields(typed) {
		if len(w) > longestWord {
			w = w[:longestWord]
		}
		q.words = append(q.words, word{letters: w, mask: maskOf(w), joined: strings.ContainsAny(w, separators), slips: slipsOf(w)})
	}
	return q
}

// Empty says that nothing was typed.
func (q Query) Empty() bool { return len(q.words) == 0 }

// Reaches says that the query has something to say about more than a bare
// name: it has several words, or a separator inside one.
func (q Query) Reaches() bool { return len(q.words) > 1 || len(q.words) == 1 && q.words[0].joined }

// tail are the letters behind the last separator of a query that is one word; none if it has no separator.
func (q Query) tail() mask {
	if len(q.words) != 1 || !q.words[0].joined {
		return 0
	}
	letters := q.words[0].letters
	return maskOf(letters[strings.LastIndexAny(letters, separators)+1:])
}

// Match finds the best way in which the query lies in the text, whose base
// name begins at the byte offset base.
func (q Query) Match(text string, base int) (Match, bool) {
	skipped := 0
	if len(text) > LongestText {
		skipped = len(text) - LongestText
		text, base = text[skipped:], max(0, base-skipped)
	}
	m, shared, ok := match(q.words, text, base)
	if !ok {
		return Match{}, false
	}
	if shared {
		backwards := slices.Clone(q.words)
		slices.Reverse(backwards)
		if other, _, ok := match(backwards, text, base); ok && other.Score > m.Score {
			m = other
		}
	}
	m.Score += lengthPenalty(len(text)-base, base, q.letters())
	if n := len(m.At); len(q.words) == 1 && !q.words[0].joined && n > 0 {
		if m.At[0] < base && m.At[n-1] >= base {
			m.Close = false // one word is meant for a name, and this has it of several
		}
		if n >= surelySlip && breaks(text, m.At, base) {
			m.Close = false // hardly anybody leaves out letters within a word of a name
		}
	}
	for i := range m.At {
		m.At[i] += skipped
	}
	return m, true
}

// match finds how words lie in a text, one after the other; shared says that two of them had letters in common.
func match(words []word, text string, base int) (m Match, shared, ok bool) {
	var marked [LongestText]bool
	best, shortest := 0, longestWord
	for _, w := range words {
		a := newAligner(w.letters, text, base)
		score, at, ok := a.clean(true)
		if !ok {
			score, at, ok = a.forgiving(w, maskOf(text), true)
			m.Slip = true
		}
		if !ok {
			return Match{}, false, false
		}
		if n := taken(marked[:], at); n > 0 {
			shared = true
			score, at = a.again(w.letters, marked[:], score-sameLetters*n/max(n, min(len(at), shortest)), at)
		}
		m.Score += score
		best, shortest = best+perfect(len(w.letters)), min(shortest, len(at))
		for _, i := range at {
			marked[i] = true
		}
	}
	m.Close = !m.Slip && m.Score*1000 >= best*closeShare
	for i := range text {
		if marked[i] {
			m.At = append(m.At, i)
		}
	}
	return m, shared, true
}

// taken counts the letters that are marked.
func taken(marked []bool, at []int) (n int) {
	for _, i := range at {
		if marked[i] {
			n++
		}
	}
	return n
}

// breaks says whether some letter follows neither the one before nor stands at a start.
func breaks(text string, at []int, base int) bool {
	for k := 1; k < len(at); k++ {
		if at[k] != at[k-1]+1 && bonusAt(text, at[k], base) <= inBase {
			return true
		}
	}
	return false
}

// MatchClosely is Match for those texts only that match without a slip and so
// closely that nobody would doubt what was meant; most others cost little.
func (q Query) MatchClosely(text string, base int) (Match, bool) {
	for _, w := range q.words {
		if !inOrder(w.letters, text) {
			return Match{}, false
		}
	}
	m, ok := q.Match(text, base)
	return m, ok && m.Close
}

// letters counts the letters of all words.
func (q Query) letters() int {
	n := 0
	for _, w := range q.words {
		n += len(w.letters)
	}
	return n
}

// mask tells which letters, digits, dots and low lines a text holds, and which letters it holds
// twice, so that most texts are ruled out by one comparison.
type mask uint64

func maskOf[T string | []byte](s T) (m mask) {
	for i := 0; i < len(s); i++ {
		bit := letterBit[s[i]]
		if m&bit != 0 && bit < 1<<26 {
			bit <<= 26
		}
		m |= bit
	}
	return m
}

// letterBit gives each letter, in either case, a bit from 0 and each digit one
// from 52, behind which are the dot and the low line; the bits from 26 are for letters that come twice.
var letterBit = func() (t [256]mask) {
	for c := 'a'; c <= 'z'; c++ {
		t[c] = 1 << (c - 'a')
		t[c-'a'+'A'] = t[c]
	}
	for c := '0'; c <= '9'; c++ {
		t[c] = 1 << (52 + c - '0')
	}
	t['.'], t['_'] = 1<<62, 1<<63
	return t
}()

// fold is a byte's small letter, for ASCII.
var fold = func() (t [256]byte) {
	for i := range t {
		t[i] = byte(i)
	}
	for c := 'A'; c <= 'Z'; c++ {
		t[c] = byte(c - 'A' + 'a')
	}
	return t
}()
