package runs

import (
	"path"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/recipe"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// List is the sheet on which runs are chosen, and commands that were run before or that the project proposes.
type List struct {
	surface.Size
	of       *Model
	asker    *surface.Asker
	picker   picker.Model
	items    []item
	names    *fuzzy.Corpus
	proposed []recipe.Recipe
	reading  bool // what the project proposes is being found out
}

// item is a row: a run, a command of the past, or one that is proposed.
type item struct {
	run      *entry
	past     *resume.Command
	proposed *recipe.Recipe
}

func (it *item) line() string {
	switch {
	case it.run != nil:
		return it.run.title()
	case it.past != nil:
		return it.past.Line
	}
	return it.proposed.Line
}

func newList(of *Model) *List {
	l := &List{of: of, picker: picker.New()}
	l.asker = of.host.Asker(l)
	return l
}

// open shows what is run, was run, and could be.
func (l *List) open() surface.Intent {
	l.reading = true
	l.picker.Open(l.fill(), 0, l.Height-1)
	project := l.of.project
	return surface.Intent{Open: l}.And(surface.Begin(surface.Ask(l.asker, project.Recipes, func(all []recipe.Recipe) surface.Intent {
		l.proposed, l.reading = all, false
		chosen, ok := l.picker.Chosen()
		if !ok {
			chosen = 0
		}
		l.picker.Set(l.fill(), chosen)
		return surface.Intent{}
	})))
}

// fill makes the rows.
func (l *List) fill() picker.List {
	l.items = nil
	seen := map[string]bool{}
	for _, e := range l.of.runs {
		l.items = append(l.items, item{run: e})
		seen[e.dir+"\x00"+e.title()] = true
	}
	for i := range l.of.past {
		if c := &l.of.past[i]; !seen[c.Dir+"\x00"+c.Line] {
			l.items = append(l.items, item{past: c})
		}
	}
	for i := range l.proposed {
		l.items = append(l.items, item{proposed: &l.proposed[i]})
	}
	l.names = &fuzzy.Corpus{}
	shown := make([]int, len(l.items))
	for i := range l.items {
		l.names.Add(l.items[i].line(), 0)
		shown[i] = i
	}
	out := picker.List{Title: "runs", Names: l.names, Shown: shown, Total: len(l.items), Row: l.row, Group: l.group, Empty: "nothing was run yet; " + listOn.Line.Help().Key + " asks for a command"}
	if l.reading {
		out.Note = "looking what the files of the project propose …"
		out.Empty = out.Note
	}
	return out
}

// group is the heading above a row.
func (l *List) group(i int) string {
	switch it := &l.items[i]; {
	case it.run != nil:
		return "running, or run since the program began"
	case it.past != nil:
		return "run before"
	}
	return "proposed by files of the project"
}

func (l *List) row(i int, at []int) sheet.Row {
	it := &l.items[i]
	row := sheet.Row{What: "run", Name: it.line(), At: at, Reads: true}
	switch {
	case it.run != nil:
		s := it.run.Standing()
		row.What = became(s)
		if s.State != run.Running && s.State != run.Refused {
			row.What, row.Where = became(s), "after "+Lasted(s.Took)+", "
		}
		row.Where += l.of.host.Clock().Short(it.run.Begun)
	case it.past != nil:
		row.What, row.Where = it.past.Outcome, "after "+Lasted(it.past.Took)+", "+l.of.host.Clock().Short(it.past.Begun)
	default:
		row.What, row.Where = "propose", it.proposed.From
		if it.proposed.What != "" {
			row.Where = it.proposed.What + "  " + it.proposed.From
		}
	}
	if dir := it.dir(); dir != "." && it.proposed == nil {
		row.Where = "in " + path.Base(dir) + ", " + row.Where
	}
	return row
}

func (it *item) dir() string {
	switch {
	case it.run != nil:
		return it.run.dir
	case it.past != nil:
		return it.past.Dir
	}
	return it.proposed.Dir
}

// listOn are the keys of the list.
var listOn = struct{ Again, Away, Line key.Binding }{
	keymap.Letters.Again.On("run it again"), keymap.Letters.Away.On("end it; of what has ended, forget it"),
	keymap.Letters.Begin.On("type a command"),
}

// Keys implements surface.Surface.
func (*List) Keys() (name string, all []key.Binding) { return "among the runs", keymap.Of(listOn) }

// Form implements surface.Surface.
func (*List) Form() surface.Form { return surface.Tall }

// Update implements surface.Surface.
func (l *List) Update(msg tea.Msg) surface.Intent {
	chosen, ok := l.picker.Chosen()
	if k, isKey := msg.(tea.KeyPressMsg); isKey {
		switch name := k.String(); {
		case keymap.Is(name, listOn.Line):
			return surface.Intent{Close: true, Then: l.of.ask}
		case ok && keymap.Is(name, listOn.Again):
			return surface.Intent{Close: true, Then: func() surface.Intent { return l.again(&l.items[chosen]) }}
		case ok && keymap.Is(name, listOn.Away):
			return l.away(&l.items[chosen], chosen)
		}
	}
	switch l.picker.Update(msg) {
	case picker.Closed:
		return surface.Close()
	case picker.Taken:
		it := l.items[chosen]
		if it.run != nil {
			return surface.Intent{Close: true, Then: func() surface.Intent { return l.of.show(it.run) }}
		}
		return surface.Intent{Close: true, Then: func() surface.Intent { return l.again(&it) }}
	}
	return surface.Intent{}
}

// again runs the command of a row.
func (l *List) again(it *item) surface.Intent {
	if it.run != nil {
		return l.of.repeat(it.run)
	}
	return l.of.Begin(run.Command{Line: it.line()}, it.dir(), nil)
}

// away ends what a row stands for, or forgets it.
func (l *List) away(it *item, chosen int) surface.Intent {
	switch {
	case it.proposed != nil:
		return surface.Say("%s proposes it as long as it stands there", it.proposed.From)
	case it.past != nil:
		l.of.forget(*it.past)
	case it.run.Alive():
		it.run.Stop()
	default:
		l.of.remove(it.run)
	}
	l.picker.Set(l.fill(), chosen)
	return surface.Intent{Arrange: true}
}

// Resize implements surface.Surface.
func (l *List) Resize(width, height int) {
	l.Size.Resize(width, height)
	l.picker.Resize(height - 1)
}

// prompt stands in front of what is typed.
const prompt = "  run "

// Rows implements surface.Surface.
func (l *List) Rows(p *palette.Palette) []string {
	rows := l.picker.Rows(prompt, "letters narrow", l.Width, p)
	return append(rows, sheet.Edge(l.Width, append([][2]string{keymap.Hint(keymap.Ends.Take, "show it, or run it")}, keymap.Hints(listOn.Again, listOn.Line, listOn.Away)...), p))
}

// Cursor implements surface.Surface.
func (l *List) Cursor() (x, y int, ok bool) { return l.picker.Cursor(prompt, l.Width), 0, true }
