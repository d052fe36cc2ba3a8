// Package system hands places over to the other programs of the system: the clipboard of the
// system, the editor the user has chosen, the program that the desktop opens a
// file with. Which programs those are is the user's own setting; nothing that a
// project brings has a say in it.
package system

import (
	"context"
	"errors"
	"fmt"
	"os/exec"
	"runtime"
	"strconv"
	"strings"
	"time"

	"rooktrail/internal/core/work"

	"github.com/atotto/clipboard"
)

// ErrNoClipboard says that the system has no clipboard, as on a machine that one
// is connected to from afar.
var ErrNoClipboard = errors.New("this system has no clipboard of its own")

// clipboardWithin is how long the system's clipboard may take.
const clipboardWithin = 3 * time.Second

// Copy puts a text into the clipboard of the system.
func Copy(ctx context.Context, text string) error {
	if clipboard.Unsupported {
		return ErrNoClipboard
	}
	ctx, cancel := context.WithTimeout(ctx, clipboardWithin)
	defer cancel()
	done := make(chan error, 1)
	go func() { // which nobody waits for if it hangs
		var err error
		if failed := work.Try(func() { err = clipboard.WriteAll(text) }); failed != nil {
			err = failed
		}
		done <- err
	}()
	select {
	case err := <-done:
		if err != nil {
			return fmt.Errorf("copying to the clipboard of the system: %w", err)
		}
		return nil
	case <-ctx.Done():
		return fmt.Errorf("copying to the clipboard of the system: it does not answer: %w", ctx.Err())
	}
}

// Paste is what the clipboard of the system holds.
func Paste(ctx context.Context) (string, error) {
	if clipboard.Unsupported {
		return "", ErrNoClipboard
	}
	ctx, cancel := context.WithTimeout(ctx, clipboardWithin)
	defer cancel()
	type answer struct {
		text string
		err  error
	}
	done := make(chan answer, 1)
	go func() { // the same
		var a answer
		if failed := work.Try(func() { a.text, a.err = clipboard.ReadAll() }); failed != nil {
			a = answer{err: failed}
		}
		done <- a
	}()
	select {
	case a := <-done:
		if a.err != nil {
			return "", fmt.Errorf("asking the clipboard of the system: %w", a.err)
		}
		return a.text, nil
	case <-ctx.Done():
		return "", fmt.Errorf("asking the clipboard of the system: it does not answer: %w", ctx.Err())
	}
}

// ErrNoEditor says that the user has not said which editor to use.
var ErrNoEditor = errors.New("no editor is chosen: set EDITOR, for example in your shell's profile")

// Editor is the command that opens a file, an absolute path, at a line, counted
// from 1, in the editor the user has chosen by VISUAL or else EDITOR. The line
// goes in front of the path as +LINE, which most editors understand; where they
// do not, the variable may say where path and line belong, as in
//
//	EDITOR='my-editor --line {line} {path}'
//
// lookup reads a variable of the environment.
func Editor(lookup func(string) string, path string, line int) (*exec.Cmd, error) {
	editor := lookup("VISUAL")
	if strings.TrimSpace(editor) == "" {
		editor = lookup("EDITOR")
	}
	if strings.TrimSpace(editor) == "" {
		return nil, ErrNoEditor
	}
	// The shell takes the variable apart, as it may hold quotes and options;
	// path and line reach it as arguments, so nothing in them is obeyed.
	if strings.Contains(editor, "{path}") {
		script := strings.NewReplacer("{path}", `"$1"`, "{line}", `"$2"`).Replace(editor)
		return exec.Command("sh", "-c", script, "sh", path, strconv.Itoa(line)), nil
	}
	return exec.Command("sh", "-c", editor+` "$@"`, "sh", "+"+strconv.Itoa(line), path), nil
}

// Open opens a file, an absolute path, with the program that the desktop has for
// it, and returns when that has taken it.
func Open(ctx context.Context, path string) error {
	name := "xdg-open"
	if runtime.GOOS == "darwin" {
		name = "open"
	}
	program, err := exec.LookPath(name)
	if err != nil {
		return fmt.Errorf("opening it with the desktop's program: there is no %s here", name)
	}
	if out, err := exec.CommandContext(ctx, program, path).CombinedOutput(); err != nil {
		words := strings.TrimSpace(string(out))
		if words == "" {
			words = err.Error()
		}
		first, _, _ := strings.Cut(words, "\n")
		return fmt.Errorf("opening it with the desktop's program: %s", first)
	}
	return nil
}
