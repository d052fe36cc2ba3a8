package tree

import (
	"context"
	"errors"
	"path"
	"regexp"
	"slices"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/filing"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/palette"
)

// files is a project that is only made up.
type files struct {
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

func (f *files) Files(_ context.Context, query string, _ int) (hits []workspace.FileHit) {
	for _, p := range f.paths {
		if strings.Contains(path.Base(p), query) {
			hits = append(hits, workspace.FileHit{Path: p})
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

func (f *files) Delete(_ context.Context, p string) error {
	f.did = append(f.did, "delete "+p)
	f.paths = slices.DeleteFunc(f.paths, func(q string) bool { return q == p || strings.HasPrefix(q, p+"/") })
	return nil
}

func (f *files) Undo(context.Context) (string, filing.Moved, error) { return "", filing.Moved{}, nil }

// driven is a tree with its commands carried out at once.
type driven struct {
	*Model
	files *files
	event Event // the latest
	moved bool  // files have moved
}

func begin(at string) *driven {
	f := &files{paths: []string{"in/", "locked/", "in/deep/", "a.go", "old.log", "in/b.go", "in/deep/c.go"}}
	d := &driven{Model: New(f), files: f}
	d.run(d.Show(at, 16))
	return d
}

func (d *driven) run(cmd tea.Cmd) {
	if cmd == nil {
		return
	}
	switch msg := cmd().(type) {
	case nil:
	case tea.BatchMsg:
		for _, c := range msg {
			d.run(c)
		}
	default:
		d.send(msg)
	}
}

func (d *driven) send(msg tea.Msg) {
	cmd, event := d.Update(msg)
	if event != Nothing {
		d.event = event
		d.moved = d.moved || event == Moved
	}
	d.run(cmd)
}

// press sends keys: letters, or the names of other keys.
func (d *driven) press(keys ...string) *driven {
	special := map[string]rune{"up": tea.KeyUp, "down": tea.KeyDown, "left": tea.KeyLeft, "right": tea.KeyRight, "enter": tea.KeyEnter, "esc": tea.KeyEscape, "tab": tea.KeyTab, "back": tea.KeyBackspace}
	for _, k := range keys {
		if code, ok := special[k]; ok {
			d.send(tea.KeyPressMsg{Code: code})
		} else if rest, ok := strings.CutPrefix(k, "alt+"); ok {
			d.send(tea.KeyPressMsg{Code: []rune(rest)[0], Mod: tea.ModAlt})
		} else {
			for _, r := range k {
				d.send(tea.KeyPressMsg{Code: r, Text: string(r)})
			}
		}
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

func (d *driven) screen() string {
	return regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(strings.Join(d.Rows(100, &palette.Plain), "\n"), "")
}

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
	d.press("tab", "alt+c")
	assert.Equal(t, Selected, d.event)
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
	d.press("back", "back", "back", "up", "zz")
	assert.Contains(t, d.shown(), "[deep/]", "what is nowhere changes nothing")
	d.press("esc", "esc")
	assert.Equal(t, Closed, d.event)
}

func TestQuestionsAreAnswered(t *testing.T) {
	d := begin("in/b.go")
	d.press("alt+n", "new.go")
	assert.Contains(t, d.screen(), "new folder: in/new.go")
	d.press("enter")
	assert.Contains(t, d.screen(), "in/new.go is there now")
	assert.Contains(t, d.shown(), "  [new.go]")
	assert.True(t, d.moved)

	d.press("alt+r", "back", "back", "back", "back", "back", "back", "b.go", "enter")
	assert.Contains(t, d.screen(), filing.ErrTaken.Error())
	d.press("alt+r", "x", "enter")
	assert.Equal(t, filing.Moved{From: "in/new.go", To: "in/new.gox"}, d.Moved())

	d.press("alt+d")
	assert.Contains(t, d.screen(), "delete in/new.gox?")
	d.press("enter", "y", "esc", "left", "alt+d")
	assert.Contains(t, d.screen(), "delete in/ with 2 files, 1 of them not committed as they are?")
	d.press("alt+d", "alt+u")
	assert.Contains(t, d.screen(), "there is nothing to undo")
	assert.Equal(t, []string{"create in/new.go", "rename in/new.go in/new.gox", "delete in"}, d.files.did)
	assert.False(t, d.Busy())
	for key, event := range map[string]Event{"alt+p": CopyPath, "alt+a": CopyAbsolute, "alt+e": Edit, "alt+x": Open, "enter": Taken} {
		d.press("a.go", key)
		assert.Equal(t, event, d.event, key)
	}
}
