// Package proposals is the sheet that shows a change over any number of files before it is made: each place with what
// stands there and what comes, which can be left out, taken in again or written by hand; and what leads to such
// changes, makes them and takes them back.
package proposals

import (
	"bytes"
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project proposes changes, and makes them; see package workspace.
type Project interface {
	Subject(ctx context.Context, path string, offset int) (rename.Subject, error)
	Begin(ctx context.Context, a rename.Asked) (*proposal.Proposal, rename.Rest, error)
	structure
	orderly
	Make(ctx context.Context, p *proposal.Proposal) (*making.Change, error)
	Undo(ctx context.Context) (*making.Change, error)
	Redo(ctx context.Context) (*making.Change, error)
	Files(ctx context.Context, c *making.Change, open map[string]bool) []*codebase.File
	Broken(ctx context.Context) ([]making.Broken, error)
	Settle(ctx context.Context, b making.Broken, back bool) error
	Replace(ctx context.Context, a replace.Asked) (*proposal.Proposal, error)
	WriteOut(file string, data []byte) error
	ReadFile(ctx context.Context, file string) (*proposal.Proposal, error)
	Keep(p *proposal.Proposal) error
	Kept() []string
	Reopen(ctx context.Context, title string) (*proposal.Proposal, error)
	Drop(title string) error
}

// structure is what proposes to build code otherwise.
type structure interface {
	Expressions(ctx context.Context, of restructure.Part) ([]restructure.Expression, error)
	Variable(ctx context.Context, of restructure.Part, name string, all bool) (*proposal.Proposal, error)
	Extractable(ctx context.Context, of restructure.Part) error
	Function(ctx context.Context, of restructure.Part, name string) (*proposal.Proposal, error)
	Inline(ctx context.Context, of restructure.Part) (*proposal.Proposal, error)
	Signature(ctx context.Context, of restructure.Part) (restructure.Signature, error)
	Fresh(ctx context.Context, c restructure.Change) ([]string, error)
	Parameters(ctx context.Context, c restructure.Change) (*proposal.Proposal, error)
}

// Swept are the lines of the places that are left of the present sweep, by file, with what it is called.
type Swept func() (lines map[string][]int, name string)

// First saves the texts of files that are written and not saved, as they are, and goes on then.
type First func(paths []string, then func() surface.Intent) surface.Intent

// Renewer has the files that are open be as a change has left them.
type Renewer interface {
	// Open are the paths of the files that are shown or written.
	Open() map[string]bool
	// Renew shows files as they are now.
	Renew(files []*codebase.File) surface.Intent
}

// Surface is the sheet with what is proposed.
type Surface struct {
	surface.Size
	host    surface.Host
	project Project
	first   First
	swept   Swept
	renew   Renewer
	list    *model
	asker   *surface.Asker // what stands in the way
	making  *surface.Asker

	present *proposal.Proposal                                // nil if there is none
	from    surface.Visit                                     // where it was asked for
	local   bool                                              // it builds otherwise what one is at
	due     bool                                              // it is to be made as soon as it is known that nothing stands in the way
	after   map[*proposal.File]func() (*text.Document, error) // how files would read, by what is taken in
	asks    askline.Surface
	typing  *replacing // what is replaced, while one types it; nil for another change
	seeker  *surface.Asker
	choices choice.Surface
}

// New makes one without a proposal.
func New(host surface.Host, project Project, first First, swept Swept, renew Renewer) *Surface {
	s := &Surface{host: host, project: project, first: first, swept: swept, renew: renew, list: newModel()}
	s.seeker = host.Asker(s)
	s.asker, s.making = host.Asker(s), host.Asker(s)
	return s
}

// Commands are what begins a change, shows one, and takes one back.
func (s *Surface) Commands() surface.Commands {
	return surface.Commands{
		keymap.Rename:       s.rename,
		keymap.MakeVariable: s.variable,
		keymap.MakeFunction: s.function,
		keymap.PutInPlace:   s.inline,
		keymap.Parameters:   s.parameters,
		keymap.InOrder:      s.tidy,
		keymap.Replace:      func() surface.Intent { return s.replace(s.everywhere()) },
		keymap.ReplaceHere:  func() surface.Intent { return s.replace(s.inFile()) },
		keymap.ReplaceSweep: func() surface.Intent {
			lines, name := s.swept()
			if len(lines) == 0 {
				return surface.Say("there is no sweep with places left; {references} and Alt+K make one")
			}
			return s.replace(replace.Asked{Lines: lines}, "in the places of "+name)
		},
		keymap.Proposal:    s.again,
		keymap.Proposals:   s.choose,
		keymap.ReadDiff:    s.readDiff,
		keymap.ChangeUndo:  func() surface.Intent { return s.turn(true) },
		keymap.ChangeAgain: func() surface.Intent { return s.turn(false) },
	}
}

// show opens a proposal; rest gives what belongs to it and takes longer, nil for nothing.
func (s *Surface) show(p *proposal.Proposal, rest rename.Rest) surface.Intent {
	s.present, s.after, s.due, s.typing, s.local = p, nil, false, nil, false
	s.list.checking, s.list.whole = rest != nil, false
	s.list.open(p, s.Height-1)
	todo := surface.Intent{Open: s}.And(s.selected())
	if rest == nil {
		return todo
	}
	type more struct {
		p   *proposal.Proposal
		err error
	}
	return todo.And(surface.Begin(surface.Do(s.asker, func(ctx context.Context) more {
		p, err := rest(ctx)
		return more{p, err}
	}, func(m more) surface.Intent {
		if s.present != p {
			return surface.Intent{} // it is another one by now
		}
		s.list.checking = false
		if m.err != nil {
			return surface.SayError(m.err)
		}
		p.Merge(m.p)
		s.after = nil
		s.list.again()
		if s.due {
			s.due = false
			return s.make()
		}
		return surface.Intent{}
	})))
}

// again shows the proposal once more.
func (s *Surface) again() surface.Intent {
	if s.present == nil {
		return surface.Say("nothing is proposed; {rename} proposes another name")
	}
	s.list.again()
	return surface.Intent{Open: s}.And(s.selected())
}

// selected shows the chosen place beneath, as it would read.
func (s *Surface) selected() surface.Intent {
	e, ok := s.list.chosen()
	switch {
	case !ok:
		return surface.LookBack()
	case e.warning != nil && e.warning.Path == "":
		return surface.LookBack()
	case e.warning != nil:
		return surface.Look(surface.Visit{Path: e.warning.Path, Line: e.warning.Line, Col: e.warning.Col})
	}
	f, reads := e.file, s.reads(e.file)
	v := surface.Visit{Path: f.Name(), Line: 1, Col: 1, TextOf: func(context.Context) (*text.Document, error) { return reads() }}
	if e.place >= 0 {
		v.Line, v.Col, v.Name = moved(f, e.place)
	}
	return surface.Look(v)
}

// moved is the line of a place in the text as it would read, and what is new there; empty for nothing.
func moved(f *proposal.File, number int) (line, col int, name place.Range) {
	at := &f.Places[number]
	line, start := f.Line(number), int(at.At.Start)
	for i := range number {
		if p := &f.Places[i]; !p.Out {
			start += len(p.New) - int(p.At.Len())
			line += strings.Count(p.New, "\n") - bytes.Count(f.Before.Slice(int(p.At.Start), int(p.At.End)), []byte("\n"))
		}
	}
	if first, _, _ := strings.Cut(at.New, "\n"); !at.Out {
		name = place.Range{Start: uint32(start), End: uint32(start + len(first))}
	}
	return line, 0, name
}

// reads gives how a file would read, which is worked out beside the screen, once for what is taken in now.
func (s *Surface) reads(f *proposal.File) func() (*text.Document, error) {
	if s.after[f] == nil {
		now := *f
		now.Places = slices.Clone(f.Places)
		if s.after == nil {
			s.after = map[*proposal.File]func() (*text.Document, error){}
		}
		s.after[f] = sync.OnceValues(func() (*text.Document, error) { return now.After(), nil })
	}
	return s.after[f]
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		if todo, taken := s.key(k.String()); taken {
			return todo
		}
	}
	if s.typing != nil {
		if todo, taken := s.typed(msg); taken {
			return todo
		}
	}
	switch s.list.picker.Update(msg) {
	case picker.Closed:
		return surface.Close().And(surface.Say("nothing is changed; {proposal} shows the proposal again"))
	case picker.Selected:
		return s.selected()
	case picker.Taken:
		return s.goTo()
	}
	return surface.Intent{}
}

func (s *Surface) key(name string) (todo surface.Intent, taken bool) {
	switch {
	case keymap.Is(name, on.Make):
		return s.make(), true
	case keymap.Is(name, on.Aside):
		return s.aside(func(of item) func(item) bool { return of.is }), true
	case keymap.Is(name, on.Function):
		return s.aside(func(of item) func(item) bool {
			return func(e item) bool {
				return e.file == of.file && e.place >= 0 && of.place >= 0 && e.file.Places[e.place].In == of.file.Places[of.place].In
			}
		}), true
	case keymap.Is(name, on.File):
		return s.aside(func(of item) func(item) bool { return func(e item) bool { return e.file == of.file } }), true
	case keymap.Is(name, on.Folder):
		return s.aside(func(of item) func(item) bool {
			folder := path.Dir(of.file.Name())
			return func(e item) bool { return e.file != nil && sweep.Within(folder, e.file.Name()) }
		}), true
	case keymap.Is(name, on.Mentions):
		return s.mentions(), true
	case s.typing != nil && s.typing.key(name):
		return s.seek(), true
	case keymap.Is(name, on.Only):
		s.list.kind = s.list.nextKind()
		s.list.picker.Set(s.list.list(), picker.Best)
		return s.selected(), true
	case keymap.Is(name, on.Hand):
		return s.byHand(), true
	case keymap.Is(name, on.Diff):
		return s.writeDiff(), true
	case keymap.Is(name, on.Keep):
		return s.keep(), true
	}
	return todo, false
}

// aside leaves out what suits the chosen entry, or takes it in if that is left out. Places that are known by name
// only, and mentions, go with those of their own kind.
func (s *Surface) aside(suits func(of item) func(item) bool) surface.Intent {
	of, ok := s.list.chosen()
	if !ok || of.file == nil {
		return surface.Say("that is no place; go to one with ↓")
	}
	out, group := !of.file.Stays, proposal.Sure
	if of.place >= 0 {
		out, group = !of.file.Places[of.place].Out, of.file.Places[of.place].Group
	}
	is := suits(of)
	return s.set(out, func(e item) bool { return is(e) && (e.place < 0 || e.file.Places[e.place].Group == group) })
}

// mentions takes all mentions in, or leaves them out if they are in.
func (s *Surface) mentions() surface.Intent {
	is := func(e item) bool { return e.place >= 0 && e.file.Places[e.place].Group == proposal.Mentions }
	in, any := false, false
	for _, e := range s.list.entries {
		if e.file != nil && is(e) {
			any = true
			in = in || !e.file.Places[e.place].Out
		}
	}
	if !any {
		return surface.Say("nothing is mentioned elsewhere")
	}
	return s.set(in, is)
}

// set leaves out the entries that suit, or takes them in.
func (s *Surface) set(out bool, suits func(item) bool) surface.Intent {
	n := 0
	for _, e := range s.list.entries {
		switch {
		case e.file == nil || !suits(e):
			continue
		case e.place < 0:
			e.file.Stays = out
		default:
			e.file.Places[e.place].Out = out
		}
		n++
	}
	s.after = nil
	s.list.shown()
	words := "taken in"
	if out {
		words = "left out"
	}
	todo := s.selected()
	if n > 1 {
		todo.Say = sheet.Count(n, "place is ", "places are ") + words
	}
	return todo
}

// byHand has the line of the chosen place written by hand.
func (s *Surface) byHand() surface.Intent {
	e, ok := s.list.chosen()
	if !ok || e.file == nil || e.place < 0 {
		return surface.Say("that is no place; go to one with ↓")
	}
	f, present := e.file, s.present
	at := f.Places[e.place].At
	written := f.Written(e.place)
	if strings.Contains(written, "\n") {
		return surface.Say("that is more than one line; make the change, and write there then")
	}
	indent := written[:len(written)-len(strings.TrimLeft(written, " \t"))]
	todo := s.asks.Ask(fmt.Sprintf("line %d:", f.Line(e.place)), written[len(indent):], func(line string) surface.Intent {
		if number, ok := f.Place(int(at.Start)); ok && s.present == present {
			f.Write(number, indent+line)
			s.after = nil
		}
		return s.again()
	})
	todo.Close = true
	return todo
}

// goTo goes to the chosen place, as it is now.
func (s *Surface) goTo() surface.Intent {
	e, ok := s.list.chosen()
	switch {
	case !ok || e.warning != nil && e.warning.Path == "":
		return surface.Intent{}
	case e.warning != nil:
		return surface.Go(surface.Visit{Path: e.warning.Path, Line: e.warning.Line, Col: e.warning.Col, How: s.present.Title})
	case e.file.Path == "":
		return surface.Say("this file is not there yet")
	}
	v := surface.Visit{Path: e.file.Path, Line: 1, How: s.present.Title, After: keymap.Marked("{proposal} shows the proposal again")}
	if e.place >= 0 {
		v.Line, v.Col = e.file.Before.Position(int(e.file.Places[e.place].At.Start))
	}
	return surface.Go(v)
}

// writeDiff asks for a file for the diff.
func (s *Surface) writeDiff() surface.Intent {
	var b bytes.Buffer
	if err := s.present.WriteDiff(&b); err != nil {
		return surface.SayError(err)
	}
	if b.Len() == 0 {
		return surface.Say("nothing would change")
	}
	project := s.project
	todo := s.asks.Ask("write the diff to the file:", strings.Join(strings.Fields(s.present.Title), "-")+".diff", func(file string) surface.Intent {
		return surface.Begin(surface.Do(s.making, func(context.Context) error { return project.WriteOut(file, b.Bytes()) }, func(err error) surface.Intent {
			if err != nil {
				return surface.SayError(err)
			}
			return surface.Say("%s is written; git apply takes it", file)
		}))
	})
	todo.Close = true
	return todo
}

// Closed implements surface.Surface.
func (s *Surface) Closed() { s.due = false }

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Tall }

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.list.width = width
	s.list.picker.Resize(height - 1)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	if s.present == nil {
		return nil
	}
	rows := s.list.rows(s.Width, s.typing, p)
	if s.typing != nil {
		rows[0] = s.typing.row(s.Width, p)
	}
	return rows
}

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) {
	if s.typing != nil {
		return s.typing.cursor(s.Width), 0, true
	}
	return s.list.picker.Cursor(prompt, s.Width), 0, true
}
