package writing

import (
	"context"
	"path"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Key acts on a key in write: what it is bound to, what text fields do with it, a way if
// it is one with Alt, or the letter itself.
func (m *Model) Key(k tea.KeyPressMsg) surface.Intent {
	name, p := k.String(), m.pen()
	if m.Offering() {
		if todo, taken := m.nameKey(name); taken {
			return todo
		}
	}
	prefix := m.prefix
	m.prefix = ""
	if prefix != "" {
		if keymap.Is(name, keymap.Ends.Close) {
			return surface.Intent{}
		}
		name = prefix + " " + name
	} else if name == keymap.BeginsWriting {
		m.prefix = name
		return surface.Intent{}
	}
	if a, ok := m.own.InWrite(name); ok && !m.keys.IsWriting(a) {
		return m.way(p, a)
	} else if ok {
		return m.do(a)
	}
	if a, ok := m.keys.OfWrite(name); ok {
		todo := m.do(a)
		todo.Did = a
		return todo
	}
	if prefix != "" {
		return surface.Say("%s does nothing here; Esc, then {keys} shows the keys", keymap.Label(name))
	}
	if keymap.Is(name, on.Roam) {
		p.fields = nil
		if !p.Editor.Single() {
			m.stop()
		} else {
			m.showCarets(p)
		}
		return surface.Intent{Caret: true}
	}
	if keymap.Is(name, on.Scout) {
		return surface.Intent{Do: keymap.Scout}
	}
	if m.nextField(p, name) {
		return surface.Intent{Caret: true}
	}
	if todo, ok := m.expand(p, name); ok {
		return todo
	}
	before := p.Editor.Document()
	m.lay(p)
	if m.field(p.Editor, name) {
		return m.wrote(p, before)
	}
	if k.Text != "" && k.Mod&(tea.ModAlt|tea.ModCtrl) == 0 {
		p.Editor.Type(k.Text)
		todo := m.wrote(p, before).And(surface.Begin(m.readSnippets(p)))
		if !m.set.Load().On(settings.Complete) {
			return todo
		}
		return todo.And(surface.Begin(m.completeLater(p)))
	}
	if rest, ok := strings.CutPrefix(name, "alt+"); ok {
		if a, ok := m.keys.Of(rest); ok {
			return m.way(p, a)
		}
	}
	return surface.Intent{Say: m.keys.Nothing(name, true)}
}

// lay tells the text how it stands on the screen.
func (m *Model) lay(p *pen) {
	c := m.host.Code()
	var rows write.Rows
	if c.Look().Wrap {
		rows = c
	}
	p.Editor.Lay(c.Look().Tabs, rows)
}

// Prefix is the first key of two that was pressed in write; "" if none was.
func (m *Model) Prefix() string { return m.prefix }

// way carries out an action of roam in write, as soon as all answers are about what was
// written last.
func (m *Model) way(p *pen, a keymap.Action) surface.Intent {
	if p.taken == p.Editor.Document() {
		return surface.Intent{Do: a}
	}
	return m.Await(a)
}

// Await has an action be carried out as soon as all answers are about what was written last.
func (m *Model) Await(a keymap.Action) surface.Intent {
	m.next = a
	return surface.Begin(m.takeIn(m.pen()))
}

// Paste puts pasted text into what is written.
func (m *Model) Paste(s string) surface.Intent {
	p := m.pen()
	before := p.Editor.Document()
	p.Editor.Paste(s)
	return m.wrote(p, before)
}

// Commands are the actions of write, as they are done when they are chosen in roam.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{
		keymap.Write: func() surface.Intent {
			if why := m.start(); why != "" {
				return m.refuse(why)
			}
			todo := surface.Say("write: letters are typed; Esc leads back to roam, {save} saves")
			todo.Caret = true
			return todo
		},
	}
	for a := range m.always() {
		all[a] = func() surface.Intent { return m.do(a) }
	}
	begin := func(a keymap.Action) func() surface.Intent {
		return func() surface.Intent {
			if m.on != m.host.Code().Path() {
				if why := m.start(); why != "" {
					return surface.Say("%s", why)
				}
			}
			return m.do(a)
		}
	}
	for a := range changes {
		all[a] = begin(a)
	}
	for a := range m.others() {
		all[a] = begin(a)
	}
	return all
}

// changes are the actions that do nothing but change the text or the carets.
var changes = map[keymap.Action]func(e *write.Editor) bool{
	keymap.WriteUndo:     (*write.Editor).Undo,
	keymap.WriteRedo:     (*write.Editor).Redo,
	keymap.WriteEarlier:  (*write.Editor).Earlier,
	keymap.WriteLater:    (*write.Editor).Later,
	keymap.WriteAll:      done((*write.Editor).SelectAll),
	keymap.CaretNext:     (*write.Editor).AddNext,
	keymap.CaretSkip:     (*write.Editor).Skip,
	keymap.CaretAll:      func(e *write.Editor) bool { return e.AddAll() > 0 },
	keymap.CaretLines:    done((*write.Editor).PerLine),
	keymap.CaretAbove:    func(e *write.Editor) bool { return e.AddVertical(-1) },
	keymap.CaretBelow:    func(e *write.Editor) bool { return e.AddVertical(1) },
	keymap.CaretBox:      done((*write.Editor).Rectangle),
	keymap.LineDelete:    done((*write.Editor).DeleteLines),
	keymap.LineUp:        func(e *write.Editor) bool { return e.MoveLines(-1, false) },
	keymap.LineDown:      func(e *write.Editor) bool { return e.MoveLines(1, false) },
	keymap.LineUpBlock:   func(e *write.Editor) bool { return e.MoveLines(-1, true) },
	keymap.LineDownBlock: func(e *write.Editor) bool { return e.MoveLines(1, true) },
	keymap.LineCopy:      func(e *write.Editor) bool { e.Duplicate(true); return true },
	keymap.LineCopyUp:    func(e *write.Editor) bool { e.Duplicate(false); return true },
	keymap.LineJoin:      done((*write.Editor).Join),
	keymap.LineSort:      done((*write.Editor).Sort),
	keymap.LineIndent:    done((*write.Editor).Indent),
	keymap.LineOutdent:   done((*write.Editor).Outdent),
	keymap.Comment:       (*write.Editor).Comment,
	keymap.CommentBlock:  (*write.Editor).CommentAround,
	keymap.Upper:         done((*write.Editor).Upper),
	keymap.Lower:         done((*write.Editor).Lower),
	keymap.AroundRound:   around("(", ")"),
	keymap.AroundSquare:  around("[", "]"),
	keymap.AroundCurly:   around("{", "}"),
	keymap.AroundDouble:  around(`"`, `"`),
	keymap.AroundSingle:  around("'", "'"),
	keymap.AroundBack:    around("`", "`"),
}

func done(do func(*write.Editor)) func(*write.Editor) bool {
	return func(e *write.Editor) bool { do(e); return true }
}

func around(open, close string) func(*write.Editor) bool {
	return func(e *write.Editor) bool { e.Surround(open, close); return true }
}

// nothingTo say why an action did nothing.
var nothingTo = map[keymap.Action]string{
	keymap.WriteUndo: "this is the text as it was at the beginning", keymap.WriteRedo: "nothing was undone after this",
	keymap.WriteEarlier: "this is the text as it was at the beginning", keymap.WriteLater: "this is the latest of all that was written",
	keymap.CaretNext: "nothing else reads the same", keymap.CaretSkip: "nothing else reads the same", keymap.CaretAll: "there is no word here, and nothing is selected",
	keymap.CaretAbove: "there is no line above", keymap.CaretBelow: "there is no line below",
	keymap.LineUp: "this is the first line", keymap.LineDown: "this is the last line",
	keymap.LineUpBlock: "its block begins here", keymap.LineDownBlock: "its block ends here",
	keymap.Comment: "nothing is known of comments in such a file", keymap.CommentBlock: "this language has no comments that end before the line does",
}

// do carries out an action of write.
func (m *Model) do(a keymap.Action) surface.Intent {
	if do := m.always()[a]; do != nil {
		return do()
	}
	p := m.pen()
	if p == nil {
		return surface.Intent{}
	}
	if a == keymap.WriteUndo && m.Whole != nil && p.State() == desk.AsSaved && m.Whole(p.Path, p.Editor.Document()) {
		return surface.Intent{Do: keymap.ChangeUndo} // in all files that were changed with this one
	}
	if change := changes[a]; change != nil {
		return m.change(p, a, change)
	}
	if do := m.others()[a]; do != nil {
		return do(p)
	}
	return surface.Intent{}
}

func (m *Model) change(p *pen, a keymap.Action, change func(e *write.Editor) bool) (todo surface.Intent) {
	before := p.Editor.Document()
	if !change(p.Editor) {
		todo = surface.Say("%s", nothingTo[a])
	}
	return m.howMany(p, todo).And(m.wrote(p, before))
}

// howMany says how many carets there are, if there are several.
func (m *Model) howMany(p *pen, todo surface.Intent) surface.Intent {
	if all, _ := p.Editor.Carets(); len(all) > 1 {
		return todo.And(surface.Say("%s; Esc leaves one", sheet.Count(len(all), "caret", "carets")))
	}
	return todo
}

// always are the actions that need no text in which one writes.
func (m *Model) always() surface.Commands {
	return surface.Commands{
		keymap.SaveFile: m.save,
		keymap.SaveAll:  func() surface.Intent { return m.show(m.desk.SaveAll()) },
		keymap.Unsaved:  m.offer,
		keymap.Unlock:   m.askUnlock,
	}
}

// others are the remaining ones.
func (m *Model) others() map[keymap.Action]func(p *pen) surface.Intent {
	return map[keymap.Action]func(p *pen) surface.Intent{
		keymap.WriteCopy:  func(p *pen) surface.Intent { return m.copy(p, false) },
		keymap.WriteCut:   func(p *pen) surface.Intent { return m.copy(p, true) },
		keymap.WritePaste: m.paste, keymap.WriteClips: m.chooseCopy,
		keymap.Complete: func(p *pen) surface.Intent { return m.complete(p, true) },
		keymap.SaveAs: func(p *pen) surface.Intent {
			return m.asks.Ask("save it as:", p.Path, func(answer string) surface.Intent { return m.saveAs(p.Text, answer) })
		},
		keymap.CaretSymbol: m.caretsAtUses, keymap.CaretFound: m.caretsAtFound,
		keymap.Snippets: m.chooseSnippet, keymap.SnippetKeep: m.keepSnippet,
	}
}

// uses are the uses of a name in the file that is written, or other places for carets.
type uses struct {
	at    [][2]int
	short map[int]bool // where a name stands for a member and a value

	member bool   // it is the member that is used
	none   string // what to say if there are none
	err    error
}

// caretsAtUses puts a caret at each use of the name under the caret in this file, and at no
// other word that reads the same.
func (m *Model) caretsAtUses(p *pen) surface.Intent {
	if p.taken != p.Editor.Document() {
		return m.way(p, keymap.CaretSymbol)
	}
	project, doc, at, name := m.project, p.Editor.Document(), p.Editor.Main().At, p.Path
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) uses {
		res, refs := project.All(ctx, answer.Question{Way: answer.ToReferences, Path: name, Offset: at, Scope: resolve.Scope{Value: true}})
		u := uses{none: keymap.Marked("no use of the name under the caret is known in this file; {caret-all} takes all words that read the same")}
		for _, a := range res.Answers {
			if a.Path == name {
				u.at = append(u.at, [2]int{int(a.At.Start), int(a.At.End)})
			}
		}
		for _, r := range refs {
			if r.Path == name {
				u.at = append(u.at, [2]int{int(r.At.Start), int(r.At.End)})
			}
		}
		u.member = len(res.Answers) > 0 && (res.Answers[0].Kind == facts.Property || res.Answers[0].Kind == facts.Field)
		u.short = project.Shorthands(ctx, name, doc)
		return u
	}, func(u uses) surface.Intent { return m.caretsAt(p, doc, u) }))
}

// mostCarets is how many carets are put at places of a search at the most.
const mostCarets = 10_000

// caretsAtFound puts a caret at each place of what was looked for in the file, as that is now.
func (m *Model) caretsAtFound(p *pen) surface.Intent {
	find, ok := m.host.Found()
	if !ok {
		return surface.Say("nothing is being looked for in this file; {in-file} does, and its places stay marked after Enter")
	}
	doc := p.Editor.Document()
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) uses {
		u := uses{none: "nothing in this file is what was looked for any more"}
		hits, err := find(ctx, doc.Bytes())
		for _, h := range hits[:min(len(hits), mostCarets)] {
			u.at = append(u.at, [2]int{int(h.Start), int(h.End)})
		}
		u.err = err
		return u
	}, func(u uses) surface.Intent { return m.caretsAt(p, doc, u) }))
}

// caretsAt puts carets at places of a text, unless that is another one by now.
func (m *Model) caretsAt(p *pen, doc *text.Document, u uses) surface.Intent {
	switch {
	case u.err != nil:
		return surface.SayError(u.err)
	case p.Editor.Document() != doc || m.host.Code().Path() != p.Path:
		return surface.Intent{}
	case len(u.at) == 0:
		return surface.Say("%s", u.none)
	}
	p.Editor.AddAt(u.at)
	p.Editor.WriteOut(u.short, u.member)
	m.on = p.Path
	all, _ := p.Editor.Carets()
	return surface.Say("%s; Esc leaves one", sheet.Count(len(all), "caret", "carets")).And(m.wrote(p, doc))
}

// askUnlock lets one write in a file that is not the project's own. A key alone does not: what
// others have installed is used by more than this project.
func (m *Model) askUnlock() surface.Intent {
	f := m.host.Code().File()
	switch {
	case f == nil:
		return surface.Say("there is no file here")
	case !f.Foreign || m.unlocked[f.Path] || m.desk.Text(f.Path) != nil:
		return surface.Say("%s is not locked", path.Base(f.Path))
	}
	name := f.Path
	return m.asks.Ask("other projects use it, too; yes unlocks "+path.Base(name)+":", "", func(answer string) surface.Intent {
		if strings.ToLower(strings.TrimSpace(answer)) != "yes" {
			return surface.Say("%s stays locked", path.Base(name))
		}
		m.unlocked[name] = true
		return surface.Say("%s can be written in now, until you leave the program", path.Base(name))
	})
}

// saveAs writes the text to another file, which must not be there, and goes on in that.
func (m *Model) saveAs(t *desk.Text, to string) surface.Intent {
	project := m.project
	to = project.Relative(project.Absolute(path.Clean(to)))
	if to == t.Path {
		return m.save()
	}
	folder := path.Dir(project.Absolute(to))
	return surface.Begin(surface.Do(m.asker, func(context.Context) bool { return project.IsFolder(folder) }, func(is bool) surface.Intent {
		if is {
			return surface.Begin(m.work(m.desk.SaveAs(t, to)))
		}
		return m.askFolder(t, to, folder)
	}))
}
