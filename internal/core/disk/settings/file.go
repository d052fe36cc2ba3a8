package settings

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"rooktrail/internal/core/disk/door"
	"slices"
	"strings"

	"github.com/pelletier/go-toml/v2"
	"github.com/pelletier/go-toml/v2/unstable"
)

// Problem is something in a file of settings that does not count.
type Problem struct {
	File string
	// Line and Col are counted from 1, Col in bytes.
	Line, Col int
	// Words say what is wrong, and what to do.
	Words string
}

// Error implements error.
func (p Problem) Error() string { return fmt.Sprintf("%s:%d:%d: %s", p.File, p.Line, p.Col, p.Words) }

// ProjectFile is where a project has its settings, from its root.
const ProjectFile = ".rooktrail/settings.toml"

// Load reads the settings of a user from their file and those that the project at a root brings; "" or a
// file that is not there is that of somebody who has set nothing. What is wrong in a file is left out and
// told; all else counts.
func Load(user, root string) (s Settings, problems []Problem) {
	read := func(name string, by Source, data []byte, err error) {
		if err == nil {
			problems = append(problems, s.take(data, name, by)...)
		} else if !errors.Is(err, os.ErrNotExist) {
			problems = append(problems, Problem{name, 1, 1, "the settings cannot be read: " + err.Error()})
		}
	}
	if root != "" {
		data, err := door.ReadSettings(root, filepath.Join(root, filepath.FromSlash(ProjectFile)))
		read(ProjectFile, ByProject, data, err)
	}
	if user != "" {
		data, err := os.ReadFile(user)
		read(user, ByUser, data, err)
	}
	return s, problems
}

// take takes over what a file says.
func (s *Settings) take(data []byte, name string, by Source) (problems []Problem) {
	found, wrong := Entries(data)
	for _, w := range wrong {
		w.File = name
		problems = append(problems, w)
	}
	for _, e := range found {
		if err := s.set(e, by); err != nil {
			problems = append(problems, Problem{name, e.Line, e.Col, err.Error()})
		}
	}
	return problems
}

// set takes over one entry.
func (s *Settings) set(e Entry, by Source) error {
	set, inside, ok := settingOf(e.Key)
	switch {
	case !ok:
		return fmt.Errorf("%s is not known%s", strings.Join(e.Key, "."), nearest(e.Key))
	case by == ByProject && !set.Shared:
		return fmt.Errorf("%s is for your own settings; a project cannot say it", set.Key)
	}
	value, err := set.read(e.Value)
	if err != nil && inside == "" {
		return err
	}
	if inside != "" {
		if value, err = set.read(map[string]any{inside: e.Value}); err != nil {
			return err
		}
		value = merged(s.layers[by-1][set.Key], value)
	}
	*s = s.With(set.Key, value, by)
	return nil
}

// settingOf is the setting that a key of the file is about; inside is the entry of it, if it is a table.
func settingOf(key []string) (set Setting, inside string, ok bool) {
	if set, ok = ByKey(strings.Join(key, ".")); ok {
		return set, "", true
	}
	last := len(key) - 1
	if set, ok = ByKey(strings.Join(key[:last], ".")); ok && (set.Kind == Words || set.Kind == Commands) {
		return set, key[last], true
	}
	return Setting{}, "", false
}

// nearest names the setting that may be meant by a key that is none.
func nearest(key []string) string {
	last := key[len(key)-1]
	for _, s := range All() {
		if _, name, _ := strings.Cut(s.Key, "."); name == last || s.Key == last {
			return "; is " + s.Key + " meant?"
		}
	}
	return ""
}

// merged puts the entries of two tables together.
func merged(have, more any) any {
	switch m := more.(type) {
	case map[string]string:
		out := map[string]string{}
		h, _ := have.(map[string]string)
		for _, all := range []map[string]string{h, m} {
			for k, v := range all {
				out[k] = v
			}
		}
		return out
	case map[string][]string:
		out := map[string][]string{}
		h, _ := have.(map[string][]string)
		for _, all := range []map[string][]string{h, m} {
			for k, v := range all {
				out[k] = v
			}
		}
		return out
	}
	return more
}

// read makes a value of a setting of what a file has.
func (s *Setting) read(v any) (value any, err error) {
	switch s.Kind {
	case Switch:
		on, ok := v.(bool)
		if !ok {
			return nil, fmt.Errorf("%s is true or false", s.Key)
		}
		value = on
	case Choice:
		text, ok := v.(string)
		if !ok || !slices.Contains(s.Values, text) {
			return nil, fmt.Errorf("%s is one of \"%s\"", s.Key, strings.Join(s.Values, `", "`))
		}
		value = text
	case Number:
		n, ok := v.(int64)
		if !ok || int(n) < s.Least || int(n) > s.Most {
			return nil, fmt.Errorf("%s is a number from %d to %d", s.Key, s.Least, s.Most)
		}
		value = int(n)
	case Texts:
		texts, ok := textsOf(v)
		if !ok {
			return nil, fmt.Errorf("%s is a list of texts: [\"a\", \"b\"]", s.Key)
		}
		value = texts
	case Words, Commands:
		if value, err = s.readTable(v); err != nil {
			return nil, err
		}
	}
	if s.Check != nil {
		if err := s.Check(value); err != nil {
			return nil, fmt.Errorf("%s: %w", s.Key, err)
		}
	}
	return value, nil
}

func (s *Setting) readTable(v any) (any, error) {
	table, ok := v.(map[string]any)
	if !ok {
		return nil, fmt.Errorf("%s is a table: [%s]", s.Key, s.Key)
	}
	words, commands := map[string]string{}, map[string][]string{}
	for k, v := range table {
		if s.Kind == Words {
			if words[k], ok = v.(string); !ok {
				return nil, fmt.Errorf("%s: what stands for %q is a text", s.Key, k)
			}
			continue
		}
		if commands[k], ok = textsOf(v); !ok || len(commands[k]) == 0 {
			return nil, fmt.Errorf("%s: what stands for %q is a list: [\"one\", \"another\"]", s.Key, k)
		}
	}
	if s.Kind == Words {
		return words, nil
	}
	return commands, nil
}

func textsOf(v any) (texts []string, ok bool) {
	all, ok := v.([]any)
	if !ok {
		return nil, false
	}
	for _, one := range all {
		text, ok := one.(string)
		if !ok {
			return nil, false
		}
		texts = append(texts, text)
	}
	return texts, true
}

// Entry is a key of a file with its value.
type Entry struct {
	// Key has the names of its tables in front.
	Key   []string
	Value any
	// Line and Col are counted from 1, Col in bytes.
	Line, Col int
	at        unstable.Range
	table     []string // the table in which it stands
}

// mostWrong is how many lines that are no TOML are left out of a file: it is read anew for each.
const mostWrong = 30

// Entries are the entries of a file. A line that is no TOML is told and left out, and the others are
// read all the same.
func Entries(data []byte) (found []Entry, problems []Problem) {
	data = append([]byte{}, data...)
	for range mostWrong {
		found = found[:0]
		var p unstable.Parser
		p.Reset(data)
		var table []string
		for p.NextExpression() {
			e := p.Expression()
			switch e.Kind {
			case unstable.Table, unstable.ArrayTable:
				table = keyOf(e)
			case unstable.KeyValue:
				start := p.Shape(e.Raw).Start
				entry := Entry{Key: append(append([]string{}, table...), keyOf(e)...), Line: start.Line, Col: start.Column, at: e.Raw, table: table}
				if v, err := valueOf(p.Raw(e.Raw), len(keyOf(e))); err == nil {
					entry.Value = v
					found = append(found, entry)
				} else {
					problems = append(problems, Problem{Line: start.Line, Col: start.Column, Words: err.Error()})
				}
			}
		}
		err := p.Error()
		if err == nil {
			return found, problems
		}
		line, col, words := whereWrong(data, &p, err)
		problems = append(problems, Problem{Line: line, Col: col, Words: words + "; the line does not count"})
		blank(data, line)
	}
	return found, append(problems, Problem{Line: 1, Col: 1, Words: "so many lines are wrong that nothing behind them counts"})
}

// keyOf is the key of an expression, with its parts.
func keyOf(e *unstable.Node) (key []string) {
	for it := e.Key(); it.Next(); {
		key = append(key, string(it.Node().Data))
	}
	return key
}

// valueOf is the value of an entry as it is written, whose key has so many parts.
func valueOf(raw []byte, parts int) (v any, err error) {
	var whole map[string]any
	if err := toml.Unmarshal(raw, &whole); err != nil {
		return nil, err
	}
	v = whole
	for range parts {
		for _, inner := range v.(map[string]any) {
			v = inner
		}
	}
	return v, nil
}

// whereWrong is where a file is no TOML, and why.
func whereWrong(data []byte, p *unstable.Parser, err error) (line, col int, words string) {
	var wrong *unstable.ParserError
	if !errors.As(err, &wrong) {
		return 1, 1, err.Error()
	}
	at := 0
	if len(wrong.Highlight) > 0 {
		at = int(p.Range(wrong.Highlight).Offset)
	} else {
		at = len(data)
	}
	before := string(data[:min(at, len(data))])
	return 1 + strings.Count(before, "\n"), at - strings.LastIndexByte(before, '\n'), wrong.Message
}

// blank makes a line, counted from 1, one that says nothing.
func blank(data []byte, line int) {
	n := 1
	for i := range data {
		if data[i] == '\n' {
			n++
		} else if n == line {
			data[i] = ' '
		}
	}
}
