package settingspage_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/settingspage"
	"rooktrail/internal/ui/uitest"
)

// page is one on which the settings of a file are, and what was applied of them.
type page struct {
	*settingspage.Surface
	store   *settingspage.Store
	file    string
	applied []string
}

func opened(t *testing.T, text string) *page {
	p := &page{file: filepath.Join(t.TempDir(), "settings.toml")}
	require.NoError(t, os.WriteFile(p.file, []byte(text), 0o600))
	host := &uitest.Host{}
	p.store = settingspage.NewStore(host.Asker(nil), func(_ *settings.Settings, key string) { p.applied = append(p.applied, key) })
	set, problems := settings.Load(p.file, "")
	require.Empty(t, problems)
	p.store.Take(set, p.file)
	p.Surface = settingspage.New(p.store)
	p.Resize(120, 30)
	require.NotNil(t, p.Commands()[keymap.Settings]().Open)
	return p
}

func (p *page) screen() string { return uitest.Of(p, 120, 30) }

func (p *page) kept(t *testing.T) string {
	data, err := os.ReadFile(p.file)
	require.NoError(t, err)
	return string(data)
}

// Each setting stands with its value, where it was set, what it does and what it is by default; a change
// counts at once, is kept, and can be undone.
func TestChangingASetting(t *testing.T) {
	p := opened(t, "[look]\npalette = \"chalk\" # bright\n")
	assert.Equal(t, []string{""}, p.applied)
	assert.Regexp(t, `palette: chalk +by you`, p.screen())
	assert.Regexp(t, `strip: on +by default`, p.screen())
	assert.Contains(t, p.screen(), "peat is dark, chalk is light")
	assert.Contains(t, p.screen(), "by default auto")
	uitest.Press(p, "right")
	assert.Equal(t, "clear", p.store.Settings().Text(settings.Palette))
	assert.Equal(t, settings.Palette, p.applied[1])
	assert.Contains(t, p.kept(t), "palette = \"clear\" # bright")
	uitest.Press(p, "left", "left")
	assert.Equal(t, "peat", p.store.Settings().Text(settings.Palette))
	uitest.Press(p, "alt+u", "alt+u", "alt+u")
	assert.Equal(t, "chalk", p.store.Settings().Text(settings.Palette))
	assert.Equal(t, "[look]\npalette = \"chalk\" # bright\n", p.kept(t))
	assert.Contains(t, uitest.Last(uitest.Press(p, "alt+u")).Say, "nothing was changed here")
	uitest.Press(p, "alt+d")
	assert.Regexp(t, `palette: auto +by default`, p.screen())
	assert.Equal(t, "[look]\n", p.kept(t))
	uitest.Press(p, "alt+u")
	assert.Contains(t, p.kept(t), `palette = "chalk"`)
}

// Letters narrow it, by what people call the settings; Esc brings all back, and then closes it.
func TestFindingASetting(t *testing.T) {
	p := opened(t, "")
	uitest.Press(p, "exclude files")
	assert.Contains(t, p.screen(), "left out of the scout")
	assert.NotContains(t, p.screen(), "title of the terminal")
	ask := uitest.Last(uitest.Press(p, "enter")).Open
	uitest.Press(ask, "*.min.js, generated/ ,", "enter")
	assert.Equal(t, []string{"*.min.js", "generated/"}, p.store.Settings().Texts(settings.LeaveOut))
	uitest.Press(p, "zzqq")
	assert.Contains(t, p.screen(), "no setting is called so")
	assert.False(t, uitest.Last(uitest.Press(p, "enter", "right", "esc")).Close)
	assert.Contains(t, p.screen(), "title of the terminal")
	assert.True(t, uitest.Last(uitest.Press(p, "esc")).Close)
}

// What is a table is written in its file, which the page names; it can be opened at any setting.
func TestATableIsWrittenByHand(t *testing.T) {
	p := opened(t, "[look.colors]\ntext = \"#d6dacf\"\n")
	p.Show(settings.Colors)
	assert.Regexp(t, `colours of your own: 1 entry +by you`, p.screen())
	assert.Contains(t, uitest.Last(uitest.Press(p, "enter")).Say, "in the table [look.colors]")
	assert.Contains(t, uitest.Last(uitest.Press(p, "right")).Say, p.file)
}
