// Package habit is what one does with the program: how often each command was done by its key and how
// often by its name, and when last. It is kept for the user, not for a project, and leaves this machine
// by nobody's doing but the user's.
package habit

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"slices"
	"sync"
	"time"

	"rooktrail/internal/core/disk/atomicfile"
)

// Use is how one command was used.
type Use struct {
	// Keyed is how often it was done by its key, Named how often by its name.
	Keyed int `json:"keyed,omitempty"`
	Named int `json:"named,omitempty"`
	// Missed is how often it would have done at once what was done otherwise, Told how often that was said.
	Missed int `json:"missed,omitempty"`
	Told   int `json:"told,omitempty"`
	// Last is when it was done last, Called when by its name, Shown when it was last said that it would have
	// helped; zero if never.
	Last   time.Time `json:"last,omitzero"`
	Called time.Time `json:"called,omitzero"`
	Shown  time.Time `json:"shown,omitzero"`
}

// and is both of two records of one command, made apart from each other.
func (u Use) and(v Use) Use {
	return Use{Keyed: u.Keyed + v.Keyed, Named: u.Named + v.Named, Missed: u.Missed + v.Missed, Told: u.Told + v.Told,
		Last: later(u.Last, v.Last), Called: later(u.Called, v.Called), Shown: later(u.Shown, v.Shown)}
}

func later(a, b time.Time) time.Time {
	if a.Before(b) {
		return b
	}
	return a
}

// Book is the record of all commands. It may be used by several goroutines; the zero Book is empty and
// kept nowhere.
type Book struct {
	mu    sync.Mutex
	file  string
	kept  map[string]Use // as the file has it
	fresh map[string]Use // what has come since
}

// Open reads a book from its file; one that is not there is empty. The error says why a file cannot be
// read; the Book is good to use all the same, and writes over it.
func Open(file string) (*Book, error) {
	b := &Book{file: file}
	kept, err := read(file)
	b.kept = kept
	return b, err
}

func read(file string) (map[string]Use, error) {
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading what was done with the program: %w", err)
	}
	var kept map[string]Use
	if err := json.Unmarshal(data, &kept); err != nil {
		return nil, fmt.Errorf("reading what was done with the program, in %s: %w; it begins anew", file, err)
	}
	return kept, nil
}

// IsNew says that nothing was ever done with the program, as far as is kept.
func (b *Book) IsNew() bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.file != "" && len(b.kept)+len(b.fresh) == 0
}

// Did notes that a command was done, by its name or else by its key.
func (b *Book) Did(command string, byName bool, when time.Time) {
	b.mu.Lock()
	defer b.mu.Unlock()
	u := Use{Keyed: 1, Last: when}
	if byName {
		u = Use{Named: 1, Last: when, Called: when}
	}
	b.add(command, u)
}

func (b *Book) add(command string, u Use) {
	if b.fresh == nil {
		b.fresh = map[string]Use{}
	}
	b.fresh[command] = b.fresh[command].and(u)
}

// Of is how a command was used.
func (b *Book) Of(command string) Use {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.kept[command].and(b.fresh[command])
}

// Recent are the commands that were done by their names, the latest first, at most so many.
func (b *Book) Recent(most int) (commands []string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	when := map[string]time.Time{}
	for _, all := range []map[string]Use{b.kept, b.fresh} {
		for c, u := range all {
			if !u.Called.IsZero() {
				when[c] = later(when[c], u.Called)
			}
		}
	}
	for c := range when {
		commands = append(commands, c)
	}
	slices.SortFunc(commands, func(x, y string) int {
		return cmp.Or(when[y].Compare(when[x]), cmp.Compare(x, y))
	})
	return commands[:min(most, len(commands))]
}

// Save adds what has come since to the file, in which another program may have written meanwhile.
func (b *Book) Save() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.file == "" || len(b.fresh) == 0 {
		return nil
	}
	kept, err := read(b.file)
	if err != nil || kept == nil {
		kept = map[string]Use{}
	}
	for c, u := range b.fresh {
		kept[c] = kept[c].and(u)
	}
	data, err := json.MarshalIndent(kept, "", "  ")
	if err != nil {
		return fmt.Errorf("writing what was done with the program: %w", err)
	}
	if err := atomicfile.Write(b.file, append(data, '\n'), 0o600); err != nil {
		return fmt.Errorf("writing what was done with the program: %w", err)
	}
	b.kept, b.fresh = kept, nil
	return nil
}
