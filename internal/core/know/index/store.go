package index

import (
	"bytes"
	"crypto/sha256"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	_ "github.com/mattn/go-sqlite3" // the driver "sqlite3"

	"rooktrail/internal/core/know/project"
)

// storeVersion is part of the name of a store, so that programs of different
// versions do not get in each other's way. It goes up whenever the layout of
// the store changes. So is Extracted, which stands for what is kept in it.
const storeVersion = 11

// unusedFor is how long a store may lie unused before it is removed.
const unusedFor = 90 * 24 * time.Hour

// Content stands for the text of a file: a digest of it, together with how the
// file is read.
type Content [16]byte

// ContentOf is the content of a text that is read as the language.
func ContentOf(language string, text []byte) (c Content) {
	h := sha256.New()
	h.Write([]byte(language + "\x00"))
	h.Write(text)
	copy(c[:], h.Sum(nil))
	return c
}

// Known is what is known of a file.
type Known struct {
	Size, Modified int64
	Content        Content
	Summary        *Summary
}

// Store keeps, on disk, what compilers said of the files of one project. Several programs may use one store at
// the same time.
type Store struct {
	db   *sql.DB
	path string
}

const schema = `
	CREATE TABLE IF NOT EXISTS checked (id INTEGER PRIMARY KEY, folder TEXT, name TEXT, own BLOB, head BLOB, headSum BLOB, data BLOB, sum BLOB);
	CREATE INDEX IF NOT EXISTS checkedFolder ON checked (folder);
	CREATE TABLE IF NOT EXISTS used (at INTEGER);`

// fileName is that of what is kept of the project at root, with an ending for what it is. It says
// by which version of the program it was made.
func fileName(root, ending string) string { return project.Slug(root) + mark() + "." + ending }

// Version stands for how an index lies on disk, and for what is put into it: only a program of the same reads it.
func Version() string { return strings.TrimPrefix(mark(), ".") }

// mark stands in the name of what this version of the program made.
func mark() string { return fmt.Sprintf(".v%d-%s", storeVersion, Extracted) }

// OpenStore opens the store of the project at root in a folder of stores, or
// makes it. A store that is damaged is begun anew, and repaired is true then.
// Stores of other projects that have long not been used are removed.
func OpenStore(folder, root string) (s *Store, repaired bool, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, false, fmt.Errorf("making the folder of the index: %w", err)
	}
	name := fileName(root, "db")
	path := filepath.Join(folder, name)
	s, err = openStore(path)
	if Damaged(err) {
		if err := removeDatabase(path); err != nil {
			return nil, false, fmt.Errorf("removing the damaged index: %w", err)
		}
		repaired = true
		s, err = openStore(path)
	}
	if err != nil {
		return nil, repaired, err
	}
	removeUnused(folder, name, time.Now())
	return s, repaired, nil
}

// removeStore removes a store with the files that belong to it, and all else that is known of its project.
func removeStore(path string) error {
	return errors.Join(removeDatabase(path), removeBeside(path))
}

func removeDatabase(path string) error {
	for _, end := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(path + end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// removeBeside removes the segments and the listing of the project of a store.
func removeBeside(path string) error {
	stem := strings.TrimSuffix(path, ".db")
	var errs error
	for _, end := range []string{".segments", ".listing", ".snapshot"} { // the last one is that of an earlier version
		errs = errors.Join(errs, os.RemoveAll(stem+end))
	}
	return errs
}

// SegmentsFolder is where the segments of the project at root lie in a folder of indexes.
func SegmentsFolder(folder, root string) string {
	return filepath.Join(folder, fileName(root, "segments"))
}

// Remove closes the store and removes it from the disk.
func (s *Store) Remove() error {
	if err := errors.Join(s.db.Close(), removeStore(s.path)); err != nil {
		return fmt.Errorf("removing the index: %w", err)
	}
	return nil
}

// Older removes the stores that other versions of the program left for this
// project, and says whether there were any: at once those of an older layout; of
// those whose extractors read files otherwise, of which it cannot be told which is
// older, what has not been used for a while.
func (s *Store) Older() (found bool) {
	stem, _, _ := strings.Cut(filepath.Base(s.path), ".v")
	others, _ := filepath.Glob(filepath.Join(filepath.Dir(s.path), globbed(stem)+".v*.db")) // the pattern is well formed
	for _, path := range others {
		_, said, _ := strings.Cut(filepath.Base(path), ".v")
		number, _, _ := strings.Cut(strings.TrimSuffix(said, ".db"), "-")
		layout, err := strconv.Atoi(number)
		info, statErr := os.Stat(path)
		if path == s.path || err != nil || statErr != nil || layout > storeVersion {
			continue
		}
		if found = true; layout < storeVersion || time.Since(info.ModTime()) > otherFor {
			_ = removeStore(path) // what cannot be removed stays
		}
	}
	return found
}

// otherFor is how long a store of a program that reads files otherwise is kept
// after it was used.
const otherFor = 7 * 24 * time.Hour

// globbed writes a name so that it stands for itself in a pattern.
func globbed(name string) string {
	return strings.NewReplacer(`\`, `\\`, "*", `\*`, "?", `\?`, "[", `\[`).Replace(name)
}

// Damaged says whether an error of a store means that it is not sound; it is
// best removed then.
func Damaged(err error) bool {
	return err != nil && (strings.Contains(err.Error(), "malformed") || strings.Contains(err.Error(), "not a database"))
}

func openStore(path string) (*Store, error) {
	db, err := sql.Open("sqlite3", "file:"+escape(path)+"?_journal_mode=WAL&_busy_timeout=5000&_synchronous=NORMAL&_txlock=immediate")
	if err != nil {
		return nil, fmt.Errorf("opening the index at %s: %w", path, err)
	}
	s := &Store{db: db, path: path}
	if err := s.noteUse(time.Now()); err != nil {
		return nil, fmt.Errorf("opening the index at %s: %w", path, errors.Join(err, db.Close()))
	}
	return s, nil
}

// noteUse makes the tables if there are none and notes, once a day, that the store is
// used. Writing each time would cost more than most questions do.
func (s *Store) noteUse(now time.Time) error {
	var last int64
	err := s.db.QueryRow(`SELECT at FROM used`).Scan(&last)
	if err == nil && now.Sub(time.Unix(last, 0)).Abs() < 24*time.Hour {
		return nil
	}
	if Damaged(err) {
		return err
	}
	if _, err = s.db.Exec(schema); err == nil {
		_, err = s.db.Exec(`DELETE FROM used`)
	}
	if err == nil {
		_, err = s.db.Exec(`INSERT INTO used VALUES (?)`, now.Unix())
	}
	return err
}

// escape writes a path so that it can stand in a URI.
func escape(path string) string {
	return strings.NewReplacer("%", "%25", "?", "%3f", "#", "%23").Replace(path)
}

// removeUnused removes the stores beside the present one that no program has
// opened for a long time. What cannot be removed stays.
func removeUnused(folder, present string, now time.Time) {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return
	}
	for _, e := range entries {
		file := filepath.Join(folder, e.Name())
		stem := strings.TrimSuffix(strings.TrimSuffix(e.Name(), "-wal"), "-shm")
		stem = strings.TrimSuffix(stem, filepath.Ext(stem))
		if stem+".db" == present {
			continue
		}
		used := file
		if _, err := os.Stat(filepath.Join(folder, stem+".db")); err == nil {
			used = filepath.Join(folder, stem+".db") // which is noted when the project is opened
		}
		if info, err := os.Stat(used); err == nil && now.Sub(info.ModTime()) > unusedFor && !strings.HasPrefix(e.Name(), "languages-") {
			_ = os.RemoveAll(file)
		}
	}
}

// Close ends the use of the store.
func (s *Store) Close() error { return s.db.Close() }

// Path is the file that holds the store.
func (s *Store) Path() string { return s.path }

// Size is how many bytes the store takes on disk.
func (s *Store) Size() int64 {
	total := int64(0)
	for _, end := range []string{"", "-wal"} {
		if info, err := os.Stat(s.path + end); err == nil {
			total += info.Size()
		}
	}
	return total
}

// digestOf stands for the parts of a record.
func digestOf(parts ...[]byte) []byte {
	h := sha256.New()
	for _, p := range parts {
		h.Write(binary.AppendUvarint(nil, uint64(len(p))))
		h.Write(p)
	}
	return h.Sum(nil)[:8]
}

// keptChecks is how many results of checking a package are kept, as it was on
// different branches.
const keptChecks = 4

// Records returns what was kept of the packages in a folder, the newest first;
// see check.Shelf.
func (s *Store) Records(folder string) ([][]byte, error) { return s.kept(folder, "data", "sum") }

// Heads returns the heads of what was kept.
func (s *Store) Heads(folder string) ([][]byte, error) { return s.kept(folder, "head", "headSum") }

func (s *Store) kept(folder, column, sumColumn string) (records [][]byte, err error) {
	rows, err := s.db.Query(`SELECT name, own, `+column+`, `+sumColumn+` FROM checked WHERE folder = ? ORDER BY id DESC`, folder)
	if err != nil {
		return nil, fmt.Errorf("reading the index: %w", err)
	}
	defer rows.Close()
	for rows.Next() {
		var name, own, data, sum []byte
		if err := rows.Scan(&name, &own, &data, &sum); err != nil {
			return nil, fmt.Errorf("reading the index: %w", err)
		}
		if bytes.Equal(sum, digestOf([]byte(folder), name, own, data)) { // else the package is checked anew
			records = append(records, data)
		}
	}
	return records, rows.Err()
}

// Keep adds the result of checking a package, of which own stands for its files,
// with its head, and forgets older ones.
func (s *Store) Keep(folder, name string, own [16]byte, head, data []byte) error {
	sum := func(of []byte) []byte { return digestOf([]byte(folder), []byte(name), own[:], of) }
	tx, err := s.db.Begin()
	if err == nil {
		_, err = tx.Exec(`DELETE FROM checked WHERE folder = ? AND name = ? AND own = ?`, folder, name, own[:])
		if err == nil {
			_, err = tx.Exec(`INSERT INTO checked (folder, name, own, head, headSum, data, sum) VALUES (?, ?, ?, ?, ?, ?, ?)`, folder, name, own[:], head, sum(head), data, sum(data))
		}
		if err == nil {
			_, err = tx.Exec(`DELETE FROM checked WHERE folder = ?1 AND name = ?2 AND id NOT IN
				(SELECT id FROM checked WHERE folder = ?1 AND name = ?2 ORDER BY id DESC LIMIT ?3)`, folder, name, keptChecks)
		}
		if err == nil {
			err = tx.Commit()
		} else {
			err = errors.Join(err, tx.Rollback())
		}
	}
	if err != nil {
		return fmt.Errorf("writing the index: %w", err)
	}
	return nil
}
