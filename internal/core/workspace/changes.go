package workspace

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/project"
)

// Changes proposes changes over the files of the project, and makes them.
type Changes struct {
	*rename.Renamer
	*replace.Replacer
	*restructure.Restructurer
	*tidy.Tidier
	// Hunks tells in what files differ from commits.
	Hunks *hunk.Reader
	code  *codebase.Base
	maker *making.Maker
	kept  string // the folder of proposals that are kept; "" if none are

	mu   sync.Mutex
	last *making.Change // that was made or taken back last in this run
	back bool           // it was taken back
}

// KnowChanges keeps what is needed to take changes back in a folder, and proposals for another day.
func (w *Workspace) KnowChanges(folder string) {
	w.Changes.maker = making.New(w.Code.Root(), folder)
	w.Changes.kept = filepath.Join(folder, "proposals")
}

// Read reads a proposal from a unified diff.
func (c *Changes) Read(ctx context.Context, from io.Reader, title string) (*proposal.Proposal, error) {
	p, err := proposal.ReadDiff(from, title, func(path string) (*text.Document, error) {
		f, err := c.code.Load(ctx, path)
		if err != nil {
			return nil, err
		}
		return f.Text, nil
	})
	if err != nil {
		return nil, err
	}
	for _, f := range p.Files {
		file, err := c.code.Load(ctx, f.Name())
		if err != nil {
			continue // it is to be made
		}
		for i := range f.Places {
			line, col := file.Text.Position(int(f.Places[i].At.Start))
			f.Places[i].In = codebase.SymbolAt(file, line, col)
		}
	}
	return p, nil
}

// Make makes a proposed change, all of it or nothing. Files of which another text is written and not saved must
// have been saved before.
func (c *Changes) Make(ctx context.Context, p *proposal.Proposal) (*making.Change, error) {
	if w, stopped := p.Stopped(); stopped {
		return nil, fmt.Errorf("%s: %s:%d:%d: %s", p.Title, w.Path, w.Line, w.Col, w.Text)
	}
	change, err := p.Change()
	if err != nil {
		return nil, err
	}
	err = c.maker.Make(ctx, change)
	return change, c.made(ctx, change, false, err)
}

// Undo takes back the latest change that was made, Redo makes it again.
func (c *Changes) Undo(ctx context.Context) (*making.Change, error) {
	change, err := c.maker.Undo(ctx)
	return change, c.made(ctx, change, true, err)
}

// Redo makes the change again that was taken back last.
func (c *Changes) Redo(ctx context.Context) (*making.Change, error) {
	change, err := c.maker.Redo(ctx)
	return change, c.made(ctx, change, false, err)
}

// Files are those of a change that are among some paths, as they are on disk.
func (c *Changes) Files(ctx context.Context, change *making.Change, open map[string]bool) (all []*codebase.File) {
	for _, s := range change.Steps {
		for _, p := range []string{s.From, s.To} {
			if !open[p] || p == "" || len(all) > 0 && all[len(all)-1].Path == p {
				continue
			}
			if f, err := c.code.OnDisk(ctx, p); err == nil {
				f.Prepare()
				all = append(all, f)
			}
		}
	}
	return all
}

// Broken are changes that were broken off, as by a crash.
func (c *Changes) Broken(ctx context.Context) ([]making.Broken, error) { return c.maker.Left(ctx) }

// Settle finishes a change that was broken off, or takes it back.
func (c *Changes) Settle(ctx context.Context, b making.Broken, back bool) error {
	settle := c.maker.Finish
	if back {
		settle = c.maker.TakeBack
	}
	return c.made(ctx, b.Change, back, settle(ctx, b))
}

// ReadFile reads a proposal from a file with a unified diff; a path that is not absolute begins at the root of the
// project.
func (c *Changes) ReadFile(ctx context.Context, file string) (*proposal.Proposal, error) {
	full := file
	if !filepath.IsAbs(file) {
		full = c.code.Absolute(file)
	}
	f, _, err := door.Open(full)
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", file, project.WithoutPath(err))
	}
	defer f.Close()
	return c.Read(ctx, f, "what "+filepath.Base(file)+" says")
}

// Keep keeps a proposal for another day, by its title; Kept are those that are, the latest first, and Drop forgets one.
func (c *Changes) Keep(p *proposal.Proposal) error {
	if c.kept == "" {
		return errors.New("there is no folder in which it could be kept")
	}
	var b bytes.Buffer
	if err := p.WriteDiff(&b); err != nil {
		return err
	}
	if err := atomicfile.Write(filepath.Join(c.kept, keptName(p.Title)), b.Bytes(), 0o600); err != nil {
		return fmt.Errorf("keeping the proposal: %w", err)
	}
	return nil
}

// keptEnding is that of the files of proposals that are kept.
const keptEnding = ".diff"

// keptName is the name of the file in which a proposal is kept.
func keptName(title string) string { return url.PathEscape(title) + keptEnding }

// Kept are the titles of the proposals that are kept, the latest first.
func (c *Changes) Kept() (titles []string) {
	files, _ := os.ReadDir(c.kept) // of a folder that is not there, none
	age := map[string]time.Time{}
	for _, f := range files {
		name, is := strings.CutSuffix(f.Name(), keptEnding)
		title, err := url.PathUnescape(name)
		if info, failed := f.Info(); is && err == nil && failed == nil {
			titles, age[title] = append(titles, title), info.ModTime()
		}
	}
	slices.SortFunc(titles, func(a, b string) int { return age[b].Compare(age[a]) })
	return titles
}

// Reopen reads a proposal that is kept, of the files as they are now.
func (c *Changes) Reopen(ctx context.Context, title string) (*proposal.Proposal, error) {
	f, err := os.Open(filepath.Join(c.kept, keptName(title)))
	if err != nil {
		return nil, fmt.Errorf("reading the proposal that is kept: %w", project.WithoutPath(err))
	}
	defer f.Close()
	return c.Read(ctx, f, title)
}

// Drop forgets a proposal that is kept.
func (c *Changes) Drop(title string) error {
	if err := os.Remove(filepath.Join(c.kept, keptName(title))); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("forgetting the proposal: %w", project.WithoutPath(err))
	}
	return nil
}

// WriteOut writes a file of the user's own, such as a diff, beside the files of the project. There must not be one of
// the name; a path that is not absolute begins at the root of the project.
func (c *Changes) WriteOut(file string, data []byte) error {
	if file == "" {
		return errors.New("it needs a name")
	}
	full := file
	if !filepath.IsAbs(file) {
		full = c.code.Absolute(file)
	}
	f, err := os.OpenFile(full, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
	if err == nil {
		_, err = f.Write(data)
		err = errors.Join(err, f.Close())
	}
	if errors.Is(err, os.ErrExist) {
		err = filing.ErrTaken
	}
	if err != nil {
		return fmt.Errorf("writing %s: %w", file, project.WithoutPath(err))
	}
	return nil
}

// Did says whether a file reads as the last change has left it that was made or taken back here.
func (c *Changes) Did(path string, doc *text.Document) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.last == nil {
		return false
	}
	raw, err := doc.Encode()
	return err == nil && slices.ContainsFunc(c.last.Steps, func(s making.Step) bool {
		if c.back {
			return s.From == path && bytes.Equal(s.Before, raw)
		}
		return s.To == path && bytes.Equal(s.After, raw)
	})
}

// Made says whether a file reads as the last change over several files has left it, so that undoing it here would take
// back one part of that alone.
func (c *Changes) Made(path string, doc *text.Document) bool {
	c.mu.Lock()
	several := c.last != nil && !c.back && len(c.last.Steps) > 1
	c.mu.Unlock()
	return several && c.Did(path, doc)
}

// made takes in what has changed on disk.
func (c *Changes) made(ctx context.Context, change *making.Change, back bool, err error) error {
	if change == nil {
		return err
	}
	c.mu.Lock()
	c.last, c.back = change, back
	c.mu.Unlock()
	var paths []string
	for _, s := range change.Steps {
		for _, p := range []string{s.From, s.To} {
			if p != "" {
				paths = append(paths, p)
			}
		}
	}
	ctx = context.WithoutCancel(ctx) // what is on disk by now is to be known in any case
	c.code.ForgetChanges()
	if !c.code.RefreshFiles(ctx, paths) {
		c.code.Refresh(ctx)
	}
	return err
}
