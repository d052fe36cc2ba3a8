package app

import (
	"path/filepath"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/surface"
)

// Set takes what the user has set, and the file in which it is, and what was done with the program before;
// it is to be called before the program begins. keys is the file of their own keys.
func (m *Model) Set(s settings.Settings, file, keys string, habits *habit.Book) {
	m.habits = habits
	m.tips.Know(habits)
	m.set.Take(s, file)
	m.ws.Mending.Words = []string{filepath.Join(filepath.Dir(file), "words")}
	m.writing.KnowSnippets(filepath.Join(filepath.Dir(file), "snippets"))
	for _, words := range append(m.own.Load(keys), m.colors.Warnings()...) {
		m.ws.Code.Note(words)
	}
}

// apply has everything be as it is set; key is what was set otherwise, "" at the beginning.
func (m *Model) apply(s *settings.Settings, key string) {
	m.writing.Set(*s)
	m.ws.Search.LeaveOut(s.Texts(settings.LeaveOut))
	m.ws.Problems.LeaveOut(s.Texts(settings.Problems))
	m.problems.Forget()
	codebase.TakeIn(m.ws.Code, s.Everything(m.ws.Code.Root()))
	m.ws.Tests.Set(s.Words(settings.Tests))
	m.colors.Prefer(s.Text(settings.Palette), s.Words(settings.Colors))
	m.clock.Style = s.Text(settings.Times)
	m.trails.Draw(s.Number(settings.TrailDepth))
	m.frame.Wish.NoStrip = !s.On(settings.Strip)
	m.frame.SetLook(code.Look{Numbers: code.Numbers(s.Text(settings.LineNumbers)), Wrap: s.On(settings.Wrap), Tabs: text.Tabs(s.Number(settings.TabWidth)), Margin: s.Number(settings.Margin) + 1})
	if key == "" || key == settings.Signpost {
		m.frame.Wish.Signpost = map[string]string{"narrow": frame.Narrow, "line": frame.OneLine}[s.Text(settings.Signpost)]
	}
}

// Settings implements scout.Around.
func (a around) Settings() *settings.Settings { return a.m.set.Settings() }

// ShowSetting implements scout.Around.
func (a around) ShowSetting(key string) surface.Intent { return a.m.settings.Show(key) }

// noTips ends the tips.
func (m *Model) noTips() surface.Intent {
	return surface.Say("no more tips; the setting “tips” brings them back").And(m.set.Set(settings.Tips, false))
}
