// Package atomicfile writes the program's own files whole or not at all. What is half written
// lies beside the file it is to become, never in a folder that others use, too.
package atomicfile

import (
	"bufio"
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/google/renameio/v2"
)

// abandoned is how old a file that is half written is when nobody is writing it any more.
const abandoned = time.Hour

// Write puts data in place of a file, or leaves the file as it was. Its folder is made if need
// be, for the user alone if the file is.
func Write(file string, data []byte, perm fs.FileMode) error {
	if err := makeFolder(file, perm); err != nil {
		return err
	}
	return renameio.WriteFile(file, data, perm, renameio.WithTempDir(filepath.Dir(file)))
}

func makeFolder(file string, perm fs.FileMode) error {
	forFolder := fs.FileMode(0o700)
	if perm&0o077 != 0 {
		forFolder = 0o755
	}
	return os.MkdirAll(filepath.Dir(file), forFolder)
}

// WriteFrom is Write of what a function writes, which may be more than memory holds; if that fails, the file stays as it was.
func WriteFrom(file string, perm fs.FileMode, write func(to io.Writer) error) error {
	if err := makeFolder(file, perm); err != nil {
		return err
	}
	half, err := renameio.NewPendingFile(file, renameio.WithTempDir(filepath.Dir(file)), renameio.WithPermissions(perm))
	if err != nil {
		return err
	}
	defer func() { _ = half.Cleanup() }() // does nothing once it is there
	to := bufio.NewWriterSize(half, 1<<16)
	if err := errors.Join(write(to), to.Flush()); err != nil {
		return err
	}
	return half.CloseAtomicallyReplace()
}

// Clear removes from a folder what programs that were killed left half written there. The
// kept are the endings of the files that are kept in it, such as ".json".
func Clear(folder string, kept ...string) {
	entries, _ := os.ReadDir(folder) // a folder that is not there has nothing in it
	for _, e := range entries {
		if !strings.HasPrefix(e.Name(), ".") || !halfOf(e.Name(), kept) {
			continue
		}
		if info, err := e.Info(); err == nil && info.Mode().IsRegular() && time.Since(info.ModTime()) > abandoned {
			_ = os.Remove(filepath.Join(folder, e.Name())) // another time, if not now
		}
	}
}

// halfOf says whether a name is that of a half-written file: the whole one's with a number
// behind it.
func halfOf(name string, kept []string) bool {
	whole := strings.TrimRight(name, "0123456789")
	if whole == name {
		return false
	}
	for _, ending := range kept {
		if strings.HasSuffix(whole, ending) {
			return true
		}
	}
	return false
}
