// Package chosen remembers what one chose to go to, and what one had typed, so
// that it ranks higher the next time. It is kept for each project in a small
// file in the user's data folder.
package chosen

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/disk/atomicfile"
)

// The limits of what is remembered.
const (
	mostEntries = 500
	mostQueries = 6
)

// Key is a file, or a symbol in it by its qualified name.
type Key struct {
	Path   string `json:"path"`
	Symbol string `json:"symbol,omitempty"`
}

// entry is what is remembered of one key.
type entry struct {
	Key
	Count int `json:"count"`
	// Last is when it was chosen last, in seconds since 1970.
	Last int64 `json:"last"`
	// Queries are what was typed, the latest last.
	Queries []string `json:"queries,omitempty"`
}

// Book holds what was chosen in a project. It may be used by several
// goroutines. The zero Book is empty and keeps nothing on disk.
type Book struct {
	mu      sync.RWMutex
	file    string
	entries map[Key]entry
}

// layout is the file; see docs/formats.md.
type layout struct {
	Version int     `json:"version"`
	Chosen  []entry `json:"chosen"`
}

const version = 1

// Open reads the book kept in a file, which need not be there yet. A file that
// cannot be read gives an empty book and an error; a damaged one is put aside
// under another name, so that nothing in it is lost.
func Open(file string) (*Book, error) {
	b := &Book{file: file, entries: map[Key]entry{}}
	read, err := load(file)
	if err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			err = errors.Join(err, os.Rename(file, file+".damaged"))
		} else {
			b.file = "" // what could not be read is not to be written over
		}
		return b, err
	}
	b.entries = read
	return b, nil
}

func load(file string) (map[Key]entry, error) {
	entries := map[Key]entry{}
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return entries, nil
	}
	var l layout
	if err == nil {
		err = json.Unmarshal(data, &l)
	}
	if err == nil && l.Version > version {
		err = fmt.Errorf("it was written by a newer program (version %d)", l.Version)
	}
	if err != nil {
		return nil, fmt.Errorf("reading what was chosen before from %s: %w", file, err)
	}
	for _, e := range l.Chosen {
		entries[e.Key] = e
	}
	return entries, nil
}

// Choose notes that a key was chosen after typing the query, and keeps it on
// disk together with what other programs noted there meanwhile.
func (b *Book) Choose(key Key, query string, now time.Time) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.entries == nil {
		b.entries = map[Key]entry{}
	}
	if b.file != "" {
		if disk, err := load(b.file); err == nil {
			merge(b.entries, disk)
		}
	}
	e := b.entries[key]
	e.Key, e.Count, e.Last = key, e.Count+1, now.Unix()
	if query = normal(query); query != "" {
		e.Queries = append(slices.DeleteFunc(e.Queries, func(q string) bool { return q == query }), query)
		e.Queries = e.Queries[max(0, len(e.Queries)-mostQueries):]
	}
	b.entries[key] = e
	b.forget()
	return b.save()
}

// merge takes in what another program wrote.
func merge(into, from map[Key]entry) {
	for k, theirs := range from {
		if ours, ok := into[k]; !ok || theirs.Last > ours.Last || theirs.Count > ours.Count {
			into[k] = theirs
		}
	}
}

// forget drops what was chosen longest ago, if there is too much.
func (b *Book) forget() {
	if len(b.entries) <= mostEntries {
		return
	}
	sorted := b.sorted()
	for _, e := range sorted[mostEntries:] {
		delete(b.entries, e.Key)
	}
}

// sorted are the entries, the latest first.
func (b *Book) sorted() []entry {
	return slices.SortedFunc(maps.Values(b.entries), func(x, y entry) int {
		return cmp.Or(cmp.Compare(y.Last, x.Last), cmp.Compare(x.Path, y.Path), cmp.Compare(x.Symbol, y.Symbol))
	})
}

func (b *Book) save() error {
	if b.file == "" {
		return nil
	}
	data, err := json.MarshalIndent(layout{version, b.sorted()}, "", " ")
	if err == nil {
		err = atomicfile.Write(b.file, data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping what was chosen: %w", err)
	}
	return nil
}

func normal(query string) string { return strings.Join(strings.Fields(strings.ToLower(query)), " ") }

// The most that having been chosen can be worth, in the points of package
// fuzzy: for any query about as much as the first letter of a word, so that a
// clearly better match stays above; for the same query somewhat more.
const (
	mostForAny  = 8
	mostForSame = 18
)

// Worth is how many points a key gains for a query because of what was chosen
// before.
func (b *Book) Worth(key Key, query string, now time.Time) int {
	b.mu.RLock()
	defer b.mu.RUnlock()
	e, ok := b.entries[key]
	if !ok {
		return 0
	}
	worth := min(e.Count, 4) + recency(now.Sub(time.Unix(e.Last, 0)))
	worth = min(worth, mostForAny)
	query = normal(query)
	if query == "" {
		return worth
	}
	for i, q := range e.Queries {
		switch {
		case q == query:
			return mostForSame - min(len(e.Queries)-1-i, 3)
		case strings.HasPrefix(q, query): // on the way to what was typed then
			worth = max(worth, mostForAny+2)
		}
	}
	return worth
}

func recency(ago time.Duration) int {
	switch {
	case ago < time.Hour:
		return 4
	case ago < 24*time.Hour:
		return 3
	case ago < 7*24*time.Hour:
		return 2
	case ago < 30*24*time.Hour:
		return 1
	}
	return 0
}

// Keys are all keys that were chosen, the latest first.
func (b *Book) Keys() []Key {
	b.mu.RLock()
	defer b.mu.RUnlock()
	keys := make([]Key, 0, len(b.entries))
	for _, e := range b.sorted() {
		keys = append(keys, e.Key)
	}
	return keys
}
