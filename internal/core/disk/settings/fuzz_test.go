package settings_test

import (
	"os"
	"path/filepath"
	"testing"

	"rooktrail/internal/core/disk/settings"
)

// FuzzPut puts a value into any file, of which as much as can be read is read: it never panics, and the value is
// there afterwards, unless the file is no TOML in a way that hides what is put into it.
func FuzzPut(f *testing.F) {
	for _, text := range []string{
		"", "# mine\n[look]\npalette = \"peat\" # night\n", "[look]", "look.strip = true", "look = { strip = false }\n", "[[look]]\nstrip = 1\n",
		"\"look\".strip = 1\r\n", "[look] # here\n\n[write]\ncomplete = false", "x\n[look]\ny = \"\n", "a = [\n1, # one\n2]\n[look.colors]\ntext = \"#ffffff\"\n", "\ufeff[look]\n",
	} {
		f.Add([]byte(text))
	}
	dir := f.TempDir()
	f.Fuzz(func(t *testing.T, data []byte) {
		file := filepath.Join(dir, "settings.toml")
		if err := os.WriteFile(file, data, 0o600); err != nil {
			t.Skip()
		}
		_, before := settings.Load(file, "")
		if err := settings.Keep(file, settings.Strip, false); err != nil {
			t.Fatal(err)
		}
		s, after := settings.Load(file, "")
		if len(before) == 0 && (s.On(settings.Strip) || len(after) > 0) {
			got, _ := os.ReadFile(file)
			t.Fatalf("strip is not off in %q, made of %q: %v", got, data, after)
		}
		if err := settings.Keep(file, settings.Strip, nil); err != nil {
			t.Fatal(err)
		}
	})
}
