package bookmark

import (
	"bytes"
	"errors"
	"fmt"
	"path"
	"strings"
	"unicode"

	"github.com/pelletier/go-toml/v2"

	"rooktrail/internal/core/file/place"
)

// SharedFolder is where the lists of a project lie that are shared through its repository.
const SharedFolder = ".rooktrail/bookmarks"

// Bounds on what is read of a shared list, which anybody may have written.
const (
	LargestShared = 4 << 20 // bytes
	mostShared    = 5000    // bookmarks
)

// sharedList is a list as it lies in a repository.
type sharedList struct {
	Name      string       `toml:"name"`
	Bookmarks []sharedMark `toml:"bookmark"`
}

type sharedMark struct {
	Path   string   `toml:"path"`
	Line   int      `toml:"line,omitempty"`
	Col    int      `toml:"col,omitempty"`
	Kind   Kind     `toml:"kind"`
	Symbol string   `toml:"symbol,omitempty"`
	Note   string   `toml:"note,multiline,omitempty"`
	Text   string   `toml:"text,omitempty"`
	Before []string `toml:"before,omitempty"`
	After  []string `toml:"after,omitempty"`
	Common bool     `toml:"common,omitempty"`
	Inside string   `toml:"inside,omitempty"`
}

// Share writes a list as it lies in a repository: TOML, without the letters, which are
// everybody's own.
func (l *List) Share() ([]byte, error) {
	s := sharedList{Name: l.Name}
	for _, i := range l.Shown() {
		m := &l.Marks[i]
		s.Bookmarks = append(s.Bookmarks, sharedMark{Path: m.Path, Line: m.Line, Col: m.Col, Kind: m.Kind, Symbol: m.What, Note: m.Note,
			Text: m.Text, Before: m.Before, After: m.After, Common: m.Common, Inside: m.Symbol})
	}
	var b bytes.Buffer
	b.WriteString("# Bookmarks, shared by those who work on this project with Rook Trail.\n")
	b.WriteString("# The line is found again by what stands there: text, and the lines before and after.\n\n")
	if err := toml.NewEncoder(&b).Encode(s); err != nil {
		return nil, fmt.Errorf("writing the list %q: %w", l.Name, err)
	}
	return b.Bytes(), nil
}

// ReadShared reads a list that lies in a repository, in the file of the given path. Paths
// that leave the project are refused and named.
func ReadShared(file string, data []byte) (l *List, refused []string, err error) {
	var s sharedList
	if err := toml.Unmarshal(data, &s); err != nil {
		where := ""
		var wrong *toml.DecodeError
		if errors.As(err, &wrong) {
			row, _ := wrong.Position()
			where = fmt.Sprintf(" in line %d", row)
		}
		return nil, nil, fmt.Errorf("the shared bookmarks in %s are not well formed%s: %w", file, where, err)
	}
	name := s.Name
	if name == "" {
		name = strings.TrimSuffix(path.Base(file), path.Ext(file))
	}
	l = &List{Version: Version, ID: "shared:" + file, Name: name, Shared: file}
	for i, m := range s.Bookmarks {
		if i == mostShared {
			return l, refused, fmt.Errorf("the shared bookmarks in %s are more than %d; the rest is left out", file, mostShared)
		}
		if !place.IsInside(m.Path) {
			refused = append(refused, m.Path)
			continue
		}
		switch m.Kind {
		case Symbol, File, Folder:
		default:
			m.Kind = Line
		}
		l.Marks = append(l.Marks, Mark{Key: fmt.Sprintf("%s:%d", l.ID, i), Kind: m.Kind, What: m.Symbol, Note: m.Note, Memory: place.Remember(place.Anchor{
			Path: m.Path, Line: max(m.Line, 1), Col: max(m.Col, 1), Text: m.Text, Before: m.Before, After: m.After, Common: m.Common, Symbol: m.Inside})})
	}
	return l, refused, nil
}

// SharedFile is the path of the file in which a list of a name is shared.
func SharedFile(name string) string {
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			b.WriteRune(r)
		case !strings.HasSuffix(b.String(), "-") && b.Len() > 0:
			b.WriteByte('-')
		}
	}
	base := strings.Trim(b.String(), "-")
	if base == "" {
		base = firstName
	}
	return SharedFolder + "/" + base + ".toml"
}
