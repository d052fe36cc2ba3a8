package tests

import (
	"bytes"
	"context"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/report"
)

// covered are the lines of a file that tests have run, or not, as it was when the report was read.
type covered struct {
	of    *text.Document // nil until the file is asked about
	lines map[int]int
}

// Covering says what was read.
type Covering struct {
	Form string
	// Files is how many files of the project it is about, Outside how many others it names; Lines and Ran are how many lines it knows
	// of in the project, and how many of these were run.
	Files, Outside, Lines, Ran int
	// Older says that files of it were changed after it was written.
	Older bool
	// Broken says why it could not be read to its end; "" if it was.
	Broken string
}

// usual are the names that reports of coverage usually have.
var usual = []string{"coverage.out", "cover.out", "c.out", "coverage.txt", "lcov.info", "coverage/lcov.info", "coverage.xml", "cobertura.xml", "coverage/cobertura-coverage.xml", "target/site/cobertura/coverage.xml"}

// CoverFile is the newest report of coverage in the folder of the project, by its usual names, from that folder; "" if there is none.
func (b *Book) CoverFile() (file string) {
	var newest fs.FileInfo
	for _, name := range usual {
		info, err := fs.Stat(b.finder.code.Disk(), name)
		if err == nil && info.Mode().IsRegular() && (newest == nil || info.ModTime().After(newest.ModTime())) {
			file, newest = name, info
		}
	}
	return file
}

// Cover reads a report of coverage, whose path is absolute or from the root of the project. It takes the place of the one before.
func (b *Book) Cover(ctx context.Context, file string) (c Covering, err error) {
	if !filepath.IsAbs(file) {
		file = filepath.Join(b.finder.code.Root(), filepath.FromSlash(file))
	}
	f, err := os.Open(file)
	if err != nil {
		return c, fmt.Errorf("reading the coverage: %w", err)
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil || !info.Mode().IsRegular() {
		return c, fmt.Errorf("reading the coverage: %s is no file", file)
	}
	read, err := report.ReadCoverage(f)
	if err != nil {
		return c, fmt.Errorf("reading the coverage in %s: %w", filepath.Base(file), err)
	}
	c = Covering{Form: read.Form, Broken: read.Broken}
	all := map[string]*covered{}
	for name, lines := range read.Files {
		p, ok := b.lists.FileOf(".", path.Dir(name), path.Base(name))
		if path.IsAbs(name) {
			p, ok = b.lists.FileOf(".", "", name)
		}
		if !ok {
			c.Outside++
			continue
		}
		c.Files++
		all[p] = &covered{lines: lines}
		if listed, ok := b.finder.code.Listing().File(p); ok && listed.Modified > info.ModTime().UnixNano() {
			c.Older = true
		}
		for _, hits := range lines {
			c.Lines++
			if hits > 0 {
				c.Ran++
			}
		}
	}
	if c.Files == 0 {
		return c, fmt.Errorf("none of the files in %s is in this project", filepath.Base(file))
	}
	b.mu.Lock()
	b.covers = all
	b.state++
	b.mu.Unlock()
	return c, nil
}

// Uncover forgets the coverage; it is false if there was none.
func (b *Book) Uncover() bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	was := b.covers != nil
	b.covers = nil
	b.state++
	return was
}

// Covers says whether coverage was read.
func (b *Book) Covers() bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.covers != nil
}

// Lines are the lines of a file, as it is now, of which it is known how often they were run.
func (b *Book) Lines(file *codebase.File) map[int]int {
	b.mu.Lock()
	c := b.covers[file.Path]
	if c == nil {
		b.mu.Unlock()
		return nil
	}
	if c.of == nil {
		c.of = file.Text
		for line := range c.lines {
			if line <= file.Text.Lines() && isClosing(file.Text.Line(line)) {
				delete(c.lines, line)
			}
		}
	}
	of, lines := c.of, c.lines
	b.mu.Unlock()
	if of == file.Text {
		return lines
	}
	edits := text.Between(of, file.Text)
	moved := map[int]int{}
	for line, hits := range lines {
		if line > of.Lines() {
			continue
		}
		now, _ := file.Text.Position(text.Moved(of.Offset(line, len(of.Line(line))+1), edits))
		if strings.TrimSpace(string(file.Text.Line(now))) == strings.TrimSpace(string(of.Line(line))) {
			moved[now] = hits // else it is another line by now
		}
	}
	return moved
}

// isClosing says whether a line has nothing but brackets that are closed.
func isClosing(line []byte) bool { return len(bytes.Trim(line, " \t\r})];,")) == 0 }

// Bare are the lines of a file that no test ran, in order.
func (b *Book) Bare(file *codebase.File) (all []int) {
	for line, hits := range b.Lines(file) {
		if hits == 0 && line <= file.Text.Lines() {
			all = append(all, line)
		}
	}
	slices.Sort(all)
	return all
}

// Share is how many of the lines between two offsets of a text are known, and how many of these were run.
func Share(lines map[int]int, doc *text.Document, start, end uint32) (known, ran int) {
	if len(lines) == 0 {
		return 0, 0
	}
	first, _ := doc.Position(int(start))
	last, _ := doc.Position(int(end))
	for n := first; n <= last; n++ {
		if hits, ok := lines[n]; ok {
			known++
			if hits > 0 {
				ran++
			}
		}
	}
	return known, ran
}

// NextBare is the first line that no test ran of the next file that has any; ok is false if none has.
func (b *Book) NextBare(ctx context.Context, from string, forward bool) (p string, line int, ok bool) {
	b.mu.Lock()
	var files []string
	for f := range b.covers {
		files = append(files, f)
	}
	b.mu.Unlock()
	slices.Sort(files)
	at, found := slices.BinarySearch(files, from)
	for i := range files {
		n := at + i
		if found {
			n++
		}
		if !forward {
			n = at - 1 - i
		}
		p := files[(n%len(files)+len(files))%len(files)]
		file, err := b.finder.code.Load(ctx, p)
		if err != nil || p == from {
			continue
		}
		if bare := b.Bare(file); len(bare) > 0 {
			if forward {
				return p, bare[0], true
			}
			return p, bare[len(bare)-1], true
		}
	}
	return "", 0, false
}
