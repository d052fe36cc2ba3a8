// Package page is a surface that takes all of the room of the code: a line to type in, a list that is
// narrowed by what is typed, and some lines about what is chosen in it.
package page

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Words are what stands on a page.
type Words struct {
	// Prompt stands before what is typed, Hint in its place while nothing is, and None where nothing is left.
	Prompt, Hint, None string
	// About is how many lines there are about what is chosen.
	About int
}

// Page is for surfaces to be made of; Open begins it.
type Page struct {
	surface.Size
	Words Words
	Input entry.Line
	List  sheet.Model
}

// Open has nothing be typed, and all of the list be there.
func (pg *Page) Open(w Words, sections []sheet.Section, chosen int) {
	pg.Words, pg.Input = w, entry.New()
	pg.List = sheet.Model{}
	pg.List.Set(sections, chosen)
}

// Form implements surface.Surface.
func (pg *Page) Form() surface.Form { return surface.Whole }

// room is how many lines the list has.
func (pg *Page) room() int { return max(pg.Height-pg.Words.About-2, 1) }

// Step moves in the list; it is false for keys that do not.
func (pg *Page) Step(name string) bool {
	rows, ok := keymap.Step(name, pg.room(), pg.List.Len())
	if ok {
		pg.List.Move(rows)
	}
	return ok
}

// Type takes a letter, or what was pasted; it is false for anything else.
func (pg *Page) Type(msg tea.Msg) bool { return pg.Input.Edit(msg) }

// Clear takes back what is typed; it is false if nothing is.
func (pg *Page) Clear() bool {
	typed := pg.Input.Value() != ""
	pg.Input.Reset()
	return typed
}

// Line is a line about what is chosen.
type Line struct {
	Words string
	Quiet bool
}

// Draw draws it, with the keys in the foot line.
func (pg *Page) Draw(about []Line, keys [][2]string, p *palette.Palette) []string {
	text, quiet := palette.On(p.Text, p.Sheet), palette.On(p.Quiet, p.Sheet)
	typed, _ := pg.Input.Behind(pg.Words.Prompt, pg.Width)
	r := ink.NewRow(pg.Width).Put(pg.Words.Prompt, palette.On(p.Here, p.Sheet).Strong()).Put(typed, text.Strong())
	if pg.Input.Value() == "" {
		r.Put(" "+pg.Words.Hint, quiet)
	}
	rows := append([]string{r.String(quiet)}, pg.List.Rows(pg.Width, pg.room(), p)...)
	if pg.List.Len() == 0 && len(rows) > 2 {
		rows[2] = ink.NewRow(pg.Width).To(ink.Width(pg.Words.Prompt), quiet).Put(pg.Words.None, quiet).String(quiet)
	}
	for i := range pg.Words.About {
		line := Line{}
		if i < len(about) {
			line = about[i]
		}
		style := text
		if line.Quiet {
			style = quiet
		}
		rows = append(rows, ink.NewRow(pg.Width).To(4, quiet).Put(line.Words, style).String(quiet))
	}
	return append(rows, sheet.Edge(pg.Width, keys, p))
}

// Cursor implements surface.Surface.
func (pg *Page) Cursor() (x, y int, ok bool) {
	_, x = pg.Input.Behind(pg.Words.Prompt, pg.Width)
	return x, 0, true
}
