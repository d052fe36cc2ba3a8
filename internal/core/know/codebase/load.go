package codebase

import (
	"context"
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/project"
)

// File is the text of a file with its facts.
type File struct {
	Path string
	Text *text.Document
	// Facts are nil for a file that is not in a known language, too large to
	// parse or not wholly read yet.
	Facts *facts.File
	// Stamp is that of the file on disk when it was read; zero for a text that is written.
	Stamp text.Stamp
	// Foreign says that the file is not the project's own, as of when it was read from disk;
	// see isForeign.
	Foreign bool
	// Supposed says that it does not read so, but would after a change; see As.
	Supposed bool

	languages *lang.Set // nil for those by the names of files

	in inside
}

// Load reads a file, or takes it from those that were loaded lately if it has
// not changed on disk.
func (b *Base) Load(ctx context.Context, p string) (*File, error) {
	b.shows(p)
	if q := b.queue.Load(); q != nil {
		q.look(p)
	}
	if f := b.unsaved.get(p); f != nil {
		return f, nil
	}
	return b.OnDisk(ctx, p)
}

// OnDisk is Load for a file as it is on disk, also while another text of it is written.
func (b *Base) OnDisk(ctx context.Context, p string) (*File, error) {
	b.sure(p)
	stamp := b.Stamp(p)
	if f := b.loaded.get(p, stamp); f != nil {
		return f, nil
	}
	doc, err := text.Load(b.Absolute(p))
	if err != nil {
		return nil, err
	}
	f := &File{Path: p, Text: doc, Stamp: stamp, Foreign: b.isForeign(p), languages: b.languages}
	if doc.Size() <= largestParsed {
		// Without facts the file is shown as the text it is.
		f.Facts, _ = b.factsOf(ctx, p, doc)
	}
	if ctx.Err() == nil {
		b.loaded.put(p, stamp, f)
	}
	return f, nil
}

// FactsOnce reads the facts of a file without keeping them: for who asks about all files of a project, one after the other.
func FactsOnce(ctx context.Context, b *Base, p string) (*facts.File, error) {
	if f := b.unsaved.get(p); f != nil {
		return f.Facts, nil
	}
	if f := b.loaded.get(p, b.Stamp(p)); f != nil {
		return f.Facts, nil
	}
	doc, err := b.loadText(p)
	if err != nil {
		return nil, err
	}
	return b.factsOf(ctx, p, doc)
}

// LoadText reads a file without its facts, unless it was loaded lately.
func LoadText(b *Base, p string) (*File, error) { return b.withoutFacts(p, text.Load) }

// LoadHead reads a file as far as it can be shown at once: all of it, or the
// beginning of a large one, without facts.
func (b *Base) LoadHead(p string) (*File, error) { return b.withoutFacts(p, text.LoadHead) }

func (b *Base) withoutFacts(p string, load func(path string) (*text.Document, error)) (*File, error) {
	if f := b.unsaved.get(p); f != nil {
		return f, nil
	}
	if f := b.loaded.get(p, b.Stamp(p)); f != nil {
		return f, nil
	}
	doc, err := load(b.Absolute(p))
	if err != nil {
		return nil, err
	}
	return &File{Path: p, Text: doc, Foreign: b.isForeign(p), languages: b.languages}, nil
}

// Facts implements resolve.Code.
func (b *Base) Facts(ctx context.Context, p string) (*facts.File, []byte) {
	f, err := b.Load(ctx, p)
	if err != nil || f.Facts == nil {
		return nil, nil
	}
	return f.Facts, f.Text.Bytes()
}

// The cache holds this many files, and in them this many bytes of text, not
// counting the one loaded last.
const (
	mostCached      = 1024
	mostCachedBytes = 64 << 20
)

// cache keeps the files that were loaded lately.
type cache struct {
	mu    sync.Mutex
	files *simplelru.LRU[string, cached]
	bytes int
}

type cached struct {
	file  *File
	stamp text.Stamp
}

func (c *cache) get(p string, s text.Stamp) *File {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.files == nil {
		return nil
	}
	if e, ok := c.files.Get(p); ok && e.stamp == s {
		return e.file
	}
	return nil
}

// drop forgets files.
func (c *cache) drop(files []project.File) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.files == nil {
		return
	}
	for _, f := range files {
		c.files.Remove(f.Path)
	}
}

func (c *cache) put(p string, s text.Stamp, f *File) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.files == nil {
		c.files, _ = simplelru.NewLRU(mostCached, func(_ string, e cached) { c.bytes -= e.file.Text.Len() }) // the size is positive
	}
	c.files.Remove(p)
	for c.bytes > mostCachedBytes {
		c.files.RemoveOldest()
	}
	c.files.Add(p, cached{f, s})
	c.bytes += f.Text.Len()
}
