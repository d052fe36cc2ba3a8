package project

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"strings"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/disk/vcs"
)

// File is a file of the project with the metadata that tells whether it has
// changed.
type File struct {
	// Path is relative to the root, with forward slashes.
	Path string
	// Size is in bytes.
	Size int64
	// Modified is in nanoseconds since 1970.
	Modified int64
}

// Report says how a listing went and what it left out.
type Report struct {
	// Git says that git was asked, rather than the folders walked.
	Git bool
	// Files is how many were found.
	Files int
	// Unreadable is how many folders could not be read; UnreadableFolders names the first of them.
	Unreadable        int
	UnreadableFolders []string
	// LinkedFolders is how many links to folders were not entered.
	LinkedFolders int
	// Outside is how many entries lead out of the project, which are left out.
	Outside int
	// Ignored is what ignore files leave out, the most first. It is only found out where next to nothing is left.
	Ignored []Ignored
}

// Ignored says how much an ignore file leaves out.
type Ignored struct {
	// By is the path of the ignore file, Files how many it leaves out, at most mostIgnored.
	By    string
	Files int
}

// batchSize is how many files are handed over at a time: few enough that the
// first ones can be found while the rest is still being listed.
const batchSize = 2048

// List finds the files of the project under root and hands them over in
// batches, each file once, in no particular order. In a git repository these
// are the files that git tracks, and those it neither tracks nor ignores;
// elsewhere all files that no ignore file excludes. Links to folders are not
// entered, so that no circle of links can catch it, and what cannot be read is
// counted and left out. With everything, no ignore file is heeded, and git not asked.
func List(ctx context.Context, root string, everything bool, yield func([]File)) (Report, error) {
	l := &lister{ctx: ctx, root: root, yield: yield, seen: map[string]bool{}, everything: everything}
	err := errNotAsked
	if !everything {
		err = l.fromGit()
	}
	if err == nil {
		l.report.Git = true
	} else if ctx.Err() == nil {
		err = l.listFolder("", nil)
	}
	l.flush()
	if l.report.Files <= FewFiles && !everything && ctx.Err() == nil {
		l.report.Ignored = countIgnored(ctx, root)
	}
	if ctx.Err() != nil {
		err = ctx.Err()
	}
	return l.report, err
}

type lister struct {
	ctx        context.Context
	root       string
	yield      func([]File)
	batch      []File
	seen       map[string]bool
	report     Report
	everything bool
	inside     map[string]bool // by folder, whether it lies in the project, with links followed
}

// errNotAsked is why git was not used.
var errNotAsked = errors.New("git cannot list this folder")

// fromGit asks git twice, since what it tracks is known at once, while finding
// the rest means reading every folder.
func (l *lister) fromGit() error {
	if _, err := exec.LookPath("git"); err != nil {
		return errNotAsked
	}
	if l.ignored() {
		return errNotAsked
	}
	for _, which := range [][]string{{"--cached"}, {"--others", "--exclude-standard"}} {
		if err := l.gitFiles(which); err != nil {
			return err
		}
		l.flush()
	}
	return nil
}

// ignored says whether the root itself lies in a folder that the repository
// around it ignores, as a build or dependency folder does: git would list
// nothing there.
func (l *lister) ignored() bool {
	return vcs.Git(l.ctx, l.root, "check-ignore", "--quiet", ".").Run() == nil
}

func (l *lister) gitFiles(which []string) error {
	cmd := vcs.Git(l.ctx, l.root, append([]string{"ls-files", "-z"}, which...)...)
	out, err := cmd.StdoutPipe()
	if err != nil {
		return fmt.Errorf("asking git for the files: %w", err)
	}
	var complaints strings.Builder
	cmd.Stderr = &complaints
	if err := vcs.Start(cmd); err != nil {
		return fmt.Errorf("asking git for the files: %w", err)
	}
	r := bufio.NewReaderSize(out, 1<<16)
	for {
		name, err := r.ReadBytes(0)
		if err != nil {
			break
		}
		l.gitEntry(string(bytes.TrimSuffix(name, []byte{0})))
	}
	_, _ = io.Copy(io.Discard, out)
	if err := cmd.Wait(); err != nil {
		return fmt.Errorf("asking git for the files: %w", err)
	}
	for line := range strings.Lines(complaints.String()) {
		if folder, ok := strings.CutPrefix(line, "warning: could not open directory '"); ok {
			folder, _, _ = strings.Cut(folder, "'")
			l.unreadable(strings.TrimSuffix(folder, "/"))
		}
	}
	return nil
}

// mostNamed is how many folders that cannot be read are named.
const mostNamed = 5

func (l *lister) unreadable(folder string) {
	l.report.Unreadable++
	if len(l.report.UnreadableFolders) < mostNamed {
		l.report.UnreadableFolders = append(l.report.UnreadableFolders, folder)
	}
}

// gitEntry adds one entry that git named: a file, or a folder that is a
// repository of its own, which is walked.
func (l *lister) gitEntry(name string) {
	path := strings.TrimSuffix(name, "/")
	if !door.Inside(path) || !l.folderInside(path) {
		l.report.Outside++
		return
	}
	info, err := os.Lstat(filepath.Join(l.root, filepath.FromSlash(path)))
	if err != nil {
		return // tracked, but not on disk any more
	}
	if info.IsDir() {
		// Its unreadable parts are counted; there is nothing else to fail.
		_ = l.listFolder(path, nil)
		return
	}
	l.add(path, info)
}

// add takes a file, or a link to one. What is neither is left out.
func (l *lister) add(path string, info os.FileInfo) {
	if info.Mode()&os.ModeSymlink != 0 {
		target, err := os.Stat(filepath.Join(l.root, filepath.FromSlash(path)))
		if err != nil {
			return
		}
		if target.IsDir() {
			l.report.LinkedFolders++
			return
		}
		if _, err := door.Within(l.root, path); err != nil {
			l.report.Outside++
			return
		}
		info = target
	}
	if !info.Mode().IsRegular() || l.seen[path] {
		return
	}
	l.seen[path] = true
	l.report.Files++
	l.batch = append(l.batch, File{Path: path, Size: info.Size(), Modified: info.ModTime().UnixNano()})
	if len(l.batch) >= batchSize {
		l.flush()
	}
}

// folderInside says whether the folder of a file lies in the project: git's index may hold a path
// that leads through what is a link by now.
func (l *lister) folderInside(file string) bool {
	dir := path.Dir(file)
	if dir == "." {
		return true
	}
	inside, known := l.inside[dir]
	if !known {
		_, err := door.Within(l.root, dir)
		inside = err == nil
		if l.inside == nil {
			l.inside = map[string]bool{}
		}
		l.inside[dir] = inside
	}
	return inside
}

func (l *lister) flush() {
	if len(l.batch) > 0 {
		l.yield(l.batch)
		l.batch = nil
	}
}
