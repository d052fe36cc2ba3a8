package fuzzy

import "strings"

// The weights. Only their proportions matter: a letter at a start is worth
// about as much as one that follows its neighbour, so that initials and
// beginnings are equally good ways to remember a name; a gap costs a little
// for each letter left out and never more than a start gains.
const (
	perLetter   = 8  // any letter that matches
	inBase      = 2  // more, in the base name
	atBase      = 11 // more, as the first letter of the base name
	atWord      = 8  // more, after a separator inside the base name
	atHump      = 7  // more, as the first letter of a hump: the A of RosterAssign
	atPart      = 5  // more, at a start before the base name
	inRun       = 7  // more, directly behind the letter matched before
	gapMost     = 4  // the most that a gap costs; a skipped byte costs 1
	wholeBase   = 14 // the word is the whole base name
	wholeStem   = 10 // the word is the base name up to its first dot
	allInitials = 14 // the word is the first letters of all words of the base name
	sameCase    = 1  // more, where its capitals are the same
	prefix      = 5  // the word is the beginning of the base name
	sameLetters = 40 // less, where one word of a query has the letters of another one; a part of it for some of them
	slipPenalty = 12 // for a forgiven slip

	// Of what the letters of a word could score at best, this share, in
	// thousandths, must be reached, or the letters are merely strewn about.
	cleanShare = 700
	slipShare  = 800 // of the letters that are left
	// From this share on nobody would doubt what was meant.
	closeShare = 800
)

const impossible = -1 << 20

// lengthPenalty puts the shorter of two texts first when the letters match
// equally well; folders weigh less than the base name.
func lengthPenalty(base, before, letters int) int {
	return -(max(base-letters, 0) / 3) - before/8
}

// perfect is what so many letters score at the beginning of a base name, side
// by side.
func perfect(letters int) int { return letters*(perLetter+inBase+inRun) + atBase - inRun }

// strewn says that a word of some length has its letters too far apart for
// anybody to have meant it.
func strewn(letters, score int) bool {
	return letters >= shortestSlip && score*1000 < perfect(letters)*cleanShare
}

// aligner matches one word of a query with one text.
type aligner struct {
	word  string
	text  string
	base  int
	bonus [LongestText]int8

	// What best needs besides: how low a score is of no use, the most that the letters from each on can add, or nil, and room.
	least       int32
	most        []int32
	rows        [2][LongestText]int32
	first, last [longestWord]uint16
}

func newAligner(word, text string, base int) *aligner {
	a := &aligner{word: word, text: text, base: base}
	for j := range len(text) {
		a.bonus[j] = bonusAt(text, j, base)
	}
	return a
}

// bonusAt is what a letter is worth at offset j because of where it stands.
func bonusAt[T string | []byte](text T, j, base int) int8 {
	if j < base {
		if j == 0 || class[text[j-1]] == separator || isHump(text, j) {
			return atPart
		}
		return 0
	}
	switch {
	case j == base:
		return atBase + inBase
	case class[text[j-1]] == separator && class[text[j]] != separator:
		return atWord + inBase
	case isHump(text, j):
		return atHump + inBase
	}
	return inBase
}

const (
	separator = iota
	lower
	upper
	digit
)

var class = func() (t [256]uint8) {
	for i := range t {
		switch c := byte(i); {
		case 'a' <= c && c <= 'z' || c >= 0x80:
			t[i] = lower
		case 'A' <= c && c <= 'Z':
			t[i] = upper
		case '0' <= c && c <= '9':
			t[i] = digit
		}
	}
	return t
}()

// isHump says whether a new part of a joined-up name begins at j: a capital
// behind a small letter, the last capital of several before a small letter
// (the S of HTTPServer), or a digit behind a letter.
func isHump[T string | []byte](text T, j int) bool {
	before, here := class[text[j-1]], class[text[j]]
	switch here {
	case upper:
		return before != upper || j+1 < len(text) && class[text[j+1]] == lower
	case digit:
		return before == lower || before == upper
	}
	return false
}

// matches says whether a letter of the query matches a byte of the text.
func matches(letter, b byte) bool {
	return letter == b || fold[b] == letter
}

// clean scores the word with every letter found. With traced it also returns
// the offsets of the letters.
func (a *aligner) clean(traced bool) (score int, at []int, ok bool) {
	m, n := len(a.word), len(a.text)
	if m > n {
		return 0, nil, false
	}
	var rows [2][LongestText]int
	var from [][]int16
	if traced {
		from = make([][]int16, m)
	}
	prev, cur := &rows[0], &rows[1]
	for i := range m {
		var trace []int16
		if traced {
			trace = make([]int16, n)
			from[i] = trace
		}
		if !a.row(i, prev, cur, trace) {
			return 0, nil, false
		}
		prev, cur = cur, prev
	}
	end := -1
	for j := m - 1; j < n; j++ {
		if prev[j] > impossible/2 && (end < 0 || prev[j] > prev[end]) {
			end = j
		}
	}
	if traced {
		at = make([]int, m)
		for i, j := m-1, end; i >= 0; i-- {
			at[i] = j
			j = int(from[i][j])
		}
	}
	score = prev[end] + a.whole()
	return score, at, !strewn(m, score)
}

// row fills cur with the best score of the first i+1 letters whose last one
// lies at each offset, given prev for one letter fewer; trace, if given, gets
// the offset of the letter before. It is false if no offset is possible.
func (a *aligner) row(i int, prev, cur *[LongestText]int, trace []int16) bool {
	m, n, letter := len(a.word), len(a.text), a.word[i]
	found := false
	near, far := impossible, impossible // the best letter before, with the gap up to here taken off
	nearAt, farAt := 0, 0
	for j := range n {
		if i > 0 && j >= 2 {
			near--
			if p := prev[j-2] - 1; p > near {
				near, nearAt = p, j-2
			}
			if p := prev[j-2] - gapMost; p > far {
				far, farAt = p, j-2
			}
		}
		if j < i || j > n-m+i || !matches(letter, a.text[j]) {
			cur[j] = impossible
			continue
		}
		best, at := 0, 0
		if i > 0 {
			best, at = near, nearAt
			if far > best {
				best, at = far, farAt
			}
			if j > 0 && prev[j-1]+inRun >= best {
				best, at = prev[j-1]+inRun, j-1
			}
			if best <= impossible/2 {
				cur[j] = impossible
				continue
			}
		}
		cur[j] = best + perLetter + int(a.bonus[j])
		if trace != nil {
			trace[j] = int16(at)
		}
		found = true
	}
	return found
}

// fewestInitials is how many first letters say what is meant: of two, too many names are made.
const fewestInitials = 3

// areInitials says whether a word is made of the first letters of all words of a base name, up to its first dot.
func areInitials(word, base string) bool {
	if len(word) < fewestInitials || len(base) <= len(word) || !matches(word[0], base[0]) {
		return false
	}
	n := 1
	for j := 1; j < len(base) && base[j] != '.'; j++ {
		if class[base[j]] == separator || !isHump(base, j) && class[base[j-1]] != separator {
			continue
		}
		if n == len(word) || !matches(word[n], base[j]) {
			return false
		}
		n++
	}
	return n == len(word)
}

// again is how a word lies among the letters that no other word has, where that is better than the score and the letters given.
func (a *aligner) again(word string, marked []bool, score int, at []int) (int, []int) {
	left := []byte(a.text)
	for j := range left {
		if marked[j] {
			left[j] = 0
		}
	}
	b := &aligner{word: word, text: string(left), base: a.base, bonus: a.bonus}
	if s, other, ok := b.clean(true); ok && s > score {
		return s, other
	}
	return score, at
}

// whole is what a word gains that is the whole base name, or its stem, or its initials. Of a word that names
// a container or a folder in full, and what is in it, that is the last part.
func (a *aligner) whole() int {
	word, base := a.word, a.text[a.base:]
	if len(word) > 0 && a.base > 0 {
		if i := strings.LastIndexByte(word, a.text[a.base-1]) + 1; i > 0 && a.stands(word[:i], a.base-i) {
			word = word[i:]
		}
	}
	if word == "" || len(word) > len(base) {
		return 0
	}
	if areInitials(word, base) {
		return allInitials
	}
	for i := range len(word) {
		if !matches(word[i], base[i]) {
			return 0
		}
	}
	switch {
	case word == base && strings.ToLower(word) != word:
		return wholeBase + sameCase
	case len(word) == len(base):
		return wholeBase
	case base[len(word)] == '.':
		return wholeStem
	case len(word) >= shortestSlip:
		return prefix
	}
	return 0
}

// stands says whether the letters stand in the text at the offset, where a part of it begins.
func (a *aligner) stands(letters string, at int) bool {
	if at < 0 || at > 0 && class[a.text[at-1]] != separator {
		return false
	}
	for i := range len(letters) {
		if !matches(letters[i], a.text[at+i]) {
			return false
		}
	}
	return true
}
