package places

import (
	"context"
	"fmt"
	"path"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/linecolors"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/surface"
)

// Finder finds the places; see package workspace.
type Finder interface {
	linecolors.Colorer
	Subject(ctx context.Context, path string, offset int) (at int, around string)
	Along(ctx context.Context, way answer.Way, path string, offset int) (resolve.Result, []answer.Answer)
	Anchor(ctx context.Context, p place.Place) place.Anchor
	Mentions(ctx context.Context, name string) ([]answer.Answer, error)
	ChangedPlaces(ctx context.Context, rev string) []answer.Answer
	AskAgain(ctx context.Context, from *sweep.Source) ([]answer.Answer, error)
	UnusedPlaces(ctx context.Context, folder string) []answer.Answer
	WrongPlaces(ctx context.Context, folder string) []answer.Answer
	Progress() codebase.Progress
}

// Surface is the list of places over the code, with the question that it answers.
type Surface struct {
	surface.Size
	host    surface.Host
	find    Finder
	keep    func(title string, source sweep.Source, all []answer.Answer) surface.Intent
	against func() (rev, words string)
	list    *Model
	colors  *linecolors.Colors
	asker   *surface.Asker

	how    string // how one comes to a place of the list
	name   string // of which they are references, if they are
	source sweep.Source
	base   sweep.Source // the same, before anything was added
}

// NewSurface makes one; keep makes a sweep of what is shown, and against is the commit with which files are compared, ""
// for the last one, and what to call it.
func NewSurface(host surface.Host, find Finder, keep func(title string, source sweep.Source, all []answer.Answer) surface.Intent, against func() (rev, words string)) *Surface {
	s := &Surface{host: host, find: find, keep: keep, against: against}
	s.asker, s.colors = host.Asker(s), linecolors.New(host.Asker(s), find)
	s.list = New(s.colors.Of)
	return s
}

// Actions are those that go a way.
var Actions = map[keymap.Action]answer.Way{
	keymap.TypeDefinition:  answer.ToType,
	keymap.Implementations: answer.ToImplementations,
	keymap.Supers:          answer.ToSupers,
	keymap.References:      answer.ToReferences,
	keymap.Callers:         answer.ToCallers,
	keymap.Called:          answer.ToCalled,
	keymap.Tests:           answer.ToTests,
	keymap.Importers:       answer.ToImporters,
	keymap.Imported:        answer.ToImported,
}

// Words say of each way what its places are, how one came there, and what to say
// if there are none.
var Words = map[answer.Way]struct{ Title, How, None string }{
	answer.ToDefinition:      {"definitions of %s", "definition of %s", "nothing in this project defines %s"},
	answer.ToType:            {"types of %s", "type of %s", "nothing in this project is known to be the type of %s"},
	answer.ToImplementations: {"what implements or overrides %s", "implementation of %s", "nothing implements or overrides %s"},
	answer.ToSupers:          {"what %s is derived from, implements or overrides", "above %s", "%s is derived from nothing in this project"},
	answer.ToReferences:      {"references of %s", "reference of %s", "nothing refers to %s"},
	answer.ToCallers:         {"calls of %s", "call of %s", "nothing calls %s"},
	answer.ToCalled:          {"what %s calls", "called by %s", "%s calls nothing in this project"},
	answer.ToImporters:       {"who imports %s", "import of %s", "nothing in this project imports %s"},
	answer.ToImported:        {"what %s imports", "imported by %s", "%s imports nothing of this project"},
	answer.ToTests:           {"tests of %s, or what it tests", "test of %s", "no test of %s was found"},
}

// Commands are the ways, and what else is listed.
func (s *Surface) Commands() surface.Commands {
	all := surface.Commands{keymap.ChangedPlaces: s.changed, keymap.Unused: s.unused, keymap.Problems: s.wrong}
	for a, way := range Actions {
		all[a] = func() surface.Intent { return s.Along(way) }
	}
	return all
}

// answer is where a way leads.
type reply struct {
	way    answer.Way
	around string // what the question is about, if it is not the name under the caret
	result resolve.Result
	places []answer.Answer
	list   Gathered // the same, to be listed
	source sweep.Source
}

// Along finds where a way leads from the caret, to go there or to list the places.
func (s *Surface) Along(way answer.Way) surface.Intent {
	here := s.host.Here()
	file := here.File
	if file == nil || file.Facts == nil && way != answer.ToDefinition && !way.OfFile() {
		return here.Lack("no names are known in this file")
	}
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) reply {
		a := reply{way: way, source: sweep.Source{Kind: sweep.OfWay, Way: way.String()}}
		offset := here.Offset
		if way != answer.ToType && way != answer.ToDefinition && !way.OfFile() {
			offset, a.around = s.find.Subject(ctx, file.Path, offset)
		}
		a.result, a.places = s.find.Along(ctx, way, file.Path, offset)
		if len(a.places) > 1 || len(a.places) == 1 && a.places[0].Possible {
			a.list = Gather(a.places)
			line, col := file.Text.Position(offset)
			from := s.find.Anchor(ctx, place.Place{Path: file.Path, Line: line, Col: col})
			a.source.From = &from
		}
		return a
	}, s.found))
}

// found goes to the only place that was found, or lists them; it says so if they are not of the name under
// the caret.
func (s *Surface) found(a reply) surface.Intent {
	todo := s.led(a)
	if a.around != "" && todo.Say == "" {
		todo.Say = surface.Around(a.around, todo.Go != nil)
	}
	return todo
}

func (s *Surface) led(a reply) surface.Intent {
	words, name := Words[a.way], a.result.Name
	switch {
	case name == "":
		return surface.Say("there is no name under the caret")
	case len(a.places) == 0 && a.result.Outside != "":
		return SayOutside(a.way, a.result)
	case len(a.places) == 0 && !s.find.Progress().Done:
		return surface.Say(words.None+" so far; the project is still being read", name)
	case len(a.places) == 0:
		return surface.Say(words.None, name)
	case len(a.places) == 1 && !a.places[0].Possible && a.places[0].Place() == s.host.Here().View.Place:
		return surface.Say("the only one is here")
	case len(a.places) == 1 && !a.places[0].Possible:
		return surface.Go(surface.To(a.places[0], fmt.Sprintf(words.How, name)))
	}
	todo := s.open(fmt.Sprintf(words.Title, name), fmt.Sprintf(words.How, name), a.source, a.list)
	s.list.CanMention, s.name = a.way == answer.ToReferences, name
	return todo
}

// SayOutside says that a way leads out of the project.
func SayOutside(way answer.Way, res resolve.Result) surface.Intent {
	what := res.Name
	if way == answer.ToType {
		what = "the type of " + what
	}
	return surface.Say("%s belongs to %s, which is outside this project", what, res.Outside)
}

// open lists places; how says how one came to the one that is taken.
func (s *Surface) open(title, how string, source sweep.Source, all Gathered) surface.Intent {
	s.how, s.source, s.base = how, source, source
	s.colors.Forget() // the lines may have changed since
	s.list.CanMention, s.name = false, ""
	s.list.Open(title, all, s.Height)
	return surface.Intent{Open: s, Cmd: s.colors.Find(linecolors.Places(all.All()))}.And(s.selected())
}

// selected shows the chosen place beneath.
func (s *Surface) selected() surface.Intent {
	d, ok := s.list.Chosen()
	if !ok {
		return surface.LookBack()
	}
	return surface.Look(surface.To(d, s.how))
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	switch s.list.Update(msg) {
	case picker.Closed:
		return surface.Close()
	case picker.Kept:
		return surface.Close().And(s.kept())
	case picker.More:
		return s.askMentions()
	case picker.Selected:
		return s.selected()
	case picker.Taken:
		d, _ := s.list.Chosen()
		return surface.Go(surface.To(d, s.how))
	}
	return surface.Intent{}
}

// kept keeps what the list shows as a sweep.
func (s *Surface) kept() surface.Intent {
	name, source := s.list.Title(), s.source
	if narrowed := s.list.Narrowed(); narrowed != "" {
		name += ", " + narrowed
		source = sweep.Source{Kind: sweep.OfList} // the question had a wider answer
	}
	return s.keep(name, source, s.list.Shown())
}

// askMentions looks for the name of the list in comments, strings, configuration and
// pages.
func (s *Surface) askMentions() surface.Intent {
	if !s.list.CanMention {
		return surface.Intent{}
	}
	s.list.CanMention = false
	type mentions struct {
		all []answer.Answer
		err error
	}
	name, find := s.name, s.find
	return surface.Begin(surface.Ask(s.asker, func(ctx context.Context) mentions {
		all, err := find.Mentions(ctx, name)
		return mentions{all, err}
	}, func(m mentions) surface.Intent {
		switch {
		case m.err != nil:
			return surface.Say("%s", m.err)
		case len(m.all) == 0:
			return surface.Say("%s is mentioned nowhere else", name)
		}
		s.list.Add(m.all)
		s.source = sweep.Source{Kind: sweep.OfList} // no one question has both for its answer
		return surface.Begin(s.colors.Find(linecolors.Places(m.all))).And(s.selected())
	}))
}

// Left implements surface.Reopened.
func (s *Surface) Left() *resume.Last {
	d, ok := s.list.Chosen()
	if !ok && s.list.Typed() == "" {
		return nil
	}
	return &resume.Last{List: "places", Title: s.list.Title(), How: s.how, Source: s.base, Query: s.name, Typed: s.list.Typed(), At: d.Place()}
}

// Again implements surface.Reopened: the question is asked again, since the code may be another by now.
func (s *Surface) Again(last resume.Last) surface.Intent {
	type found struct {
		all Gathered
		err error
	}
	find := s.find
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) found {
		all, err := find.AskAgain(ctx, &last.Source)
		return found{Gather(all), err}
	}, func(f found) surface.Intent {
		switch {
		case f.err != nil:
			return surface.Say("%s cannot be listed again: %s", last.Title, f.err)
		case f.all.Len() == 0:
			return surface.Say("nothing is left of %s", last.Title)
		}
		todo := s.open(last.Title, last.How, last.Source, f.all)
		s.list.CanMention, s.name = last.Source.Way == answer.ToReferences.String(), last.Query
		s.list.Choose(last.Typed, last.At)
		return todo.And(s.selected())
	}))
}

// listAll lists places that do not depend on a name.
func (s *Surface) listAll(title, how, none string, source sweep.Source, find func(ctx context.Context) []answer.Answer) surface.Intent {
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) Gathered { return Gather(find(ctx)) }, func(all Gathered) surface.Intent {
		if all.Len() == 0 {
			return surface.Say("%s", none)
		}
		return s.open(title, how, source, all)
	}))
}

// changed lists what differs from the last commit, or from another one.
func (s *Surface) changed() surface.Intent {
	rev, words := s.against()
	title := "changed since the last commit"
	if rev != "" {
		title = "what differs from " + words
	}
	return s.listAll(title, "changed place", "nothing differs from "+words, sweep.Source{Kind: sweep.OfChanged, Rev: rev}, func(ctx context.Context) []answer.Answer {
		return s.find.ChangedPlaces(ctx, rev)
	})
}

// unused lists the definitions around the present file that nothing refers to.
func (s *Surface) unused() surface.Intent {
	folder := path.Dir(s.host.Here().View.Place.Path)
	title, where := "nothing refers to, in "+folder, folder+"/"
	if folder == "." {
		title, where = "nothing refers to", "this project"
	}
	wait := surface.Intent{Wait: "looking for what nothing refers to in " + where + "; Esc gives up"}
	return wait.And(s.listAll(title, "unused symbol", "everything in "+where+" is referred to", sweep.Source{Kind: sweep.OfUnused, Folder: folder}, func(ctx context.Context) []answer.Answer {
		return s.find.UnusedPlaces(ctx, folder)
	}))
}

// wrong lists what is wrong in the project.
func (s *Surface) wrong() surface.Intent {
	wait := surface.Intent{Wait: "looking for what is wrong in this project; Esc gives up"}
	return wait.And(s.listAll("what is wrong", "problem", "nothing was found to be wrong", sweep.Source{Kind: sweep.OfWrong, Folder: "."}, func(ctx context.Context) []answer.Answer {
		return s.find.WrongPlaces(ctx, ".")
	}))
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.list.Resize(height)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.list.Rows(s.Width, p) }

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) { return s.list.Cursor(s.Width), 0, true }

// Closed implements surface.Surface.
func (s *Surface) Closed() {
	s.asker.Cancel()
	s.colors.Cancel()
}
