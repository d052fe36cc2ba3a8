package lsif

import (
	"bytes"
	"compress/flate"
	"crypto/sha256"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"os"
	"sync"
	"time"

	"github.com/hashicorp/golang-lru/v2/simplelru"
	_ "github.com/mattn/go-sqlite3" // the database
)

// Version is that of how it is kept on disk.
const Version = 1

const schema = `CREATE TABLE IF NOT EXISTS said (path TEXT PRIMARY KEY, data BLOB, sum BLOB)`

// Index is what dumps said of the files of a project. It may be used by several goroutines.
type Index struct {
	db   *sql.DB
	path string

	mu     sync.Mutex
	recent *simplelru.LRU[string, *said] // nil for files of which nothing was said
	moved  *simplelru.LRU[string, *moves]
}

// The files that are kept in memory.
const mostRecent = 128

// Open opens what is kept in a file. If there is none, it is nil, unless it is to be made.
func Open(path string, create bool) (*Index, error) {
	if _, err := os.Stat(path); err != nil && !create {
		return nil, nil
	}
	db, err := sql.Open("sqlite3", "file:"+escape(path)+"?_journal_mode=WAL&_busy_timeout=5000&_synchronous=NORMAL&_txlock=immediate")
	if err == nil && create {
		_, err = db.Exec(schema)
	}
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	now := time.Now()
	_ = os.Chtimes(path, now, now) // what is not used for long is removed
	x := &Index{db: db, path: path}
	x.forget()
	return x, nil
}

func (x *Index) forget() {
	x.recent, _ = simplelru.NewLRU[string, *said](mostRecent, nil) // the sizes are positive
	x.moved, _ = simplelru.NewLRU[string, *moves](mostRecent, nil)
}

// Close ends its use; of none it does nothing.
func (x *Index) Close() error {
	if x == nil {
		return nil
	}
	return x.db.Close()
}

// Remove removes it from the disk.
func (x *Index) Remove() error {
	if x == nil {
		return nil
	}
	err := x.db.Close()
	for _, end := range []string{"", "-wal", "-shm"} {
		if e := os.Remove(x.path + end); e != nil && !errors.Is(e, os.ErrNotExist) {
			err = errors.Join(err, e)
		}
	}
	return err
}

// keep writes down what was said of files.
func (x *Index) keep(all map[string]*said) error {
	tx, err := x.db.Begin()
	if err != nil {
		return fmt.Errorf("keeping what a dump says: %w", err)
	}
	for p, s := range all {
		data := s.encode()
		sum := sha256.Sum256(data)
		if _, err := tx.Exec(`INSERT OR REPLACE INTO said VALUES (?, ?, ?)`, p, data, sum[:16]); err != nil {
			return fmt.Errorf("keeping what a dump says of %s: %w", p, errors.Join(err, tx.Rollback()))
		}
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("keeping what a dump says: %w", err)
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	x.forget()
	return nil
}

// of is what was said of a file; nil if nothing was, or it is damaged.
func (x *Index) of(path string) *said {
	x.mu.Lock()
	defer x.mu.Unlock()
	if s, known := x.recent.Get(path); known {
		return s
	}
	var data, sum []byte
	var s *said
	if err := x.db.QueryRow(`SELECT data, sum FROM said WHERE path = ?`, path).Scan(&data, &sum); err == nil {
		if is := sha256.Sum256(data); bytes.Equal(is[:16], sum) {
			s, _ = decode(data) // what is damaged says nothing
		}
	}
	x.recent.Add(path, s)
	return s
}

// escape writes a path so that it can stand in a URI.
func escape(path string) string {
	out := make([]byte, 0, len(path))
	for i := range len(path) {
		switch c := path[i]; c {
		case '%', '?', '#':
			out = fmt.Appendf(out, "%%%02x", c)
		default:
			out = append(out, c)
		}
	}
	return string(out)
}

// encode writes what was said as bytes: the uses, each from where the one before begins, and the text, compressed.
func (s *said) encode() []byte {
	out := []byte{0}
	if s.unsure {
		out[0] = 1
	}
	out = binary.AppendUvarint(out, uint64(len(s.targets)))
	for _, t := range s.targets {
		out = binary.AppendUvarint(out, uint64(len(t)))
		out = append(out, t...)
	}
	out = binary.AppendUvarint(out, uint64(len(s.uses)))
	before := uint32(0)
	for _, u := range s.uses {
		for _, n := range []uint32{u.at - before, u.length, uint32(u.target), u.targetAt} {
			out = binary.AppendUvarint(out, uint64(n))
		}
		before = u.at
	}
	var text bytes.Buffer
	w, _ := flate.NewWriter(&text, flate.BestSpeed) // the level is one
	_, _ = w.Write(s.text)                          // a buffer takes all
	_ = w.Close()
	return append(out, text.Bytes()...)
}

var errDamaged = errors.New("what a dump said is damaged")

// decode reads what encode wrote.
func decode(data []byte) (*said, error) {
	in := bytes.NewReader(data)
	bad := false
	number := func(most int) int {
		n, err := binary.ReadUvarint(in)
		if err != nil || n > uint64(most) {
			bad = true
			return 0
		}
		return int(n)
	}
	s := &said{unsure: number(1) == 1}
	for range number(in.Len()) {
		name := make([]byte, number(in.Len()))
		if _, err := io.ReadFull(in, name); err != nil || bad {
			return nil, errDamaged
		}
		s.targets = append(s.targets, string(name))
	}
	const most = 1 << 31
	at, uses := 0, number(in.Len())
	if uses > 0 && len(s.targets) == 0 {
		return nil, errDamaged
	}
	for range uses {
		at += number(most)
		u := use{at: uint32(at), length: uint32(number(most)), target: int32(number(max(len(s.targets)-1, 0))), targetAt: uint32(number(most))}
		if bad {
			return nil, errDamaged
		}
		s.uses = append(s.uses, u)
	}
	text, err := io.ReadAll(flate.NewReader(in))
	if err != nil || bad {
		return nil, errDamaged
	}
	s.text = text
	return s, nil
}
