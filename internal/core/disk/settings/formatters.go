package settings

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os/exec"
	"path"
	"strings"
	"time"
)

// formatTime is how long a formatter may take.
const formatTime = 10 * time.Second

// Format puts a text into its usual form with the command that is set for its file; ok is false
// if none is. dir is where the command runs.
func (s *Settings) Format(ctx context.Context, dir, file string, text []byte) (out []byte, ok bool, err error) {
	command, ok := s.commands(Formatters)[path.Ext(file)]
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
