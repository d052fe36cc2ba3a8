package cli

import (
	"bytes"
	"errors"
	"io"
	"os"
	"strings"

	"github.com/charmbracelet/x/term"
	"golang.org/x/sys/unix"

	"rooktrail/internal/core/file/text"
)

// visible is an output on which what would steer a terminal is written out, line by line.
type visible struct {
	to   io.Writer
	rest []byte // a line that has not ended
}

// longestHeld is how much of a line is kept until it ends, in bytes.
const longestHeld = 1 << 20

// Write implements io.Writer.
func (v *visible) Write(p []byte) (int, error) {
	v.rest = append(v.rest, p...)
	end := bytes.LastIndexByte(v.rest, '\n') + 1
	if end == 0 && len(v.rest) > longestHeld {
		end = len(v.rest)
	}
	if end == 0 {
		return len(p), nil
	}
	_, err := v.to.Write(shown(v.rest[:end]))
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
	_, err := v.to.Write(shown(v.rest))
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

// outputs are what a command prints on: on a terminal nothing of a project's own steers it. Lines
// for other programs are left as they are; what goes wrong is for people in any case.
func outputs(stdout, stderr io.Writer) (out, errs io.Writer, flush func() error) {
	wrapped := &visible{to: stderr}
	out = stdout
	if isTerminal(stdout) {
		out = &visible{to: stdout}
	}
	return out, wrapped, func() error {
		var err error
		if v, ok := out.(*visible); ok {
			err = v.flush()
		}
		return errors.Join(err, wrapped.flush())
	}
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

// errClosed says that a standard file is not there.
var errClosed = errors.New("it is closed")

// checkOpen says whether a standard file is there. Where a program is started without one, its
// run time system puts the empty device in its place, for reading and writing, as nobody else
// would.
func checkOpen(s any) error {
	f, ok := s.(*os.File)
	if !ok {
		return nil
	}
	var at, null unix.Stat_t
	flags, err := unix.FcntlInt(f.Fd(), unix.F_GETFL, 0)
	if err != nil {
		return errClosed
	}
	if unix.Fstat(int(f.Fd()), &at) == nil && unix.Stat(os.DevNull, &null) == nil && at.Mode&unix.S_IFMT == unix.S_IFCHR && at.Rdev == null.Rdev && flags&unix.O_ACCMODE == unix.O_RDWR {
		return errClosed
	}
	return nil
}

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
