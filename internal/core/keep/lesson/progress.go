package lesson

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"

	"rooktrail/internal/core/disk/atomicfile"
)

// Progress is how far one came with the lessons. The zero Progress is the beginning, kept nowhere.
type Progress struct {
	file string
	at   map[string]int // the tasks done, by the names of lessons
}

// Open reads how far one came from a file; one that is not there is the beginning. The error says why it
// cannot be read; the Progress is good to use all the same.
func Open(file string) (*Progress, error) {
	p := &Progress{file: file}
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return p, nil
	}
	if err == nil {
		err = json.Unmarshal(data, &p.at)
	}
	if err != nil {
		return p, fmt.Errorf("reading how far the lessons are, in %s: %w; they begin anew", file, err)
	}
	return p, nil
}

// At is how many tasks of a lesson were done.
func (p *Progress) At(l *Lesson) int { return min(max(p.at[l.Name], 0), len(l.Tasks)) }

// Done says whether all tasks of a lesson were done.
func (p *Progress) Done(l *Lesson) bool { return p.At(l) == len(l.Tasks) }

// Next is the first lesson of which not all was done; ok is false if there is none.
func (p *Progress) Next() (l Lesson, ok bool) {
	for _, l := range All() {
		if !p.Done(&l) {
			return l, true
		}
	}
	return l, false
}

// Reach notes that so many tasks of a lesson are done. Save writes it.
func (p *Progress) Reach(l *Lesson, tasks int) {
	if p.at == nil {
		p.at = map[string]int{}
	}
	p.at[l.Name] = tasks
}

// Job gives what writes how far one is now into the file.
func (p *Progress) Job() func() error {
	data, err := json.Marshal(p.at)
	file := p.file
	return func() error {
		if file == "" {
			return nil
		}
		if err == nil {
			err = atomicfile.Write(file, append(data, '\n'), 0o600)
		}
		if err != nil {
			return fmt.Errorf("keeping how far the lessons are: %w", err)
		}
		return nil
	}
}
