package codebase

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/index"
)

// checking is what a compiler of a language says about the project.
type checking struct {
	language *lang.Language
	book     *check.Book
	units    lang.Units    // a compiler is asked about files of its family one by one; nil if not
	files    *checkedFiles // as they are; nil until asked for, and after changes; under the lock of the code
}

// newChecks begins the books of all languages a compiler of which is asked.
func (b *Base) newChecks() (all []*checking) {
	for _, l := range b.languages.All() {
		if l.Units != lang.NoUnits && !slices.ContainsFunc(all, func(c *checking) bool { return c.units != nil && c.language.Family == l.Family }) {
			all = append(all, b.newUnits(l))
		}
		if l.Checker == lang.NoChecker {
			continue
		}
		c := &checking{language: l}
		c.book = check.NewBook(shelf{b}, func(folder string) check.Digest { return b.ownDigest(c, folder) }, func() []string { return b.checkedFolders(c) })
		c.book.Read = b.readForCheck
		all = append(all, c)
	}
	return all
}

// Checked implements resolve.Code.
func (b *Base) Checked(l *lang.Language) *check.Book {
	for _, c := range b.checks {
		switch {
		case c.units == nil && c.language == l:
			return c.book
		case c.units != nil && l != nil && c.language.Family == l.Family && b.Compilers.compiler(l) != "":
			return c.book
		}
	}
	return nil
}

// isChecked says whether what a compiler says depends on the text of a file.
func (b *Base) isChecked(p string) bool {
	return slices.ContainsFunc(b.checks, func(c *checking) bool {
		if c.units == nil {
			return c.language.Checker.Reads(p[place.Base(p):])
		}
		l := b.languages.Of(p)
		return l != nil && l.Family == c.language.Family && b.Compilers.compiler(c.language) != ""
	})
}

// Check asks the compilers about the packages of the project that have changed
// since they were last asked, and returns when all answers are in. Where that
// cannot be, as without the compiler, the answers come from the general resolver,
// and a note says why.
func (b *Base) Check(ctx context.Context, pace check.Pace) error {
	for _, c := range b.checks {
		if c.units != nil {
			if err := b.checkUnits(ctx, c, pace, false); err != nil {
				return err
			}
			continue
		}
		folders := b.tops(c)
		if len(folders) == 0 {
			continue
		}
		err := c.language.Checker.Check(ctx, b.root, folders, c.book, pace)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if err != nil {
			b.Note(fmt.Sprintf("answers about %s are not exact: %v", c.language.Name, err))
		}
		b.advance(func(p *Progress) { p.Checked++ })
	}
	return nil
}

// tops are the folders of the modules that a compiler is asked about.
func (b *Base) tops(c *checking) (folders []string) {
	for _, top := range b.FilesNamed(c.language.Checker.Top()) {
		if dir := path.Dir(top); !c.language.Checker.Ignores(dir) {
			folders = append(folders, dir)
		}
	}
	slices.Sort(folders)
	return folders
}

// Errors are what the compiler of a language, if one is asked, finds wrong with the packages of some files as they
// read in texts, and with all that see these packages if importers. An error says that it could not be asked.
func (b *Base) Errors(ctx context.Context, l *lang.Language, texts map[string][]byte, importers bool) ([]check.Error, error) {
	for _, c := range b.checks {
		if c.language != l {
			continue
		}
		tops, folders := b.tops(c), []string(nil)
		for p := range texts {
			if dir := path.Dir(p); !l.Checker.Ignores(dir) && !slices.Contains(folders, dir) {
				folders = append(folders, dir)
			}
		}
		if len(tops) == 0 || len(folders) == 0 {
			continue
		}
		return l.Checker.Errors(ctx, b.root, tops, folders, importers, func(name string) ([]byte, error) {
			if text, ok := texts[b.Relative(name)]; ok {
				return text, nil
			}
			return b.readForCheck(name)
		})
	}
	return nil, nil
}

// Values asks the compiler of a file's language about values in it, as it is now; ok is false if none is asked, or it
// does not read that file.
func (b *Base) Values(ctx context.Context, p string, asked check.Asked) (v check.Values, ok bool, err error) {
	l := b.languages.Of(p)
	if l == nil || b.Checked(l) == nil || b.IsOutside(p) {
		return v, false, nil
	}
	asked.Path = b.Absolute(p)
	for dir := range lang.FoldersUp(p) {
		if b.Has(path.Join(dir, l.Checker.Top())) && !l.Checker.Ignores(path.Dir(p)) {
			v, err = l.Checker.Values(ctx, b.root, dir, path.Dir(p), b.readForCheck, asked)
			return v, err == nil, err
		}
	}
	return v, false, nil
}

// CheckAround asks the compiler of a file's language, if one is asked, about the
// package that the file belongs to, unless that was checked as it is now. Where that
// cannot be, the answers come from the general resolver, and a note says why.
func (b *Base) CheckAround(ctx context.Context, p string) error {
	book := b.Checked(b.languages.Of(p))
	if book == nil || b.IsOutside(p) || book.Checked(p) {
		return nil
	}
	for _, c := range b.checks {
		if c.book == book && c.units != nil {
			return b.checkUnit(ctx, c, p)
		}
	}
	asked := b.languages.Of(p).Checker
	for dir := range lang.FoldersUp(p) {
		if !b.Has(path.Join(dir, asked.Top())) {
			continue
		}
		if asked.Ignores(path.Dir(p)) {
			return nil
		}
		if err := asked.CheckFolder(ctx, b.root, dir, path.Dir(p), book); err != nil && ctx.Err() == nil {
			b.Note(fmt.Sprintf("answers about %s are not exact: %v", b.languages.Of(p).Name, err))
		}
		return ctx.Err()
	}
	return nil
}

// settle is how long files have to rest before they are checked again.
const settle = time.Second

// KeepChecked checks the project, and what changes of it again whenever it does,
// until the context is cancelled.
func (b *Base) KeepChecked(ctx context.Context) {
	for ctx.Err() == nil {
		before := b.allChecked()
		if err := b.Check(ctx, check.Beside); err != nil {
			return
		}
		for slices.Equal(b.allChecked(), before) {
			select {
			case <-ctx.Done():
				return
			case <-b.Changed():
			case <-b.Compilers.shown:
				b.checkShown(ctx)
			}
		}
		for now := b.allChecked(); ; now = b.allChecked() {
			select {
			case <-ctx.Done():
				return
			case <-time.After(settle):
			}
			if slices.Equal(b.allChecked(), now) {
				break
			}
		}
	}
}

// allChecked are the files that the compilers read; it is another list after each
// change.
func (b *Base) allChecked() (all []*checkedFiles) {
	for _, c := range b.checks {
		all = append(all, b.checkedNow(c))
	}
	return all
}

// checkedFiles are the files that a compiler reads, by folders, and a digest of what
// else its answers depend on.
type checkedFiles struct {
	environment string
	folders     map[string][]string // the paths of the files
}

// checkedNow collects the files as they are.
func (b *Base) checkedNow(c *checking) *checkedFiles {
	if c.units != nil {
		return b.unitsNow(c)
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if c.files != nil {
		return c.files
	}
	g := &checkedFiles{folders: map[string][]string{}}
	var settings []string
	for f := range b.Listing().Files() {
		p := f.Path
		switch base := p[place.Base(p):]; {
		case c.language.Checker.Reads(base):
			dir := folderOf(p)
			g.folders[dir] = append(g.folders[dir], p)
		case c.language.Checker.Settings(base):
			settings = append(settings, p)
		}
	}
	slices.Sort(settings)
	var others strings.Builder
	for _, p := range settings {
		text, _ := door.ReadWithin(b.root, p, door.LargestSettings) // what cannot be read counts as empty
		fmt.Fprintf(&others, "%s %x\n", p, index.ContentOf("", text))
	}
	g.environment = others.String() + c.language.Checker.Environment()
	c.files = g
	return g
}

// filesChanged tells that files have come, gone or changed on disk: what was worked
// out from the code is worked out anew, and files that say something about the project
// are read again.
func (b *Base) filesChanged() {
	b.mu.Lock()
	for _, c := range b.checks {
		c.files = nil
	}
	b.forgetSettings()
	b.mu.Unlock()
	b.textChanged()
}

// textChanged tells that a text was written, with the files on disk as they were: what
// was worked out from the code is worked out anew.
func (b *Base) textChanged() {
	b.generation.Add(1)
	for _, c := range b.checks {
		c.book.Changed()
	}
}

// ownDigest stands for the files of a folder as they are now.
func (b *Base) ownDigest(c *checking, folder string) check.Digest {
	g := b.checkedNow(c)
	contents := map[string][16]byte{}
	b.mu.RLock()
	for _, p := range g.folders[folder] {
		contents[p[place.Base(p):]] = b.texts.get(p)
	}
	b.mu.RUnlock()
	return check.Folder(g.environment, contents)
}

// folderOf is the folder of a file, whose path is clean.
func folderOf(p string) string {
	if i := place.Base(p); i > 0 {
		return p[:i-1]
	}
	return "."
}

// checkedFolders are those with files that a compiler reads.
func (b *Base) checkedFolders(c *checking) (folders []string) {
	for f := range b.checkedNow(c).folders {
		folders = append(folders, f)
	}
	slices.Sort(folders)
	return folders
}

// shelf keeps what was checked with the index, if that is kept.
type shelf struct{ *Base }

func (s shelf) Records(folder string) ([][]byte, error) {
	if m := s.store(); m != nil {
		return m.store.Records(folder)
	}
	return nil, nil
}

func (s shelf) Heads(folder string) ([][]byte, error) {
	if m := s.store(); m != nil {
		return m.store.Heads(folder)
	}
	return nil, nil
}

func (s shelf) Keep(folder, name string, own check.Digest, head, data []byte) error {
	if m := s.store(); m != nil {
		if err := m.store.Keep(folder, name, own, head, data); err != nil {
			s.Note(fmt.Sprintf("exact answers are not kept on disk: %v", err))
		}
	}
	return nil
}
