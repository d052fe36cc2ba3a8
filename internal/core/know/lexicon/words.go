package lexicon

import (
	"slices"
	"strings"
)

// little are words that say nothing about what one wants.
var little = strings.Fields("a an and the this that these it its is are be of to in on for from at by with my me i do does did can could please want how here")

// stems are the words of a phrase, without the little ones unless there are no others, and without
// their endings.
func stems(phrase string) []string {
	all := strings.FieldsFunc(strings.ToLower(phrase), func(r rune) bool { return r < 0x80 && !inWord(byte(r)) })
	words := slices.DeleteFunc(slices.Clone(all), func(w string) bool { return slices.Contains(little, w) })
	if len(words) == 0 {
		words = all
	}
	for i, w := range words {
		words[i] = stem(w)
	}
	return words
}

// inWord says whether a byte belongs to a word.
func inWord(b byte) bool {
	return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9' || b >= 0x80
}

// endings are cut off, the first that fits, so that "references", "usages" and "renaming" are found by
// "reference", "usage" and "rename"; what is left has three letters at least.
var endings = []string{"ings", "ing", "ies", "ied", "es", "ed", "s", "e", "y"}

// stem is a word without its ending, and in one of the two ways in which English is spelled.
func stem(w string) string {
	for _, e := range endings {
		if cut, ok := strings.CutSuffix(w, e); ok && len(cut) >= 3 && !strings.HasSuffix(w, "ss") {
			w = cut
			break
		}
	}
	if n := len(w); n > 4 && w[n-1] == w[n-2] && !strings.HasSuffix(w, "ll") && !strings.HasSuffix(w, "ss") {
		w = w[:n-1] // "splitting", "zoomed" stay what they are but for the letter that was doubled
	}
	w = strings.Replace(w, "our", "or", 1)
	if cut, ok := strings.CutSuffix(w, "is"); ok && len(cut) >= 4 {
		w = cut + "iz"
	}
	return w
}

// oneSlip says that two words of four letters or more differ by one letter that is missing, too much,
// wrong, or swapped with its neighbour.
func oneSlip(a, b string) bool {
	if len(a) > len(b) {
		a, b = b, a
	}
	if len(a) < 4 || len(b)-len(a) > 1 {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	if len(a) < len(b) {
		return a[i:] == b[i+1:]
	}
	if i == len(a) || a[i+1:] == b[i+1:] {
		return true
	}
	return i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
}
