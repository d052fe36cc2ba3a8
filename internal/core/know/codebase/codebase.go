// Package codebase is what the files of a project say, kept up to date: which files
// there are, their texts, as they are written or as they are on disk, the facts of
// them, and the index of all.
package codebase

import (
	"cmp"
	"context"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/lsif"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// Base is the code of one project. It may be used by several goroutines.
type Base struct {
	// Compilers are those that are asked about files one by one.
	Compilers Compilers

	root      string
	languages *lang.Set
	now       func() time.Time
	symbols   index.Index
	loaded    cache
	differing changedFiles
	checks    []*checking // one for each language a compiler of which is asked
	// generation counts the changes of the code.
	generation   atomic.Int64
	listed       atomic.Pointer[project.Listing] // see Listing and list
	listers      sync.Mutex                      // one of those who change it at a time
	unsaved      unsaved
	given        givenUp
	surroundings surroundings
	recalled     atomic.Bool          // something was known of files before they were read
	earlier      *index.ListingOnDisk // of a project that was recalled, or nil
	hasty        hasty
	fresh        fresh
	everything   atomic.Bool           // no ignore file is heeded
	queue        atomic.Pointer[queue] // of what is still to be read; nil when all is
	relisting    chan struct{}         // asks Watch to list the project again
	settled      atomic.Bool           // what is known of the files is how they are, but for what changes now

	opening work.Group // reads stored
	open    func()     // opens stored, once; nil if no index is kept
	indexes string     // the folder of indexes; "" if none is kept

	machine *library.Machine // finds what lies outside; nil if nothing is wanted of it

	mu        sync.RWMutex
	outside   map[string]*outsideFolder  // folders outside that were asked about
	watched   atomic.Bool                // somebody works with it while files are read
	stored    *storedIndex               // what is kept on disk, or nil; see store
	began     time.Time                  // when the listing began
	settings  map[string][]byte          // files that say something about the project; see Text
	said      int                        // counts how often settings were forgotten
	dumps     atomic.Pointer[lsif.Index] // nil if none was taken in
	dumpsPath string                     // "" if they are not kept
	texts     contents                   // of the files that compilers read

	// What the screen asks for while it is drawn has a lock of its own, which is never held for long.
	quick    sync.Mutex
	progress Progress
	changed  chan struct{} // closed and replaced whenever progress is made
}

// outsideFolder are the symbols of a folder outside the project.
type outsideFolder struct {
	once  sync.Once
	index index.Index
}

// Progress says how far getting to know the project has come.
type Progress struct {
	// Files is how many files were found so far, Listed whether that is all.
	Files  int
	Listed bool
	// Readable is how many of them are in a language that facts can be had
	// from, Read how many of those were read, Symbols what they define.
	Readable, Read, Symbols int
	// Began is when the first file was read that had to be, and before how many were known by then.
	Began  time.Time
	before int
	// Done says that everything was read.
	Done bool
	// LeftOut are the files that were left as text, with the reason.
	LeftOut []LeftOut
	// Report tells what the listing left out.
	Report project.Report
	// Parsed is how many of the files read had to be parsed, since the index on
	// disk did not know them.
	Parsed int
	// Checked counts how often a compiler was done with the project.
	Checked int
	// Refreshed counts how often changes on disk were taken in since.
	Refreshed int
	// Notes say what else one should know, such as that the index cannot be
	// kept on disk.
	Notes []string
	// Err is why the project could not be listed, or nil.
	Err error
}

// Left says what ignore files leave out of a project of which next to nothing is left; "" if that is not so.
func (p *Progress) Left() string {
	if !p.Listed || len(p.Report.Ignored) == 0 {
		return ""
	}
	words := make([]string, 0, len(p.Report.Ignored))
	for _, i := range p.Report.Ignored[:min(3, len(p.Report.Ignored))] {
		words = append(words, fmt.Sprintf("%s leaves out %s", i.By, text.Number(i.Files)))
	}
	belong := "none of the files here belongs to the project"
	if p.Files > 0 {
		belong = fmt.Sprintf("only %d of the files here belong to the project", p.Files)
	}
	return belong + ": " + strings.Join(words, ", ")
}

// Rest is about how long reading still takes; 0 if that is not known.
func (p *Progress) Rest(now time.Time) time.Duration {
	read := p.Read - p.before
	if p.Done || read <= 0 || p.Began.IsZero() {
		return 0
	}
	return now.Sub(p.Began) * time.Duration(p.Readable-p.Read) / time.Duration(read)
}

// Known is how many of the files read were known from earlier.
func (p *Progress) Known() int { return p.Read - p.Parsed - len(p.LeftOut) }

// LeftOut is a file that no facts could be had from.
type LeftOut struct {
	Path   string
	Reason error
}

// New is the code of the project at root, an absolute path. It knows nothing until
// Read has been called.
func New(root string) *Base {
	b := &Base{
		root:      root,
		languages: catalog.Set(),
		now:       time.Now,
		changed:   make(chan struct{}),
		relisting: make(chan struct{}, 1),
		outside:   map[string]*outsideFolder{},
	}
	b.listed.Store(project.NewListing(nil))
	b.checks = b.newChecks()
	return b
}

// Root is the absolute path of the project.
func (b *Base) Root() string { return b.root }

// Name is what to call the project.
func (b *Base) Name() string { return filepath.Base(b.root) }

// TakeIn says whether all files belong to the project, whatever ignore files say. While it is watched, it is listed again.
func TakeIn(b *Base, everything bool) {
	if b.everything.Swap(everything) == everything {
		return
	}
	select {
	case b.relisting <- struct{}{}:
	default: // it was asked for already
	}
}

// FrontPage is the file that describes a project: what its root folder has
// for whoever comes first; "" if there is nothing of the kind.
func FrontPage(b *Base) string {
	entries, err := os.ReadDir(b.root)
	if err != nil {
		return ""
	}
	best, rank := "", len(frontPages)
	for _, e := range entries {
		stem, _, _ := strings.Cut(strings.ToLower(e.Name()), ".")
		if i := slices.Index(frontPages, stem); i >= 0 && i < rank && e.Type().IsRegular() {
			best, rank = e.Name(), i
		}
	}
	return best
}

// frontPages are the names, without extension and in small letters, of files
// that describe a project, the likeliest first.
var frontPages = []string{"readme", "overview", "about", "index", "main"}

// Relative writes a path as the project does; see project.Relative.
func (b *Base) Relative(p string) string { return project.Relative(b.root, p) }

// Absolute is the reverse of Relative.
func (b *Base) Absolute(p string) string { return project.Absolute(b.root, p) }

// Progress tells how far reading the project has come.
func (b *Base) Progress() Progress {
	b.quick.Lock()
	defer b.quick.Unlock()
	return b.progress
}

// Changed returns a channel that is closed when more is known than now.
func (b *Base) Changed() <-chan struct{} {
	b.quick.Lock()
	defer b.quick.Unlock()
	return b.changed
}

// advance changes the progress and wakes whoever waits for it.
func (b *Base) advance(change func(*Progress)) {
	b.quick.Lock()
	defer b.quick.Unlock()
	change(&b.progress)
	close(b.changed)
	b.changed = make(chan struct{})
}

// Has says whether the project has a file or a folder of this path, or, for an
// absolute one, the machine.
func (b *Base) Has(p string) bool {
	if path.IsAbs(p) {
		return b.machine != nil && b.machine.Has(p)
	}
	return b.Listing().Has(p)
}

// Await waits until as much is known as ready says; the error is that of the context.
func (b *Base) Await(ctx context.Context, ready func(*Progress) bool) error {
	for {
		changed := b.Changed() // before it is looked at, so that nothing is missed
		if p := b.Progress(); ready(&p) {
			return nil
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-changed:
		}
	}
}

// AwaitListed waits until all files are known, while the project is being read.
func AwaitListed(ctx context.Context, b *Base) {
	if b.queue.Load() != nil {
		_ = b.Await(ctx, func(p *Progress) bool { return p.Listed }) // whoever gave up does not need to know
	}
}

// Listing is which files the project has, as far as that is known by now.
func (b *Base) Listing() *project.Listing { return b.listed.Load() }

// relist makes another listing.
func (b *Base) relist(files []project.File) {
	b.listers.Lock()
	defer b.listers.Unlock()
	b.listed.Store(project.NewListing(files))
}

// list takes files into the listing, in place of those of the same paths.
func (b *Base) list(files []project.File) {
	b.listers.Lock()
	defer b.listers.Unlock()
	b.listed.Store(b.Listing().With(files))
}

// FilesNamed implements resolve.Code: the paths of the files of that name.
func (b *Base) FilesNamed(base string) []string { return b.Listing().Named(base) }

// Index are the symbols of the project.
func (b *Base) Index() *index.Index { return &b.symbols }

// Generation implements resolve.Code.
func (b *Base) Generation() int { return int(b.generation.Load()) }

// Named returns the symbols of exactly this name.
func (b *Base) Named(name string) []index.Symbol {
	for {
		all := b.symbols.Named(name)
		paths := make([]string, 0, len(all))
		for i := range all {
			if i == 0 || all[i].Path != all[i-1].Path {
				paths = append(paths, all[i].Path)
			}
		}
		if !b.sure(paths...) {
			return all
		}
	}
}

// ImportsOf implements resolve.Code.
func (b *Base) ImportsOf(path string) (all []facts.Imported, ok bool) {
	b.sure(path)
	return b.symbols.Imports(path)
}

// LanguageCount tells how much of the project is in a language.
type LanguageCount struct {
	Name string
	// Lines, Defs and Uses are those of the files that were read; Defs counts
	// all definitions, local ones too, and Uses all uses of names.
	Files, Lines, Defs, Uses int
}

// CountLanguages counts what there is by language, the commonest first. What is in
// no language that is read is not counted.
func CountLanguages(b *Base) (counts []LanguageCount) {
	byName := map[string]*LanguageCount{}
	for f := range b.Listing().Files() {
		l := b.languages.Of(f.Path)
		if l == nil {
			continue
		}
		c := byName[l.Name]
		if c == nil {
			c = &LanguageCount{Name: l.Name}
			byName[l.Name] = c
		}
		c.Files++
		if s := b.symbols.Head(f.Path); s != nil {
			c.Lines += s.Lines
			c.Defs += s.Defs
			c.Uses += s.Uses
		}
	}
	for _, c := range byName {
		counts = append(counts, *c)
	}
	slices.SortFunc(counts, func(a, b LanguageCount) int {
		return cmp.Or(cmp.Compare(b.Files, a.Files), cmp.Compare(a.Name, b.Name))
	})
	return counts
}

// Mentioning returns the files that define or use a name, as the index knows
// them: none is missing, and now and then one is too many.
func (b *Base) Mentioning(name string) []string {
	for {
		all := b.symbols.Mentioning(name)
		if !b.sure(all...) {
			return all
		}
	}
}

// addFiles takes in a batch of the listing.
func (b *Base) addFiles(batch []project.File) {
	slices.SortFunc(batch, func(a, b project.File) int { return strings.Compare(a.Path, b.Path) })
	b.list(batch)
	b.mu.Lock()
	b.forgetSettings()
	b.mu.Unlock()
	b.generation.Add(1)
	b.advance(func(p *Progress) { p.Files += len(batch) })
}
