// Package demo holds the demo project, tarnwell: the software of a mountain
// rescue service that does not exist.
package demo

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"strings"
)

// Name is what the demo project is called.
const Name = "tarnwell"

// The files lie in a folder that Go passes over, and go.mod under a name that
// does not make it a module of its own: it could not be embedded then.
//
//go:embed all:_tarnwell
var files embed.FS

const (
	folder  = "_" + Name
	modFile = "_go.mod"
)

// Unpack writes the demo project into a new folder, and gives it its history
// if git is installed. The folder is made.
func Unpack(ctx context.Context, dir string) error {
	texts, err := read()
	if err != nil {
		return fmt.Errorf("unpacking the demo: %w", err)
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return fmt.Errorf("unpacking the demo: %w", err)
	}
	if err := makeHistory(ctx, dir, texts); err != nil && !errors.Is(err, exec.ErrNotFound) {
		return fmt.Errorf("making the history of the demo: %w", err)
	}
	if err := write(dir, texts); err != nil {
		return fmt.Errorf("unpacking the demo: %w", err)
	}
	return nil
}

// read returns the text of each file by its path in the project.
func read() (map[string]string, error) {
	texts := map[string]string{}
	err := fs.WalkDir(files, folder, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := files.ReadFile(p)
		if err != nil {
			return err
		}
		name := strings.TrimPrefix(p, folder+"/")
		if path.Base(name) == modFile {
			name = path.Join(path.Dir(name), "go.mod")
		}
		texts[name] = string(data)
		return nil
	})
	return texts, err
}

func write(dir string, texts map[string]string) error {
	for name, text := range texts {
		p := filepath.Join(dir, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(p), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(p, []byte(text), 0o644); err != nil {
			return err
		}
	}
	return nil
}
