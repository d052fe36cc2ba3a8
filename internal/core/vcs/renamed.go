package vcs

import (
	"bytes"
	"context"
	"os"
	"path"
	"path/filepath"
	"strings"
)

// mostRenames bounds how often a file is followed from one name to the next.
const mostRenames = 50

// Renamed finds under which path a file lies now that was once at another, relative to
// dir; "" if it was deleted or git knows nothing of it. Renames that are not committed
// yet are told by what the files hold.
func Renamed(ctx context.Context, dir, file string) string {
	seen := map[string]bool{}
	for range mostRenames {
		seen[file] = true
		next := renamedHere(ctx, dir, file)
		if next == "" {
			next = renamedInHistory(ctx, dir, file)
		}
		if next == "" || seen[next] {
			return ""
		}
		if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(next))); err == nil && info.Mode().IsRegular() {
			return next
		}
		file = next
	}
	return ""
}

// renamedInHistory asks the commit that took a path away where its file went.
func renamedInHistory(ctx context.Context, dir, file string) string {
	out, err := output(ctx, dir, "log", "-1", "--format=%H", "--no-renames", "--diff-filter=D", "--no-ext-diff", "--no-textconv", "--", literal(file))
	commit := strings.TrimSpace(string(out))
	if err != nil || commit == "" {
		return ""
	}
	out, err = output(ctx, dir, "diff-tree", "-r", "-M", "-z", "--no-commit-id", "--name-status", "--diff-filter=R", "--relative", "--no-ext-diff", "--no-textconv", commit)
	if err != nil {
		return ""
	}
	parts := strings.Split(string(out), "\x00") // the letter with how alike they are, from, to
	for i := 0; i+2 < len(parts); i += 3 {
		if parts[i+1] == file {
			return parts[i+2]
		}
	}
	return ""
}

// literal is a path that git takes as it is.
func literal(file string) string { return ":(literal)" + file }

// What is compared with a file that is gone: at most so many new files, of at most so
// many bytes.
const (
	mostCandidates   = 300
	largestCandidate = 1 << 20
)

// renamedHere finds the new file that holds what the last commit has at a path.
func renamedHere(ctx context.Context, dir, file string) string {
	was, err := output(ctx, dir, "cat-file", "blob", "HEAD:./"+file)
	if err != nil || len(was) == 0 {
		return ""
	}
	changed, err := Changed(ctx, dir)
	if err != nil {
		return ""
	}
	best, most, tried := "", alikeEnough, 0
	for _, c := range changed {
		if !c.New || path.Ext(c.Path) != path.Ext(file) || tried == mostCandidates {
			continue
		}
		full := filepath.Join(dir, filepath.FromSlash(c.Path))
		info, err := os.Stat(full)
		if err != nil || !info.Mode().IsRegular() || info.Size() > largestCandidate {
			continue
		}
		tried++
		now, err := os.ReadFile(full)
		if err != nil {
			continue
		}
		if a := alike(was, now); a > most {
			best, most = c.Path, a
		}
	}
	return best
}

// alikeEnough is the share of lines from which on two files are taken for the same one.
const alikeEnough = 0.5

// alike is the share of the lines of the longer of two texts that both have.
func alike(a, b []byte) float64 {
	count, common := map[string]int{}, 0
	x, y := bytes.Split(a, []byte("\n")), bytes.Split(b, []byte("\n"))
	for _, l := range x {
		count[string(bytes.TrimSpace(l))]++
	}
	for _, l := range y {
		if l := string(bytes.TrimSpace(l)); count[l] > 0 {
			count[l]--
			common++
		}
	}
	return float64(common) / float64(max(len(x), len(y)))
}
