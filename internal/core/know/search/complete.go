package search

import (
	"context"
	"slices"
	"strings"
	"unicode/utf8"

	"rooktrail/internal/core/file/text"
)

// mostNames is how many names complete a word at the most.
const mostNames = 30

// Complete finds names that go on a word which ends at an offset of a text: first those of the
// file, the nearest first, then symbols of the project.
func (s *Searcher) Complete(ctx context.Context, p string, doc *text.Document, at int, word string) (names []string) {
	seen := map[string]bool{word: true}
	add := func(name string) {
		if !seen[name] && len(names) < mostNames && len(name) > len(word) && strings.EqualFold(name[:len(word)], word) {
			seen[name] = true
			names = append(names, name)
		}
	}
	for _, name := range nearWords(doc, at, word) {
		add(name)
	}
	seen[wordThere(doc, at)] = true // which the index already knows, as it stands there
	if len(names) < mostNames && ctx.Err() == nil {
		for _, h := range s.Symbols(ctx, word, 4*mostNames) {
			add(h.Name)
		}
	}
	return names
}

// wordThere is the word of a text that an offset is in, beside, or behind.
func wordThere(doc *text.Document, at int) string {
	const longest = 1000 // bytes; no name is longer
	from := max(at-longest, 0)
	data := doc.Slice(from, at+longest)
	start, end := text.WordAround(data, at-from)
	return string(data[start:end])
}

// wordsAround is how far from an offset words are looked for, in bytes.
const wordsAround = 200_000

// nearWords are the words of a text that begin as one, in large or small letters, those with the
// same letters first, then the nearest to an offset.
func nearWords(doc *text.Document, at int, word string) []string {
	type found struct {
		name  string
		exact bool
		far   int
	}
	best := map[string]found{}
	from := max(at-wordsAround, 0)
	data := doc.Slice(from, at+wordsAround)
	at -= from
	for i := 0; i < len(data); {
		r, n := utf8.DecodeRune(data[i:])
		if !text.InWord(r) {
			i += n
			continue
		}
		start := i
		for i < len(data) && text.InWord(r) {
			i += n
			r, n = utf8.DecodeRune(data[i:])
		}
		name := string(data[start:i])
		if start <= at && at <= i || len(name) <= len(word) || !strings.EqualFold(name[:len(word)], word) {
			continue
		}
		far := max(start-at, at-i)
		if old, ok := best[name]; !ok || far < old.far {
			best[name] = found{name, strings.HasPrefix(name, word), far}
		}
	}
	all := make([]found, 0, len(best))
	for _, f := range best {
		all = append(all, f)
	}
	slices.SortFunc(all, func(a, b found) int {
		if a.exact != b.exact {
			if a.exact {
				return -1
			}
			return 1
		}
		return a.far - b.far
	})
	names := make([]string, len(all))
	for i, f := range all {
		names[i] = f.name
	}
	return names
}
