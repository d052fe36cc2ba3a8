package vcs

import (
	"bytes"
	"context"
	"maps"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/door"
)

// mostRenames bounds how often a file is followed from one name to the next.
const mostRenames = 50

// Renamed finds under which paths files lie now that were once at others, relative to
// dir; those that were deleted or that git knows nothing of are left out. Renames that are not
// committed yet are told by what the files hold. The history is gone through once for all files,
// and once more for each time that one of them was renamed.
func Renamed(ctx context.Context, dir string, files ...string) map[string]string {
	found, at := map[string]string{}, map[string]string{} // at: where the trace of a file leads so far
	seen := map[[2]string]bool{}
	for _, f := range files {
		if door.Inside(f) {
			at[f] = f
		}
	}
	for range mostRenames {
		if len(at) == 0 || ctx.Err() != nil {
			break
		}
		asked := slices.Sorted(maps.Values(at))
		next := renamedHere(ctx, dir, asked)
		maps.Copy(next, renamedInHistory(ctx, dir, slices.DeleteFunc(asked, func(f string) bool { return next[f] != "" })))
		for file, now := range at {
			seen[[2]string{file, now}] = true
			to := next[now]
			switch {
			case to == "" || !door.Inside(to) || seen[[2]string{file, to}]:
				delete(at, file)
			case isFile(dir, to):
				found[file] = to
				delete(at, file)
			default:
				at[file] = to
			}
		}
	}
	return found
}

func isFile(dir, file string) bool {
	info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(file)))
	return err == nil && info.Mode().IsRegular()
}

// renamedInHistory asks the commits that took paths away where the files went.
func renamedInHistory(ctx context.Context, dir string, files []string) map[string]string {
	to := map[string]string{}
	if len(files) == 0 {
		return to
	}
	args := []string{"rev-list", "HEAD", "--"}
	for _, f := range files {
		args = append(args, literal(f))
	}
	commits, err := output(ctx, dir, args...)
	if err != nil || len(commits) == 0 {
		return to
	}
	out, err := told(ctx, dir, bytes.NewReader(commits), "diff-tree", "--stdin", "-r", "-M", "-z", "--root", "--no-commit-id", "--name-status", "--diff-filter=R", "--relative", "--no-ext-diff", "--no-textconv")
	if err != nil {
		return to
	}
	wanted := map[string]bool{}
	for _, f := range files {
		wanted[f] = true
	}
	parts := strings.Split(string(out), "\x00") // the letter with how alike they are, from, to
	for i := 0; i+2 < len(parts); i += 3 {
		if from := parts[i+1]; wanted[from] && to[from] == "" { // the latest comes first
			to[from] = parts[i+2]
		}
	}
	return to
}

// literal is a path that git takes as it is.
func literal(file string) string { return ":(literal)" + file }

// What is compared with a file that is gone: at most so many new files, of at most so
// many bytes.
const (
	mostCandidates   = 300
	largestCandidate = 1 << 20
)

// renamedHere finds the new files that hold what the last commit has at paths.
func renamedHere(ctx context.Context, dir string, files []string) map[string]string {
	to := map[string]string{}
	var texts map[string][]byte // of the new files, read when the first is compared
	for _, file := range files {
		was, err := output(ctx, dir, "cat-file", "blob", "HEAD:./"+file)
		if err != nil || len(was) == 0 || len(was) > largestCandidate {
			continue
		}
		if texts == nil {
			texts = newTexts(ctx, dir)
		}
		most := alikeEnough
		for _, p := range slices.Sorted(maps.Keys(texts)) {
			if path.Ext(p) != path.Ext(file) {
				continue
			}
			if a := alike(was, texts[p]); a > most {
				to[file], most = p, a
			}
		}
	}
	return to
}

// newTexts are the files that the last commit does not have, with what they hold.
func newTexts(ctx context.Context, dir string) map[string][]byte {
	texts := map[string][]byte{}
	changed, err := Changed(ctx, dir)
	if err != nil {
		return texts
	}
	for _, c := range changed {
		if !c.New || len(texts) == mostCandidates {
			continue
		}
		if now, err := door.ReadWithin(dir, c.Path, largestCandidate); err == nil {
			texts[c.Path] = now
		}
	}
	return texts
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
