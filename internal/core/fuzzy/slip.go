package fuzzy

// shortestSlip is how many letters a word must have for a slip to be forgiven:
// of three letters, two are no evidence.
const shortestSlip = 4

// forgiving scores the word with one slip in it: one letter left out of the
// word (it was doubled, or wrong), or two neighbours swapped. The first letter
// is not left out: hardly anybody gets that one wrong. Every split of the word
// is tried, which is few; what is left must lie well in the text, or any long
// name would do.
func (a *aligner) forgiving() (score int, at []int, ok bool) {
	if len(a.word) < shortestSlip || !a.nearly() {
		return 0, nil, false
	}
	typed := a.word
	defer func() { a.word = typed }()
	score = impossible
	try := func(word string, penalty int) {
		a.word = word
		s, where, found := a.clean(true)
		if found && s-penalty > score && s*1000 >= perfect(len(word))*slipShare {
			score, at, ok = s-penalty, where, true
		}
	}
	for i := range typed {
		if i+1 < len(typed) && typed[i] != typed[i+1] {
			swapped := []byte(typed)
			swapped[i], swapped[i+1] = swapped[i+1], swapped[i]
			try(string(swapped), slipPenalty)
		}
		if i > 0 {
			try(typed[:i]+typed[i+1:], slipPenalty+perLetter)
		}
	}
	return score, at, ok
}

// nearly says quickly whether all letters of the word but one lie in the text
// in their order: a beginning of the word found from the left, and the rest
// without its first letter from the right, that do not overlap.
func (a *aligner) nearly() bool {
	m, n := len(a.word), len(a.text)
	var ends [longestWord + 1]int // ends[i]: where the first i letters end at the earliest
	known := 0
	for j := 0; j < n && known < m; j++ {
		if matches(a.word[known], a.text[j]) {
			known++
			ends[known] = j + 1
		}
	}
	if known >= m-1 {
		return true
	}
	from := n // where the letters behind i start at the latest
	for i := m - 1; i >= 0; i-- {
		if i <= known && ends[i] <= from {
			return true
		}
		from--
		for from >= 0 && !matches(a.word[i], a.text[from]) {
			from--
		}
		if from < 0 {
			return false
		}
	}
	return false
}
