package project

import (
	"iter"
	"maps"
	"path"
	"slices"
	"sync"
	"sync/atomic"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/fuzzy"
)

// Listing is which files and folders a project has. It never changes, so that
// whoever holds one reads it without waiting for anybody; With makes another one.
type Listing struct {
	below   Below // what was listed earlier; nil for nothing
	files   layers[File]
	folders layers[struct{}]
	count   int // of the files

	corpus   atomic.Pointer[fuzzy.Corpus] // nil until asked for
	building sync.Once
	extended atomic.Bool // another corpus goes on in the room behind this one
	named    func() map[string][]string
}

// Below is a listing from earlier, which lies on disk and is asked there.
type Below interface {
	// File is the file of a path, IsFolder says whether there is such a folder.
	File(path string) (File, bool)
	IsFolder(path string) bool
	// Len is how many files there are, Files and Folders are all.
	Len() int
	Files() iter.Seq[File]
	Folders() iter.Seq[string]
	// Named are the paths of the files of a name, in their order.
	Named(base string) []string
}

// Upon is a listing of what was listed earlier.
func Upon(below Below) *Listing {
	l := &Listing{below: below, count: below.Len()}
	l.take(nil)
	return l
}

// NewListing makes one of some files.
func NewListing(files []File) *Listing {
	l := &Listing{folders: layers[struct{}]{{".": {}}}}
	l.take(files)
	return l
}

// take adds files to a listing that nobody else has yet.
func (l *Listing) take(files []File) {
	some, folders := make(map[string]File, len(files)), map[string]struct{}{}
	for _, f := range files {
		if _, again := some[f.Path]; !again && !l.IsFile(f.Path) {
			l.count++
		}
		some[f.Path] = f
		for dir := path.Dir(f.Path); ; dir = path.Dir(dir) {
			if _, known := folders[dir]; known || l.IsFolder(dir) {
				break
			}
			folders[dir] = struct{}{}
		}
	}
	l.files, l.folders = l.files.with(some), l.folders.with(folders)
	l.named = sync.OnceValue(l.byName)
}

// With is the listing with other files, in place of those of the same paths.
func (l *Listing) With(files []File) *Listing {
	n := &Listing{below: l.below, files: l.files, folders: l.folders, count: l.count}
	if c := l.corpus.Load(); c != nil || l.count == 0 {
		n.corpus.Store(l.longer(c, files))
	}
	n.take(files)
	return n
}

// longer is the corpus of the listing, if that is not nil, with the paths of files
// that are new.
func (l *Listing) longer(c *fuzzy.Corpus, files []File) *fuzzy.Corpus {
	longer := &fuzzy.Corpus{}
	if c != nil {
		if l.extended.Swap(true) { // the room behind it is taken
			longer = c.Clone()
		} else {
			longer = c.Extended()
		}
	}
	for _, f := range files {
		if !l.IsFile(f.Path) {
			longer.Add(f.Path, place.Base(f.Path))
		}
	}
	return longer
}

// Paths are the paths of the files as a corpus, to be searched only.
func (l *Listing) Paths() *fuzzy.Corpus {
	l.building.Do(func() {
		if l.corpus.Load() != nil {
			return
		}
		var c fuzzy.Corpus
		for _, p := range l.sorted() {
			c.Add(p, place.Base(p))
		}
		l.corpus.Store(&c)
	})
	return l.corpus.Load()
}

// File is the file of a path.
func (l *Listing) File(path string) (File, bool) {
	if f, ok := l.files.get(path); ok || l.below == nil {
		return f, ok
	}
	return l.below.File(path)
}

// IsFile says whether there is a file of that path, IsFolder whether there is a
// folder, Has whether there is one of both.
func (l *Listing) IsFile(path string) bool {
	_, ok := l.File(path)
	return ok
}
func (l *Listing) IsFolder(path string) bool {
	return l.folders.has(path) || l.below != nil && l.below.IsFolder(path)
}
func (l *Listing) Has(path string) bool { return l.IsFile(path) || l.IsFolder(path) }

// Len is how many files there are.
func (l *Listing) Len() int { return l.count }

// Files are the files, in no particular order.
func (l *Listing) Files() iter.Seq[File] {
	return func(yield func(File) bool) {
		more := true
		l.files.each(func(_ string, f File) bool {
			more = yield(f)
			return more
		})
		if l.below == nil || !more {
			return
		}
		for f := range l.below.Files() {
			if !l.files.has(f.Path) && !yield(f) {
				return
			}
		}
	}
}

// Folders are the paths of the folders, in no particular order.
func (l *Listing) Folders() iter.Seq[string] {
	return func(yield func(string) bool) {
		more := true
		l.folders.each(func(p string, _ struct{}) bool {
			more = yield(p)
			return more
		})
		if l.below == nil || !more {
			return
		}
		for p := range l.below.Folders() {
			if !l.folders.has(p) && !yield(p) {
				return
			}
		}
	}
}

// Named are the paths of the files of a name, in their order.
func (l *Listing) Named(base string) []string {
	named := l.named()[base]
	if l.below == nil {
		return named
	}
	earlier := l.below.Named(base)
	if len(named) == 0 {
		return earlier
	}
	all := slices.Concat(named, earlier)
	slices.Sort(all)
	return slices.Compact(all)
}

func (l *Listing) byName() map[string][]string {
	named := map[string][]string{}
	var paths []string
	l.files.each(func(p string, _ File) bool {
		paths = append(paths, p)
		return true
	})
	slices.Sort(paths)
	for _, p := range paths {
		base := path.Base(p)
		named[base] = append(named[base], p)
	}
	return named
}

func (l *Listing) sorted() []string {
	paths := make([]string, 0, l.Len())
	for f := range l.Files() {
		paths = append(paths, f.Path)
	}
	slices.Sort(paths)
	return paths
}

// layers are a map that never changes: what is added lies above what was there.
// Each layer has at least twice as many entries as the one above it, so that there
// are few, and adding all there is bit by bit costs little more than at once.
type layers[V any] []map[string]V

// with is the map with other entries, in place of those of the same keys. It keeps
// the map it is given.
func (l layers[V]) with(some map[string]V) layers[V] {
	for len(l) > 0 && len(l[len(l)-1]) < 2*len(some) {
		below := maps.Clone(l[len(l)-1])
		maps.Copy(below, some)
		some, l = below, l[:len(l)-1]
	}
	if len(some) == 0 {
		return l
	}
	return append(slices.Clip(l), some)
}

func (l layers[V]) get(key string) (V, bool) {
	for _, layer := range slices.Backward(l) {
		if v, ok := layer[key]; ok {
			return v, true
		}
	}
	var none V
	return none, false
}

func (l layers[V]) has(key string) bool {
	_, ok := l.get(key)
	return ok
}

// each calls with all entries until yield is false.
func (l layers[V]) each(yield func(string, V) bool) {
	for i, layer := range l {
		for key, v := range layer {
			if !l[i+1:].has(key) && !yield(key, v) {
				return
			}
		}
	}
}
