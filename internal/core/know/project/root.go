// Package project knows which files belong to the code base that is open.
package project

import (
	"crypto/sha256"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

// markers are the folders that stand at the top of a repository.
var markers = []string{".git", ".hg", ".svn"}

// ErrNoFolder is wrapped by the error for a root that is not a folder one can
// look into.
var ErrNoFolder = errors.New("not a folder that can be opened")

// Root returns the absolute path of the nearest folder, from dir upwards, that
// holds a repository, or one of the files that stand at the top of a module; dir
// itself if there is none.
func Root(dir string, tops []string) (string, error) {
	return RootAround(dir, dir, tops)
}

// RootAround is Root, but where nothing tells, it is the present folder if dir lies in it, from where somebody who has
// no repository works. The user's home is not taken for a project so.
func RootAround(dir, present string, tops []string) (string, error) {
	dir, err := CheckFolder(dir)
	if err != nil {
		return "", err
	}
	for at := dir; ; at = filepath.Dir(at) {
		for _, m := range slices.Concat(markers, tops) {
			if _, err := os.Lstat(filepath.Join(at, m)); err == nil {
				return at, nil
			}
		}
		if at == filepath.Dir(at) {
			break
		}
	}
	if present, err = CheckFolder(present); err == nil && !filepath.IsAbs(Relative(present, dir)) && !holdsHome(present) {
		return present, nil
	}
	return dir, nil
}

// holdsHome says whether a folder is the home of the user, or one above it.
func holdsHome(dir string) bool {
	home, err := os.UserHomeDir()
	if err == nil {
		home, err = filepath.EvalSymlinks(home)
	}
	return err == nil && !filepath.IsAbs(Relative(dir, home))
}

// CheckFolder returns the absolute path of a folder, links in it resolved, or
// an error that says what is wrong with it.
func CheckFolder(dir string) (string, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return "", fmt.Errorf("opening %s: %w", dir, err)
	}
	if abs, err = filepath.EvalSymlinks(abs); err != nil {
		return "", fmt.Errorf("opening %s: %w", dir, WithoutPath(err))
	}
	f, err := os.Open(abs)
	if err != nil {
		return "", fmt.Errorf("opening %s: %w", dir, WithoutPath(err))
	}
	defer f.Close()
	if info, err := f.Stat(); err != nil || !info.IsDir() {
		return "", fmt.Errorf("opening %s: %w", dir, ErrNoFolder)
	}
	if _, err := f.Readdirnames(1); err != nil && errors.Is(err, os.ErrPermission) {
		return "", fmt.Errorf("opening %s: %w", dir, WithoutPath(err))
	}
	return abs, nil
}

// WithoutPath leaves the paths out of an error that will be told with them.
func WithoutPath(err error) error {
	var link *os.LinkError
	if errors.As(err, &link) {
		return link.Err
	}
	var p *os.PathError
	if errors.As(err, &p) {
		return p.Err
	}
	return err
}

// Relative returns the path of a file as the project writes it: from the root,
// with forward slashes; absolute if it lies outside.
func Relative(root, path string) string {
	rel, err := filepath.Rel(root, path)
	if err != nil || rel == ".." || strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return filepath.ToSlash(path)
	}
	return filepath.ToSlash(rel)
}

// Absolute is the reverse of Relative.
func Absolute(root, path string) string {
	if filepath.IsAbs(path) {
		return path
	}
	return filepath.Join(root, filepath.FromSlash(path))
}

// Slug is a name for the project at root, an absolute path, that can be that of
// a file anywhere and is like that of no other project.
func Slug(root string) string {
	tame := strings.Map(func(r rune) rune {
		if r == '-' || r == '_' || '0' <= r && r <= '9' || 'a' <= r && r <= 'z' || 'A' <= r && r <= 'Z' {
			return r
		}
		return '_'
	}, filepath.Base(root))
	sum := sha256.Sum256([]byte(root))
	return fmt.Sprintf("%s-%x", tame, sum[:6])
}
