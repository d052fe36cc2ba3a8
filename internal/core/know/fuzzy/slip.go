package fuzzy

// shortestSlip is how many letters a word must have for a slip to be forgiven:
// of three letters, two are no evidence.
const shortestSlip = 4

// A slip is forgiven in a name of up to longestSlip times as many letters as were typed, or in any of up to shortName: in a long one,
// some of the letters lie somewhere.
const (
	longestSlip = 3
	shortName   = 24
)

// slip is a word as it may have been meant.
type slip struct {
	letters string
	mask    mask
	penalty int
	// before and behind are how many letters of what was typed stand unchanged at its beginning and its end.
	before, behind int
}

// slipsOf lists what may have been meant by a word with one slip in it: two
// neighbours swapped, or one letter too many (it was doubled, or wrong). The
// first letter is not left out: hardly anybody gets that one wrong.
func slipsOf(typed string) (slips []slip) {
	if len(typed) < shortestSlip {
		return nil
	}
	add := func(letters string, penalty, before, behind int) {
		slips = append(slips, slip{letters, maskOf(letters), penalty, before, behind})
	}
	for i := range typed {
		if i+1 < len(typed) && typed[i] != typed[i+1] {
			swapped := []byte(typed)
			swapped[i], swapped[i+1] = swapped[i+1], swapped[i]
			add(string(swapped), slipPenalty, i, len(typed)-i-2)
		}
		if i > 0 && typed[i] != typed[i-1] || i > 1 {
			add(typed[:i]+typed[i+1:], slipPenalty+perLetter, i, len(typed)-i-1)
		}
	}
	return slips
}

// forgiving scores the word with one slip in it, in a text that has the given
// letters. What was meant must lie well in the text, or any long name would
// do. With traced it also returns the offsets of the letters.
func (a *aligner) forgiving(w word, have mask, traced bool) (score int, at []int, ok bool) {
	score = impossible
	var meant string
	before, behind := beginning(w.letters, a.text), ending(w.letters, a.text)
	for _, s := range w.slips {
		if s.before > before || s.behind > behind || s.mask&^have != 0 || !inOrder(s.letters, a.text) {
			continue
		}
		a.word = s.letters
		found := a.best()
		if found-s.penalty > score && found*1000 >= perfect(len(s.letters))*slipShare {
			score, meant, ok = found-s.penalty, s.letters, true
		}
	}
	if ok && traced {
		a.word = meant
		_, at, ok = a.clean(true)
	}
	return score, at, ok
}

// beginning is how many letters at the beginning of a word lie in the text in their order.
func beginning(word, text string) int {
	n := 0
	for j := 0; j < len(text) && n < len(word); j++ {
		if matches(word[n], text[j]) {
			n++
		}
	}
	return n
}

// ending is the same for the end of the word.
func ending(word, text string) int {
	n := 0
	for j := len(text) - 1; j >= 0 && n < len(word); j-- {
		if matches(word[len(word)-1-n], text[j]) {
			n++
		}
	}
	return n
}
