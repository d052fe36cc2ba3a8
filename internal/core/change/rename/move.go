package rename

import (
	"cmp"
	"context"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// The most that is moved with what refers to it, in files and in bytes.
const (
	mostMoved  = 5000
	mostOfThem = 256 << 20
)

// Move proposes to give a file or folder another path, and to change what refers to it: imports and includes, links,
// configuration, the package that a file says it belongs to. Where its path is mentioned otherwise is left out.
func (r *Renamer) Move(ctx context.Context, from, to string) (*proposal.Proposal, error) {
	if err := r.code.Await(ctx, func(p *codebase.Progress) bool { return p.Done || p.Err != nil }); err != nil {
		return nil, err
	}
	from, to = path.Clean(from), path.Clean(to)
	m := &mover{Renamer: r, ctx: ctx, from: from, to: to, files: map[string]string{}, loaded: map[string]*codebase.File{}, imports: map[*lang.Language]lang.Imports{},
		proposal: &proposal.Proposal{Title: "move " + from + " to " + to}}
	if err := m.allowed(); err != nil {
		return nil, err
	}
	if err := m.collect(); err != nil {
		return nil, err
	}
	if err := m.references(); err != nil {
		return nil, err
	}
	if err := m.packages(); err != nil {
		return nil, err
	}
	if err := m.mentions(); err != nil {
		return nil, err
	}
	m.proposal.Order()
	return m.proposal, ctx.Err()
}

// mover works out what moving a file or folder changes.
type mover struct {
	*Renamer
	ctx      context.Context
	from, to string
	folder   bool
	files    map[string]string // where files go
	loaded   map[string]*codebase.File
	imports  map[*lang.Language]lang.Imports
	proposal *proposal.Proposal
	written  map[string][]place.Range // what is changed already, by file
}

// allowed says why it cannot be moved, if it cannot.
func (m *mover) allowed() error {
	switch {
	case m.from == m.to:
		return fmt.Errorf("%s is its path already", m.to)
	case m.from == "." || strings.HasPrefix(m.to+"/", m.from+"/"):
		return fmt.Errorf("%s cannot be moved into itself", m.from)
	case path.IsAbs(m.to) || strings.HasPrefix(m.to, ".."):
		return fmt.Errorf("%s is outside this project", m.to)
	}
	if _, err := os.Lstat(m.code.Absolute(m.to)); err == nil && !strings.EqualFold(m.from, m.to) {
		return fmt.Errorf("%s is there already", m.to)
	}
	return nil
}

// collect finds the files that are moved.
func (m *mover) collect() error {
	top := m.code.Absolute(m.from)
	info, err := os.Lstat(top)
	if err != nil {
		return fmt.Errorf("moving %s: it is not there", m.from)
	}
	m.folder = info.IsDir()
	size := int64(0)
	return filepath.WalkDir(top, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		info, err := d.Info()
		if err != nil {
			return err
		}
		rel := filepath.ToSlash(m.code.Relative(p))
		if !info.Mode().IsRegular() {
			return fmt.Errorf("%s is no plain file; move the folder among the folders, without what refers to it", rel)
		}
		if size += info.Size(); len(m.files) >= mostMoved || size > mostOfThem {
			return fmt.Errorf("%s holds too much to be moved with what refers to it; move it among the folders, without that", m.from)
		}
		return m.take(rel)
	})
}

func (m *mover) take(rel string) error {
	to := place.Renamed(rel, m.from, m.to)
	m.files[rel] = to
	if f := m.file(rel); f != nil {
		m.proposal.Move(rel, to, func() *text.Document { return f.Text })
		return nil
	}
	raw, err := door.Read(m.code.Absolute(rel), mostOfThem)
	if err != nil {
		return fmt.Errorf("reading %s: %w", rel, err)
	}
	m.proposal.Move(rel, to, func() *text.Document { return text.NewDocument(raw) })
	return nil
}

// file is a file as it reads now; nil if it is not one of the project that can be read.
func (m *mover) file(p string) *codebase.File {
	f, ok := m.loaded[p]
	if !ok {
		if m.code.Has(p) {
			f, _ = m.code.Load(m.ctx, p) // what cannot be read refers to nothing
		}
		m.loaded[p] = f
	}
	return f
}

// goes is where a path leads then.
func (m *mover) goes(p string) string {
	if to, ok := m.files[p]; ok {
		return to
	}
	if m.folder && (p == m.from || strings.HasPrefix(p, m.from+"/")) {
		return place.Renamed(p, m.from, m.to)
	}
	return p
}

func (m *mover) importsOf(l *lang.Language) lang.Imports {
	if m.imports[l] == nil {
		m.imports[l] = l.Imports(m.code)
	}
	return m.imports[l]
}

// words are what stands in whatever refers to what is moved.
func (m *mover) words() []string {
	base := path.Base(m.from)
	stem, _, _ := strings.Cut(base, ".")
	words := []string{cmp.Or(stem, base)}
	if l := m.code.Languages().Of(m.from); !m.folder && l != nil && (slices.Contains(l.Files.Front, base) || stem == "index" || stem == "mod") {
		words = append(words, path.Base(path.Dir(m.from)))
	}
	return words
}

// references changes what leads to what is moved, and what leads from there elsewhere.
func (m *mover) references() error {
	seen := map[string]bool{}
	for _, w := range m.words() {
		all, err := m.guide.Written(m.ctx, w)
		if err != nil {
			return err
		}
		for p := range all {
			seen[p] = true
		}
	}
	for p := range m.files {
		seen[p] = true
	}
	m.written = map[string][]place.Range{}
	for p := range seen {
		f := m.file(p)
		if f == nil || path.IsAbs(p) {
			continue
		}
		if l := m.code.Languages().Of(p); l != nil && f.Facts != nil {
			for _, imp := range f.Facts.Imports {
				m.imported(f, l, imp)
			}
		}
		m.links(f)
	}
	return m.ctx.Err()
}

// imported changes one import, if it leads elsewhere then.
func (m *mover) imported(f *codebase.File, l *lang.Language, imp facts.Imported) {
	if imp.At.Len() == 0 || imp.Path == "" && imp.Level == 0 {
		return
	}
	asked := imp
	if imp.Name == "" && imp.Alias == "" {
		asked.Alias = imp.Path // the module itself, and not that which it makes known
	}
	target := m.importsOf(l).Module(f.Path, asked)
	if beside := path.Join(path.Dir(f.Path), imp.Path); target == "" && strings.HasPrefix(imp.Path, ".") && m.code.Has(beside) {
		target = beside
	}
	if target == "" || path.IsAbs(target) {
		if target = m.byPackage(l, imp.Path); target == "" {
			return
		}
	}
	at := imp.At
	body := string(at.In(f.Text.Bytes()))
	written := strings.Repeat(".", imp.Level) + imp.Path
	i := strings.Index(body, written)
	if i < 0 {
		return
	}
	now, ok := m.leads(l, f.Path, written, target)
	if !ok || now == written {
		return
	}
	start := at.Start + uint32(i)
	m.put(f, place.Range{Start: start, End: start + uint32(len(written))}, now, "import", proposal.Sure)
	m.spelled(f, l, imp, now)
}

// byPackage is the file of a type that is imported by its package; "" if it is not among those that are moved.
func (m *mover) byPackage(l *lang.Language, imported string) string {
	tail := "/" + strings.ReplaceAll(imported, ".", "/")
	for p := range m.files {
		stem := "/" + strings.TrimSuffix(p, path.Ext(p))
		if m.code.Languages().Of(p) == l && strings.HasSuffix(stem, tail) {
			return p
		}
		if dir := path.Dir(stem); strings.HasSuffix(dir, strings.TrimSuffix(tail, "/*")) && strings.HasSuffix(tail, "/*") && m.folder {
			return path.Dir(p)
		}
	}
	return ""
}

// leads is how a path is written that leads to a file, when that or the file it is written in has moved.
func (m *mover) leads(l *lang.Language, file, written, target string) (string, bool) {
	newFile, newTarget := m.goes(file), m.goes(target)
	if newFile == file && newTarget == target {
		return written, false
	}
	dots := len(written) - len(strings.TrimLeft(written, "."))
	if !strings.Contains(written, "/") && l.Family != "" && dots > 0 && !strings.HasPrefix(written, "./") && written != "." && written != ".." || strings.HasPrefix(written, ".") && !strings.Contains(written, "/") && path.Ext(target) != "" && strings.TrimLeft(written, ".") != "" {
		return dotted(path.Dir(newFile), stemOf(newTarget)), true
	}
	if strings.HasPrefix(written, "./") || strings.HasPrefix(written, "../") || written == "." || written == ".." {
		now := relative(written, target, path.Dir(newFile), newTarget)
		if l.Scopes.Sees == lang.SeesIncludes && !strings.HasPrefix(written, "./") {
			now = strings.TrimPrefix(now, "./")
		}
		return now, true
	}
	if beside(written, path.Dir(file), target) {
		return strings.TrimPrefix(relative(written, target, path.Dir(newFile), newTarget), "./"), true
	}
	return shifted(written, target, newTarget)
}

// stemOf is a path without its ending, and without the name of the file that stands for its folder.
func stemOf(p string) string {
	stem := strings.TrimSuffix(p, path.Ext(p))
	if base := path.Base(stem); base == "__init__" || base == "index" || base == "mod" {
		stem = path.Dir(stem)
	}
	return stem
}

// dotted is the path from a folder to a module, with a dot for the folder itself and one more for each one up.
func dotted(dir, module string) string {
	rel, err := filepath.Rel(dir, module)
	if err != nil {
		return module
	}
	up := "."
	rel = filepath.ToSlash(rel)
	for rel == ".." || strings.HasPrefix(rel, "../") {
		rel, up = strings.TrimPrefix(strings.TrimPrefix(rel, ".."), "/"), up+"."
	}
	return up + strings.ReplaceAll(strings.TrimPrefix(rel, "."), "/", ".")
}

// relative is the path from a folder to a file, written as another one is that leads to it now: with its ending or
// without, and with the name of the file that stands for its folder or without.
func relative(written, target, dir, to string) string {
	if path.Ext(written) == "" || !strings.HasSuffix(target, path.Base(written)) {
		stem := strings.TrimSuffix(strings.TrimSuffix(to, path.Ext(to)), ".d")
		if path.Base(written) != path.Base(strings.TrimSuffix(target, path.Ext(target))) {
			stem = stemOf(to)
		}
		if end := path.Ext(written); end != "" && end != "." && strings.TrimSuffix(path.Base(written), end) == strings.TrimSuffix(path.Base(target), path.Ext(target)) {
			stem += end // under the name that what is made of it has
		}
		to = stem
	}
	rel, err := filepath.Rel(dir, to)
	if err != nil {
		return written
	}
	rel = filepath.ToSlash(rel)
	if !strings.HasPrefix(rel, ".") {
		rel = "./" + rel
	}
	if strings.HasSuffix(written, "/") {
		rel += "/"
	}
	return rel
}

// beside says whether a path leads to a file from a folder.
func beside(written, dir, target string) bool {
	at := path.Join(dir, written)
	return at == target || at == strings.TrimSuffix(target, path.Ext(target)) && !strings.Contains(written, ".")
}

// shifted is a path that begins elsewhere than at the file it is written in, with the part of it changed that has
// changed in the path of what it leads to.
func shifted(written, target, to string) (string, bool) {
	for _, sign := range []string{"/", "."} {
		parts := strings.Split(written, sign)
		for _, form := range []func(string) string{func(p string) string { return p }, func(p string) string { return strings.TrimSuffix(p, path.Ext(p)) }, stemOf, path.Dir} {
			was, now := strings.Split(form(target), "/"), strings.Split(form(to), "/")
			n := 0
			for n < len(parts) && n < len(was) && parts[len(parts)-1-n] == was[len(was)-1-n] {
				n++
			}
			if n == 0 {
				continue
			}
			front := was[:len(was)-n]
			if len(now) < len(front) || !slices.Equal(now[:len(front)], front) {
				continue // what it begins with is what has changed
			}
			return strings.Join(append(slices.Clone(parts[:len(parts)-n]), now[len(front):]...), sign), true
		}
	}
	return written, false
}

// spelled changes where the path of a module is written out in code that imports it whole.
func (m *mover) spelled(f *codebase.File, l *lang.Language, imp facts.Imported, now string) {
	if imp.Name != "" || imp.Alias != "" || imp.Level > 0 || !strings.Contains(imp.Path, ".") || strings.Contains(imp.Path, "/") || l.Scopes.Sees != lang.SeesItself {
		return
	}
	whole := regexp.MustCompile(`\b` + regexp.QuoteMeta(imp.Path) + `\b`)
	runs := l.Signs.Runs(f.Text.Bytes())
	for _, at := range whole.FindAllIndex(f.Text.Bytes(), -1) {
		if _, in := runs.At(at[0]); in || at[0] > 0 && f.Text.Bytes()[at[0]-1] == '.' {
			continue
		}
		m.put(f, place.Range{Start: uint32(at[0]), End: uint32(at[1])}, now, "use", proposal.Sure)
	}
}

// put adds a place, unless it is among those already.
func (m *mover) put(f *codebase.File, at place.Range, by, what string, g proposal.Group) {
	for _, r := range m.written[f.Path] {
		if at.Start < r.End && r.Start < at.End || at == r {
			return
		}
	}
	m.written[f.Path] = append(m.written[f.Path], at)
	line, col := f.Text.Position(int(at.Start))
	certainty := resolve.Inferred
	if g != proposal.Sure {
		certainty = resolve.ByName
	}
	m.proposal.Add(f.Path, func() *text.Document { return f.Text }, proposal.Place{
		At: at, New: by, What: what, In: codebase.SymbolAt(f, line, col), Certainty: certainty, Group: g, Out: g != proposal.Sure,
	})
}

// links finds paths in pages, prose and style sheets.
var links = regexp.MustCompile(`\]\(<?([^)>\s#?]+)|(?:src|href|action|poster|data)\s*=\s*["']([^"'#?]+)|url\(\s*["']?([^"')#?]+)|^\s*\[[^\]]+\]:\s*([^\s#?]+)`)

// links changes the links of a page, of prose or of a style sheet.
func (m *mover) links(f *codebase.File) {
	if m.code.Languages().IsCode(f.Path) || f.Text.Binary() {
		return
	}
	body := f.Text.Bytes()
	for _, found := range links.FindAllSubmatchIndex(body, -1) {
		for g := 2; g < len(found); g += 2 {
			if found[g] < 0 {
				continue
			}
			m.link(f, place.Range{Start: uint32(found[g]), End: uint32(found[g+1])})
		}
	}
}

func (m *mover) link(f *codebase.File, at place.Range) {
	written := string(at.In(f.Text.Bytes()))
	if strings.Contains(written, ":") || written == "" {
		return
	}
	if root, absolute := strings.CutPrefix(written, "/"); absolute {
		if to := m.goes(root); to != root {
			m.put(f, at, "/"+to, "link", proposal.Sure)
		}
		return
	}
	target := path.Join(path.Dir(f.Path), written)
	to := m.goes(target)
	if to == target && m.goes(f.Path) == f.Path || to == target && !m.code.Has(target) {
		return
	}
	rel, err := filepath.Rel(path.Dir(m.goes(f.Path)), to)
	if err != nil {
		return
	}
	now := filepath.ToSlash(rel)
	if strings.HasPrefix(written, "./") && !strings.HasPrefix(now, ".") {
		now = "./" + now
	}
	if strings.HasSuffix(written, "/") {
		now += "/"
	}
	if now != written {
		m.put(f, at, now, "link", proposal.Sure)
	}
}

// mentions finds where the path is written otherwise: in configuration it is taken in, elsewhere left out.
func (m *mover) mentions() error {
	forms := [][2]string{{m.from, m.to}}
	if stem := strings.TrimSuffix(m.from, path.Ext(m.from)); strings.Contains(m.from, "/") {
		module := strings.ReplaceAll(stem, "/", ".")
		if moved := strings.ReplaceAll(strings.TrimSuffix(m.to, path.Ext(m.to)), "/", "."); strings.Contains(module, ".") && moved != module {
			forms = append(forms, [2]string{module, moved})
		}
	}
	for _, form := range forms {
		if !strings.ContainsAny(form[0], "/.") && m.folder {
			continue // any word could be meant
		}
		all, err := m.guide.Written(m.ctx, form[0])
		if err != nil {
			return err
		}
		for p, hits := range all {
			f := m.file(p)
			if f == nil || f.Text.Binary() {
				continue
			}
			for _, h := range hits {
				if !whole(f.Text.Bytes(), h.At) {
					continue
				}
				group, what := proposal.Mentions, "mention"
				if isConfiguration(f, m.code.Languages().Of(p)) {
					group, what = proposal.Sure, "configuration"
				}
				m.put(f, h.At, form[1], what, group)
			}
		}
	}
	return nil
}

// whole says whether a path stands by itself, and is not a part of another one.
func whole(body []byte, at place.Range) bool {
	before := at.Start == 0 || !pathByte(body[at.Start-1]) || at.Start > 1 && body[at.Start-1] == '/' && body[at.Start-2] == '.'
	after := int(at.End) >= len(body) || !pathByte(body[at.End]) || body[at.End] == '/' || body[at.End] == '.' && (int(at.End)+1 >= len(body) || !pathByte(body[at.End+1]))
	return before && after
}

func pathByte(c byte) bool { return text.ByteInWord(c) || c == '/' || c == '-' || c == '.' }

// isConfiguration says whether a file holds data that programs read, and not words or code.
func isConfiguration(f *codebase.File, l *lang.Language) bool {
	return l != nil && !l.Code.Is() && f.Facts != nil && !slices.ContainsFunc(f.Facts.Defs, func(d facts.Def) bool { return d.Kind == facts.Section })
}
