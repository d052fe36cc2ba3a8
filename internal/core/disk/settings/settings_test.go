package settings_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
)

func write(t *testing.T, text string) string {
	name := filepath.Join(t.TempDir(), "settings.toml")
	require.NoError(t, os.WriteFile(name, []byte(text), 0o600))
	return name
}

func load(t *testing.T, text string) (settings.Settings, []settings.Problem) {
	return settings.Load(write(t, text), "")
}

func TestNothingIsSet(t *testing.T) {
	s, problems := settings.Load(filepath.Join(t.TempDir(), "none.toml"), "")
	assert.Empty(t, problems)
	assert.True(t, s.On(settings.FormatGo))
	assert.Equal(t, "auto", s.Text(settings.Palette))
	_, by := s.Value(settings.Palette)
	assert.Equal(t, settings.ByDefault, by)
}

func TestWhatIsSet(t *testing.T) {
	s, problems := load(t, `
# peat is for the hut
look.palette = "chalk"
[write]
format_go = false # not here
[look.colors]
text = "#d6dacf"
comment = "179"
[find]
leave_out = ["*.min.js", "generated/"]
`)
	assert.Empty(t, problems)
	assert.False(t, s.On(settings.FormatGo))
	assert.Equal(t, "chalk", s.Text(settings.Palette))
	assert.Equal(t, map[string]string{"text": "#d6dacf", "comment": "179"}, s.Words(settings.Colors))
	assert.Equal(t, []string{"*.min.js", "generated/"}, s.Texts(settings.LeaveOut))
}

// What is wrong is told with its place, and everything else counts.
func TestWhatIsWrong(t *testing.T) {
	for text, words := range map[string]string{
		"write.complete = false\n[write]\nformat_go = 3\n":               ":3:1: write.format_go is true or false",
		"write.complete = false\n\nsnow = true\n":                        ":3:1: snow is not known",
		"complete = true\nwrite.complete = false\n":                      ":1:1: complete is not known; is write.complete meant?",
		"write.complete = false\nthis is snow\n":                         ":2:6: ",
		"write.complete = false\nlook.palette = \"snow\"\n":              `:2:1: look.palette is one of "auto", "peat"`,
		"write.complete = false\n[formatters]\npy = [\"x\"]\n":           `:3:1: formatters: "py" is no ending`,
		"write.complete = false\n[look.colors]\ntext = \"red\"\n":        `"red" is no colour`,
		"write.complete = false\n[look.colors]\n\n  text = \"#12345\"\n": ":4:3: ",
		"write.complete = false\nfind.leave_out = \"*.js\"\n":            "is a list of texts",
		"write.complete = false\nfind.leave_out = [\"a[\"]\n":            "is no pattern",
	} {
		s, problems := load(t, text)
		if assert.Len(t, problems, 1, text) {
			assert.ErrorContains(t, problems[0], words, text)
		}
		assert.False(t, s.On(settings.Complete), "the rest counts: %s", text)
	}
}

// A project says only what can do no harm, and the user's own word is above it.
func TestWhatAProjectSays(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.Mkdir(filepath.Join(root, ".rooktrail"), 0o700))
	project := filepath.Join(root, filepath.FromSlash(settings.ProjectFile))
	require.NoError(t, os.WriteFile(project, []byte("[write]\nformat_go = false\ncomplete = false\n[find]\nleave_out = [\"snow/\"]\n[formatters]\n\".go\" = [\"rm\"]\n"), 0o600))
	s, problems := settings.Load(write(t, "write.format_go = true\n"), root)
	assert.Len(t, problems, 2)
	for _, p := range problems {
		assert.ErrorContains(t, p, "a project cannot say it")
	}
	assert.True(t, s.On(settings.Complete))
	assert.True(t, s.On(settings.FormatGo))
	_, by := s.Value(settings.LeaveOut)
	assert.Equal(t, settings.ByProject, by)
	out, ok, err := s.Format(t.Context(), t.TempDir(), "a.go", []byte("x"))
	require.NoError(t, err)
	assert.False(t, ok)
	assert.Equal(t, "x", string(out))
	s = s.With(settings.FormatGo, nil, settings.ByUser)
	assert.False(t, s.On(settings.FormatGo), "without the user's word the project's counts")
}

func TestFormatters(t *testing.T) {
	s, problems := load(t, "[formatters]\n\".txt\" = [\"tr\", \"a-z\", \"A-Z\"]\n\".bad\" = [\"false\"]\n\".none\" = [\"true\"]\n")
	assert.Empty(t, problems)
	out, ok, err := s.Format(t.Context(), t.TempDir(), "a.txt", []byte("snow\n"))
	require.NoError(t, err)
	assert.True(t, ok)
	assert.Equal(t, "SNOW\n", string(out))
	for _, file := range []string{"a.bad", "a.none"} {
		out, _, err = s.Format(t.Context(), t.TempDir(), file, []byte("x"))
		assert.Error(t, err)
		assert.Equal(t, "x", string(out), "the text stays")
	}
}

// What is kept is put where it belongs, and all else stays as it was written.
func TestKeeping(t *testing.T) {
	begin := "# mine\n[look]\npalette = \"peat\" # for the night\n\n[write]\n# typing\ncomplete = false\n"
	for _, c := range []struct {
		about, text, key string
		value            any
		want             string
	}{
		{"another value", begin, settings.Palette, "chalk", "# mine\n[look]\npalette = \"chalk\" # for the night\n\n[write]\n# typing\ncomplete = false\n"},
		{"one more in a table", begin, settings.Strip, false, "# mine\n[look]\npalette = \"peat\" # for the night\nstrip = false\n\n[write]\n# typing\ncomplete = false\n"},
		{"a table that is not there", begin, settings.LeaveOut, []string{"a"}, begin + "\n[find]\nleave_out = [\"a\"]\n"},
		{"taken out", begin, settings.Complete, nil, "# mine\n[look]\npalette = \"peat\" # for the night\n\n[write]\n# typing\n"},
		{"taken out that is not there", begin, settings.LeaveOut, nil, begin},
		{"an empty file", "", settings.Palette, "plain", "[look]\npalette = \"plain\"\n"},
		{"a table without entries", "[look]\n[write]\ncomplete = true\n", settings.Palette, "plain", "[look]\npalette = \"plain\"\n[write]\ncomplete = true\n"},
		{"no line end at the end", "[look]\nstrip = true", settings.Palette, "plain", "[look]\nstrip = true\npalette = \"plain\"\n"},
		{"a dotted key", "look.strip = true # here\n", settings.Strip, false, "look.strip = false # here\n"},
		{"a list", "", settings.LeaveOut, []string{"a", "b/"}, "[find]\nleave_out = [\"a\", \"b/\"]\n"},
	} {
		file := write(t, c.text)
		require.NoError(t, settings.Keep(file, c.key, c.value), c.about)
		got, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, c.want, string(got), c.about)
		s, problems := settings.Load(file, "")
		assert.Empty(t, problems, c.about)
		if c.value != nil {
			v, by := s.Value(c.key)
			assert.Equal(t, c.value, v, c.about)
			assert.Equal(t, settings.ByUser, by, c.about)
		}
	}
	assert.ErrorContains(t, settings.Keep(write(t, ""), "snow", true), "there is no such setting")
}

// Every setting is whole, and what it may be is gone through.
func TestAllSettings(t *testing.T) {
	for _, s := range settings.All() {
		assert.NotEmpty(t, s.Name, s.Key)
		assert.Regexp(t, `^[A-Z].*\.$`, s.Does, s.Key)
		assert.NotEmpty(t, s.Phrases, s.Key)
		assert.NotNil(t, s.Default, s.Key)
		assert.NotEmpty(t, s.Written(s.Default), s.Key)
		if s.Kind == settings.Choice {
			v := s.Default
			for range s.Values {
				v, _ = s.Next(v, true)
			}
			assert.Equal(t, s.Default, v, s.Key)
		}
		if s.Check != nil {
			assert.NoError(t, s.Check(s.Default), s.Key)
		}
	}
}

// The schema that is published is made of the settings, and has each of them.
func TestTheSchema(t *testing.T) {
	want, err := settings.Schema()
	require.NoError(t, err)
	file := filepath.Join("..", "..", "..", "..", "docs", "settings.schema.json")
	if os.Getenv("UPDATE") != "" {
		require.NoError(t, os.WriteFile(file, append(want, '\n'), 0o644))
	}
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(got), "UPDATE=1 go test ./internal/core/disk/settings writes it anew")
	assert.True(t, json.Valid(got))
}

// The docs have each setting.
func TestTheDocs(t *testing.T) {
	file := filepath.Join("..", "..", "..", "..", "docs", "settings.md")
	got, err := os.ReadFile(file)
	require.NoError(t, err)
	const begin, end = "<!-- the settings, written by their test -->\n", "<!-- to here -->"
	before, rest, found := strings.Cut(string(got), begin)
	require.True(t, found)
	_, after, found := strings.Cut(rest, end)
	require.True(t, found)
	want := before + begin + settings.Table() + end + after
	if os.Getenv("UPDATE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(want), 0o644))
		return
	}
	assert.Equal(t, want, string(got), "UPDATE=1 go test ./internal/core/disk/settings writes it anew")
}

// A file in which very much is wrong takes no longer than others; what stands in front of it counts.
func TestVeryMuchIsWrong(t *testing.T) {
	s, problems := load(t, "look.strip = false\n"+strings.Repeat("snow\n", 200_000))
	assert.Len(t, problems, 31)
	assert.ErrorContains(t, problems[30], "nothing behind them counts")
	assert.False(t, s.On(settings.Strip))
}
