package fuzzy

import "unsafe"

// unsafeString lends bytes that do not change while the string is used.
func unsafeString(b []byte) string { return unsafe.String(unsafe.SliceData(b), len(b)) }

// best is clean for a word that is known to lie in the text, without a trace:
// the same recurrence, done only where the letters can lie, since a search
// over a million names spends its time here. It gives up, with impossible, once it is sure that the score is below least, if that is
// set, and the most is known that the letters from each on can add.
func (a *aligner) best() int {
	m := len(a.word)
	if m == 1 {
		return a.bestLetter() + a.whole()
	}
	a.window()
	prev, cur := &a.rows[0], &a.rows[1]
	top := int32(impossible)
	for j := int(a.first[0]); j <= int(a.last[0]); j++ {
		prev[j] = impossible
		if matches(a.word[0], a.text[j]) {
			prev[j] = perLetter + int32(bonusAt(a.text, j, a.base))
			top = max(top, prev[j])
		}
	}
	for i := 1; i < m; i++ {
		if a.most != nil && top+a.most[i] < a.least {
			return impossible
		}
		top = a.bestRow(i, prev, cur)
		prev, cur = cur, prev
	}
	return int(top) + a.whole()
}

// bestRow fills in the best scores up to the ith letter, where that can lie, from those up to the one before; it returns the best.
func (a *aligner) bestRow(i int, prev, cur *[LongestText]int32) (top int32) {
	letter := a.word[i]
	from, to := int(a.first[i-1]), int(a.last[i-1]) // where the one before can lie
	top = impossible
	near, far := int32(impossible), int32(impossible)
	for j := from + 1; j <= int(a.last[i]); j++ {
		near--
		if k := j - 2; k >= from && k <= to {
			if p := prev[k]; p > impossible {
				near, far = max(near, p-1), max(far, p-gapMost)
			}
		}
		if j < int(a.first[i]) {
			continue
		}
		if !matches(letter, a.text[j]) {
			cur[j] = impossible
			continue
		}
		best := max(near, far)
		if j-1 <= to {
			best = max(best, prev[j-1]+inRun)
		}
		if best <= impossible/2 {
			cur[j] = impossible
			continue
		}
		cur[j] = best + perLetter + int32(bonusAt(a.text, j, a.base))
		top = max(top, cur[j])
	}
	return top
}

// window finds where each letter can lie at the earliest and at the latest.
func (a *aligner) window() {
	at := 0
	for i := range len(a.word) {
		at += find(a.word[i], unsafe.Slice(unsafe.StringData(a.text[at:]), len(a.text)-at))
		a.first[i] = uint16(at)
		at++
	}
	at = len(a.text)
	for i := len(a.word) - 1; i >= 0; i-- {
		for at--; !matches(a.word[i], a.text[at]); {
			at--
		}
		a.last[i] = uint16(at)
	}
}

// bestLetter scores a word of a single letter.
func (a *aligner) bestLetter() int {
	best := impossible
	for j := range len(a.text) {
		if matches(a.word[0], a.text[j]) {
			best = max(best, perLetter+int(bonusAt(a.text, j, a.base)))
		}
	}
	return best
}
