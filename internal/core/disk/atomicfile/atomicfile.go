// Package atomicfile writes the program's own files whole or not at all. What is half written
// lies beside the file it is to become, never in a folder that others use, too.
package atomicfile

import (
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
	folder := filepath.Dir(file)
	forFolder := fs.FileMode(0o700)
	if perm&0o077 != 0 {
		forFolder = 0o755
	}
	if err := os.MkdirAll(folder, forFolder); err != nil {
		return err
	}
	return renameio.WriteFile(file, data, perm, renameio.WithTempDir(folder))
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
