package fuzzy

import "unsafe"

// unsafeString lends bytes that do not change while the string is used.
func unsafeString(b []byte) string { return unsafe.String(unsafe.SliceData(b), len(b)) }

// best is clean for a word that is known to lie in the text, without a trace:
// the same recurrence, done only where the letters can lie, since a search
// over a million names spends its time here.
func (a *aligner) best() int {
	m, n := len(a.word), len(a.text)
	if m == 1 {
		return a.bestLetter() + a.whole()
	}
	var rows [2][LongestText]int32
	prev, cur := &rows[0], &rows[1]
	start := 0 // the earliest offset of the first letter, one further for each letter more
	for !matches(a.word[0], a.text[start]) {
		start++
	}
	for i := range m {
		letter := a.word[i]
		near, far := int32(impossible), int32(impossible)
		for j := start; j <= n-m+i; j++ {
			if i > 0 && j > start {
				near--
				if p := prev[j-2]; p > impossible {
					near, far = max(near, p-1), max(far, p-gapMost)
				}
			}
			if !matches(letter, a.text[j]) {
				cur[j] = impossible
				continue
			}
			best := int32(0)
			if i > 0 {
				best = max(near, far, prev[j-1]+inRun)
				if best <= impossible/2 {
					cur[j] = impossible
					continue
				}
			}
			cur[j] = best + perLetter + int32(bonusAt(a.text, j, a.base))
		}
		prev, cur = cur, prev
		start++
	}
	best := int32(impossible)
	for j := start - 1; j < n; j++ {
		best = max(best, prev[j])
	}
	return int(best) + a.whole()
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
