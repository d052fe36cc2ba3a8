package rename

import (
	"fmt"
	"maps"
	"path"
	"regexp"
	"slices"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/resolve"
)

// warn notes something at a place of the code as it is.
func (w *work) warn(p string, at place.Range, stops bool, words string, args ...any) {
	out := proposal.Warning{Path: p, Text: fmt.Sprintf(words, args...), Stops: stops}
	if f := w.file(p); f != nil {
		out.Line, out.Col = f.Text.Position(int(at.Start))
	}
	w.proposal.Warn(out)
}

// language is that of a definition.
func (w *work) language() *lang.Language { return w.code.Languages().Of(w.bound.Definitions[0].Path) }

// allowed notes what can be told of the name alone, and of what is renamed.
func (w *work) allowed() {
	first, l := w.bound.Definitions[0], w.language()
	if l != nil {
		if why, ok := l.Names.Allows(w.asked.New); !ok {
			w.warn(first.Path, first.At, true, "%s", why)
		}
	}
	if len(w.bound.Family) > 0 && w.asked.Family != ThisAlone {
		f := w.bound.Family[0]
		w.warn(f.Path, f.At, true, "%s is overridden by, or overrides, %s methods of its family, such as %s: rename all of them, or this one alone", w.bound.Name, counted(w.bound.Family), f.Of())
	}
	for _, f := range w.bound.Family {
		if w.asked.Family == ThisAlone {
			w.warn(f.Path, f.At, false, "%s keeps its name (%s), and is not overridden by this one any more, or does not override it", f.Name, f.Of())
		}
	}
	for _, d := range w.bound.Elsewhere {
		w.warn(d.Path, d.At, true, "%s overrides a method of something outside this project, which keeps its name", d.Name)
	}
	for _, d := range w.bound.Definitions {
		f := w.file(d.Path)
		switch {
		case f == nil:
		case f.Generated():
			w.warn(d.Path, d.At, false, "a program writes this file, and will write the former name again")
		case f.Foreign:
			w.warn(d.Path, d.At, false, "this file is not the project's own")
		}
	}
	if l != nil && !w.bound.Alias {
		w.outside(l)
	}
}

func counted(all []resolve.Answer) string {
	if len(all) == 1 {
		return "one"
	}
	return fmt.Sprint(len(all))
}

// outside notes that others than this project may use what is renamed.
func (w *work) outside(l *lang.Language) {
	for _, d := range w.bound.Definitions {
		f := w.file(d.Path)
		if f == nil || f.Facts == nil {
			continue
		}
		id := f.Facts.DefAt(int(d.At.Start))
		if id == facts.NoDef || f.Facts.Local(&f.Facts.Defs[id]) {
			continue
		}
		def := &f.Facts.Defs[id]
		if l.Outside.Entries[def.Name] && def.Container == "" && def.Kind.IsCallable() {
			w.warn(d.Path, d.At, false, "%s is called from outside of all code, by that name", def.Name)
		}
		if def.Container != "" && def.Kind.IsCallable() && (l.Outside.Called[fmt.Sprintf("%s/%d", def.Name, def.Parameters-1)] || l.Outside.Called[def.Name]) {
			w.warn(d.Path, d.At, false, "a library may call %s by that name", def.Name)
		}
		if w.asked.Family == ThisAlone && len(w.bound.Definitions) > 1 {
			continue
		}
		if l.Code.Is() && l.Outside.Visible(lang.Symbol{Def: def, Path: d.Path, Package: f.Facts.Package, Modifiers: def.Modifiers(f.Text.Bytes())}) {
			w.warn(d.Path, d.At, false, "code outside this project may use %s by that name", def.Name)
			return
		}
	}
}

// conflicts compares what names mean before and after: every use of what is renamed must still mean it, and every
// use of the new name what it meant.
func (w *work) conflicts() {
	l := w.language()
	if l == nil || !l.Code.Is() {
		return
	}
	if _, ok := l.Names.Allows(w.asked.New); !ok {
		return
	}
	c := comparison{work: w, edits: map[string][]text.Edit{}}
	texts := map[string][]byte{}
	for p := range w.named {
		if f := w.sure.File(p); f != nil && f.Changes() {
			texts[p], c.edits[p] = f.After().Bytes(), f.Edits()
		}
	}
	c.after = resolve.New(resolve.NewOverlay(w.ctx, w.code, texts))
	c.before = resolve.New(resolve.NewOverlay(w.ctx, w.code, nil))
	c.beside(l)
	c.seen(l)
	c.uses()
	c.others()
	if _, stopped := w.proposal.Stopped(); !stopped && !w.stopped() && isMember(w.bound.Kind) {
		c.compiled(l, texts)
	}
}

// stopped says that it is known already that it cannot be done.
func (w *work) stopped() bool { _, stopped := w.sure.Stopped(); return stopped }

// compiled asks the compiler, if there is one to ask, whether something would be wrong after the change that is not
// by now. It is asked about members: that types have the same ones can matter where none of them is named.
func (c *comparison) compiled(l *lang.Language, texts map[string][]byte) {
	// Whether a method is needed somewhere is not said where it is needed.
	importers := c.bound.Kind == facts.Method
	after, err := c.code.Errors(c.ctx, l, texts, importers)
	if err != nil || len(after) == 0 {
		return // what it cannot say is left to what is known without it
	}
	now := map[string][]byte{}
	for p := range texts {
		now[p] = c.file(p).Text.Bytes()
	}
	before, err := c.code.Errors(c.ctx, l, now, importers)
	if err != nil {
		return
	}
	had := map[string]int{}
	for _, e := range before {
		had[fmt.Sprintf("%s:%d: %s", e.Path, e.Line, e.Text)]++
	}
	word := regexp.MustCompile(`\b` + regexp.QuoteMeta(c.asked.New) + `\b`)
	for _, e := range after {
		key := fmt.Sprintf("%s:%d: %s", e.Path, e.Line, word.ReplaceAllString(e.Text, c.bound.Name))
		if had[key]--; had[key] >= 0 {
			continue
		}
		c.proposal.Warn(proposal.Warning{Path: e.Path, Line: e.Line, Col: e.Col, Stops: true, Text: "the compiler would say: " + e.Text})
	}
}

// comparison is of what names mean before and after.
type comparison struct {
	*work
	before, after *resolve.Resolver
	edits         map[string][]text.Edit
}

// mostConflicts is how many conflicts are told of each kind.
const mostConflicts = 20

// beside finds what has the new name already where it would be defined.
func (c *comparison) beside(l *lang.Language) {
	told := 0
	for _, d := range c.bound.Definitions {
		for _, o := range c.before.Beside(c.ctx, d.Path, int(d.At.Start), c.asked.New) {
			if told++; told > mostConflicts {
				return
			}
			f := c.file(o.Path)
			if f == nil {
				continue
			}
			line, _ := f.Text.Position(int(o.At.Start))
			switch {
			case l.Members.Overloads.Is() && o.Kind.IsCallable() && c.bound.Kind.IsCallable():
				c.warn(o.Path, o.At, false, "there is a %s %s already (%s:%d), of which this becomes another", o.Kind, o.Name, o.Path, line)
			case o.Container != d.Container:
				c.warn(o.Path, o.At, true, "%s has a %s %s (%s:%d), which this would hide or override", o.Container, o.Kind, o.Name, o.Path, line)
			default:
				c.warn(o.Path, o.At, true, "there is a %s %s already (%s:%d)", o.Kind, o.Name, o.Path, line)
			}
		}
	}
}

// seen finds uses from where the name would not be seen any more.
func (c *comparison) seen(l *lang.Language) {
	if !l.Types.Private(c.asked.New) || l.Types.Private(c.bound.Name) {
		return
	}
	home := path.Dir(c.bound.Definitions[0].Path)
	for _, u := range c.bound.References {
		if path.Dir(u.Path) != home {
			c.warn(u.Path, u.At, true, "%s could not be seen from here any more", c.asked.New)
			return
		}
	}
}

// moved is where an answer about the code as it is would be after the change.
func (c *comparison) moved(a resolve.Answer) (p string, start int) {
	at := int(a.At.Start)
	by := 0
	for _, e := range c.edits[a.Path] {
		if e.Start >= at {
			if e.Start == at && e.End > at {
				by += lead(e, a.At, c.bound.Name)
			}
			break
		}
		by += e.Shift()
	}
	return a.Path, at + by
}

// lead is how far into what comes in the place of a name the name itself stands, where that is written out as a
// member and its value.
func lead(e text.Edit, at place.Range, name string) int {
	if len(e.New) > len(name)+2 && string(e.New[:len(name)+2]) == name+": " && e.End == int(at.End) {
		return len(name) + 2
	}
	return 0
}

// uses looks whether every use of what is renamed still means it.
func (c *comparison) uses() {
	told := 0
	for _, p := range slices.Sorted(maps.Keys(c.named)) {
		var at, now []int
		for _, r := range c.named[p] {
			if c.short[p][int(r.Start)] {
				continue // it meant two things, and is written out
			}
			_, n := c.moved(resolve.Answer{Path: p, At: r})
			at, now = append(at, int(r.Start)), append(now, n)
		}
		told += c.compare(p, at, now, "here it would mean something else: %s", told)
		if told > mostConflicts {
			return
		}
	}
}

// others looks whether every use of the new name means what it meant.
func (c *comparison) others() {
	told := 0
	for _, p := range c.code.Mentioning(c.asked.New) {
		if c.ctx.Err() != nil || told > mostConflicts {
			return
		}
		f := c.file(p)
		if f == nil || f.Facts == nil || !c.near(p) {
			continue
		}
		var at, now []int
		for _, u := range f.Facts.Uses {
			if u.Name == c.asked.New {
				_, n := c.moved(resolve.Answer{Path: p, At: u.At})
				at, now = append(at, int(u.At.Start)), append(now, n)
			}
		}
		told += c.compare(p, at, now, c.asked.New+" would mean something else here: %s", told)
	}
}

// near says whether a file may see what is renamed: what is local is only seen in its own.
func (c *comparison) near(p string) bool {
	return !c.local() || p == c.bound.Definitions[0].Path
}

// compare tells of names of a file that mean something else after the change than before; it gives how many.
func (c *comparison) compare(p string, at, now []int, words string, told int) (n int) {
	if len(at) == 0 {
		return 0
	}
	before, after := c.before.Meanings(c.ctx, p, at), c.after.Meanings(c.ctx, p, now)
	for i := range before {
		if before[i].Path == "" {
			continue
		}
		if toPath, to := c.moved(before[i]); after[i].Path == toPath && int(after[i].At.Start) == to {
			continue
		}
		if n++; told+n > mostConflicts {
			return n
		}
		to := "nothing"
		if after[i].Path != "" {
			to = fmt.Sprintf("the %s %s in %s", after[i].Kind, after[i].Name, after[i].Path)
		}
		c.warn(p, place.Range{Start: uint32(at[i]), End: uint32(at[i])}, true, words, to)
	}
	return n
}
