package index

import (
	"bufio"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/project"
)

// A pack is what is known of the files of a project as one compressed file, to be taken in elsewhere. It begins with a
// word and a line that says what it is; the rest is one segment, compressed. It comes from somebody else, so that nothing
// in it is believed that was not looked at: its digest, the sums and the sizes of all that is in it, and that all paths lie in a project.

const (
	packWord = "rook trail pack 1\n"
	// mostPackHead and mostPacked are how many bytes the line takes at the most, and what is packed.
	mostPackHead = 1 << 12
	mostPacked   = 64 << 30
)

// PackHead says what a pack holds.
type PackHead struct {
	// Made says by which version of the program it was made: others read files otherwise.
	Made string `json:"made"`
	// Commit is that of which the files are as they are there, "" for none.
	Commit string `json:"commit"`
	Files  int    `json:"files"`
	// Size is how many bytes there are before they are compressed, Digest is that of them.
	Size   int64  `json:"size"`
	Digest string `json:"sha256"`
}

// Errors of packs.
var (
	ErrPackVersion = errors.New("it was made by another version of the program, which reads files otherwise")
	errPack        = errors.New("malformed: it is no pack, or not as it was written")
)

// Pack writes what is known of those files, which are as they are in a commit, "" for none, that which holds for, to a file.
func (x *Index) Pack(ctx context.Context, in *Segments, commit string, which func(path string) bool, to string) (head PackHead, err error) {
	raw, err := os.CreateTemp(in.folder, "*"+newEnd)
	if err != nil {
		return head, fmt.Errorf("packing the index: %w", err)
	}
	defer func() { err = errors.Join(err, raw.Close(), os.Remove(raw.Name())) }()
	x.mu.RLock()
	head.Files, err = x.writeLive(ctx, raw, which)
	x.mu.RUnlock()
	if err == nil {
		head.Made, head.Commit = mark(), commit
		err = head.of(raw)
	}
	if err == nil {
		err = head.write(raw, to)
	}
	if err != nil {
		return head, fmt.Errorf("packing the index: %w", err)
	}
	return head, nil
}

// writeLive writes one segment of all files that are live, without when they were changed.
func (x *Index) writeLive(ctx context.Context, file *os.File, which func(path string) bool) (files int, err error) {
	var sources []source
	for _, l := range x.layers {
		sources = append(sources, segmentSource{l.Segment})
	}
	_, err = writeSegment(ctx, file, sources, func(source, file, _ int, r *fileRecord, path string) bool {
		r.size, r.modified = 0, 0
		if !x.layers[source].live.has(file) || !which(path) {
			return false
		}
		files++
		return true
	})
	return files, err
}

// of works out size and digest.
func (h *PackHead) of(raw *os.File) (err error) {
	if _, err = raw.Seek(0, io.SeekStart); err != nil {
		return err
	}
	sum := sha256.New()
	if h.Size, err = io.Copy(sum, raw); err == nil {
		h.Digest = hex.EncodeToString(sum.Sum(nil))
		_, err = raw.Seek(0, io.SeekStart)
	}
	return err
}

func (h *PackHead) write(raw io.Reader, to string) (err error) {
	file, err := os.CreateTemp(filepath.Dir(to), "."+filepath.Base(to)+"-*")
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(file.Name()))
		}
	}()
	line, err := json.Marshal(h)
	if err == nil {
		err = file.Chmod(0o644) // it is made to be handed on
	}
	if err == nil {
		_, err = file.WriteString(packWord + string(line) + "\n")
	}
	if err == nil {
		out, _ := gzip.NewWriterLevel(file, gzip.BestSpeed) // the level is a valid one
		_, err = io.Copy(out, raw)
		err = errors.Join(err, out.Close())
	}
	if err = errors.Join(err, file.Close()); err == nil {
		err = os.Rename(file.Name(), to)
	}
	return err
}

// ReadPackHead reads what a pack says that it is.
func ReadPackHead(in *bufio.Reader) (h PackHead, err error) {
	word := make([]byte, len(packWord))
	if _, err := io.ReadFull(in, word); err != nil || string(word) != packWord {
		return h, errPack
	}
	line, err := in.ReadSlice('\n')
	if err != nil || len(line) > mostPackHead || json.Unmarshal(line, &h) != nil || h.Size <= 0 || h.Size > mostPacked {
		return h, errPack
	}
	if h.Made != mark() {
		return h, ErrPackVersion
	}
	return h, nil
}

// Stamp says how large a file is, and when it was changed; ok is false if it is not known that it is as it was when it was packed.
type Stamp func(path string) (f project.File, ok bool)

// TakePack takes in what is packed, as what is older than all that is known: of files that are as they were then by their names, of
// others by their content.
func (s *Segments) TakePack(ctx context.Context, in io.Reader, stamp func(h PackHead) Stamp) (h PackHead, err error) {
	buffered := bufio.NewReaderSize(in, mostPackHead)
	if h, err = ReadPackHead(buffered); err != nil {
		return h, fmt.Errorf("taking in the pack: %w", err)
	}
	packed, err := s.unpack(ctx, buffered, h)
	if err == nil {
		defer func() { err = errors.Join(err, packed.close()) }()
		err = s.take(ctx, packed, stamp(h))
	}
	if err != nil {
		return h, fmt.Errorf("taking in the pack: %w", err)
	}
	return h, nil
}

// unpack writes what is packed to a file of its own, which is gone when it is closed, and looks at all of it.
func (s *Segments) unpack(ctx context.Context, in io.Reader, h PackHead) (seg *Segment, err error) {
	zipped, err := gzip.NewReader(in)
	if err != nil {
		return nil, errPack
	}
	raw, err := os.CreateTemp(s.folder, "*"+newEnd)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, raw.Close(), os.Remove(raw.Name())) }()
	sum := sha256.New()
	n, err := io.Copy(io.MultiWriter(raw, sum), io.LimitReader(interrupted{ctx, zipped}, h.Size+1))
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case err != nil && isWriting(err):
		return nil, err
	case err != nil, n != h.Size, hex.EncodeToString(sum.Sum(nil)) != h.Digest:
		return nil, errPack
	}
	seg, err = openSegment(s.folder, filepath.Base(raw.Name()))
	if err != nil {
		return nil, err
	}
	if err := seg.verify(); err != nil {
		return nil, errors.Join(err, seg.close())
	}
	return seg, nil
}

// isWriting says whether an error is that of the disk.
func isWriting(err error) bool {
	var at *os.PathError
	return errors.As(err, &at)
}

// interrupted ends reading with a context.
type interrupted struct {
	ctx context.Context
	in  io.Reader
}

// Read implements io.Reader.
func (r interrupted) Read(b []byte) (int, error) {
	if err := r.ctx.Err(); err != nil {
		return 0, err
	}
	return r.in.Read(b)
}

// verify looks at all of a segment that comes from somebody else: whoever made it could have made its sums, too.
func (s *Segment) verify() (err error) {
	defer s.guard(&err)()
	before, at, first := "", -1, 0
	for f := range s.files {
		r := s.record(f)
		path := s.path(f)
		switch {
		case !door.Inside(path) || at >= 0 && path < before || r.first != first || r.count < 0:
			return errPack
		}
		before, at, first = path, f, first+r.count
		if e := s.extras(&r); len(e.names)%4 != 0 {
			return errPack
		}
	}
	if first != s.symbols {
		return errPack
	}
	var lastFront, lastBase []byte
	for id := range s.symbols {
		front, base, place, ok := s.symbolAt(id)
		if !ok || int(place.file) >= s.files || id > 0 && compareNames(lastFront, lastBase, front, base) > 0 {
			return errPack
		}
		lastFront, lastBase = front, base
		if number := int(s.number(inOrder, id)); number >= s.symbols {
			return errPack
		}
	}
	for range s.mentioned() { // whose numbers are looked at when they are read
		if s.damaged.Load() {
			break
		}
	}
	for group := range (s.symbols + fuzzy.GroupTexts - 1) / fuzzy.GroupTexts {
		if !s.groupReady(group, false) || !s.groupReady(group, true) {
			return errPack
		}
	}
	if s.damaged.Load() {
		return errPack
	}
	return nil
}

// take lists a copy of what was packed as the oldest segment.
func (s *Segments) take(ctx context.Context, packed *Segment, stamp Stamp) error {
	day := s.day()
	seg, _, err := s.write(ctx, []source{segmentSource{packed}}, func(_, _, newer int, r *fileRecord, path string) bool {
		r.size, r.modified, r.seen = 0, 0, day
		if f, ok := stamp(path); ok {
			r.size, r.modified = f.Size, f.Modified
		}
		return newer == 0
	}, func(names []string, name string) []string { return append([]string{name}, names...) })
	if err != nil {
		return err
	}
	return seg.close()
}
