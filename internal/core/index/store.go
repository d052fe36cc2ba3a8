package index

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	_ "github.com/mattn/go-sqlite3" // the driver "sqlite3"

	"rooktrail/internal/core/facts"
)

// storeVersion is part of the name of a store, so that programs of different
// versions do not get in each other's way. It goes up whenever the layout of
// the store changes, or what is kept in it would come out differently.
const storeVersion = 1

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

// Known is what a store knows about a file.
type Known struct {
	Size, Modified int64
	Content        Content
	Symbols        []Symbol
}

// Store keeps, on disk, the symbols of the files of one project by their
// content, so that what was read once need not be parsed again, not even after
// switching to another branch and back. Several programs may use one store at
// the same time.
type Store struct {
	db   *sql.DB
	path string
}

const schema = `
	CREATE TABLE IF NOT EXISTS files (path BLOB PRIMARY KEY, size INTEGER, modified INTEGER, content BLOB) WITHOUT ROWID;
	CREATE TABLE IF NOT EXISTS contents (content BLOB PRIMARY KEY, symbols BLOB) WITHOUT ROWID;
	CREATE TABLE IF NOT EXISTS used (at INTEGER);`

// OpenStore opens the store of the project at root in a folder of stores, or
// makes it. A store that is damaged is begun anew, and repaired is true then.
// Stores of other projects that have long not been used are removed.
func OpenStore(folder, root string) (s *Store, repaired bool, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, false, fmt.Errorf("making the folder of the index: %w", err)
	}
	sum := sha256.Sum256([]byte(root))
	name := fmt.Sprintf("%s-%x.v%d.db", tame(filepath.Base(root)), sum[:6], storeVersion)
	path := filepath.Join(folder, name)
	s, err = openStore(path)
	if damaged(err) {
		for _, end := range []string{"", "-wal", "-shm"} {
			if err := os.Remove(path + end); err != nil && !errors.Is(err, os.ErrNotExist) {
				return nil, false, fmt.Errorf("removing the damaged index: %w", err)
			}
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

// tame keeps of a folder's name what can stand in the name of any file.
func tame(name string) string {
	return strings.Map(func(r rune) rune {
		if r == '-' || r == '_' || '0' <= r && r <= '9' || 'a' <= r && r <= 'z' || 'A' <= r && r <= 'Z' {
			return r
		}
		return '_'
	}, name)
}

// damaged says whether an error means that the file is no sound store.
func damaged(err error) bool {
	return err != nil && (strings.Contains(err.Error(), "malformed") || strings.Contains(err.Error(), "not a database"))
}

func openStore(path string) (*Store, error) {
	db, err := sql.Open("sqlite3", "file:"+escape(path)+"?_journal_mode=WAL&_busy_timeout=5000&_synchronous=NORMAL&_txlock=immediate")
	if err != nil {
		return nil, fmt.Errorf("opening the index at %s: %w", path, err)
	}
	s := &Store{db: db, path: path}
	if _, err = db.Exec(schema); err == nil {
		_, err = db.Exec(`DELETE FROM used`)
	}
	if err == nil {
		_, err = db.Exec(`INSERT INTO used VALUES (?)`, time.Now().Unix())
	}
	if err == nil {
		var sound string
		if err = db.QueryRow(`PRAGMA quick_check(1)`).Scan(&sound); err == nil && sound != "ok" {
			err = errors.New("malformed: " + sound)
		}
	}
	if err != nil {
		return nil, fmt.Errorf("opening the index at %s: %w", path, errors.Join(err, db.Close()))
	}
	return s, nil
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
		base, _, _ := strings.Cut(e.Name(), ".db")
		if base+".db" == present {
			continue
		}
		if info, err := e.Info(); err == nil && now.Sub(info.ModTime()) > unusedFor {
			_ = os.Remove(filepath.Join(folder, e.Name()))
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

// Files returns what the store knows about the files of the project.
func (s *Store) Files(ctx context.Context) (map[string]Known, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT path, size, modified, content, symbols FROM files JOIN contents USING (content)`)
	if err != nil {
		return nil, fmt.Errorf("reading the index: %w", err)
	}
	defer rows.Close()
	known := map[string]Known{}
	for rows.Next() {
		var path, content, symbols sql.RawBytes
		var k Known
		if err := rows.Scan(&path, &k.Size, &k.Modified, &content, &symbols); err != nil {
			return nil, fmt.Errorf("reading the index: %w", err)
		}
		copy(k.Content[:], content)
		if k.Symbols, err = decode(symbols, string(path)); err != nil {
			return nil, fmt.Errorf("reading the index: %w", err)
		}
		known[string(path)] = k
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("reading the index: %w", err)
	}
	return known, nil
}

// Symbols returns the symbols that a content has in the file of the path; ok is
// false if the store does not know that content.
func (s *Store) Symbols(ctx context.Context, c Content, path string) (symbols []Symbol, ok bool, err error) {
	var blob []byte
	err = s.db.QueryRowContext(ctx, `SELECT symbols FROM contents WHERE content = ?`, c[:]).Scan(&blob)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	if err == nil {
		symbols, err = decode(blob, path)
	}
	if err != nil {
		return nil, false, fmt.Errorf("reading the index: %w", err)
	}
	return symbols, true, nil
}

// Update keeps what is known about some files, and forgets others, in one step
// that either happens as a whole or not at all.
func (s *Store) Update(ctx context.Context, known map[string]Known, gone []string) (err error) {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return fmt.Errorf("writing the index: %w", err)
	}
	defer func() {
		if err != nil {
			err = fmt.Errorf("writing the index: %w", errors.Join(err, tx.Rollback()))
		}
	}()
	for path, k := range known {
		if _, err = tx.ExecContext(ctx, `INSERT OR REPLACE INTO contents VALUES (?, ?)`, k.Content[:], encode(k.Symbols)); err != nil {
			return err
		}
		if _, err = tx.ExecContext(ctx, `INSERT OR REPLACE INTO files VALUES (?, ?, ?, ?)`, []byte(path), k.Size, k.Modified, k.Content[:]); err != nil {
			return err
		}
	}
	for _, path := range gone {
		if _, err = tx.ExecContext(ctx, `DELETE FROM files WHERE path = ?`, []byte(path)); err != nil {
			return err
		}
	}
	return tx.Commit()
}

// encode writes symbols without their path: for each its kind, container,
// name, line and offset.
func encode(symbols []Symbol) []byte {
	b := binary.AppendUvarint(nil, uint64(len(symbols)))
	text := func(s string) {
		b = binary.AppendUvarint(b, uint64(len(s)))
		b = append(b, s...)
	}
	for _, s := range symbols {
		b = append(b, byte(s.Kind))
		text(s.Container)
		text(s.Name)
		b = binary.AppendUvarint(b, uint64(s.Line))
		b = binary.AppendUvarint(b, uint64(s.Offset))
	}
	return b
}

// errCutOff says that what was kept ends too early.
var errCutOff = errors.New("malformed: the symbols of a file are cut off")

// decode reads what encode wrote, as the symbols of the file of the path.
func decode(b []byte, path string) ([]Symbol, error) {
	ok := true
	number := func() int {
		n, size := binary.Uvarint(b)
		if size <= 0 {
			ok = false
			return 0
		}
		b = b[size:]
		return int(n)
	}
	text := func() string {
		n := number()
		if n < 0 || n > len(b) {
			ok = false
			return ""
		}
		s := string(b[:n])
		b = b[n:]
		return s
	}
	n := number()
	if n < 0 || n > len(b) {
		return nil, errCutOff
	}
	symbols := make([]Symbol, 0, n)
	for range n {
		if len(b) == 0 {
			return nil, errCutOff
		}
		s := Symbol{Kind: facts.Kind(b[0]), Path: path}
		b = b[1:]
		s.Container, s.Name, s.Line, s.Offset = text(), text(), number(), number()
		if !ok || !s.Kind.Valid() {
			return nil, errCutOff
		}
		symbols = append(symbols, s)
	}
	return symbols, nil
}
