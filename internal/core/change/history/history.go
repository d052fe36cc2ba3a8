// Package history keeps, from one day to the next, what was done to the texts of a project, so
// that it can still be undone, and what was copied last. It lies in a folder of the user's own.
package history

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"time"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/file/text"
)

// version is that of the form in which it is kept.
const version = 1

// Bounds on what is kept: of one file, of what was copied, how many files, and for how long.
const (
	largest   = 8 << 20 // bytes
	mostFiles = 500
	forgotten = 60 * 24 * time.Hour
)

// Store keeps histories in a folder, which is made when the first is kept.
type Store struct{ folder string }

// NewStore keeps histories in a folder.
func NewStore(folder string) *Store { return &Store{folder} }

// kept is a history as it lies on disk.
type kept struct {
	Version int    `json:"version"`
	Path    string `json:"path"`
	// Text stands for the text as it was left.
	Text    string         `json:"text"`
	History *write.History `json:"history"`
}

func digest(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:])
}

func (st *Store) file(path string) string {
	return filepath.Join(st.folder, digest([]byte(path))[:20]+".json")
}

// Keep keeps what was done to the text of a file, which is on disk as it is now. A history that is
// too large is not kept; the one before it is gone then, too.
func (st *Store) Keep(path string, doc *text.Document, h *write.History) error {
	data, err := json.Marshal(kept{version, path, digest(doc.Bytes()), h})
	if err == nil && (h == nil || len(data) > largest) {
		return st.forget(path)
	}
	if err == nil {
		err = atomicfile.Write(st.file(path), data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping what can be undone in %s: %w", path, err)
	}
	st.clear()
	return nil
}

func (st *Store) forget(path string) error {
	if err := os.Remove(st.file(path)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("forgetting what can be undone in %s: %w", path, err)
	}
	return nil
}

// Find gives what was done to the text of a file, if that is still as it was left; nil if it is not,
// or nothing is known.
func (st *Store) Find(path string, doc *text.Document) *write.History {
	data, err := os.ReadFile(st.file(path))
	var k kept
	if err != nil || json.Unmarshal(data, &k) != nil || k.Version != version || k.Path != path || k.Text != digest(doc.Bytes()) {
		return nil // undoing then begins anew
	}
	return k.History
}

// clear removes what was kept long ago, and the oldest if there is very much.
func (st *Store) clear() {
	atomicfile.Clear(st.folder, ".json", copies)
	files, _ := filepath.Glob(filepath.Join(st.folder, "*.json")) // the pattern is well formed
	age := map[string]time.Time{}
	for _, f := range files {
		if info, err := os.Stat(f); err == nil {
			age[f] = info.ModTime()
		}
	}
	slices.SortFunc(files, func(a, b string) int { return age[b].Compare(age[a]) })
	for i, f := range files {
		if i >= mostFiles || time.Since(age[f]) > forgotten {
			_ = os.Remove(f) // it is of no use to anybody
		}
	}
}

const copies = "copies"

// KeepCopies keeps what was cut or copied, the latest first.
func (st *Store) KeepCopies(all []string) error {
	size := 0
	for i, c := range all {
		if size += len(c); size > largest {
			all = all[:i]
			break
		}
	}
	data, err := json.Marshal(all)
	if err == nil {
		err = atomicfile.Write(filepath.Join(st.folder, copies), data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping what was copied: %w", err)
	}
	return nil
}

// Copies are what was cut or copied, the latest first.
func (st *Store) Copies() (all []string) {
	data, err := os.ReadFile(filepath.Join(st.folder, copies))
	if err != nil || json.Unmarshal(data, &all) != nil {
		return nil // nothing was, or it is of no use
	}
	return all
}
