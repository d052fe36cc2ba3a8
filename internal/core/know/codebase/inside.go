package codebase

import (
	"context"
	"sync"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/selection"
	"rooktrail/internal/core/know/fuzzy"
)

// inside is what is worked out of a file when it is first asked for.
type inside struct {
	once      sync.Once
	generated bool
	runs      lexical.Runs
	regions   []fold.Region
	entries   []outline.Entry
	names     fuzzy.Corpus

	treeOnce sync.Once
	pieces   []place.Range
}

// largestTree is up to which size, in bytes, selections grow by the syntax tree
// of a text; beyond it, by the text and its facts alone.
const largestTree = 1 << 20

func (f *File) work() *inside {
	f.in.once.Do(func() {
		if f.Text.Binary() {
			return
		}
		f.Text.PrepareRepeats()
		languages := f.languages
		if languages == nil {
			languages = catalog.Set()
		}
		f.in.generated = languages.IsGenerated(f.Path, f.Text.Bytes())
		signs := languages.Signs(f.Path)
		f.in.runs = signs.Runs(f.Text.Bytes())
		f.in.regions = fold.Regions(signs, f.Text, f.Facts, f.in.runs)
		if f.Facts == nil {
			return
		}
		f.in.entries = outline.Entries(f.Facts)
		for _, e := range f.in.entries {
			f.in.names.Add(e.Name, 0)
		}
	})
	return &f.in
}

// Prepare works out what Regions and Outline return, so that asking for them
// later takes no time. It may take longer than a frame.
func (f *File) Prepare() { f.work() }

// Generated says that a program has written the file, so that what one changes in it is gone
// when that writes it again.
func (f *File) Generated() bool { return f.work().generated }

// Regions are the parts of the file that can be folded.
func (f *File) Regions() []fold.Region { return f.work().regions }

// Outline are the entries of the file's outline, and their names by the same
// numbers to be searched.
func (f *File) Outline() ([]outline.Entry, *fuzzy.Corpus) {
	in := f.work()
	return in.entries, &in.names
}

// Ground is what selections grow on in a file. The first time it may take
// longer than a frame.
func (b *Base) Ground(ctx context.Context, f *File) *selection.Ground {
	in := f.work()
	g := &selection.Ground{Doc: f.Text, Runs: in.runs, Regions: in.regions, Facts: f.Facts}
	if signs := b.languages.Signs(f.Path); signs != nil {
		g.Markup = signs.Tags
	}
	l := b.languages.Of(f.Path)
	if l == nil {
		return g
	}
	g.Keywords = l.Keywords
	if f.Text.Whole() && f.Text.Len() <= largestTree {
		in.treeOnce.Do(func() {
			// Without a tree, a selection grows by the text alone.
			in.pieces, _ = l.Pieces(ctx, f.Text.Bytes())
		})
		g.Pieces = in.pieces
	}
	return g
}
