package overlook

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"unicode"

	"rooktrail/internal/core/draw"
)

// Write writes a drawing or chart to a new file, whole or not at all; a path that is not absolute is below the root of the
// project. Places are linked from there. It gives the whole path.
func (m *Maker) Write(d draw.Drawing, file string, theme *draw.Theme) (string, error) {
	if !filepath.IsAbs(file) {
		file = filepath.Join(m.code.Root(), filepath.FromSlash(file))
	}
	as, err := draw.FormatOf(filepath.Ext(file))
	if err != nil {
		return "", fmt.Errorf("writing %s: %w", file, err)
	}
	way, err := filepath.Rel(filepath.Dir(file), m.code.Root())
	if err != nil {
		way = "."
	}
	var b bytes.Buffer
	if err := d.Write(&b, as, theme, draw.PlaceLinks(filepath.ToSlash(way))); err != nil {
		return "", err
	}
	f, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
	switch {
	case errors.Is(err, fs.ErrExist):
		return "", fmt.Errorf("%s is there already; choose another name", file)
	case err != nil:
		return "", fmt.Errorf("writing the drawing: %w", err)
	}
	_, err = f.Write(b.Bytes())
	if closeErr := f.Close(); err == nil {
		err = closeErr
	}
	if err != nil {
		_ = os.Remove(file) // half a drawing is none
		return "", fmt.Errorf("writing the drawing: %w", err)
	}
	return file, nil
}

// FileName is a name for the file of a drawing with a title that no file of the project has yet.
func (m *Maker) FileName(title string, as draw.Format) string {
	stem := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || r == '.' || r == '_' {
			return r
		}
		return '-'
	}, strings.ToLower(title))
	for strings.Contains(stem, "--") {
		stem = strings.ReplaceAll(stem, "--", "-")
	}
	if stem = strings.Trim(stem, "-."); len(stem) > 60 {
		stem = strings.ToValidUTF8(stem[:60], "")
	}
	name := stem + as.Ending()
	for n := 2; ; n++ {
		if _, err := os.Lstat(filepath.Join(m.code.Root(), name)); err != nil {
			return name
		}
		name = stem + "-" + strconv.Itoa(n) + as.Ending()
	}
}
