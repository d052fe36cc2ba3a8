package codebase

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/work"
)

// Compilers are the compilers on this machine that are asked about files one by one, each time in a process of its own.
// The zero Compilers asks none.
type Compilers struct {
	program string
	said    map[string]string // by families of languages

	mu     sync.Mutex
	wanted []string          // files that were shown, the last one first
	found  map[string]string // the compilers, by families of languages
	shown  chan struct{}     // holds one when a file was shown since
}

// mostWanted is how many files are remembered that were shown last.
const mostWanted = 16

// never is what the user says of a compiler that is not to be asked.
const never = "none"

// Know lets compilers be asked by way of a program, which is this one, to be begun anew. said is, by languages, where the user says
// that one lies, or none if none is to be asked; for the others it is looked for. It is to be called before the code is read.
func (k *Compilers) Know(program string, said map[string]string) {
	k.program, k.said, k.shown = program, said, make(chan struct{}, 1)
}

// shows notes that a file is shown, if a compiler can be asked about it.
func (b *Base) shows(p string) {
	if l := b.languages.Of(p); l != nil && l.Units != lang.NoUnits && b.Compilers.compiler(l) != "" {
		b.Compilers.want(p)
	}
}

// want notes that a file is shown, so that it is asked about before others.
func (k *Compilers) want(p string) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.wanted = slices.DeleteFunc(k.wanted, func(o string) bool { return o == p })
	k.wanted = append([]string{p}, k.wanted[:min(len(k.wanted), mostWanted-1)]...)
	select {
	case k.shown <- struct{}{}:
	default: // nobody listens, or it is known already
	}
}

func (k *Compilers) wants() []string {
	k.mu.Lock()
	defer k.mu.Unlock()
	return slices.Clone(k.wanted)
}

// compiler is the one that is asked about files of the family of a language; "" if there is none.
func (k *Compilers) compiler(l *lang.Language) string {
	if k.program == "" || k.said[l.Family] == never {
		return ""
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	found, known := k.found[l.Family]
	if !known {
		if k.found == nil {
			k.found = map[string]string{}
		}
		found = l.Units.Compiler(k.said[l.Family])
		k.found[l.Family] = found
	}
	return found
}

// newUnits begins the book of a family of languages, the files of which compilers are asked about one by one.
func (b *Base) newUnits(l *lang.Language) *checking {
	c := &checking{language: l, units: l.Units}
	c.book = check.NewBook(shelf{b}, func(file string) check.Digest { return b.unitDigest(c, file) }, func() []string { return nil })
	c.book.Single, c.book.Now = true, b.stands
	return c
}

// unitDigest stands for a file as it is, and for all that its record depends on beside other files.
func (b *Base) unitDigest(c *checking, file string) check.Digest {
	g := b.checkedNow(c)
	b.mu.RLock()
	defer b.mu.RUnlock()
	return check.Folder(g.environment, map[string][16]byte{file: b.texts.get(file)})
}

// stands is what stands for a file that another one was read with, as it is now: for its text, or outside the project, or where its
// language is not read, for its size and time.
func (b *Base) stands(file string) (d check.Digest, ok bool) {
	if !filepath.IsAbs(file) {
		b.mu.RLock()
		defer b.mu.RUnlock()
		content := b.texts.get(file)
		return check.Digest(content), content != index.Content{}
	}
	info, err := os.Stat(file)
	if err != nil {
		return d, false
	}
	binary.LittleEndian.PutUint64(d[:], uint64(info.Size()))
	binary.LittleEndian.PutUint64(d[8:], uint64(info.ModTime().UnixNano()))
	return d, true
}

// unitsNow is what the records of a family of languages depend on: the compiler, what builds say, and which files there are, since
// a header may come between a file and another header.
func (b *Base) unitsNow(c *checking) *checkedFiles {
	b.mu.RLock()
	files, before := c.files, b.said
	b.mu.RUnlock()
	if files != nil {
		return files
	}
	compiler := b.Compilers.compiler(c.language)
	d, _ := b.stands(compiler)
	g := &checkedFiles{folders: map[string][]string{}}
	var paths []string
	for f := range b.Listing().Files() {
		if l := b.languages.Of(f.Path); l != nil && l.Family == c.language.Family {
			paths = append(paths, f.Path)
			if c.units.Compiled(path.Base(f.Path)) {
				g.folders[f.Path] = []string{f.Path}
			}
		}
	}
	slices.Sort(paths)
	names := check.NewDigester()
	names.Add(paths...)
	g.environment = fmt.Sprintf("%s %x %s %x", compiler, d, b.around(c.language).Words(), names.Digest())
	b.mu.Lock()
	defer b.mu.Unlock()
	if c.files == nil && b.said == before { // else they have changed meanwhile
		c.files = g
	}
	return g
}

// mostUnits is how many files of a project a compiler is asked about; of larger projects, about those that are shown.
const mostUnits = 5000

// checkShown is checkUnits of all languages for the files that are shown.
func (b *Base) checkShown(ctx context.Context) {
	for _, c := range b.checks {
		if c.units != nil && b.checkUnits(ctx, c, check.Beside, true) != nil {
			return
		}
	}
}

// checkUnit asks a compiler about one file, or of a header about one that is called like it.
func (b *Base) checkUnit(ctx context.Context, c *checking, p string) error {
	round, err := b.newRound(c)
	if round == nil || err != nil {
		return err
	}
	if p = round.unitOf(p); p != "" {
		round.check(ctx, p)
	}
	return ctx.Err()
}

// newRound begins to ask about files; it is nil if there is no compiler to be asked.
func (b *Base) newRound(c *checking) (*unitRound, error) {
	compiler := b.Compilers.compiler(c.language)
	if compiler == "" {
		return nil, nil
	}
	root, err := filepath.EvalSymlinks(b.root)
	if err != nil {
		return nil, fmt.Errorf("asking a compiler about %s: %w", c.language.Name, err)
	}
	round := &unitRound{Base: b, checking: c, compiler: compiler, root: root, done: map[string]bool{}, byStem: map[string]string{}}
	for p := range b.checkedNow(c).folders {
		round.files = append(round.files, p)
	}
	slices.Sort(round.files)
	for _, p := range slices.Backward(round.files) { // the first counts
		round.byStem[stem(p)] = p
	}
	return round, nil
}

// checkUnits asks a compiler about all files of a family of languages of which it is not known what their names mean, or about those
// alone that are shown.
func (b *Base) checkUnits(ctx context.Context, c *checking, pace check.Pace, shown bool) error {
	round, err := b.newRound(c)
	if round == nil || err != nil {
		return err
	}
	if shown || len(round.files) > mostUnits {
		round.at = len(round.files)
	}
	var group work.Group
	for range pace.Workers() {
		group.Go(func() {
			for p := round.next(); p != "" && ctx.Err() == nil; p = round.next() {
				round.check(ctx, p)
			}
		})
	}
	group.Wait()
	if round.asked > 0 && ctx.Err() == nil {
		b.advance(func(p *Progress) { p.Checked++ })
	}
	if words := round.words(); words != "" && ctx.Err() == nil {
		b.Note(words)
	}
	return ctx.Err()
}

// unitRound is one time that all files are gone through.
type unitRound struct {
	*Base
	*checking
	compiler, root string
	files          []string
	byStem         map[string]string // one of the files of each stem

	mu              sync.Mutex
	done            map[string]bool
	at              int // among the files
	asked, answered int
	failure         string // the first one
	said            bool   // a build says how files are compiled
}

// fewTries is after how many files that a compiler could not read it is given up, where no build says how they are compiled.
const fewTries = 20

// next is the file to be asked about next: what is shown first, and then the others in their order; "" if that is all.
func (r *unitRound) next() string {
	r.mu.Lock()
	defer r.mu.Unlock()
	if !r.said && r.asked >= fewTries && r.answered == 0 {
		return ""
	}
	for _, p := range r.Compilers.wants() {
		if p = r.unitOf(p); p != "" && !r.done[p] {
			r.done[p] = true
			return p
		}
	}
	for ; r.at < len(r.files); r.at++ {
		if p := r.files[r.at]; !r.done[p] {
			r.done[p] = true
			return p
		}
	}
	return ""
}

// unitOf is the file that is compiled to know of one: itself, or of a header the one that is called like it.
func (r *unitRound) unitOf(p string) string {
	if _, ok := slices.BinarySearch(r.files, p); ok {
		return p
	}
	if l := r.languages.Of(p); l == nil || l.Family != r.language.Family {
		return ""
	}
	return r.byStem[stem(p)]
}

// stem is the name of a file without its ending.
func stem(p string) string { return strings.TrimSuffix(path.Base(p), path.Ext(p)) }

// check asks about one file, unless what is known of it holds.
func (r *unitRound) check(ctx context.Context, p string) {
	arguments, said := r.around(r.language).Command(p)
	holds := r.book.Holds(p)
	r.mu.Lock()
	r.said = r.said || said
	if holds && r.book.Checked(p) {
		r.answered++
	}
	r.mu.Unlock()
	if holds {
		return
	}
	unit, err := r.units.Ask(ctx, r.Compilers.program, r.compiler, r.root, path.Join(r.root, p), arguments)
	if ctx.Err() != nil {
		return
	}
	r.mu.Lock()
	r.asked++
	r.mu.Unlock()
	if err != nil {
		r.Note(fmt.Sprintf("the names in %s are not known exactly: %v", p, err))
		unit = &check.Unit{Failure: err.Error()}
	}
	if unit.Failure == "" {
		r.keep(p, unit)
		return
	}
	r.mu.Lock()
	if r.failure == "" {
		r.failure = unit.Failure
	}
	r.mu.Unlock()
	if !said {
		unit.Faults = nil // how it is compiled is guessed
	}
	r.giveUp(p, unit)
}

// keep writes down what is known of a file, and of the headers that it was read with and of which nothing is known.
func (r *unitRound) keep(p string, unit *check.Unit) {
	places, seen, ok := r.places(unit)
	if !ok {
		return // what has changed meanwhile is asked about again
	}
	r.mu.Lock()
	r.answered++
	r.mu.Unlock()
	for i := range places {
		if places[i].Text != nil && places[i].Path != p && r.book.Holds(places[i].Path) {
			places[i].Text = nil
		}
	}
	for _, record := range unit.Records(p, places) {
		record.Own, record.Imports = r.book.Own(record.Folder), seen
		r.note(r.book.Add(record))
	}
}

// giveUp writes down that nothing is known of the names of a file as it is, and what is wrong in it.
func (r *unitRound) giveUp(p string, unit *check.Unit) {
	places, seen, ok := r.places(unit)
	if !ok {
		return
	}
	record := &check.Record{Head: check.Head{Folder: p, Own: r.book.Own(p), Imports: seen}}
	var faults []check.Fault
	for _, f := range unit.Faults {
		if places[f.File].Path == p && places[f.File].Text != nil {
			faults = append(faults, check.Fault{Start: f.Offset, End: f.Offset, Text: f.Text})
		}
	}
	if len(faults) > 0 {
		record.Files = []check.File{{Base: path.Base(p), Faults: faults}}
	}
	r.note(r.book.Add(record))
}

func (r *unitRound) note(err error) {
	if err != nil {
		r.Note(fmt.Sprintf("exact answers are not kept: %v", err))
	}
}

// places are where the files of a unit are kept, and what stands for them all; ok is false if one is not what is known of the
// project.
func (r *unitRound) places(unit *check.Unit) (places []check.UnitPlace, seen []check.Seen, ok bool) {
	for _, f := range unit.Files {
		at := check.UnitPlace{Path: f.Path}
		if rel, inside := strings.CutPrefix(f.Path, r.root+"/"); inside && f.Inside && r.isKnown(rel) {
			at.Path = rel
			var err error
			if at.Text, err = r.same(rel); err != nil {
				return nil, nil, false
			}
		}
		d, ok := r.stands(at.Path)
		if !ok {
			return nil, nil, false
		}
		places, seen = append(places, at), append(seen, check.Seen{Folder: at.Path, View: d})
	}
	return places, seen, true
}

// isKnown says whether a file is one of the project, in a language that is read.
func (r *unitRound) isKnown(p string) bool {
	r.Base.mu.RLock()
	defer r.Base.mu.RUnlock()
	return r.texts.get(p) != index.Content{}
}

// errChanged says that a file is not what is known of it.
var errChanged = errors.New("it has changed meanwhile")

// same is the text of a file, if it is what is known of it; nil if places in it are others than in what is on disk, as in one with a
// byte order mark.
func (r *unitRound) same(p string) ([]byte, error) {
	raw, err := door.ReadWithin(r.root, p, largestParsed)
	if err != nil {
		return nil, err
	}
	doc, err := text.Load(r.Absolute(p))
	if err != nil {
		return nil, err
	}
	l := r.languages.Of(p)
	d, _ := r.stands(p)
	if check.Digest(index.ContentOf(r.readingOf(l, p, doc.Bytes()), doc.Bytes())) != d {
		return nil, errChanged
	}
	if !bytes.Equal(raw, doc.Bytes()) {
		return nil, nil
	}
	return raw, nil
}

// words say that a compiler could read too little, where a build says how files are compiled; "" if there is nothing to be said.
func (r *unitRound) words() string {
	if !r.said || r.answered > 0 || r.failure == "" {
		return ""
	}
	return fmt.Sprintf("answers about %s are not exact: the compiler can read none of the files, the first because of: %s", r.language.Name, r.failure)
}
