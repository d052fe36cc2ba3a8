package lang

import (
	"context"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/shared"
)

// Surroundings know what other files of a project say of how one is to be read, as
// headers do of what includes them. They are used by several goroutines.
type Surroundings interface {
	// Facts reads a file at a path as a language; see Extractor.
	Facts(ctx context.Context, l *Language, path string, text []byte) (*facts.File, error)
	// Digest stands for all that other files say of how one is to be read.
	Digest(path string, text []byte) string
	// Words stands for what a build says of how files are read; "" if nothing does.
	Words() string
	// Command is how a file is compiled: the arguments, and whether a build says so.
	Command(path string) (arguments []string, said bool)
	// Changed is told that a file is not as it was any more. It gives the names because
	// of which files that mention them may have to be read otherwise; known is false if it is not known what it said before.
	Changed(path string) (names []string, known bool)
	// Says is all because of which files that mention it may be read as they are.
	Says(path string) (names []string)
}

// NoSurroundings is for languages whose files say all of it themselves.
func NoSurroundings(*Language, Project) Surroundings { return nil }

// ReadAt reads all facts of a file at a path in the surroundings, which may be nil.
func (l *Language) ReadAt(ctx context.Context, s Surroundings, path string, text []byte) (*facts.File, error) {
	if s == nil {
		return l.Read(ctx, text)
	}
	f, err := s.Facts(ctx, l, path, text)
	if err == nil {
		f.Shared = shared.Sort(l.Shared(text, f))
	}
	return f, err
}
