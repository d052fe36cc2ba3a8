package fuzzy

// shortestSlip is how many letters a word must have for a slip to be forgiven:
// of three letters, two are no evidence.
const shortestSlip = 4

// slip is a word as it may have been meant.
type slip struct {
	letters string
	mask    mask
	penalty int
}

// slipsOf lists what may have been meant by a word with one slip in it: two
// neighbours swapped, or one letter too many (it was doubled, or wrong). The
// first letter is not left out: hardly anybody gets that one wrong.
func slipsOf(typed string) (slips []slip) {
	if len(typed) < shortestSlip {
		return nil
	}
	add := func(letters string, penalty int) {
		slips = append(slips, slip{letters, maskOf(letters), penalty})
	}
	for i := range typed {
		if i+1 < len(typed) && typed[i] != typed[i+1] {
			swapped := []byte(typed)
			swapped[i], swapped[i+1] = swapped[i+1], swapped[i]
			add(string(swapped), slipPenalty)
		}
		if i > 0 && typed[i] != typed[i-1] || i > 1 {
			add(typed[:i]+typed[i+1:], slipPenalty+perLetter)
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
	for _, s := range w.slips {
		if s.mask&^have != 0 || !inOrder(s.letters, a.text) {
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
