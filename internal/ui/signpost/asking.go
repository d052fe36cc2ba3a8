package signpost

import (
	"context"
	"path"
	"strconv"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/work"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Project knows what there is to know about names; see package workspace.
type Project interface {
	Describe(ctx context.Context, path string, offset int) answer.Description
	CallAround(ctx context.Context, f *codebase.File, offset int) (answer.Call, bool)
	CountUses(ctx context.Context, path string, offset int) answer.Ways
	CountRelated(ctx context.Context, path string, offset int, n answer.Ways) answer.Ways
	All(ctx context.Context, q answer.Question) (resolve.Result, []answer.Answer)
	Progress() codebase.Progress
}

// Host is the program around a signpost.
type Host interface {
	surface.Host
	// Sight is what is on the screen, even if it is only looked at.
	Sight() surface.Here
}

// Post is the signpost with what it asks, and the ways to definitions.
type Post struct {
	Model
	host    Host
	project Project
	asker   *surface.Asker
	ways    choice.Surface // all ways from here
	sharing choice.Surface // the definitions that share a name
	wanted  bool           // the ways are listed as soon as the name is known
}

// NewPost makes a signpost.
func NewPost(host Host, project Project, keys keymap.Map) *Post {
	return &Post{Model: New(keys), host: host, project: project, asker: host.Asker(nil)}
}

// Commands are the ways to definitions, and the list of all ways.
func (p *Post) Commands() surface.Commands {
	return surface.Commands{
		keymap.AllWays:    p.AllWays,
		keymap.Follow:     func() surface.Intent { return p.define(true) },
		keymap.Definition: func() surface.Intent { return p.define(false) },
	}
}

// IsWays says whether a surface is the list of all ways.
func (p *Post) IsWays(s surface.Surface) bool { return s == &p.ways }

// A question about the caret is only asked when it has stood this long, so
// that moving fast costs nothing.
const pause = 30 * time.Millisecond

// Counting where the ways lead can mean reading many files; it begins when the caret
// has stood still for as much longer.
const longerPause = 120 * time.Millisecond

// described is what is known of the name at the caret.
type described struct {
	about  answer.Description
	inside bool
	call   *answer.Call       // the one whose brackets are around, if there is no name
	around answer.Description // what surrounds the call
	// before and after are where a hop back and on leads.
	before, after Neighbour
}

// CaretMoved finds out about the name at the caret, once that stands still.
func (p *Post) CaretMoved() tea.Cmd {
	p.Working()
	here := p.host.Sight()
	if here.File == nil {
		p.asker.Cancel()
		return nil
	}
	return surface.Ask(p.asker, func(ctx context.Context) described {
		if !work.Pause(ctx, pause) {
			return described{}
		}
		d := p.describe(ctx, here)
		if f := here.File; f.Facts != nil {
			before, after := outline.Neighbours(f.Facts, here.Offset)
			d.before, d.after = neighbour(f, before), neighbour(f, after)
		}
		return d
	}, func(d described) surface.Intent { return p.described(here.File, d) })
}

// Forget says that nothing is known: there is no file.
func (p *Post) Forget() {
	p.asker.Cancel()
	p.Show(answer.Description{}, false)
	p.Call(nil, answer.Description{})
	p.Neighbours(Neighbour{}, Neighbour{})
	p.File()
}

func neighbour(f *codebase.File, n outline.Neighbour) Neighbour {
	line, _ := f.Text.Position(int(n.At.Start))
	return Neighbour{Name: n.Name, Line: line}
}

// describe finds out about the name at the caret: or about the call in whose brackets
// that is, or about what is around.
func (p *Post) describe(ctx context.Context, here surface.Here) described {
	f := here.File
	if f.Facts == nil || f.Supposed {
		return described{}
	}
	d := p.project.Describe(ctx, f.Path, here.Offset)
	if d.Name != "" {
		return described{about: d}
	}
	if name, _, ok := codebase.Surrounds(f, here.Offset); ok {
		d = p.project.Describe(ctx, f.Path, int(name.Start))
	}
	if call, ok := p.project.CallAround(ctx, f, here.Offset); ok {
		return described{about: call.Description, call: &call, around: d}
	}
	return described{about: d, inside: d.Name != ""}
}

// aboutFile says in a few words what kind of file it is.
func aboutFile(f *codebase.File) []string {
	words := []string{path.Base(f.Path), sheet.Count(f.Text.Lines(), "line", "lines")}
	if f.Facts != nil {
		words = append(words, f.Facts.Language)
	}
	if f.Generated() {
		words = append(words, "generated")
	}
	return append(words, f.Text.Encoding().String()+", "+f.Text.LineEnds().String())
}

// described shows what is known of the name, and has the places counted to which the
// ways from it lead, if the caret rests on it.
func (p *Post) described(f *codebase.File, d described) (todo surface.Intent) {
	p.File(aboutFile(f)...)
	p.Show(d.about, d.inside)
	p.Call(d.call, d.around)
	p.Neighbours(d.before, d.after)
	if from := p.From(); len(from.Answers) > 0 {
		todo = surface.Begin(p.count(f.Path, int(from.At.Start)))
	}
	if p.wanted {
		todo = todo.And(p.AllWays())
	}
	return todo
}

// count counts where the ways from a name lead: first its uses, then what takes longer.
func (p *Post) count(file string, offset int) tea.Cmd {
	project := p.project
	return surface.More(p.asker, func(ctx context.Context) answer.Ways {
		if !work.Pause(ctx, longerPause) {
			return answer.Ways{}
		}
		for !project.Progress().Done { // none so far is not none
			if !work.Pause(ctx, longerPause) {
				return answer.Ways{}
			}
		}
		return project.CountUses(ctx, file, offset)
	}, func(n answer.Ways) surface.Intent {
		p.Count(n)
		return surface.Begin(surface.More(p.asker, func(ctx context.Context) answer.Ways {
			return project.CountRelated(ctx, file, offset, n)
		}, func(n answer.Ways) surface.Intent {
			p.Count(n)
			return surface.Intent{}
		}))
	})
}

// NotWanted says that the list of ways is not wanted any more if it has not come yet.
func (p *Post) NotWanted() { p.wanted = false }

// AllWays lists every way from the caret with its key and how many places it leads
// to.
func (p *Post) AllWays() surface.Intent {
	p.wanted = p.Stale() // it still tells of the name before
	if p.wanted {
		return surface.Intent{}
	}
	about := p.From()
	if about.Name == "" {
		return surface.Say("there is no name under the caret, and nothing around it has one")
	}
	var rows []choice.Row
	add := func(w Way, name string) {
		rows = append(rows, choice.Row{Row: sheet.Row{What: w.What, Name: name, Key: w.Key}, Take: func() surface.Intent { return surface.Intent{Do: w.Action} }})
	}
	for _, w := range p.Ways() {
		name := w.Where
		if w.More != "" {
			name += ": " + w.More
		}
		add(w, name)
	}
	for _, w := range p.Looks() {
		add(w, w.Where)
	}
	if len(rows) == 0 {
		return surface.Say("you have not gone on from %s yet", about.Name)
	}
	return p.ways.Open("ways from "+about.Name, "go there", rows)
}

// definition is where a name is defined.
type definition struct {
	result resolve.Result
	spots  []answer.Answer
}

// define looks for the definition of the name at the caret, to go there; from the
// definition itself it goes on to the references, if that is asked for.
func (p *Post) define(on bool) surface.Intent {
	here, project := p.host.Here(), p.project
	if here.File == nil || here.File.Facts == nil {
		return here.Lack("no definitions are known in this file")
	}
	return surface.Begin(surface.Ask(p.host.Way(), func(ctx context.Context) definition {
		r, spots := project.All(ctx, answer.Question{Way: answer.ToDefinition, Path: here.File.Path, Offset: here.Offset})
		if r.Here {
			spots = answer.Elsewhere(spots, here.File.Path, r.At)
		}
		return definition{r, spots}
	}, func(d definition) surface.Intent {
		if on && d.result.Here {
			return surface.Intent{Do: keymap.References}
		}
		return p.defined(d.result, d.spots)
	}))
}

// defined goes to the definition, or shows the candidates.
func (p *Post) defined(r resolve.Result, spots []answer.Answer) surface.Intent {
	switch {
	case r.Name == "":
		return surface.Say("there is no name under the caret")
	case r.Here && len(spots) <= 1:
		return surface.Say("%s is defined here", r.Name)
	case r.Outside != "":
		return surface.Say("%s belongs to %s, which is outside this project", r.Name, r.Outside)
	case len(spots) == 0 && !p.project.Progress().Done:
		return surface.Say("nothing read so far defines %s; the project is still being read", r.Name)
	case len(spots) == 0:
		return surface.Say("nothing in this project defines %s", r.Name)
	case spots[0].Certainty == resolve.ByName && len(spots) > 1:
		return p.candidates(r.Name, spots)
	}
	todo := surface.Go(surface.ToDefinition(spots[0]))
	if spots[0].Certainty == resolve.ByName {
		todo.Say = "by name: this is the only " + r.Name + " that the project defines"
	}
	return todo
}

// candidates shows the definitions that share a name.
func (p *Post) candidates(name string, spots []answer.Answer) surface.Intent {
	rows := make([]choice.Row, len(spots))
	for i, s := range spots {
		shown, v := s.Name, surface.ToDefinition(s)
		if s.Container != "" {
			shown = s.Container + "." + s.Name
		}
		rows[i] = choice.Row{Row: sheet.Row{What: s.Kind.String(), Name: shown, Where: s.Path + " " + strconv.Itoa(s.Line)}, Look: &v}
	}
	return p.sharing.Open(name+" by name: "+sheet.Count(len(rows), "definition shares", "definitions share")+" it", "go there", rows)
}
