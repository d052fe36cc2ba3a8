package cli

import (
	"bytes"
	"errors"
	"io"
	"os"
	"regexp"
	"slices"
	"strings"

	"github.com/charmbracelet/x/term"

	"rooktrail/internal/core/file/text"
)

// visible is an output for lines: on a terminal, what would steer it is written out, and the places at the beginnings of lines stand out.
type visible struct {
	to     io.Writer
	plain  bool        // nothing is written out, since it is no terminal
	styled func() bool // says whether places stand out; nil for never
	rest   []byte      // a line that has not ended
}

// longestHeld is how much of a line is kept until it ends, in bytes.
const longestHeld = 1 << 20

// Write implements io.Writer.
func (v *visible) Write(p []byte) (int, error) {
	if v.plain && !v.stylish() {
		return v.to.Write(p)
	}
	v.rest = append(v.rest, p...)
	end := bytes.LastIndexByte(v.rest, '\n') + 1
	if end == 0 && len(v.rest) > longestHeld {
		end = len(v.rest)
	}
	if end == 0 {
		return len(p), nil
	}
	_, err := v.to.Write(v.drawn(v.rest[:end]))
	v.rest = append(v.rest[:0], v.rest[end:]...)
	if err != nil {
		return 0, err
	}
	return len(p), nil
}

// flush writes a last line that has no end.
func (v *visible) flush() error {
	if len(v.rest) == 0 {
		return nil
	}
	_, err := v.to.Write(v.drawn(v.rest))
	v.rest = nil
	return err
}

// shown writes out what must not reach a terminal, but for line ends and tabs.
func shown(lines []byte) []byte {
	out := make([]byte, 0, len(lines))
	for len(lines) > 0 {
		end := bytes.IndexAny(lines, "\n\t")
		if end < 0 {
			return append(out, text.Visible(string(lines))...)
		}
		out = append(append(out, text.Visible(string(lines[:end]))...), lines[end])
		lines = lines[end+1:]
	}
	return out
}

func (v *visible) stylish() bool { return v.styled != nil && v.styled() }

// drawn are lines as they are printed.
func (v *visible) drawn(lines []byte) []byte {
	if !v.plain {
		lines = shown(lines)
	}
	if !v.stylish() {
		return lines
	}
	var out []byte
	for line := range bytes.Lines(lines) {
		out = append(out, standOut(line)...)
	}
	return out
}

// placeAhead is a place at the beginning of a line, as path:line:col.
var placeAhead = regexp.MustCompile(`^([^{\s][^\n]*?)(:[0-9]+:[0-9]+:?)(?:\s|$)`)

// standOut has the path at the beginning of a line stand out, by its weight and not by a colour, so that it is seen on any background.
func standOut(line []byte) []byte {
	m := placeAhead.FindSubmatchIndex(line)
	if m == nil {
		return line
	}
	return slices.Concat([]byte("\x1b[1m"), line[:m[3]], []byte("\x1b[22m\x1b[2m"), line[m[4]:m[5]], []byte("\x1b[22m"), line[m[5]:])
}

// The values of --color.
const (
	colorAuto   = "auto"
	colorAlways = "always"
	colorNever  = "never"
)

// wantsColor says whether what is printed is to be more than plain, by what was chosen, or else by what the environment says, in the way
// that has become usual.
func wantsColor(chosen string, terminal bool, env func(string) string) bool {
	switch {
	case chosen == colorAlways:
		return true
	case chosen == colorNever || env("NO_COLOR") != "":
		return false
	case env("CLICOLOR_FORCE") != "" && env("CLICOLOR_FORCE") != "0":
		return true
	}
	return terminal && env("TERM") != "dumb" && env("CLICOLOR") != "0"
}

// outputs are what a command prints on: on a terminal nothing of a project's own steers it. Lines
// for other programs are left as they are; what goes wrong is for people in any case. color is what was chosen by --color, which is
// looked at when something is printed.
func outputs(stdout, stderr io.Writer, color *string) (out, errs io.Writer, flush func() error) {
	wrapped := &visible{to: stderr}
	tty := isTerminal(stdout)
	lines := &visible{to: stdout, plain: !tty, styled: func() bool { return wantsColor(*color, tty, os.Getenv) }}
	return lines, wrapped, func() error { return errors.Join(lines.flush(), wrapped.flush()) }
}

// terminal is the file of a terminal that somebody prints on or reads from; nil if it is none.
func terminal(s any) *os.File {
	if v, ok := s.(*visible); ok {
		s = v.to
	}
	if f, ok := s.(*os.File); ok && term.IsTerminal(f.Fd()) {
		return f
	}
	return nil
}

func isTerminal(s any) bool { return terminal(s) != nil }

// plainWords takes the words of libraries out of a message about the arguments.
func plainWords(err error) error {
	words := err.Error()
	switch {
	case strings.HasPrefix(words, "unknown command "):
		words = "there is no command" + strings.TrimPrefix(firstQuoted(words), "unknown command") + "; rooktrail --help lists them, and a file or folder has to be there to be opened"
	case strings.HasPrefix(words, "unknown flag: "):
		words = "there is no option " + strings.TrimPrefix(words, "unknown flag: ") + "; --help lists them"
	case strings.HasPrefix(words, "unknown shorthand flag: "):
		words = "there is no such option; --help lists them"
	case strings.HasPrefix(words, "flag needs an argument: "):
		words = "the option " + strings.TrimPrefix(words, "flag needs an argument: ") + " needs a value"
	case strings.HasPrefix(words, "invalid argument "):
		words, _, _ = strings.Cut(words, ": strconv.")
	case strings.HasPrefix(words, "requires at least "), strings.HasPrefix(words, "accepts "):
		words = "that is not the right number of arguments; --help shows how it is used"
	default:
		return err
	}
	return errors.New(words)
}

// firstQuoted is a message up to the end of the first part in quotes.
func firstQuoted(s string) string {
	parts := strings.SplitN(s, "\"", 3)
	if len(parts) < 3 {
		return s
	}
	return parts[0] + "\"" + parts[1] + "\""
}
