// Package place says where something is in a project: a file, a line and a
// column, or a run of bytes.
//
// Lines and columns count from 1 everywhere outside a single function, and a
// column counts bytes, so that a place written by one program can be read by
// another without knowing how either draws text. Offsets count bytes from 0.
package place

import (
	"fmt"
	"path"
	"strconv"
	"strings"
)

// Place is a spot in a file.
type Place struct {
	// Path is relative to the project's root with forward slashes, or absolute
	// for a file outside the project.
	Path string `json:"path"`
	// Line counts from 1; 0 means the file as a whole.
	Line int `json:"line"`
	// Col counts bytes from 1; 0 means the line as a whole.
	Col int `json:"col"`
}

// String writes the place as path:line:col, leaving out what it does not say.
func (p Place) String() string {
	switch {
	case p.Line == 0:
		return p.Path
	case p.Col == 0:
		return p.Path + ":" + strconv.Itoa(p.Line)
	}
	return p.Path + ":" + strconv.Itoa(p.Line) + ":" + strconv.Itoa(p.Col)
}

// Split takes path, path:line or path:line:col apart. Anything behind the path
// that is not a positive number belongs to the path, so that names with colons
// in them stay whole.
func Split(s string) Place {
	path, second, ok := cutNumber(s)
	if !ok {
		return Place{Path: s}
	}
	if rest, first, ok := cutNumber(path); ok {
		return Place{Path: rest, Line: first, Col: second}
	}
	return Place{Path: path, Line: second}
}

// Parse reads FILE:LINE:COL, where all three parts must be there. It says what
// is missing or wrong.
func Parse(s string) (Place, error) {
	p := Split(strings.TrimSpace(s))
	switch {
	case p.Path == "":
		return p, fmt.Errorf("position %q names no file; write FILE:LINE:COL", s)
	case p.Line == 0:
		return p, fmt.Errorf("position %q has no line and column; write FILE:LINE:COL, counted from 1", s)
	case p.Col == 0:
		return p, fmt.Errorf("position %q has no column; write FILE:LINE:COL, counted from 1", s)
	}
	return p, nil
}

func cutNumber(s string) (rest string, n int, ok bool) {
	i := strings.LastIndexByte(s, ':')
	if i <= 0 {
		return s, 0, false
	}
	n, err := strconv.Atoi(s[i+1:])
	if err != nil || n < 1 {
		return s, 0, false
	}
	return s[:i], n, true
}

// Range is a run of bytes in one file: from Start up to, not including, End,
// both counted from 0.
type Range struct{ Start, End uint32 }

// Holds says whether the offset lies in the range or at its end, where a caret
// just behind a name still means that name.
func (r Range) Holds(offset int) bool {
	return int(r.Start) <= offset && offset <= int(r.End)
}

// Covers says whether the other range lies wholly inside this one.
func (r Range) Covers(other Range) bool {
	return r.Start <= other.Start && other.End <= r.End
}

// Len is the number of bytes in the range.
func (r Range) Len() int { return int(r.End) - int(r.Start) }

// In returns the bytes of the range, as far as text reaches.
func (r Range) In(text []byte) []byte {
	start, end := min(int(r.Start), len(text)), min(int(r.End), len(text))
	if start > end {
		return nil
	}
	return text[start:end]
}

// Base is where the name of a file begins in its path, in bytes.
func Base(path string) int { return strings.LastIndexByte(path, '/') + 1 }

// Distance counts the folders one has to leave and enter to get from one file to
// another, both with forward slashes.
func Distance(a, b string) int {
	x, y := strings.Split(path.Dir(a), "/"), strings.Split(path.Dir(b), "/")
	same := 0
	for same < len(x) && same < len(y) && x[same] == y[same] {
		same++
	}
	return len(x) - same + len(y) - same
}

// Renamed is the path of a file after the file or folder at from became to.
func Renamed(path, from, to string) string {
	if path == from {
		return to
	}
	if rest, ok := strings.CutPrefix(path, from+"/"); ok {
		return to + "/" + rest
	}
	return path
}

// IsInside says whether a path, as somebody else wrote it, stays within the project: it is
// relative, has forward slashes and does not lead out of the root. Links are not looked at.
func IsInside(p string) bool {
	clean := path.Clean(p)
	return p != "" && !path.IsAbs(p) && !strings.Contains(p, "\\") && !strings.ContainsRune(p, 0) && clean != ".." && !strings.HasPrefix(clean, "../") &&
		(len(p) < 2 || p[1] != ':')
}
