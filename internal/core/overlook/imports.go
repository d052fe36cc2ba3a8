package overlook

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/imports"
)

// How many boxes a drawing of imports begins with, about: folders are opened until there are so many.
const (
	fewFolders  = 10
	manyFolders = 28
)

// edge is an import of one file from another, or from a folder.
type edge struct {
	from, to string
	fresh    bool // it is not in the commit that is compared with
}

// imports draws what files and folders import from each other.
func (s *sketch) imports() error {
	all, err := s.links.All(s.ctx)
	if err != nil {
		return err
	}
	d := &needs{sketch: s, all: all, members: map[string][]string{}, open: map[string]bool{}, from: cmp.Or(s.asked.Path, ".")}
	if d.from != "." && !s.code.Has(d.from) {
		return fmt.Errorf("there is no file or folder %s in this project", d.from)
	}
	if err := d.edges(); err != nil {
		return err
	}
	d.unfold()
	d.draw()
	return nil
}

// needs is a drawing of imports.
type needs struct {
	*sketch
	all   map[string][]imports.Import
	pairs []edge
	from  string
	// members are what lies directly in each folder: folders, and files that import or are imported.
	members map[string][]string
	open    map[string]bool
	counts  []int // how many imports each line stands for
}

// edges collects who imports whom, and which folders there are.
func (d *needs) edges() error {
	files := d.files()
	known := map[string]bool{}
	add := func(p string) {
		for p != "." && !known[p] {
			known[p] = true
			dir := path.Dir(p)
			d.members[dir] = append(d.members[dir], p)
			p = dir
		}
	}
	pair := func(e edge) {
		if !d.wanted(e.from, d.code.Languages().IsTest(e.from)) || !d.wanted(e.to, d.code.Languages().IsTest(e.to)) {
			return
		}
		if d.from != "." && !d.concerns(e) {
			return
		}
		d.pairs = append(d.pairs, e)
		add(e.from)
		add(e.to)
		for _, f := range files[e.to] {
			add(f)
		}
	}
	was, err := d.before()
	if err != nil {
		return err
	}
	for _, p := range slices.Sorted(maps.Keys(d.all)) {
		for _, i := range d.all[p] {
			if i.To == "" {
				continue
			}
			old, compared := was[p]
			pair(edge{from: p, to: i.To, fresh: compared && !old[i.Path]})
		}
	}
	return d.ctx.Err()
}

// files are those in which there is code, by their folders: what is imported as a folder has these in it.
func (d *needs) files() map[string][]string {
	all := map[string][]string{}
	for f := range d.code.Listing().Files() {
		if l := d.code.Languages(); l.Of(f.Path) != nil && (d.asked.Tests || !l.IsTest(f.Path)) {
			all[path.Dir(f.Path)] = append(all[path.Dir(f.Path)], f.Path)
		}
	}
	return all
}

// concerns says whether an import has to do with what is asked about, in the direction that is.
func (d *needs) concerns(e edge) bool {
	out, in := below(e.from, d.from), below(e.to, d.from)
	if !in && path.Dir(d.from) == e.to && d.asked.Direction != Outward { // a file of a package that is imported as a whole
		in = slices.Contains(d.used(e), d.from)
	}
	switch d.asked.Direction {
	case Outward:
		return out
	case Inward:
		return in
	}
	return out || in
}

// before are the imports of the files that differ from a commit, as they were there; nil if none is compared with.
func (d *needs) before() (map[string]map[string]bool, error) {
	if d.asked.Since == "" {
		return nil, nil
	}
	c, err := vcs.Resolve(d.ctx, d.code.Root(), d.asked.Since)
	if err != nil {
		return nil, err
	}
	changed, err := vcs.Differences(d.ctx, d.code.Root(), c)
	if err != nil {
		return nil, err
	}
	d.scene.Notes = append(d.scene.Notes, "Compared with "+c.Words+".")
	was := map[string]map[string]bool{}
	for _, f := range changed {
		if f.Gone || d.code.Languages().Of(f.Path) == nil {
			continue
		}
		was[f.Path] = map[string]bool{}
		if f.Was == "" {
			continue
		}
		old, err := importedBy(d.ctx, d.code, c, f)
		if err != nil {
			return nil, err
		}
		for _, i := range old {
			was[f.Path][i.Path] = true
		}
	}
	return was, nil
}

// importedBy are the imports of a file as a commit has it.
func importedBy(ctx context.Context, code *codebase.Base, c vcs.Commit, f vcs.Difference) ([]facts.Imported, error) {
	text, err := vcs.Blob(ctx, code.Root(), c, f.Was)
	if err != nil {
		return nil, err
	}
	old, err := code.FactsAs(ctx, f.Path, text)
	if err != nil || old == nil {
		return nil, ctx.Err() // what could not be read imported nothing
	}
	return old.Imports, nil
}

// unfold opens folders: those around what is asked about, those that are wanted, and else the largest until there is
// enough to see.
func (d *needs) unfold() {
	d.open["."] = true
	for dir := d.from; dir != "."; dir = path.Dir(dir) {
		d.open[dir] = true
	}
	for folder := range d.asked.Open {
		d.open[strings.TrimSuffix(folder, "/")] = true
	}
	if n := d.asked.Depth; n > 0 {
		start := d.from
		for folder := range d.members {
			if below(folder, start) && levels(folder)-levels(start) < n {
				d.open[folder] = true
			}
		}
	} else {
		d.openLargest()
	}
	for folder := range d.asked.Closed {
		if folder = strings.TrimSuffix(folder, "/"); folder != "." {
			d.open[folder] = false
		}
	}
}

// levels is how deep a folder lies.
func levels(folder string) int {
	if folder == "." {
		return 0
	}
	return 1 + strings.Count(folder, "/")
}

// openLargest opens the folders with the most in them, below what is asked about.
func (d *needs) openLargest() {
	for range 200 {
		shown := d.shown()
		best, most := "", 0
		for _, p := range shown {
			if n := d.inside(p); len(d.members[p]) > 0 && n > most && below(p, d.from) {
				best, most = p, n
			}
		}
		if best == "" {
			return
		}
		single := len(d.members[best]) == 1 || len(shown) <= 2
		if !single && (len(shown) >= fewFolders || len(shown)+len(d.members[best]) > manyFolders) {
			return
		}
		d.open[best] = true
	}
}

// shown are the files and folders that have a box.
func (d *needs) shown() (all []string) {
	for queue := []string{"."}; len(queue) > 0; queue = queue[1:] {
		for _, p := range d.members[queue[0]] {
			if d.open[p] && len(d.members[p]) > 0 {
				queue = append(queue, p)
			} else {
				all = append(all, p)
			}
		}
	}
	return all
}

// inside is how much lies in a folder.
func (d *needs) inside(p string) (n int) {
	for _, m := range d.members[p] {
		n += 1 + d.inside(m)
	}
	return n
}

// node is the box that a file or folder is in.
func (d *needs) node(p string) string {
	parts := strings.Split(p, "/")
	at := ""
	for i, part := range parts {
		at = path.Join(at, part)
		if i == len(parts)-1 || !d.open[at] {
			return at
		}
	}
	return p
}

// draw makes boxes and lines.
func (d *needs) draw() {
	type link struct {
		count int
		fresh bool
	}
	links := map[[2]string]*link{}
	var order [][2]string
	count := func(from, to string, e edge) {
		a, b := d.node(from), d.node(to)
		if a == b {
			return
		}
		k := [2]string{a, b}
		if links[k] == nil {
			links[k] = &link{fresh: true}
			order = append(order, k)
		}
		links[k].count++
		links[k].fresh = links[k].fresh && e.fresh
	}
	for _, e := range d.pairs {
		targets := []string{e.to}
		if d.open[e.to] {
			targets = d.used(e)
		}
		for _, to := range targets {
			count(e.from, to, e)
		}
	}
	for _, k := range order {
		a, okA := d.boxOf(k[0])
		b, okB := d.boxOf(k[1])
		if !okA || !okB {
			continue
		}
		l := links[k]
		look := draw.Usual
		if l.fresh && d.asked.Since != "" {
			look = draw.Marked
		}
		label := ""
		if l.count > 1 {
			label = fmt.Sprintf("%d imports", l.count)
		}
		d.line(a, b, look, label)
		d.counts = append(d.counts, l.count)
	}
	d.finish()
}

// used are the files of a folder of which a file uses something: where a package is a folder, which of its files is meant
// follows from the names. It is the folder itself if that cannot be told.
func (d *needs) used(e edge) (files []string) {
	f, err := codebase.FactsOnce(d.ctx, d.code, e.from)
	if err != nil || f == nil {
		return []string{e.to}
	}
	names := map[string]bool{}
	for i := range d.all[e.from] {
		if imp := &d.all[e.from][i]; imp.To == e.to {
			_, last := imp.ModuleNames()
			names[cmp.Or(imp.Alias, last)], names[path.Base(e.to)] = true, true
		}
	}
	seen := map[string]bool{}
	for _, u := range f.Uses {
		if u.Base == facts.NoExpr || f.Exprs[u.Base].Kind != facts.Name || !names[f.Exprs[u.Base].Name] || seen["."+u.Name] {
			continue
		}
		seen["."+u.Name] = true
		for _, sym := range d.code.Named(u.Name) {
			if !seen[sym.Path] && path.Dir(sym.Path) == e.to && !d.code.Languages().IsTest(sym.Path) {
				seen[sym.Path] = true
				files = append(files, sym.Path)
			}
		}
	}
	if len(files) == 0 {
		return []string{e.to}
	}
	return files
}

// boxOf is the box of a file or folder.
func (d *needs) boxOf(p string) (int, bool) {
	b := draw.Box{ID: p, Kind: "file", Name: path.Base(p), Where: path.Dir(p), Group: -1, Layer: -1, Place: place.Place{Path: p, Line: 1}, Symbol: p}
	if d.code.Listing().IsFolder(p) {
		b.Kind, b.Place.Line = "folder", 0
		if n := len(d.members[p]); n > 0 && !d.open[p] {
			b.Hidden = n
		}
	}
	if b.Where == "." {
		b.Where = ""
	}
	if dir := path.Dir(p); dir != "." && b.Kind == "folder" {
		b.Name = path.Base(dir) + "/" + path.Base(p)
		if b.Where = path.Dir(dir); b.Where == "." {
			b.Where = ""
		}
	}
	if below(p, d.from) && d.from != "." {
		b.Look = draw.Present
	}
	at, _, ok := d.box(b)
	return at, ok
}

// finish puts the boxes on floors, and marks circles.
func (d *needs) finish() {
	sc := d.scene
	sc.Title, sc.Down = "Imports of "+d.code.Name(), true
	if d.from != "." {
		sc.Title = map[Direction]string{Outward: "What %s imports", Inward: "What imports %s", BothWays: "Imports of %s and from it"}[d.asked.Direction]
		sc.Title = fmt.Sprintf(sc.Title, d.from)
	}
	part := draw.Circles(len(sc.Boxes), func(yield func(from, to int)) {
		for _, l := range sc.Lines {
			yield(l.From, l.To)
		}
	})
	d.floors()
	sizes := map[int]int{}
	for _, p := range part {
		sizes[p]++
	}
	d.tellCircles(part, sizes)
	d.means(draw.Present, false, "what was asked about")
	if d.asked.Since != "" {
		d.means(draw.Marked, true, "new")
	} else {
		d.means(draw.Marked, true, "goes up, and so closes a circle")
	}
}

// floors gives each box a layer: what needs nothing stands on the lowest floor, everything else above all that it needs,
// but for a few lines that close circles.
func (d *needs) floors() {
	sc := d.scene
	level := draw.Levels(len(sc.Boxes), func(yield func(from, to, weight int)) {
		for i, l := range sc.Lines {
			yield(l.From, l.To, d.counts[i])
		}
	})
	top := slices.Max(append(level, 0))
	sc.Floors = map[int]string{}
	for i := range sc.Boxes {
		l := top - level[i]
		sc.Boxes[i].Layer = l
		sc.Floors[l] = fmt.Sprintf("floor %d", top-l+1)
	}
	for i := range sc.Lines {
		if l := &sc.Lines[i]; level[l.From] <= level[l.To] && d.asked.Since == "" {
			l.Look = draw.Marked
		}
	}
}

// tellCircles names the circles, the smallest first.
func (d *needs) tellCircles(part []int, sizes map[int]int) {
	const told = 6
	var circles [][]string
	for p, n := range sizes {
		if n < 2 {
			continue
		}
		var names []string
		for i, q := range part {
			if q == p {
				names = append(names, d.scene.Boxes[i].ID)
			}
		}
		circles = append(circles, names)
	}
	slices.SortFunc(circles, func(a, b []string) int {
		return cmp.Or(cmp.Compare(len(a), len(b)), strings.Compare(a[0], b[0]))
	})
	for i, names := range circles {
		if i == told {
			d.scene.Notes = append(d.scene.Notes, fmt.Sprintf("%d more circles.", len(circles)-told))
			return
		}
		more := ""
		if len(names) > told {
			more = fmt.Sprintf(" and %d more", len(names)-told)
			names = names[:told]
		}
		d.scene.Notes = append(d.scene.Notes, "A circle: "+strings.Join(names, ", ")+more+".")
	}
}
