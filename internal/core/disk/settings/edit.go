package settings

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"

	"github.com/pelletier/go-toml/v2"
	"github.com/pelletier/go-toml/v2/unstable"

	"rooktrail/internal/core/disk/atomicfile"
)

// Keep writes the value of a setting into a file, or takes it out where value is nil; what else stands
// in it, with all comments, stays as it is. A file that is not there is made.
func Keep(file, key string, value any) error {
	set, ok := ByKey(key)
	if !ok {
		return fmt.Errorf("setting %s: there is no such setting", key)
	}
	return Put(file, set.Key, value)
}

// Put is Keep for any file of TOML and any key with its table, such as "keys.references".
func Put(file, key string, value any) error { return PutAt(file, strings.SplitN(key, ".", 2), value) }

// PutAt is Put for a key in a table within tables: its parts, of which the last is its own.
func PutAt(file string, path []string, value any) error {
	key := dotted(path)
	data, err := os.ReadFile(file)
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("setting %s: %w", key, err)
	}
	out, err := edit(data, path, value)
	if err != nil {
		return fmt.Errorf("setting %s in %s: %w", key, file, err)
	}
	if err := atomicfile.Write(file, out, 0o600); err != nil {
		return fmt.Errorf("setting %s: %w", key, err)
	}
	return nil
}

// edit is the text of a file with another value of a setting, or without it.
func edit(data []byte, path []string, value any) ([]byte, error) {
	last := len(path) - 1
	found, _ := Entries(data)
	i := slices.IndexFunc(found, func(e Entry) bool { return strings.Join(e.Key, ".") == strings.Join(path, ".") })
	if value == nil {
		if i < 0 {
			return data, nil
		}
		return without(data, found[i].at), nil
	}
	written, err := literal(value)
	if err != nil {
		return nil, err
	}
	if i >= 0 {
		at := found[i].at
		start, end := int(at.Offset)+valueStart(data[at.Offset:at.Offset+at.Length]), at.Offset+at.Length
		return slices.Concat(data[:start], written, data[end:]), nil
	}
	return added(data, found, path[:last], slices.Concat([]byte(dotted(path[last:])+" = "), written)), nil
}

// dotted is a key with its tables as it is written, in quotes where it has to be.
func dotted(path []string) string {
	parts := make([]string, len(path))
	for i, p := range path {
		parts[i] = p
		if p == "" || strings.ContainsFunc(p, func(r rune) bool {
			return r != '-' && r != '_' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z')
		}) {
			parts[i] = strconv.Quote(p)
		}
	}
	return strings.Join(parts, ".")
}

// valueStart is where the value begins in an entry, behind its key and the sign.
func valueStart(entry []byte) int {
	quote := byte(0)
	for i, c := range entry {
		switch {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '=':
			for i++; i < len(entry) && (entry[i] == ' ' || entry[i] == '\t'); i++ {
			}
			return i
		}
	}
	return len(entry)
}

// literal is a value as it is written.
func literal(value any) ([]byte, error) {
	if text, ok := value.(string); ok && !strings.ContainsFunc(text, func(r rune) bool { return r < ' ' || r == '"' || r == '\\' || r == 0x7f }) {
		return []byte(`"` + text + `"`), nil
	}
	if texts, ok := value.([]string); ok {
		out := []byte("[")
		for i, text := range texts {
			one, err := literal(text)
			if err != nil {
				return nil, err
			}
			if i > 0 {
				out = append(out, ", "...)
			}
			out = append(out, one...)
		}
		return append(out, ']'), nil
	}
	written, err := toml.Marshal(map[string]any{"v": value})
	if err != nil {
		return nil, err
	}
	return bytes.TrimSpace(bytes.TrimPrefix(written, []byte("v = "))), nil
}

// without is a text without the lines of an entry.
func without(data []byte, at unstable.Range) []byte {
	start := bytes.LastIndexByte(data[:at.Offset], '\n') + 1
	end := int(at.Offset + at.Length)
	if n := bytes.IndexByte(data[end:], '\n'); n >= 0 {
		end += n + 1
	} else {
		end = len(data)
	}
	return slices.Concat(data[:start], data[end:])
}

// added is a text with one more line in a table: behind the last of the table, or in a table of its own
// at the end.
func added(data []byte, found []Entry, table []string, line []byte) []byte {
	line = append(slices.Clone(line), '\n')
	last := -1
	for i, e := range found {
		if slices.Equal(e.table, table) {
			last = i
		}
	}
	if last >= 0 {
		at := found[last].at
		end := int(at.Offset + at.Length)
		if n := bytes.IndexByte(data[end:], '\n'); n >= 0 {
			return slices.Concat(data[:end+n+1], line, data[end+n+1:])
		}
		return slices.Concat(data, []byte("\n"), line)
	}
	if len(table) == 0 { // before the first table, since behind it a line would belong to that
		return slices.Concat(line, data)
	}
	if at, ok := header(data, dotted(table)); ok {
		return slices.Concat(data[:at], line, data[at:])
	}
	if len(data) > 0 && data[len(data)-1] != '\n' {
		data = append(slices.Clone(data), '\n')
	}
	if len(data) > 0 {
		data = append(slices.Clone(data), '\n')
	}
	return slices.Concat(data, []byte("["+dotted(table)+"]\n"), line)
}

// header is where the line behind the header of a table begins that has no entries.
func header(data []byte, table string) (at int, ok bool) {
	for line := range bytes.Lines(data) {
		at += len(line)
		if strings.TrimSpace(string(line)) == "["+table+"]" {
			return at, len(line) > 0 && line[len(line)-1] == '\n'
		}
	}
	return 0, false
}
