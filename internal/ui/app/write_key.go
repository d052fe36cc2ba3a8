package app

import (
	"context"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/find"
	"rooktrail/internal/core/outside"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// writeKey acts on a key in write: what it is bound to, what text fields do with it, a way if
// it is one with Alt, or the letter itself.
func (m *Model) writeKey(k tea.KeyPressMsg) tea.Cmd {
	name, p := k.String(), m.pen()
	if m.offering() {
		if cmd, taken := m.nameKey(name); taken {
			return cmd
		}
	}
	prefix := m.prefix
	m.prefix = ""
	if prefix != "" {
		if name == "esc" {
			return nil
		}
		name = prefix + " " + name
	} else if name == keymap.BeginsWriting {
		m.prefix = name
		return nil
	}
	if a, ok := m.keys.OfWrite(name); ok {
		return m.doInWrite(a)
	}
	if prefix != "" {
		m.say("%s does nothing here; ? in roam shows the keys", keymap.Label(name))
		return nil
	}
	if name == "esc" {
		if !p.editor.Single() {
			m.stopWriting()
		} else {
			m.showCarets(p)
		}
		return tea.Batch(m.caretMoved(), m.repaint())
	}
	if name == "ctrl+space" {
		m.openScout()
		return nil
	}
	before := p.editor.Document()
	if m.fieldKey(p.editor, name) {
		return m.wrote(p, before)
	}
	if k.Text != "" && k.Mod&(tea.ModAlt|tea.ModCtrl) == 0 {
		p.editor.Type(k.Text)
		cmd := m.wrote(p, before)
		if m.settings.Silent {
			return cmd
		}
		return tea.Batch(cmd, m.completeLater(p))
	}
	if rest, ok := strings.CutPrefix(name, "alt+"); ok {
		if a, ok := m.keys.Of(rest); ok {
			return m.wayInWrite(a)
		}
	}
	m.say("%s does nothing in write; Esc leads back to roam", keymap.Label(name))
	return nil
}

// wayInWrite carries out an action of roam in write, as soon as all answers are about what was
// written last.
func (m *Model) wayInWrite(a keymap.Action) tea.Cmd {
	p := m.pen()
	if p.taken == p.editor.Document() {
		return m.do(a, "")
	}
	m.desk.next, m.going = a, true
	return m.takeIn(p)
}

// fieldKey does what text fields do with a key; it is false for any other.
func (m *Model) fieldKey(e *write.Editor, name string) bool {
	extend := strings.Contains(name, "shift+")
	page := max(m.bodyHeight()-2, 1)
	switch strings.Replace(name, "shift+", "", 1) {
	case "left":
		e.Left(extend)
	case "right":
		e.Right(extend)
	case "up":
		e.Vertical(-1, extend)
	case "down":
		e.Vertical(1, extend)
	case "ctrl+left", "alt+left":
		e.WordLeft(extend)
	case "ctrl+right", "alt+right":
		e.WordRight(extend)
	case "pgup":
		e.Vertical(-page, extend)
	case "pgdown":
		e.Vertical(page, extend)
	case "home":
		e.LineStart(extend)
	case "end":
		e.LineEnd(extend)
	case "ctrl+home":
		e.Ends(false, extend)
	case "ctrl+end":
		e.Ends(true, extend)
	case "enter":
		e.Newline()
	case "ctrl+j": // the line feeds of what a terminal pastes without saying so
		e.Type("\n")
	case "tab":
		e.Tab()
	case "backspace":
		e.Backspace()
	case "delete":
		e.Delete()
	case "ctrl+w", "ctrl+backspace", "alt+backspace":
		e.BackspaceWord()
	case "ctrl+delete", "alt+delete":
		e.DeleteWord()
	case "space":
		e.Type(" ")
	default:
		return false
	}
	return true
}

// inWrite carries out an action of write that was chosen in roam; ok is false for any other.
func (m *Model) inWrite(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.Write:
		if m.startWriting() {
			m.say("write: letters are typed; Esc leads back to roam, Ctrl+S saves")
			return m.caretMoved(), true
		}
		m.refuse()
		return nil, true
	case keymap.SaveFile:
		return m.save(), true
	case keymap.SaveAll:
		return m.saveAll(), true
	case keymap.Unsaved:
		m.offerLeft()
		return nil, true
	case keymap.Unlock:
		m.askUnlock()
		return nil, true
	}
	if !isWritingAction(m.keys, a) {
		return nil, false
	}
	if m.desk.on != m.code.Path() && !m.startWriting() {
		return nil, true
	}
	return m.doInWrite(a), true
}

func isWritingAction(keys keymap.Map, a keymap.Action) bool {
	for _, b := range keys {
		if b.Action == a {
			return b.Group == keymap.Writing
		}
	}
	return false
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

// doInWrite carries out an action of write.
func (m *Model) doInWrite(a keymap.Action) tea.Cmd {
	p := m.pen()
	if p == nil {
		return nil
	}
	e, before := p.editor, p.editor.Document()
	if change := changes[a]; change != nil {
		if !change(e) {
			m.say("%s", nothingTo[a])
		}
		if all, _ := e.Carets(); len(all) > 1 {
			m.say("%s; Esc leaves one", sheet.Count(len(all), "caret", "carets"))
		}
		return m.wrote(p, before)
	}
	switch a {
	case keymap.SaveFile:
		return m.save()
	case keymap.SaveAll:
		return m.saveAll()
	case keymap.Unsaved:
		m.offerLeft()
		return nil
	case keymap.Unlock:
		m.askUnlock()
		return nil
	case keymap.WriteCopy, keymap.WriteCut:
		s, whole := e.Selection()
		kept := m.keepCut(s)
		what := "what is selected"
		if whole {
			what = "the line"
		}
		if a == keymap.WriteCut {
			e.Cut()
		}
		return tea.Batch(m.wrote(p, before), m.copy(s, what), kept)
	case keymap.WritePaste:
		return m.askSystem(p)
	case keymap.Complete:
		return m.complete(p, true)
	case keymap.SaveAs:
		m.askLine("save it as:", p.path, func(answer string) tea.Cmd { return m.saveAs(p, answer) })
		return nil
	case keymap.WriteClips:
		return m.chooseCut()
	case keymap.CaretSymbol:
		return m.caretsAtUses(p)
	case keymap.CaretFound:
		return m.caretsAtFound(p)
	}
	return nil
}

// systemCutMsg brings what the clipboard of the system holds.
type systemCutMsg struct {
	pen  *pen
	text string
}

// askSystem asks the clipboard of the system what it holds: it may come from another program.
func (m *Model) askSystem(p *pen) tea.Cmd {
	m.going = true
	return func() tea.Msg {
		s, err := outside.Paste(context.Background())
		if err != nil {
			s = "" // there is none; what was cut here is pasted
		}
		return systemCutMsg{p, s}
	}
}

// pasteSystem pastes what another program has copied, or what was cut or copied here last.
func (m *Model) pasteSystem(msg systemCutMsg) tea.Cmd {
	s := msg.text
	if s == "" && len(m.desk.cuts) > 0 {
		s = m.desk.cuts[0]
	}
	if s == "" || msg.pen != m.pen() {
		m.say("nothing was cut or copied yet; what others have copied comes with the terminal's own paste")
		return m.arrived(nil)
	}
	before := msg.pen.editor.Document()
	msg.pen.editor.Paste(s)
	return m.arrived(m.wrote(msg.pen, before))
}

// keepCut keeps a text that was cut or copied, for the next time, too.
func (m *Model) keepCut(s string) tea.Cmd {
	m.addCut(s)
	return m.keepCopies()
}

func (m *Model) addCut(s string) {
	cuts := []string{s}
	for _, c := range m.desk.cuts {
		if c != s && len(cuts) < mostCuts {
			cuts = append(cuts, c)
		}
	}
	m.desk.cuts = cuts
}

// cutChoice is a row of the choice among what was cut or copied.
type cutChoice string

// chooseCut lets one choose among what was cut or copied before.
func (m *Model) chooseCut() tea.Cmd {
	if len(m.desk.cuts) == 0 {
		m.say("nothing was cut or copied yet")
		return nil
	}
	var rows []sheet.Row
	for _, c := range m.desk.cuts {
		first, rest, _ := strings.Cut(strings.TrimSpace(c), "\n")
		where := ""
		if n := strings.Count(rest, "\n"); rest != "" {
			where = "and " + sheet.Count(n+1, "line", "lines") + " more"
		}
		rows = append(rows, sheet.Row{What: "copy", Name: strings.TrimSpace(first), Where: where, Value: cutChoice(c)})
	}
	m.openChoice("what was cut or copied, the latest first", "paste it", rows)
	return nil
}

// pasteCut pastes what was chosen.
func (m *Model) pasteCut(c cutChoice) tea.Cmd {
	cmd := tea.Batch(m.restore(), m.keepCut(string(c)))
	p := m.pen()
	if p == nil {
		return cmd
	}
	m.desk.on = p.path
	before := p.editor.Document()
	p.editor.Paste(string(c))
	return tea.Batch(cmd, m.wrote(p, before))
}

// usesMsg brings the uses of a name in the file that is written.
type usesMsg struct {
	pen   *pen
	doc   *text.Document
	uses  [][2]int
	short map[int]bool // where a name stands for a member and a value

	member bool   // it is the member that is used
	none   string // what to say if there are none
}

// caretsAtUses puts a caret at each use of the name under the caret in this file, and at no
// other word that reads the same.
func (m *Model) caretsAtUses(p *pen) tea.Cmd {
	if p.taken != p.editor.Document() {
		m.desk.next, m.going = keymap.CaretSymbol, true
		return m.takeIn(p)
	}
	ws, doc, at, name := m.ws, p.editor.Document(), p.editor.Main().At, p.path
	return func() tea.Msg {
		ctx := context.Background()
		res, refs := ws.References(ctx, name, at, resolve.Scope{Value: true})
		uses := [][2]int{}
		for _, a := range res.Answers {
			if a.Path == name {
				uses = append(uses, [2]int{int(a.At.Start), int(a.At.End)})
			}
		}
		for _, r := range refs {
			if r.Path == name {
				uses = append(uses, [2]int{int(r.At.Start), int(r.At.End)})
			}
		}
		member := len(res.Answers) > 0 && (res.Answers[0].Kind == facts.Property || res.Answers[0].Kind == facts.Field)
		return usesMsg{p, doc, uses, ws.Shorthands(ctx, name, doc), member,
			"no use of the name under the caret is known in this file; Ctrl+E a takes all words that read the same"}
	}
}

// caretsAtFound puts a caret at each place of what was looked for in the file, as that is now.
func (m *Model) caretsAtFound(p *pen) tea.Cmd {
	q, doc := m.inFile.how, p.editor.Document()
	if q.Pattern = m.inFile.input.Value(); q.Pattern == "" || len(m.inFile.hits) == 0 {
		m.say("nothing is being looked for in this file; Alt+/ does, and its places stay marked after Enter")
		return nil
	}
	within := m.inFile.within
	return func() tea.Msg {
		msg := usesMsg{pen: p, doc: doc, none: "nothing in this file is what was looked for any more"}
		matcher, err := find.Compile(q)
		if err != nil {
			return noteMsg(err.Error())
		}
		matcher.All(doc.Bytes(), func(h find.Match) bool {
			if within.Len() == 0 || int(within.Start) <= h.Start && h.End <= int(within.End) {
				msg.uses = append(msg.uses, [2]int{h.Start, h.End})
			}
			return len(msg.uses) < mostCarets
		})
		return msg
	}
}

// mostCarets is how many carets are put at places of a search at the most.
const mostCarets = 10_000

func (m *Model) atUses(msg usesMsg) tea.Cmd {
	p := msg.pen
	switch {
	case p.editor.Document() != msg.doc || m.code.Path() != p.path:
		return nil
	case len(msg.uses) == 0:
		m.say("%s", msg.none)
		return nil
	}
	p.editor.AddAt(msg.uses)
	p.editor.WriteOut(msg.short, msg.member)
	m.desk.on = p.path
	all, _ := p.editor.Carets()
	m.say("%s; Esc leaves one", sheet.Count(len(all), "caret", "carets"))
	return m.wrote(p, msg.doc)
}
