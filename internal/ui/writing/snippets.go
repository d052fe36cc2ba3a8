package writing

import (
	"context"
	"fmt"
	"path"
	"path/filepath"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/snippet"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// snippets are the texts of the user's own, as they were read last.
type snippets struct {
	store    *snippet.Store // nil if there is no place for them
	language string
	all      []snippet.Snippet
	asked    time.Time
}

// KnowSnippets tells in which folder the texts of the user's own are.
func (m *Model) KnowSnippets(folder string) { m.snippets.store = snippet.NewStore(folder) }

// readAgain is after how long the texts of the user's own are read again, since their file may have changed.
const readAgain = 5 * time.Second

// language is that of the file that is written; "" for none that is known.
func (m *Model) language(p *pen) string {
	if l := m.project.Languages().Of(p.Path); l != nil {
		return l.Name
	}
	return ""
}

// readSnippets reads those of the language that is written, if that was not done lately.
func (m *Model) readSnippets(p *pen) tea.Cmd {
	s, language := &m.snippets, m.language(p)
	if s.store == nil || s.language == language && time.Since(s.asked) < readAgain {
		return nil
	}
	if s.language != language {
		s.all = nil
	}
	s.language, s.asked = language, time.Now()
	store := s.store
	return surface.Do(m.asker, func(context.Context) []snippet.Snippet {
		all, _ := store.Of(language) // what is wrong with them is said when one chooses among them
		return all
	}, func(all []snippet.Snippet) surface.Intent {
		if m.snippets.language == language {
			m.snippets.all = all
		}
		return surface.Intent{}
	})
}

// expand puts the text in whose word stands before the caret; it is false for other keys, and for no such word.
func (m *Model) expand(p *pen, key string) (todo surface.Intent, ok bool) {
	carets, _ := p.Editor.Carets()
	word := p.Editor.WordBefore()
	if !keymap.Is(key, on.NextField) || word == "" || len(carets) > 1 || m.snippets.language != m.language(p) {
		return todo, false
	}
	for _, s := range m.snippets.all {
		if s.Word == word {
			at := p.Editor.Main().At
			p.Editor.Select(at-len(word), at)
			return m.Insert(s.Text), true
		}
	}
	return todo, false
}

// chooseSnippet lists the texts of the user's own, to insert one.
func (m *Model) chooseSnippet(p *pen) surface.Intent {
	store, language := m.snippets.store, m.language(p)
	if store == nil {
		return surface.Say("there is no folder for texts of your own")
	}
	type found struct {
		all []snippet.Snippet
		err error
	}
	return surface.Begin(surface.Ask(m.asker, func(context.Context) found {
		all, err := store.Of(language)
		return found{all, err}
	}, func(f found) surface.Intent {
		todo := surface.SayError(f.err)
		if len(f.all) == 0 {
			if f.err == nil {
				todo = surface.Say("there are none yet; select a text, and {snippet-keep} keeps it, in %s", store.File(language))
			}
			return todo
		}
		var rows []choice.Row
		for _, s := range f.all {
			first, _, _ := strings.Cut(s.Text, "\n")
			rows = append(rows, choice.Row{Row: sheet.Row{What: s.Word, Name: first, Where: s.About, Reads: true}, Take: func() surface.Intent { return m.Insert(s.Text) }})
		}
		return m.lists.Open("texts of your own; a word and Tab inserts one, too", "insert it", rows).And(todo)
	}))
}

// keepSnippet keeps what is selected as a text of the user's own.
func (m *Model) keepSnippet(p *pen) surface.Intent {
	store, language := m.snippets.store, m.language(p)
	body, whole := p.Editor.Selection()
	if store == nil {
		return surface.Say("there is no folder for texts of your own")
	}
	what := "what is selected"
	if whole {
		what = "this line"
	}
	if language == "" {
		language = snippet.All
	}
	return m.asks.Ask(fmt.Sprintf("keep %s by the word:", what), "", func(word string) surface.Intent {
		s := snippet.Snippet{Word: strings.TrimSpace(word), Text: write.Plain(dedented(body))}
		return surface.Begin(surface.Do(m.asker, func(context.Context) error { return store.Keep(language, s) }, func(err error) surface.Intent {
			if err != nil {
				return surface.SayError(err)
			}
			m.snippets.asked = time.Time{}
			file := store.File(language)
			return surface.Say("%s and Tab inserts it; {…} in %s makes places to fill in", s.Word, path.Join(path.Base(filepath.ToSlash(filepath.Dir(file))), filepath.Base(file)))
		}))
	})
}

// dedented is a text without the indentation that all of its lines have.
func dedented(s string) string {
	lines := strings.Split(strings.TrimRight(s, "\r\n"), "\n")
	least := -1
	for _, l := range lines {
		if body := strings.TrimLeft(l, " \t"); body != "" && (least < 0 || len(l)-len(body) < least) {
			least = len(l) - len(body)
		}
	}
	for i, l := range lines {
		lines[i] = l[min(max(least, 0), len(l)):]
	}
	return strings.Join(lines, "\n")
}
