package vcs

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"
)

// ErrUnmerged says that a file is in the middle of a merge, so that no single text of it can be staged.
var ErrUnmerged = errors.New("it is in the middle of a merge")

// Stage has a file be staged with a text, whatever is on disk; the path is relative to dir. Neither hooks nor filters are
// run.
func Stage(ctx context.Context, dir, file string, content []byte) error {
	mode, err := stagedMode(ctx, dir, file)
	if err != nil {
		return err
	}
	name, err := inRepository(ctx, dir, file)
	if err != nil {
		return err
	}
	id, err := told(ctx, dir, bytes.NewReader(content), "hash-object", "-w", "-t", "blob", "--stdin", "--no-filters")
	if err != nil {
		return fmt.Errorf("staging %s: %w", file, err)
	}
	if _, err := output(ctx, dir, "update-index", "--add", "--cacheinfo", mode+","+strings.TrimSpace(string(id))+","+name); err != nil {
		return fmt.Errorf("staging %s: is something else at work in the repository? %w", file, err)
	}
	return nil
}

// Unstage takes a file out of the stage that the last commit does not have.
func Unstage(ctx context.Context, dir, file string) error {
	if _, err := output(ctx, dir, "update-index", "--force-remove", "--", file); err != nil {
		return fmt.Errorf("taking %s out of the stage: %w", file, err)
	}
	return nil
}

// stagedMode is the mode with which a file is staged, or would be.
func stagedMode(ctx context.Context, dir, file string) (string, error) {
	out, err := output(ctx, dir, "ls-files", "--stage", "-z", "--", file)
	if err != nil {
		return "", err
	}
	entries := strings.Split(strings.TrimRight(string(out), "\x00"), "\x00")
	if len(entries) > 1 || strings.Contains(entries[0], " 1\t") || strings.Contains(entries[0], " 2\t") || strings.Contains(entries[0], " 3\t") {
		return "", fmt.Errorf("%s: %w", path.Base(file), ErrUnmerged)
	}
	if mode, _, ok := strings.Cut(entries[0], " "); ok {
		return mode, nil
	}
	if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(file))); err == nil && info.Mode()&0o111 != 0 {
		return "100755", nil
	}
	return "100644", nil
}

// inRepository is the path of a file from the top of the repository.
func inRepository(ctx context.Context, dir, file string) (string, error) {
	out, err := output(ctx, dir, "rev-parse", "--show-prefix")
	if err != nil {
		return "", err
	}
	return strings.TrimRight(string(out), "\n") + file, nil
}
