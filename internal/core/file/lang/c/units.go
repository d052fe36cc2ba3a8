package c

import (
	"context"
	"io"
	"path"
	"path/filepath"
	"slices"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang/c/clang"
)

// units asks libclang.
type units struct{}

// Compiler implements lang.Units.
func (units) Compiler(said string) string { return clang.Find(said) }

// plainFiles are the endings of files of C that are compiled, plusUnits those of C++.
var plainFiles, plusUnits = []string{".c"}, []string{".cc", ".cpp", ".cxx", ".c++"}

// ownHeaders are where a compiler keeps headers that are its own, such as stddef.h.
var ownHeaders = []string{"/usr/lib/gcc/*/*/include"}

// Compiled implements lang.Units.
func (units) Compiled(base string) bool {
	return slices.Contains(plainFiles, path.Ext(base)) || slices.Contains(plusUnits, path.Ext(base))
}

// Ask implements lang.Units.
func (units) Ask(ctx context.Context, program, compiler, root, file string, arguments []string) (*check.Unit, error) {
	all := []string{"-x", "c"}
	if !slices.Contains(plainFiles, filepath.Ext(file)) {
		all[1] = "c++"
	}
	all = append(all, clang.Arguments(arguments, func(p string) string {
		if filepath.IsAbs(p) {
			return p
		}
		return filepath.Join(root, p)
	})...)
	for _, folder := range library.Matching(ownHeaders...) { // where libclang came without its own
		all = append(all, "-idirafter", folder)
	}
	return clang.Ask(ctx, program, &clang.Request{Library: compiler, Root: root, File: file, Arguments: all})
}

// Command implements lang.Units.
func (units) Command() string { return clang.Command }

// Serve implements lang.Units.
func (units) Serve(in io.Reader, out io.Writer) error { return clang.Serve(in, out) }

// Command implements lang.Surroundings. Where no build says how a file is compiled, headers are looked for where they often are.
func (s *surroundings) Command(p string) (arguments []string, said bool) {
	if w := s.words(p); w != nil {
		return w.arguments, true
	}
	return []string{"-I", ".", "-I", "include", "-I", "src"}, false
}
