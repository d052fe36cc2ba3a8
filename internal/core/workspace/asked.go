package workspace

import (
	"io"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
)

// Asked answers one question to a compiler, if the arguments of the program are those with which it is begun anew for that: what
// may crash or hang has a process of its own.
func Asked(args []string, in io.Reader, out io.Writer) (asked bool, err error) {
	if len(args) != 1 {
		return false, nil
	}
	for _, l := range catalog.Set().All() {
		if command := l.Units.Command(); command != "" && command == args[0] {
			return true, l.Units.Serve(in, out)
		}
	}
	return false, nil
}

// AskedAlone says whether compilers are asked about a file by itself, not about all of its folder.
func AskedAlone(path string) bool {
	l := catalog.Set().Of(path)
	return l != nil && l.Units != lang.NoUnits
}
