// Package hand hands what is on the screen on to other programs: its path, its text, the file itself.
package hand

import (
	"context"
	"errors"
	"path"
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/system"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Model hands things on.
type Model struct {
	host     surface.Host
	asker    *surface.Asker
	absolute func(path string) string
	copy     func(ctx context.Context, text string) error
}

// New makes one; absolute gives the whole path of a file.
func New(host surface.Host, absolute func(path string) string) *Model {
	return &Model{host, host.Asker(nil), absolute, system.Copy}
}

// Commands give the present place to other programs.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{}
	for a, hand := range map[keymap.Action]func(here surface.Here) surface.Intent{
		keymap.CopyPath:     func(h surface.Here) surface.Intent { return copyOf(h.View.Place.Path) },
		keymap.CopyAbsolute: func(h surface.Here) surface.Intent { return copyOf(m.absolute(h.View.Place.Path)) },
		keymap.CopyLine: func(h surface.Here) surface.Intent {
			return copyOf(h.View.Place.Path + ":" + strconv.Itoa(h.View.Place.Line))
		},
		keymap.CopyText:    copyText,
		keymap.Edit:        func(h surface.Here) surface.Intent { return surface.Intent{Edit: h.View.Place.Path} },
		keymap.OpenOutside: func(h surface.Here) surface.Intent { return surface.Intent{Desktop: h.View.Place.Path} },
	} {
		all[a] = func() surface.Intent {
			here := m.host.Here()
			if here.View.Place.Path == "" {
				return surface.Say("no file is shown that could be handed on")
			}
			return hand(here)
		}
	}
	return all
}

func copyOf(s string) surface.Intent {
	return surface.Intent{Copy: &surface.Copy{Text: s, What: s}}
}

// copyText copies what is selected, or the line of the caret.
func copyText(here surface.Here) surface.Intent {
	f := here.File
	if f == nil || f.Text.Binary() {
		return surface.Say("there is no text here to copy")
	}
	if sel := here.Selection; sel.Len() > 0 {
		return surface.Intent{Copy: &surface.Copy{Text: string(f.Text.Slice(int(sel.Start), int(sel.End))), What: "the selection, " + sheet.Count(sel.Len(), "byte", "bytes") + ","}}
	}
	line := here.View.Place.Line
	return surface.Intent{Copy: &surface.Copy{Text: string(f.Text.Line(line)) + "\n", What: "line " + strconv.Itoa(line)}}
}

// mostForTerminal is how many bytes are sent to the clipboard of the terminal:
// most terminals take no more, and the line to them may be slow.
const mostForTerminal = 100_000

// Copy puts a text into the clipboard of the terminal, which works from afar,
// too, and into that of the system where there is one. width is how many columns there are to say so.
func (m *Model) Copy(c surface.Copy, width int) tea.Cmd {
	what := ink.CutFront(c.What, max(width-40, 20))
	terminal, where := tea.SetClipboard(c.Text), " is handed to the terminal's clipboard"
	if len(c.Text) > mostForTerminal {
		terminal, where = nil, " is too much for the terminal's clipboard"
	}
	return tea.Batch(terminal, surface.Do(m.asker, func(ctx context.Context) error { return m.copy(ctx, c.Text) }, func(err error) surface.Intent {
		switch {
		case errors.Is(err, system.ErrNoClipboard):
			return surface.Say("%s%s", what, where)
		case err != nil:
			return surface.Say("%s%s; %s", what, where, err)
		}
		return surface.Say("%s is copied", what)
	}))
}

// Outside hands a file to the desktop.
func (m *Model) Outside(file string) surface.Intent {
	absolute := m.absolute(file)
	return surface.Say("%s is handed to the desktop", path.Base(file)).And(surface.Begin(surface.Do(m.asker, func(ctx context.Context) error { return system.Open(ctx, absolute) }, surface.SayError)))
}
