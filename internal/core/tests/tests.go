// Package tests knows which tests there are, how they are run, and what became of them. It runs nothing itself.
package tests

import (
	"bytes"
	"context"
	"slices"
	"strings"
	"sync/atomic"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/project"
)

// Test is a test, or a group of tests.
type Test struct {
	Path string
	// Line is where it begins, from 1; At is its name, Full all of it.
	Line     int
	At, Full place.Range
	// Names are those of what is around it, and its own.
	Names []string
	// Via is how it reaches what was asked about; "" if it does so itself, or that was not asked.
	Via string
}

// Title is its name as one would say it.
func (t *Test) Title() string { return strings.Join(t.Names, " › ") }

// Finder finds the tests of a project, and how they are run. It may be used by several goroutines.
type Finder struct {
	code    *codebase.Base
	answers *answer.Guide
	own     atomic.Pointer[map[string]string] // commands that the user has set, by the names of languages
}

// New makes one for a project.
func New(code *codebase.Base, answers *answer.Guide) *Finder {
	return &Finder{code: code, answers: answers}
}

// Set has the tests of some languages, by their names, be run by command lines of the user's own; see the setting tests.commands.
func (f *Finder) Set(commands map[string]string) { f.own.Store(&commands) }

// command is that of the user for a language; "" for none.
func (f *Finder) command(language string) string {
	own := f.own.Load()
	if own == nil {
		return ""
	}
	return (*own)[language]
}

// In finds the tests of a file, in the order of its text; groups are among them.
func (f *Finder) In(file *codebase.File) (all []Test) {
	l := f.code.Languages().Of(file.Path)
	if l == nil || file.Facts == nil || len(l.Trying.Runners) == 0 {
		return nil
	}
	text := file.Text.Bytes()
	is := func(d *facts.Def) bool {
		if d.Import > 0 || d.Name == "" {
			return false
		}
		if d.Kind == facts.Test {
			return true
		}
		return l.Trying.IsTest != nil && (d.Kind.IsCallable() || d.Kind.IsType()) && l.Trying.IsTest(d, headOf(text, d))
	}
	test := make([]bool, len(file.Facts.Defs))
	for i := range file.Facts.Defs {
		test[i] = is(&file.Facts.Defs[i])
	}
	names := l.Tests.Files
	inTests := len(names) == 0 || f.code.Languages().IsTest(file.Path)
	for i := range file.Facts.Defs {
		d := &file.Facts.Defs[i]
		if !test[i] || d.Kind != facts.Test && !inTests && bytes.IndexByte(headOf(text, d), '@') < 0 {
			continue
		}
		t := Test{Path: file.Path, At: d.At, Full: d.Full, Names: []string{d.Name}}
		t.Line, _ = file.Text.Position(int(d.At.Start))
		for p := d.Parent; p != facts.NoDef; p = file.Facts.Defs[p].Parent {
			if o := &file.Facts.Defs[p]; test[p] || o.Kind.IsType() || o.Kind.IsSpace() {
				t.Names = append([]string{o.Name}, t.Names...)
			}
		}
		all = append(all, t)
	}
	slices.SortFunc(all, func(a, b Test) int { return int(a.At.Start) - int(b.At.Start) })
	return all
}

// headOf is what stands in front of a name, with the attributes on the lines above.
func headOf(text []byte, d *facts.Def) []byte {
	start := int(min(d.Full.Start, d.At.Start))
	if d.Head.Len() > 0 {
		start = min(start, int(d.Head.Start))
	}
	for start > 0 {
		line := bytes.LastIndexByte(text[:start], '\n') + 1
		above := bytes.LastIndexByte(text[:max(line-1, 0)], '\n') + 1
		words := bytes.TrimSpace(text[above:max(line-1, above)])
		if line == 0 || !bytes.HasPrefix(words, []byte("@")) && !bytes.HasPrefix(words, []byte("#[")) {
			break
		}
		start = above
	}
	return text[start:d.At.Start]
}

// Around finds the innermost test around an offset of a file; ok is false if there is none.
func (f *Finder) Around(file *codebase.File, offset int) (t Test, ok bool) {
	for _, one := range f.In(file) {
		if int(one.Full.Start) <= offset && offset <= int(one.Full.End) {
			t, ok = one, true
		}
	}
	if ok {
		return t, true
	}
	line, _ := file.Text.Position(offset)
	for _, one := range f.In(file) {
		if one.Line == line {
			return one, true
		}
	}
	return t, false
}

// Files are those with tests in a folder, "." for the whole project, by what they are called or what is in them.
func (f *Finder) Files(folder string) (all []string) {
	for file := range f.code.Listing().Files() {
		if folder != "." && !strings.HasPrefix(file.Path, folder+"/") {
			continue
		}
		if f.IsTest(file.Path) {
			all = append(all, file.Path)
		}
	}
	slices.Sort(all)
	return all
}

// Listing is that of the project, as it is now.
func (f *Finder) Listing() *project.Listing { return f.code.Listing() }

// Stamps are when the files of the project were changed last, as they were listed.
func (f *Finder) Stamps() map[string]int64 {
	all := map[string]int64{}
	for file := range f.code.Listing().Files() {
		all[file.Path] = file.Modified
	}
	return all
}

// IsTest says whether a file holds tests by what it is called, and it is known how they are run.
func (f *Finder) IsTest(path string) bool {
	l := f.code.Languages().Of(path)
	return l != nil && len(l.Trying.Runners) > 0 && f.code.Languages().IsTest(path)
}

// Beside are the files with tests that go with a file by their names.
func (f *Finder) Beside(path string) (files []string) {
	for _, p := range f.answers.TestFiles(path) {
		if f.code.Languages().IsTest(p) {
			files = append(files, p)
		}
	}
	return files
}

// Reaching finds the tests that reach what stands at an offset of a file, each with the way; of is what that is called.
func (f *Finder) Reaching(ctx context.Context, path string, offset int) (all []Test, of string) {
	res, found := f.answers.Along(ctx, answer.ToTests, path, offset)
	if len(res.Answers) > 0 {
		of = res.Answers[0].Name
	}
	seen := map[place.Place]bool{}
	for i := range found {
		a := &found[i]
		file, err := f.code.Load(ctx, a.Path)
		if a.Possible || err != nil {
			continue
		}
		t, ok := f.Around(file, int(a.At.Start))
		if !ok || seen[place.Place{Path: t.Path, Line: t.Line}] {
			continue
		}
		seen[place.Place{Path: t.Path, Line: t.Line}] = true
		t.Via = a.Why
		all = append(all, t)
	}
	return all, of
}

// language is that of a file with tests.
func (f *Finder) language(path string) *lang.Language { return f.code.Languages().Of(path) }
