// Package settings is what the user has set: a TOML file of their own, never one of the
// project.
package settings

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path"
	"strings"
	"time"

	"github.com/pelletier/go-toml/v2"
)

// Settings are what the user has set. The zero Settings are those without a file.
type Settings struct {
	// Plain says that Go code is saved as it is written, not in its usual form.
	Plain bool
	// Silent says that names are only completed when that is asked for.
	Silent bool
	// formatters are commands that put a file into its usual form when it is saved, by the
	// ending of its name: they are given the text and print it anew.
	formatters map[string][]string
}

// file is how the settings are written.
type file struct {
	Write struct {
		FormatGo *bool `toml:"format_go"`
		Complete *bool `toml:"complete"`
	} `toml:"write"`
	Formatters map[string][]string `toml:"formatters"`
}

// Load reads settings; a file that is not there is that of somebody who has set nothing. The
// error says in which line a file is wrong.
func Load(name string) (Settings, error) {
	data, err := os.ReadFile(name)
	if errors.Is(err, os.ErrNotExist) {
		return Settings{}, nil
	}
	if err != nil {
		return Settings{}, fmt.Errorf("reading the settings: %w", err)
	}
	var f file
	if err := toml.NewDecoder(bytes.NewReader(data)).DisallowUnknownFields().Decode(&f); err != nil {
		return Settings{}, fmt.Errorf("the settings in %s are not used: %w%s", name, err, where(err))
	}
	s := Settings{formatters: map[string][]string{}}
	s.Plain = f.Write.FormatGo != nil && !*f.Write.FormatGo
	s.Silent = f.Write.Complete != nil && !*f.Write.Complete
	for ending, command := range f.Formatters {
		if len(command) == 0 || !strings.HasPrefix(ending, ".") {
			return Settings{}, fmt.Errorf("the settings in %s are not used: the formatter for %q wants an ending such as \".py\" and a command", name, ending)
		}
		s.formatters[ending] = command
	}
	return s, nil
}

// where says in which line a file is wrong.
func where(err error) string {
	var wrong *toml.DecodeError
	var unknown *toml.StrictMissingError
	switch {
	case errors.As(err, &unknown) && len(unknown.Errors) > 0:
		row, _ := unknown.Errors[0].Position()
		return fmt.Sprintf(": %s in line %d is not known", strings.Join(unknown.Errors[0].Key(), "."), row)
	case errors.As(err, &wrong):
		row, _ := wrong.Position()
		return fmt.Sprintf(", in line %d", row)
	}
	return ""
}

// formatTime is how long a formatter may take.
const formatTime = 10 * time.Second

// Format puts a text into its usual form with the command that is set for its file; ok is false
// if none is. dir is where the command runs.
func (s *Settings) Format(ctx context.Context, dir, file string, text []byte) (out []byte, ok bool, err error) {
	command, ok := s.formatters[path.Ext(file)]
	if !ok {
		return text, false, nil
	}
	ctx, cancel := context.WithTimeout(ctx, formatTime)
	defer cancel()
	cmd := exec.CommandContext(ctx, command[0], command[1:]...)
	cmd.Dir, cmd.Stdin = dir, bytes.NewReader(text)
	var said bytes.Buffer
	cmd.Stderr = &said
	out, err = cmd.Output()
	if err == nil && len(out) == 0 && len(text) > 0 {
		err = errors.New("it printed nothing")
	}
	if err != nil {
		first, _, _ := strings.Cut(strings.TrimSpace(said.String()), "\n")
		return text, true, fmt.Errorf("%s: %w %s", command[0], err, first)
	}
	return out, true, nil
}
