// Package snippet keeps texts of the user's own that are written again and again: each has a word by which it is
// inserted, and lies with the others of its language in a plain file.
package snippet

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"unicode"

	"github.com/pelletier/go-toml/v2"

	"rooktrail/internal/core/disk/atomicfile"
)

// Snippet is a text with places to fill in; see write.ParseTemplate.
type Snippet struct {
	// Word is what it is inserted by.
	Word string `toml:"-"`
	// About says in a few words what it is; mostly "".
	About string `toml:"about"`
	Text  string `toml:"text"`
}

// All is the name of the file of those that are for every language.
const All = "all"

// Store keeps snippets in a folder, a file for each language.
type Store struct{ folder string }

// NewStore keeps snippets in a folder, which is made when the first is kept.
func NewStore(folder string) *Store { return &Store{folder} }

// File is that of the snippets of a language, by its name, or of All.
func (st *Store) File(language string) string {
	name := strings.Map(func(r rune) rune {
		if r == '/' || r == '\\' || unicode.IsSpace(r) {
			return '-'
		}
		return unicode.ToLower(r)
	}, language)
	return filepath.Join(st.folder, fmt.Sprintf("%s.toml", name))
}

// Of are the snippets of a language, and those for every language, by their words. What a file has that is not well
// formed is an error; what can be had is there all the same.
func (st *Store) Of(language string) (all []Snippet, err error) {
	var wrong []error
	seen := map[string]bool{}
	for _, name := range []string{language, All} {
		if name == "" {
			continue
		}
		some, err := read(st.File(name))
		if err != nil {
			wrong = append(wrong, err)
		}
		for _, s := range some {
			if !seen[s.Word] { // those of the language go before those of all
				seen[s.Word] = true
				all = append(all, s)
			}
		}
	}
	slices.SortFunc(all, func(a, b Snippet) int { return strings.Compare(a.Word, b.Word) })
	return all, errors.Join(wrong...)
}

func read(file string) (all []Snippet, err error) {
	data, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	var kept map[string]Snippet
	if err == nil {
		err = toml.Unmarshal(data, &kept)
	}
	if err != nil {
		var at *toml.DecodeError
		if errors.As(err, &at) {
			line, col := at.Position()
			return nil, fmt.Errorf("%s:%d:%d: %s; it has a table for each word, with text = '''…''' in it", file, line, col, at.Error())
		}
		return nil, fmt.Errorf("reading snippets from %s: %w", file, err)
	}
	for word, s := range kept {
		s.Word = word
		s.Text = strings.TrimSuffix(s.Text, "\n")
		if s.Text == "" {
			err = fmt.Errorf("%s: [%s] has no text", file, word)
			continue
		}
		all = append(all, s)
	}
	return all, err
}

// The errors that say why a snippet is not kept.
var (
	ErrWord  = errors.New("the word may hold letters, digits, - and _")
	ErrThere = errors.New("there is one with this word already")
)

// Keep adds a snippet to those of a language. Nothing else in its file is changed.
func (st *Store) Keep(language string, s Snippet) error {
	file := st.File(language)
	failed := func(err error) error { return fmt.Errorf("keeping %q in %s: %w", s.Word, file, err) }
	if s.Word == "" || strings.ContainsFunc(s.Word, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '-' && r != '_' }) {
		return failed(ErrWord)
	}
	there, err := read(file)
	if err != nil {
		return failed(err)
	}
	if slices.ContainsFunc(there, func(o Snippet) bool { return o.Word == s.Word }) {
		return failed(ErrThere)
	}
	body, err := toml.Marshal(map[string]Snippet{s.Word: s})
	if err != nil {
		return failed(err)
	}
	data, err := os.ReadFile(file)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return failed(err)
	}
	if len(data) > 0 {
		data = append([]byte(strings.TrimRight(string(data), "\n")), "\n\n"...)
	}
	if err := atomicfile.Write(file, append(data, body...), 0o644); err != nil {
		return failed(err)
	}
	return nil
}
