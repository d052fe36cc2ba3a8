package vcs

import (
	"bytes"
	"context"
)

// Tracked are the paths of the files below a folder that git tracks, relative to
// it; an error if it cannot be asked.
func Tracked(ctx context.Context, dir string) (paths []string, err error) {
	out, err := output(ctx, dir, "ls-files", "-z", "--cached")
	if err != nil {
		return nil, err
	}
	for p := range bytes.SplitSeq(out, []byte{0}) {
		if len(p) > 0 {
			paths = append(paths, string(p))
		}
	}
	return paths, nil
}
