// Package settingspage is the page of settings: each with its value, what it does and where it was set.
// What is changed there has its effect at once.
package settingspage

import (
	"os"
	"path/filepath"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/know/lexicon"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/page"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Surface is the page.
type Surface struct {
	page.Page
	store    *Store
	lexicon  *lexicon.Lexicon
	question askline.Surface
	undone   []change
}

// change is what was changed here, to be undone.
type change struct {
	key string
	was any // nil if it was not set by the user
}

// New makes a page.
func New(store *Store) *Surface {
	s := &Surface{store: store}
	var entries []lexicon.Entry
	for _, one := range settings.All() {
		entries = append(entries, lexicon.Entry{Title: one.Name, Phrases: append([]string{one.Key, one.Does}, one.Phrases...)})
	}
	s.lexicon = lexicon.New(entries)
	return s
}

// Commands are what opens the page, and what sets something at once.
func (s *Surface) Commands() surface.Commands {
	return surface.Commands{
		keymap.Settings:  func() surface.Intent { return s.Show("") },
		keymap.TakeInAll: s.takeInAll,
		keymap.Wrap: func() surface.Intent {
			on := !s.store.Settings().On(settings.Wrap)
			todo := surface.Say("long lines run off the screen again")
			if on {
				todo = surface.Say("long lines go on in the next row; {wrap} lets them run off again")
			}
			todo.Caret = true
			return todo.And(s.store.Set(settings.Wrap, on))
		},
	}
}

// Show opens the page at a setting; "" for the first.
func (s *Surface) Show(key string) surface.Intent {
	s.undone = nil
	s.Open(words, nil, 0)
	s.List.Set(s.sections(), max(slices.IndexFunc(settings.All(), func(one settings.Setting) bool { return one.Key == key }), 0))
	return surface.Intent{Open: s}
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, _ := msg.(tea.KeyPressMsg)
	name := k.String()
	if s.Step(name) {
		return surface.Intent{}
	}
	one, ok := s.chosen()
	switch {
	case keymap.Is(name, on.Close):
		if !s.Clear() {
			return surface.Close()
		}
		s.List.Set(s.sections(), 0)
	case keymap.Is(name, on.Undo):
		return s.undo()
	case ok && keymap.Is(name, on.Next):
		return s.step(one, true)
	case ok && keymap.Is(name, on.Before):
		return s.step(one, false)
	case ok && keymap.Is(name, on.Take):
		return s.take(one)
	case ok && keymap.Is(name, on.Away):
		return s.set(one, nil)
	case s.Type(msg):
		s.List.Set(s.sections(), 0)
	}
	return surface.Intent{}
}

func (s *Surface) chosen() (one settings.Setting, ok bool) {
	row, _, ok := s.List.Chosen()
	if !ok {
		return one, false
	}
	return settings.ByKey(row.Value.(string))
}

// step gives a setting the next value, or the one before.
func (s *Surface) step(one settings.Setting, forward bool) surface.Intent {
	value, _ := s.store.Settings().Value(one.Key)
	next, ok := one.Next(value, forward)
	if !ok {
		return s.take(one)
	}
	return s.set(one, next)
}

// take changes a setting: to the next value, or by asking; a table is written in its file.
func (s *Surface) take(one settings.Setting) surface.Intent {
	value, _ := s.store.Settings().Value(one.Key)
	switch one.Kind {
	case settings.Texts:
		was, _ := value.([]string)
		return s.question.Ask(one.Name+", with commas between them:", strings.Join(was, ", "), func(answer string) surface.Intent {
			return s.Show(one.Key).And(s.set(one, split(answer)))
		})
	case settings.Words, settings.Commands:
		return surface.Say("%s are written in %s, in the table [%s]", one.Name, short(s.store.File()), one.Key)
	}
	return s.step(one, true)
}

// split takes a list with commas apart.
func split(list string) []string {
	all := []string{}
	for one := range strings.SplitSeq(list, ",") {
		if one = strings.TrimSpace(one); one != "" {
			all = append(all, one)
		}
	}
	return all
}

// set has a setting be another value.
func (s *Surface) set(one settings.Setting, value any) surface.Intent {
	was, by := s.store.Settings().Value(one.Key)
	if by != settings.ByUser {
		was = nil
	}
	s.undone = append(s.undone, change{one.Key, was})
	todo := s.store.Set(one.Key, value)
	s.List.Update(s.sections())
	return todo
}

// undo takes the last change back.
func (s *Surface) undo() surface.Intent {
	n := len(s.undone) - 1
	if n < 0 {
		return surface.Say("nothing was changed here since the page was opened")
	}
	last := s.undone[n]
	s.undone = s.undone[:n]
	todo := s.store.Set(last.key, last.was)
	s.List.Update(s.sections())
	return todo
}

// sections are the settings that what is typed leaves.
func (s *Surface) sections() []sheet.Section {
	all := settings.All()
	var rows []sheet.Row
	if typed := s.Input.Value(); typed != "" {
		for _, h := range s.lexicon.Find(typed) {
			rows = append(rows, s.row(&all[h.Index], h.At))
		}
	} else {
		for i := range all {
			rows = append(rows, s.row(&all[i], nil))
		}
	}
	return []sheet.Section{{Title: "settings", Note: sheet.Number(len(rows)) + " of " + sheet.Number(len(all)), Rows: rows}}
}

func (s *Surface) row(one *settings.Setting, at []int) sheet.Row {
	value, by := s.store.Settings().Value(one.Key)
	table, _, _ := strings.Cut(one.Key, ".")
	return sheet.Row{What: table, Name: one.Name + ": " + one.Written(value), At: at, Where: by.String(), Reads: true, Value: one.Key}
}

var words = page.Words{Prompt: " settings  ", Hint: "type some letters of what is to be set", None: "no setting is called so", About: 5}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	return s.Draw(s.about(), [][2]string{keymap.Hint(on.Take), keymap.Hint(on.Close, "close"), keymap.Both(on.Before, on.Next, "value"), keymap.Hint(on.Away), keymap.Hint(on.Undo, "undo"), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose")}, p)
}

// about says what the chosen setting does, what it may be, and what it is in the file.
func (s *Surface) about() []page.Line {
	one, ok := s.chosen()
	if !ok {
		return nil
	}
	about := []page.Line{{}}
	lines := ink.Wrap(one.Does, max(s.Width-8, 20))
	for _, l := range lines[:min(len(lines), 3)] {
		about = append(about, page.Line{Words: l})
	}
	return append(about, page.Line{Words: ink.Cut(one.Key+" in "+short(s.store.File())+"; by default "+one.Written(one.Default), s.Width-8), Quiet: true})
}

// short is a path with a sign for the user's own folder.
func short(file string) string {
	home, err := os.UserHomeDir()
	if rest, inside := strings.CutPrefix(file, home+string(filepath.Separator)); err == nil && inside {
		return "~" + string(filepath.Separator) + rest
	}
	return file
}

// takeInAll has all files belong to the project, whatever ignore files say, or heeds these again.
func (s *Surface) takeInAll() surface.Intent {
	set := s.store.Settings()
	on := !set.Everything(s.store.Root)
	said := surface.Say("ignore files are heeded again in this project; {take-in-all} takes in all files")
	if on {
		said = surface.Say("all files belong to this project, whatever its ignore files say; {take-in-all} heeds them again")
	}
	return said.And(s.store.Set(settings.TakeIn, set.WithEverything(s.store.Root, on)))
}
