package lang

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/lexical"
)

// Writing is what is known of a language of which no facts are had: how its
// files are written.
type Writing struct {
	Extensions []string
	Signs      *lexical.Signs
}

// Set is a choice of languages, found by the names of files.
type Set struct {
	all         []*Language
	byExtension map[string]*Language
	byFile      map[string]*Language
	byName      map[string]*Language
	signs       map[string]*lexical.Signs // of those without facts, by extension
	halves      map[string][]Half         // by what they are halves of
	byUser      []userNamed               // those that the user has said, the first before the others
}

// userNamed is a language of the files whose names match a pattern.
type userNamed struct {
	pattern  string
	language *Language
}

// With is the set in which files whose names match patterns are in languages, by the names of those. It says
// what cannot be.
func (s *Set) With(byPattern map[string]string) (out *Set, problems []string) {
	if len(byPattern) == 0 {
		return s, nil
	}
	with := *s
	with.byUser = nil
	for _, pattern := range slices.Sorted(maps.Keys(byPattern)) {
		i := slices.IndexFunc(s.all, func(l *Language) bool { return strings.EqualFold(l.Name, byPattern[pattern]) })
		switch _, err := path.Match(pattern, ""); {
		case err != nil:
			problems = append(problems, fmt.Sprintf("languages: %q is no pattern of names of files, such as \"*.inc\"", pattern))
		case i < 0:
			problems = append(problems, fmt.Sprintf("languages: there is no language %q; docs/languages.md lists them", byPattern[pattern]))
		default:
			with.byUser = append(with.byUser, userNamed{pattern, s.all[i]})
		}
	}
	return &with, problems
}

// Digest says in what languages files are by what the user has said, in a word that is another one for others;
// "" if nothing was said.
func (s *Set) Digest() string {
	var all []string
	for _, n := range s.byUser {
		all = append(all, n.pattern+"="+n.language.Name)
	}
	if len(all) == 0 {
		return ""
	}
	sum := sha256.Sum256([]byte(strings.Join(all, "\n")))
	return hex.EncodeToString(sum[:6])
}

// NewSet puts languages together. Where two claim an extension or a name, the
// first has it.
func NewSet(languages []*Language, written []Writing) *Set {
	s := &Set{all: languages, byExtension: map[string]*Language{}, byFile: map[string]*Language{}, byName: map[string]*Language{},
		signs: map[string]*lexical.Signs{}, halves: map[string][]Half{}}
	for _, l := range languages {
		for _, e := range l.Files.Extensions {
			claim(s.byExtension, e, l)
		}
		for _, n := range l.Files.Names {
			claim(s.byFile, n, l)
		}
		claim(s.byName, l.Name, l)
		for _, h := range l.Files.Halves {
			s.halves[h.Of] = append(s.halves[h.Of], h)
		}
	}
	for _, w := range written {
		for _, e := range w.Extensions {
			claim(s.signs, e, w.Signs)
		}
	}
	return s
}

func claim[T any](table map[string]*T, key string, value *T) {
	if table[key] == nil {
		table[key] = value
	}
}

// All are the languages.
func (s *Set) All() []*Language { return s.all }

// Of returns the language of a file, or nil if it is none of the set.
func (s *Set) Of(file string) *Language {
	base := path.Base(file)
	for _, n := range s.byUser {
		if ok, _ := path.Match(n.pattern, base); ok {
			return n.language
		}
	}
	if l := s.byFile[base]; l != nil {
		return l
	}
	return s.byExtension[strings.ToLower(path.Ext(base))]
}

// Named returns the language of a name; of several that share it, the first. It
// is nil if there is none.
func (s *Set) Named(name string) *Language { return s.byName[name] }

// Signs are those of the language of a file; nil if they are not known.
func (s *Set) Signs(file string) *lexical.Signs {
	if l := s.Of(file); l != nil {
		return l.Signs
	}
	return s.signs[strings.ToLower(path.Ext(file))]
}

// Family is that of the language of a file. Files of no language are of one
// family if they have the same extension.
func (s *Set) Family(file string) string {
	if l := s.Of(file); l != nil {
		return l.Family
	}
	return strings.ToLower(path.Ext(file))
}

// IsCode says whether a file is in a language that holds code.
func (s *Set) IsCode(file string) bool {
	l := s.Of(file)
	return l != nil && l.Code.Is()
}

// testFolders are what people call folders of tests.
var testFolders = []string{"test", "tests", "__tests__", "testdata"}

// testFiles are what people call files of tests in any language.
var testFiles = []string{"test_*", "*_test.*", "*_tests.*", "*_test", "*_tests", "?*.test.*", "?*.spec.*"}

// IsTest says whether a file holds tests, by what it is called.
func (s *Set) IsTest(file string) bool {
	base := path.Base(file)
	if matches(testFiles, base) || s.HoldsTests(file) {
		return true
	}
	for _, folder := range strings.Split(path.Dir(strings.ToLower(file)), "/") {
		if slices.Contains(testFolders, folder) {
			return true
		}
	}
	return false
}

// HoldsTests says whether the language of a file takes it for nothing but tests.
func (s *Set) HoldsTests(file string) bool {
	l := s.Of(file)
	return l != nil && matches(l.Tests.Files, path.Base(file))
}

// matches says whether a name matches a pattern. Where that has capitals they
// count, as RosterTest is the name of a test and Latest is not.
func matches(patterns []string, base string) bool {
	lower := strings.ToLower(base)
	return slices.ContainsFunc(patterns, func(p string) bool {
		name := base
		if p == strings.ToLower(p) {
			name = lower
		}
		ok, err := path.Match(p, name)
		return ok && err == nil
	})
}

// OtherHalves are the name of a file without its ending, and the endings that
// its other halves have; none if it is whole.
func (s *Set) OtherHalves(file string) (stem string, endings []string) {
	base := path.Base(file)
	l := s.Of(file)
	if l == nil {
		return base, nil
	}
	for _, own := range l.Files.Halves {
		for _, e := range own.Endings {
			if !strings.HasSuffix(strings.ToLower(base), e) || len(base) == len(e) {
				continue
			}
			for _, other := range s.halves[own.Of] {
				if other.Part != own.Part {
					endings = append(endings, other.Endings...)
				}
			}
			return base[:len(base)-len(e)], endings
		}
	}
	return base, nil
}

// Front is the name of the file, among those in a folder, in which that says what
// it is for; "" if no language says.
func (s *Set) Front(folder string, has func(base string) bool) string {
	for _, l := range s.all {
		for _, f := range l.Files.Front {
			if base := strings.ReplaceAll(f, "*", path.Base(folder)); has(base) {
				return base
			}
		}
	}
	return ""
}

// IsInstalled says whether a path lies in a folder into which the tools of a
// language put what others have written.
func (s *Set) IsInstalled(file string) bool {
	for part := range strings.SplitSeq(path.Dir(file), "/") {
		for _, l := range s.all {
			if slices.Contains(l.Files.Installed, part) {
				return true
			}
		}
	}
	return false
}

// Tops are the names of files at the top of a module or package.
func (s *Set) Tops() (names []string) {
	for _, l := range s.all {
		for _, t := range l.Files.Tops {
			if !slices.Contains(names, t) {
				names = append(names, t)
			}
		}
	}
	return names
}
