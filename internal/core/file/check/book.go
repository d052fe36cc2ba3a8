package check

import (
	"cmp"
	"iter"
	"os"
	"path"
	"slices"
	"sync"

	"rooktrail/internal/core/work"
)

// Shelf keeps encoded records by the folder of their package.
type Shelf interface {
	// Records returns what is kept of a folder, the newest first; Heads the heads of
	// these alone.
	Records(folder string) ([][]byte, error)
	Heads(folder string) ([][]byte, error)
	// Keep adds a record with its head.
	Keep(folder, name string, own Digest, head, data []byte) error
}

// Book answers from the records that hold for the present text. It may be used
// by several goroutines.
type Book struct {
	// Read gives the text of a file, by its absolute path; nil to read it from disk. Texts
	// that are not saved yet are checked by that.
	Read func(name string) ([]byte, error)
	// Single says that each file has a record of its own, which is kept under its path instead of a folder's, does not
	// know of all uses in it, and rests on files, for which Now stands as they are.
	Single bool
	Now    func(file string) (d Digest, ok bool)

	shelf Shelf
	own   func(folder string) Digest
	all   func() []string

	mu      sync.Mutex
	fresh   map[string][]*Record // checked in this run
	shelved map[string][]*Record // read from the shelf
	heads   map[string][]*Head   // the same of their heads
	valid   map[string][]*Record
	views   map[string]view
	havers  map[string][]haver // by the ID of a method
}

// view is what is known of how others see a folder's package.
type view struct {
	digest Digest
	ok     bool
}

// haver is a type that has a method.
type haver struct {
	record *Record
	typ    *Type
}

// NewBook makes a book of what a shelf holds, which may be nil. own gives the
// digest of the files of a folder as they are now, all the folders that have
// any.
func NewBook(shelf Shelf, own func(folder string) Digest, all func() []string) *Book {
	b := &Book{shelf: shelf, own: own, all: all, fresh: map[string][]*Record{}}
	b.forget()
	return b
}

// Own is the digest of the files of a folder as they are now.
func (b *Book) Own(folder string) Digest { return b.own(folder) }

// Changed tells that files have changed, so that what holds is found out anew.
func (b *Book) Changed() {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.forget()
}

func (b *Book) forget() {
	b.shelved, b.heads = map[string][]*Record{}, map[string][]*Head{}
	b.valid, b.views, b.havers = map[string][]*Record{}, map[string]view{}, nil
}

// Add takes in a record that was made just now and keeps it.
func (b *Book) Add(r *Record) error {
	b.mu.Lock()
	kept := slices.DeleteFunc(b.fresh[r.Folder], func(o *Record) bool { return o.Name == r.Name })
	b.fresh[r.Folder] = append(kept, r)
	if b.Single {
		delete(b.valid, r.Folder)
		delete(b.shelved, r.Folder)
		bound(b.fresh)
	} else {
		b.valid, b.views, b.havers = map[string][]*Record{}, map[string]view{}, nil
	}
	b.mu.Unlock()
	if b.shelf == nil {
		return nil
	}
	return b.shelf.Keep(r.Folder, r.Name, r.Own, r.Head.Encode(), r.Encode())
}

// mostSingle is how many records of single files are held in memory; those that are needed again come from the shelf.
const mostSingle = 300

// bound drops some of too many records.
func bound(records map[string][]*Record) {
	for k := range records {
		if len(records) <= mostSingle {
			return
		}
		delete(records, k)
	}
}

// Knows says whether there is a record with a head like the one given, of that name.
func (b *Book) Knows(like *Head, name string) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	return slices.ContainsFunc(b.candidateHeads(like.Folder), func(h *Head) bool {
		return h.Name == name && h.Own == like.Own && slices.Equal(h.Imports, like.Imports)
	})
}

// View is how others see the package of a folder, if that is known.
func (b *Book) View(folder string) (Digest, bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	v := b.viewOf(folder)
	return v.digest, v.ok
}

// under is what the record of a file is kept under.
func (b *Book) under(file string) string {
	if b.Single {
		return file
	}
	return path.Dir(file)
}

// Holds says whether there is a record of a file, or of a folder, as it is now, be it that nothing is known of it.
func (b *Book) Holds(folder string) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	own := b.own(folder)
	return slices.ContainsFunc(b.candidateHeads(folder), func(h *Head) bool { return h.Own == own && b.seen(h.Imports) })
}

// Declares says whether a name is declared at an offset of a file, as far as it was checked as it is now.
func (b *Book) Declares(file string, offset int) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, r := range b.records(b.under(file)) {
		for i := range r.Files {
			if f := &r.Files[i]; f.Base == path.Base(file) {
				_, found := slices.BinarySearchFunc(f.Defined, uint32(offset), func(d Defined, at uint32) int { return cmp.Compare(d.Offset, at) })
				return found || !b.Single
			}
		}
	}
	return false
}

// Defined are the places in some files where what a symbol stands for is written out. ok is false if one of the files was not
// checked as it is now.
func (b *Book) Defined(symbol uint64, files []string) (found []Target, ok bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, file := range files {
		known := false
		for _, r := range b.records(b.under(file)) {
			for _, f := range r.Files {
				if f.Base != path.Base(file) {
					continue
				}
				known = true
				for _, d := range f.Defined {
					if d.Symbol == symbol {
						found = append(found, Target{Folder: path.Dir(file), File: f.Base, Offset: d.Offset, Nested: true, Symbol: symbol})
					}
				}
			}
		}
		if !known {
			return nil, false
		}
	}
	return found, true
}

// candidates are all records of a folder, whether they hold or not.
func (b *Book) candidates(folder string) []*Record {
	read, ok := b.shelved[folder]
	if !ok && b.shelf != nil {
		kept, _ := b.shelf.Records(folder) // what cannot be read is checked again
		for _, data := range kept {
			if r, err := Decode(data); err == nil {
				read = append(read, r)
			}
		}
		b.shelved[folder] = read
	}
	return append(b.fresh[folder][:len(b.fresh[folder]):len(b.fresh[folder])], read...)
}

// candidateHeads are the heads of all records of a folder, whether they hold or not.
func (b *Book) candidateHeads(folder string) (heads []*Head) {
	for _, r := range b.fresh[folder] {
		heads = append(heads, &r.Head)
	}
	read, ok := b.heads[folder]
	if !ok && b.shelf != nil {
		kept, _ := b.shelf.Heads(folder) // what cannot be read is checked again
		for _, data := range kept {
			if h, err := DecodeHead(data); err == nil {
				read = append(read, h)
			}
		}
		if !b.Single { // of which there are too many to be kept
			b.heads[folder] = read
		}
	}
	return append(heads, read...)
}

// viewOf is how others see the package of a folder as it is now.
func (b *Book) viewOf(folder string) view {
	if v, ok := b.views[folder]; ok {
		return v
	}
	if b.Single {
		d, ok := b.Now(folder)
		b.views[folder] = view{d, ok}
		return b.views[folder]
	}
	b.views[folder] = view{} // imports in a circle have no view
	own := b.own(folder)
	for _, h := range b.candidateHeads(folder) {
		if h.Own == own && b.seen(h.Basis) {
			v := view{h.View, true}
			b.views[folder] = v
			return v
		}
	}
	return view{}
}

// seen says whether packages look as they did.
func (b *Book) seen(list []Seen) bool {
	for _, s := range list {
		if v := b.viewOf(s.Folder); !v.ok || v.digest != s.View {
			return false
		}
	}
	return true
}

// records are those of a folder that hold now.
func (b *Book) records(folder string) []*Record {
	if v, ok := b.valid[folder]; ok {
		return v
	}
	var valid []*Record
	candidates := b.candidates(folder)
	own := Digest{}
	if len(candidates) > 0 { // else it takes time for nothing
		own = b.own(folder)
	}
	for _, r := range candidates {
		if r.Own == own && !slices.ContainsFunc(valid, func(o *Record) bool { return o.Name == r.Name }) && b.seen(r.Imports) {
			valid = append(valid, r)
		}
	}
	b.valid[folder] = valid
	if b.Single {
		bound(b.valid)
		bound(b.shelved)
	}
	return valid
}

// Use returns what the name at an offset of a file means. ok is false if that is
// not known, be it that the file was not checked as it is now.
func (b *Book) Use(file string, offset int) (t Target, ok bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	base := path.Base(file)
	for _, r := range b.records(b.under(file)) {
		for i := range r.Files {
			if r.Files[i].Base == base {
				u, ok := r.Files[i].use(uint32(offset))
				if !ok {
					return Target{}, false
				}
				return r.Targets[u.Target], true
			}
		}
	}
	return Target{}, false
}

// Faults are what is wrong with a file. ok is false if it was not checked as it is now.
func (b *Book) Faults(file string) (all []Fault, ok bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for f := range b.as(file) {
		all, ok = append(all, f.Faults...), true
	}
	return all, ok
}

// as are what the records that hold say of a file. The lock is held.
func (b *Book) as(file string) iter.Seq[*File] {
	return func(yield func(*File) bool) {
		for _, r := range b.records(b.under(file)) {
			for i := range r.Files {
				if r.Files[i].Base == path.Base(file) && !yield(&r.Files[i]) {
					return
				}
			}
		}
	}
}

// Checked says whether a file was checked as it is now.
func (b *Book) Checked(file string) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	for range b.as(file) {
		return true
	}
	return false
}

// Implementers are the types that have all methods of the interface of a name
// in a folder, interfaces among them. ok is false if that cannot be told.
func (b *Book) Implementers(folder, name string) (found []Target, ok bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	t := b.typ(folder, name)
	if t == nil || t.Generic || !t.Interface || len(t.Methods) == 0 {
		return nil, false
	}
	b.collect()
	rarest := slices.MinFunc(t.Methods, func(x, y Method) int { return len(b.havers[x.ID]) - len(b.havers[y.ID]) })
	for _, h := range b.havers[rarest.ID] {
		if h.typ != t && has(h.typ, t.Methods) {
			found = append(found, h.record.Targets[h.typ.Target])
		}
	}
	return found, true
}

// Implemented are the interfaces all methods of which the type of a name in a
// folder has. ok is false if that cannot be told.
func (b *Book) Implemented(folder, name string) (found []Target, ok bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	t := b.typ(folder, name)
	if t == nil || t.Generic {
		return nil, false
	}
	b.collect()
	seen := map[*Type]bool{t: true}
	for _, m := range t.Methods {
		for _, h := range b.havers[m.ID] {
			if h.typ.Interface && !seen[h.typ] {
				seen[h.typ] = true
				if has(t, h.typ.Methods) {
					found = append(found, h.record.Targets[h.typ.Target])
				}
			}
		}
	}
	return found, true
}

// has says whether a type has all of the methods.
func has(t *Type, methods []Method) bool {
	if t.Generic || len(t.Methods) < len(methods) {
		return false
	}
	for _, m := range methods {
		if !slices.ContainsFunc(t.Methods, func(o Method) bool { return o.ID == m.ID && o.Signature == m.Signature }) {
			return false
		}
	}
	return true
}

// typ finds a type of a folder by its name.
func (b *Book) typ(folder, name string) *Type {
	for _, r := range b.records(folder) {
		for i := range r.Types {
			if r.Targets[r.Types[i].Target].Name == name {
				return &r.Types[i]
			}
		}
	}
	return nil
}

// collect finds the types that have each method.
func (b *Book) collect() {
	if b.havers != nil {
		return
	}
	b.havers = map[string][]haver{}
	for _, folder := range b.all() {
		for _, r := range b.records(folder) {
			for i := range r.Types {
				for _, m := range r.Types[i].Methods {
					b.havers[m.ID] = append(b.havers[m.ID], haver{r, &r.Types[i]})
				}
			}
		}
	}
}

// Using narrows files down to those that use something of which match is true.
// Files that were not checked as they are now stay in, since nothing is known of
// them, and so do all where not all uses are known.
func (b *Book) Using(files []string, match func(Target) bool) (using []string) {
	if b.Single {
		return files
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	matching := map[*Record]map[int32]bool{}
	for _, file := range files {
		base, known, uses := path.Base(file), false, false
		for _, r := range b.records(b.under(file)) {
			i := slices.IndexFunc(r.Files, func(f File) bool { return f.Base == base })
			if i < 0 {
				continue
			}
			known = true
			targets, ok := matching[r]
			if !ok {
				targets = r.matching(match)
				matching[r] = targets
			}
			uses = uses || len(targets) > 0 && slices.ContainsFunc(r.Files[i].Uses, func(u Use) bool { return targets[u.Target] })
		}
		if !known || uses {
			using = append(using, file)
		}
	}
	return using
}

// matching are the targets of a record for which match is true.
func (r *Record) matching(match func(Target) bool) map[int32]bool {
	targets := map[int32]bool{}
	for i := range r.Targets {
		if match(r.Targets[i]) {
			targets[int32(i)] = true
		}
	}
	return targets
}

// Text is that of a file, by its absolute path.
func (b *Book) Text(name string) ([]byte, error) {
	if b.Read != nil {
		return b.Read(name)
	}
	return os.ReadFile(name)
}

// Pace is how much of the machine checking may take.
type Pace int

// The paces: all processors, for those who wait for it, or half of them, for
// work beside somebody's reading.
const (
	Fast Pace = iota
	Beside
)

// Workers is how many packages are checked at the same time.
func (p Pace) Workers() int {
	if p == Beside {
		return max(1, work.Processors()/2)
	}
	return work.Processors()
}
