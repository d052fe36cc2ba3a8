package vcs

import (
	"bytes"
	"context"
	"crypto/sha1"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"rooktrail/internal/core/disk/door"
)

// Change is a file that differs from the last commit.
type Change struct {
	Path string
	// New says that the last commit does not have it.
	New bool
}

// Changed lists the files below dir that differ from the last commit: edited,
// added, staged or not known to git yet. Paths are relative to dir. It fails if
// dir is in no repository.
//
// git status would do, but may run the filters that a repository configures.
// So the index is compared with the files here: by size and time of change,
// and where those differ by content.
func Changed(ctx context.Context, dir string) ([]Change, error) {
	seen := map[string]int{} // where in changed it is, counted from 1
	var changed []Change
	add := func(path string, fresh bool) {
		if !door.Inside(path) {
			return
		}
		if path != "" && seen[path] == 0 {
			changed = append(changed, Change{Path: path})
			seen[path] = len(changed)
		}
		if path != "" && fresh {
			changed[seen[path]-1].New = true
		}
	}
	entries, err := output(ctx, dir, "ls-files", "--stage", "--debug", "-z")
	if err != nil {
		return nil, err
	}
	for _, e := range parseEntries(entries) {
		if e.differs(dir) {
			add(e.path, false)
		}
	}
	others, err := output(ctx, dir, "ls-files", "--others", "--exclude-standard", "-z")
	if err != nil {
		return nil, err
	}
	for p := range strings.SplitSeq(string(others), "\x00") {
		add(p, true)
	}
	if _, err := output(ctx, dir, "rev-parse", "--verify", "--quiet", "HEAD"); err != nil {
		for _, e := range parseEntries(entries) { // nothing is committed yet
			add(e.path, true)
		}
		return changed, nil
	}
	staged, err := output(ctx, dir, "diff-index", "--cached", "--name-status", "--no-renames", "--relative", "--no-ext-diff", "-z", "HEAD")
	if err != nil {
		return nil, err
	}
	parts := strings.Split(string(staged), "\x00") // a letter, a path, and so on
	for i := 0; i+1 < len(parts); i += 2 {
		add(parts[i+1], parts[i] == "A")
	}
	return changed, nil
}

// entry is a file in git's index.
type entry struct {
	path, hash string
	link       bool
	modified   string // seconds and nanoseconds, as git writes them
	size       int64
}

// parseEntries reads what git ls-files --stage --debug -z prints: the mode, the
// hash and the path of each file, and behind a zero byte some lines about it.
func parseEntries(out []byte) (entries []entry) {
	for len(out) > 0 {
		head, rest, ok := bytes.Cut(out, []byte{0})
		if !ok {
			return entries
		}
		fields, path, _ := strings.Cut(string(head), "\t")
		words := strings.Fields(fields)
		e := entry{path: path}
		if len(words) >= 2 {
			e.link, e.hash = words[0] == "120000" || words[0] == "160000", words[1]
		}
		for bytes.HasPrefix(rest, []byte("  ")) {
			line, more, _ := bytes.Cut(rest, []byte("\n"))
			if m, ok := bytes.CutPrefix(line, []byte("  mtime: ")); ok {
				e.modified = string(m)
			}
			if s, ok := bytes.CutPrefix(line, []byte("  size: ")); ok {
				number, _, _ := strings.Cut(string(s), "\t")
				e.size, _ = strconv.ParseInt(number, 10, 64)
			}
			rest = more
		}
		entries, out = append(entries, e), rest
	}
	return entries
}

// largestHashed is the size in bytes beyond which a file with another time of
// change is taken for changed without reading it.
const largestHashed = 32 << 20

// differs compares a file on disk with the index.
func (e entry) differs(dir string) bool {
	if !door.Inside(e.path) {
		return false // it is no file of the project
	}
	full := filepath.Join(dir, filepath.FromSlash(e.path))
	info, err := os.Lstat(full)
	if err != nil {
		return true // removed
	}
	if e.link || !info.Mode().IsRegular() {
		return info.Mode().IsRegular() != !e.link
	}
	t := info.ModTime()
	if info.Size() == e.size && e.modified == fmt.Sprintf("%d:%d", t.Unix(), t.Nanosecond()) {
		return false
	}
	if info.Size() > largestHashed {
		return true
	}
	text, err := door.ReadWithin(dir, e.path, largestHashed)
	if err != nil {
		return true
	}
	return blobHash(text) != e.hash && blobHash(bytes.ReplaceAll(text, []byte("\r\n"), []byte("\n"))) != e.hash
}

// blobHash is the name git gives to a content.
func blobHash(text []byte) string {
	h := sha1.New()
	fmt.Fprintf(h, "blob %d\x00", len(text))
	h.Write(text)
	return hex.EncodeToString(h.Sum(nil))
}
