package tree

import (
	"context"
	"errors"
	"path"
	"slices"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// files is a project that is only made up.
type files struct {
	marked  map[string]int
	unsaved map[string]bool

	paths []string // folders end with a slash
	did   []string
}

func (f *files) Name() string { return "hut" }

func (f *files) Browse(folder string) (all []workspace.Entry, err error) {
	if folder == "locked" {
		return nil, errors.New("you may not look into it")
	}
	for _, p := range f.paths {
		is := strings.HasSuffix(p, "/")
		if p = strings.TrimSuffix(p, "/"); path.Dir(p) == folder {
			all = append(all, workspace.Entry{Name: path.Base(p), Path: p, Folder: is, Ignored: strings.HasSuffix(p, ".log")})
		}
	}
	return all, nil
}

func (f *files) Differing(context.Context) (changed, fresh map[string]bool) {
	return map[string]bool{"in/b.go": true, "in/deep/c.go": true}, map[string]bool{"in/deep/c.go": true}
}

func (f *files) Below(context.Context, string, int) (int, int) { return 2, 1 }

func (f *files) Files(_ context.Context, query string, _ int) (hits []search.FileHit) {
	for _, p := range f.paths {
		if strings.Contains(path.Base(p), query) {
			hits = append(hits, search.FileHit{Path: p})
		}
	}
	return hits
}

func (f *files) Create(_ context.Context, p string) (string, error) {
	f.did = append(f.did, "create "+p)
	f.paths = append(f.paths, p)
	return strings.TrimSuffix(p, "/"), nil
}

func (f *files) Rename(_ context.Context, from, to string) (string, error) {
	if slices.Contains(f.paths, to) {
		return "", filing.ErrTaken
	}
	f.did = append(f.did, "rename "+from+" "+to)
	f.paths[slices.Index(f.paths, from)] = to
	return to, nil
}

// Move implements Files: c.go is referred to by a.go.
func (f *files) Move(_ context.Context, from, to string) (*proposal.Proposal, error) {
	p := &proposal.Proposal{Title: "move " + from + " to " + to}
	if from == "in/deep/c.go" {
		p.Add("a.go", func() *text.Document { return text.NewDocument([]byte("b")) }, proposal.Place{At: place.Range{End: 1}, New: "c"})
	}
	return p, nil
}

func (f *files) Propose(p *proposal.Proposal) surface.Intent { return surface.Say("%s", p.Title) }

func (f *files) Delete(_ context.Context, p string) error {
	f.did = append(f.did, "delete "+p)
	f.paths = slices.DeleteFunc(f.paths, func(q string) bool { return q == p || strings.HasPrefix(q, p+"/") })
	return nil
}

func (f *files) Absolute(p string) string                           { return "/hut/" + p }
func (f *files) Holding() map[string]int                            { return f.marked }
func (f *files) Unsaved() map[string]bool                           { return f.unsaved }
func (f *files) Undo(context.Context) (string, filing.Moved, error) { return "", filing.Moved{}, nil }

// driven is a tree with its commands carried out at once.
type driven struct {
	*Model
	files   *files
	last    surface.Intent // what is to be done after all
	renamed filing.Moved
	moved   bool // files have moved
}

func begin(at string) *driven {
	f := &files{paths: []string{"in/", "locked/", "in/deep/", "a.go", "old.log", "in/b.go", "in/deep/c.go"}}
	d := &driven{Model: New(&uitest.Host{}, f, f), files: f}
	d.Resize(100, 16)
	d.carry(d.Show(at))
	return d
}

func (d *driven) carry(i surface.Intent) {
	for _, i := range uitest.Carry(i) {
		d.last = d.last.And(i)
		if i.Moved.From != "" {
			d.renamed = i.Moved
		}
		d.moved = d.moved || i.Moved.To != "" || i.Moved.From != ""
	}
}

func (d *driven) send(msg tea.Msg) {
	d.last = surface.Intent{}
	d.carry(d.Update(msg))
}

// press sends keys: letters, or the names of other keys.
func (d *driven) press(keys ...string) *driven {
	for _, k := range uitest.Keys(keys...) {
		d.send(k)
	}
	return d
}

// shown are the rows with the chosen one in brackets, and their notes.
func (d *driven) shown() string {
	var out []string
	for _, r := range d.rows {
		row := d.row(r)
		s := strings.TrimRight(row.Name, " ")
		if e, _ := d.Chosen(); e.Path == r.Path {
			s = strings.Repeat(" ", len(s)-len(strings.TrimLeft(s, " "))) + "[" + strings.TrimSpace(s) + "]"
		}
		if row.Where != "" {
			s += " (" + row.Where + ")"
		}
		out = append(out, s)
	}
	return strings.Join(out, "|")
}

func (d *driven) screen() string { return uitest.Of(d.Model, 100, 16) }

func TestOpeningAndClosing(t *testing.T) {
	d := begin("in/b.go")
	assert.Equal(t, "in/ (2 changes inside)|  deep/ (1 change inside)|  [b.go] (changed)|locked/|a.go|old.log (ignored)", d.shown())
	d.press("up", "right")
	assert.Equal(t, "in/ (2 changes inside)|  [deep/] (1 change inside)|    c.go (new)|  b.go (changed)|locked/|a.go|old.log (ignored)", d.shown())
	d.press("right", "left", "left", "left", "left")
	assert.Equal(t, "[in/] (2 changes inside)|locked/|a.go|old.log (ignored)", d.shown())
	d.press("lock", "enter")
	assert.Contains(t, d.shown(), "[locked/] (you may not look into it)")
	d.press("tab")
	assert.Equal(t, "in/|  b.go (changed)|  deep/|    c.go (new)", strings.NewReplacer("[", "", "]", "").Replace(d.shown()))
	assert.Contains(t, d.screen(), "only what differs")
	d.press("tab", "alt+left")
	assert.True(t, d.last.LookBack, "a folder shows nothing")
	assert.NotContains(t, d.shown(), "b.go")
}

func TestLettersJump(t *testing.T) {
	d := begin("a.go")
	d.press("ol")
	assert.Contains(t, d.shown(), "[old.log]")
	assert.Contains(t, d.screen(), "folders  ol")
	d.press("esc")
	assert.NotContains(t, d.screen(), "folders  ol", "Esc takes the letters first")
	d.press("c.g")
	assert.Contains(t, d.shown(), "    [c.go] (new)", "somewhere in the project")
	d.press("backspace", "backspace", "backspace", "up", "zz")
	assert.Contains(t, d.shown(), "[deep/]", "what is nowhere changes nothing")
	d.press("esc", "esc")
	assert.True(t, d.last.Close)
}

func TestQuestionsAreAnswered(t *testing.T) {
	d := begin("in/b.go")
	d.press("alt+b", "new.go")
	assert.Contains(t, d.screen(), "new folder: in/new.go")
	d.press("enter")
	assert.Contains(t, d.screen(), "in/new.go is there now")
	assert.Contains(t, d.shown(), "  [new.go]")
	assert.True(t, d.moved)

	d.press("alt+r", "backspace", "backspace", "backspace", "backspace", "backspace", "backspace", "b.go", "enter")
	assert.Contains(t, d.screen(), filing.ErrTaken.Error())
	d.press("alt+r", "x", "enter")
	assert.Equal(t, filing.Moved{From: "in/new.go", To: "in/new.gox"}, d.renamed)

	d.press("alt+d")
	assert.Contains(t, d.screen(), "delete in/new.gox?")
	d.press("enter", "y", "esc", "left", "alt+d")
	assert.Contains(t, d.screen(), "delete in/ with 2 files, 1 of them not committed as they are?")
	d.press("alt+d", "alt+u")
	assert.Contains(t, d.screen(), "there is nothing to undo")
	assert.Equal(t, []string{"create in/new.go", "rename in/new.go in/new.gox", "delete in"}, d.files.did)
	assert.False(t, d.Busy())
	for key, todo := range map[string]surface.Intent{
		"alt+p": {Copy: &surface.Copy{Text: "a.go", What: "a.go"}}, "enter": surface.Go(surface.Visit{Path: "a.go", How: "folders"}),
	} {
		d.press("a.go", key)
		assert.Equal(t, todo, d.last, key)
	}
	d.press("alt+p")
	assert.Equal(t, &surface.Copy{Text: "/hut/a.go", What: "/hut/a.go"}, d.last.Copy, "again, the whole path")
	d.press("alt+p")
	assert.Equal(t, "a.go", d.last.Copy.Text)
	for choose, todo := range map[string]surface.Intent{"": {Edit: "a.go"}, "down": {Desktop: "a.go"}} {
		d.press("alt+h")
		list := d.last.Open
		assert.Contains(t, uitest.Of(list, 100, 4), "your editor")
		if choose != "" {
			uitest.Press(list, choose)
		}
		taken := uitest.Last(uitest.Press(list, "enter"))
		assert.True(t, taken.Edit == todo.Edit && taken.Desktop == todo.Desktop && taken.Close)
	}
}

// What was begun is done when the tree is closed meanwhile, and whoever asked is told; opened again,
// the tree answers keys.
func TestClosedWhileRenaming(t *testing.T) {
	d := begin("in/b.go")
	d.press("alt+r")
	todo := d.Update(uitest.Keys("x")[0])
	todo = todo.And(d.Update(uitest.Keys("enter")[0]))
	assert.True(t, d.Busy())
	d.Closed()
	all := uitest.Carry(todo)
	last := uitest.Last(all)
	assert.Equal(t, filing.Moved{From: "in/b.go", To: "in/b.gox"}, last.Moved)
	assert.Equal(t, "in/b.go is in/b.gox now; Alt+U takes it back", last.Say)
	assert.False(t, last.LookBack || last.Look != nil)
	assert.False(t, d.Busy())
	d.carry(d.Show("in/b.gox"))
	d.press("up")
	assert.Contains(t, d.shown(), "[")
	assert.NotContains(t, d.shown(), "[b.gox]")
}

// A look into folders that is not wanted any more comes too late.
func TestClosedWhileLooking(t *testing.T) {
	d := begin("in/b.go")
	before := d.shown()
	todo := d.Show("a.go")
	late := uitest.Answers(todo.Cmd)
	d.Closed()
	for _, a := range late {
		_, wanted := a.Deliver()
		assert.False(t, wanted)
	}
	assert.Equal(t, before, d.shown())
	assert.False(t, d.Busy())
}

// What is referred to is renamed by a proposal, and the tree is closed for that.
func TestRenamingWhatIsReferredTo(t *testing.T) {
	d := begin("in/deep/c.go")
	d.press("alt+r", "x", "enter")
	assert.Equal(t, "move in/deep/c.go to in/deep/c.gox", d.last.Say)
	assert.True(t, d.last.Close)
	assert.Empty(t, d.files.did)
}
