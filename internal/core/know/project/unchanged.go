package project

import (
	"hash/fnv"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/door"
)

// Decides says whether a file decides what belongs to the project, by its name.
func Decides(base string) bool { return slices.Contains(ignoreFiles, base) }

// Stat is a file of the project at root as it is now, where a link leads to as well; ok is false if there is no
// regular file of that path, or none in the project.
func Stat(root, file string) (f File, ok bool) {
	full := file
	if !strings.HasPrefix(file, "/") {
		full = root + "/" + file // which costs less than to make it clean once more
	}
	info, err := os.Lstat(full)
	if err == nil && info.Mode()&os.ModeSymlink != 0 {
		if info, err = os.Stat(full); err == nil && full != file {
			_, err = door.Within(root, file)
		}
	}
	if err != nil || !info.Mode().IsRegular() {
		return File{}, false
	}
	return File{Path: file, Size: info.Size(), Modified: info.ModTime().UnixNano()}, true
}

// FolderModified is when something came to a folder or went from it, in
// nanoseconds since 1970; ok is false if it is no folder any more.
func FolderModified(root, folder string) (modified int64, ok bool) {
	info, err := os.Lstat(filepath.Join(root, filepath.FromSlash(folder)))
	if err != nil || !info.IsDir() {
		return 0, false
	}
	return info.ModTime().UnixNano(), true
}

// Entries stands for the names of all that is in a folder; ok is false if it cannot
// be listed.
func Entries(root, folder string) (digest uint64, ok bool) {
	dir, err := os.Open(filepath.Join(root, filepath.FromSlash(folder)))
	if err != nil {
		return 0, false
	}
	defer dir.Close()
	names, err := dir.Readdirnames(-1)
	if err != nil {
		return 0, false
	}
	slices.Sort(names)
	h := fnv.New64a()
	for _, n := range names {
		_, _ = h.Write([]byte(n + "\x00")) // a hash cannot fail
	}
	return h.Sum64(), true
}

// Beside are the files outside of a listing that decide what belongs to the project
// at root, as they are now: what git tracks and what it leaves out, and the ignore
// files in the folders above, up to the top of the repository.
func Beside(root string) (files []File) {
	note := func(file string) {
		f, _ := Stat("/", filepath.ToSlash(file)) // what is not there stays so
		f.Path = filepath.ToSlash(file)
		files = append(files, f)
	}
	for dir := root; ; dir = filepath.Dir(dir) {
		if dir != root {
			for _, name := range ignoreFiles {
				note(filepath.Join(dir, name))
			}
		}
		if _, err := os.Lstat(filepath.Join(dir, ".git")); err == nil {
			note(filepath.Join(gitFolder(dir), "info", "exclude"))
			note(filepath.Join(gitFolder(dir), TrackedBy))
			return files
		}
		if dir == filepath.Dir(dir) {
			return files
		}
	}
}

// TrackedBy is the name of the file in which git keeps what it tracks. It is
// written anew on many occasions on which nothing of that changes.
const TrackedBy = "index"

// gitFolder is where git keeps what it knows of the repository in a folder.
func gitFolder(top string) string {
	dir := filepath.Join(top, ".git")
	if data, err := door.Read(dir, door.LargestSettings); err == nil { // a work tree
		dir = strings.TrimSpace(strings.TrimPrefix(string(data), "gitdir:"))
		if !filepath.IsAbs(dir) {
			dir = filepath.Join(top, dir)
		}
	}
	return dir
}
