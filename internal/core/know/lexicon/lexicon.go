// Package lexicon finds what the program itself offers, such as its commands and settings, by what
// people call it.
//
// Each entry has a title and other phrases for it. What is typed is compared with the phrases word by
// word, since people say what they want in words, not in letters: little words are left out, endings cut
// off, and a word may be the beginning of one, or have a slip in it. A word that few entries have says
// more than one that many have, as in the search of documents (inverse document frequency).
package lexicon

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"rooktrail/internal/core/know/fuzzy"
)

// Entry is something that can be asked for.
type Entry struct {
	// Title is its name, as it is shown.
	Title string
	// Phrases are what else people call it.
	Phrases []string
}

// Grade says how well what was typed names an entry; a higher one is better.
type Grade int

// The grades.
const (
	// Some of the words are there.
	Some Grade = iota + 1
	// Letters of the words lie in the title in their order.
	Letters
	// Slips: all words are there, if slips in them are forgiven.
	Slips
	// Scattered: all words are there, in different phrases.
	Scattered
	// Within: all words are in one phrase.
	Within
	// Begins: they are the beginning of a phrase.
	Begins
	// Names: they are the phrase.
	Names
)

// Hit is an entry that was found.
type Hit struct {
	// Index is the number of the entry, from 0.
	Index int
	Grade Grade
	// At are the byte offsets in its title that were found, ascending.
	At []int
	// Phrase is that by which it was found, "" if it is the title.
	Phrase string
	score  float64
}

// Lexicon is a list of entries, made ready. It is safe for use by several goroutines.
type Lexicon struct {
	entries []Entry
	phrases [][][]string   // of each entry the words of each phrase, that of the title first
	holders map[string]int // how many entries have a word
}

// New makes a lexicon of entries.
func New(entries []Entry) *Lexicon {
	l := &Lexicon{entries: entries, holders: map[string]int{}}
	for _, e := range entries {
		var phrases [][]string
		seen := map[string]bool{}
		for _, p := range append([]string{e.Title}, e.Phrases...) {
			words := stems(p)
			phrases = append(phrases, words)
			for _, w := range words {
				if !seen[w] {
					seen[w] = true
					l.holders[w]++
				}
			}
		}
		l.phrases = append(l.phrases, phrases)
	}
	return l
}

// weight is how much a word says: the fewer entries have it, the more.
func (l *Lexicon) weight(word string) float64 {
	return math.Log(1 + float64(len(l.entries))/float64(1+l.holders[word]))
}

// Find are the entries that what was typed may mean, the likeliest first; entries that are equally
// likely stay in their order.
func (l *Lexicon) Find(typed string) []Hit {
	words := stems(typed)
	if len(words) == 0 {
		return nil
	}
	letters := fuzzy.Parse(typed)
	var hits []Hit
	for i := range l.entries {
		if h, ok := l.match(i, words, letters); ok {
			hits = append(hits, h)
		}
	}
	slices.SortStableFunc(hits, func(a, b Hit) int {
		return cmp.Or(cmp.Compare(b.Grade, a.Grade), cmp.Compare(b.score, a.score))
	})
	return plain(hits)
}

// plain leaves out those that were found by some words only where others have all of them.
func plain(hits []Hit) []Hit {
	if len(hits) == 0 || hits[0].Grade < Within {
		return hits
	}
	return slices.DeleteFunc(hits, func(h Hit) bool { return h.Grade == Some })
}

// match compares what was typed with one entry.
func (l *Lexicon) match(i int, words []string, letters fuzzy.Query) (Hit, bool) {
	best := Hit{Index: i}
	better := func(g Grade, score float64, phrase int) {
		if g > best.Grade || g == best.Grade && score > best.score {
			best.Grade, best.score, best.Phrase = g, score, ""
			if phrase > 0 {
				best.Phrase = l.entries[i].Phrases[phrase-1]
			}
		}
	}
	found := map[string]bool{}
	for p, phrase := range l.phrases[i] {
		if g, score := l.compare(words, phrase); g > 0 {
			better(g, score, p)
		}
		for _, w := range words {
			found[w] = found[w] || has(phrase, w)
		}
	}
	if best.Grade < Within {
		l.scattered(i, words, found, better)
	}
	if m, ok := letters.Match(l.entries[i].Title, 0); ok && m.Close && !m.Slip && len(m.At) > 1 {
		better(Letters, float64(m.Score), 0)
		best.At = m.At
	}
	if best.At == nil {
		best.At = at(l.entries[i].Title, words)
	}
	return best, best.Grade > 0
}

// scattered are those of the words that are anywhere in an entry, or that one means with a slip.
func (l *Lexicon) scattered(i int, words []string, found map[string]bool, better func(Grade, float64, int)) {
	all, some, whole, slips := true, 0.0, 0.0, true
	for _, w := range words {
		whole += l.weight(w)
		if found[w] {
			some += l.weight(w)
			continue
		}
		all = false
		slips = slips && l.slipped(i, w)
	}
	switch {
	case all:
		better(Scattered, some, 0)
	case slips:
		better(Slips, some, 0)
	case some >= whole/2:
		better(Some, some/whole, 0)
	}
}

// slipped says that an entry has a word that differs by one slip.
func (l *Lexicon) slipped(i int, word string) bool {
	return slices.ContainsFunc(l.phrases[i], func(phrase []string) bool {
		return slices.ContainsFunc(phrase, func(w string) bool { return oneSlip(word, w) })
	})
}

// compare says how the words lie in a phrase; 0 if not all of them do.
func (l *Lexicon) compare(words, phrase []string) (Grade, float64) {
	if slices.Equal(words, phrase) {
		return Names, 1
	}
	if begins(words, phrase) {
		return Begins, float64(len(words)) / float64(len(phrase))
	}
	var within, whole float64
	for _, w := range phrase {
		whole += l.weight(w)
	}
	for _, w := range words {
		i := slices.IndexFunc(phrase, func(p string) bool { return strings.HasPrefix(p, w) })
		if i < 0 {
			return 0, 0
		}
		within += l.weight(phrase[i]) * float64(len(w)) / float64(len(phrase[i]))
	}
	return Within, within / whole
}

// begins says that the words are the first of a phrase; the last of them may be the beginning of one.
func begins(words, phrase []string) bool {
	last := len(words) - 1
	return len(words) <= len(phrase) && slices.Equal(words[:last], phrase[:last]) && strings.HasPrefix(phrase[last], words[last])
}

// has says that a phrase has a word that begins so.
func has(phrase []string, word string) bool {
	return slices.ContainsFunc(phrase, func(p string) bool { return strings.HasPrefix(p, word) })
}

// at are the bytes of a title whose words begin with one of the words.
func at(title string, words []string) (at []int) {
	lower := strings.ToLower(title)
	for start := 0; start < len(lower); {
		end := start
		for end < len(lower) && inWord(lower[end]) {
			end++
		}
		for _, w := range words {
			if s := stem(lower[start:end]); s != "" && strings.HasPrefix(s, w) {
				for i := start; i < min(start+len(w), end); i++ {
					at = append(at, i)
				}
				break
			}
		}
		start = end + 1
	}
	return at
}
