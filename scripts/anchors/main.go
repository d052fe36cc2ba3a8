// Anchors measures how well remembered places are found again: it remembers lines of
// public modules in one version, looks for them in a later one, and compares with what
// a line diff of the two says.
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io/fs"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"github.com/go-git/go-git/v5/utils/diff"
	"github.com/sergi/go-diff/diffmatchpatch"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/workspace"
)

// histories are modules in two versions, some a few weeks and some years apart.
var histories = []struct{ module, from, to string }{
	{"github.com/spf13/cobra", "v1.7.0", "v1.8.0"},
	{"github.com/spf13/cobra", "v1.0.0", "v1.8.0"},
	{"github.com/stretchr/testify", "v1.8.0", "v1.9.0"},
	{"github.com/alecthomas/chroma/v2", "v2.5.0", "v2.12.0"},
	{"github.com/go-git/go-git/v5", "v5.4.0", "v5.11.0"},
	{"golang.org/x/tools", "v0.16.0", "v0.17.0"},
	{"golang.org/x/tools", "v0.10.0", "v0.20.0"},
	{"golang.org/x/net", "v0.10.0", "v0.25.0"},
	{"github.com/yuin/goldmark", "v1.4.0", "v1.7.0"},
}

// every is which lines are remembered: each so-manieth that is not blank.
const every = 7

// tally is what became of remembered lines.
type tally struct {
	files int
	// there are the lines that the diff finds again: of these right were found where it
	// says, wrong elsewhere, and the rest given up.
	there, right, wrong int
	// gone are those it does not find: of these mistaken were found at a line that it
	// says was another one before, changed are said to read differently now.
	gone, mistaken, changed int
}

func (t *tally) add(o tally) {
	t.files += o.files
	t.there += o.there
	t.right += o.right
	t.wrong += o.wrong
	t.gone += o.gone
	t.mistaken += o.mistaken
	t.changed += o.changed
}

func main() {
	show := flag.Bool("show", false, "print each line that was found wrongly")
	flag.Parse()
	fmt.Println("| module | from | to | files that differ | lines still there | found rightly | given up | wrong | lines removed or changed | of these wrong |")
	fmt.Println("|---|---|---|---|---|---|---|---|---|---|")
	var all tally
	for _, h := range histories {
		t, err := measure(h.module, h.from, h.to, *show)
		if err != nil {
			log.Fatal(err)
		}
		all.add(t)
		print(h.module, h.from, h.to, t)
	}
	print("all", "", "", all)
}

func print(module, from, to string, t tally) {
	share := func(n, of int) string { return fmt.Sprintf("%.2f %%", 100*float64(n)/float64(max(of, 1))) }
	fmt.Printf("| %s | %s | %s | %d | %d | %s | %s | %s | %d | %s |\n", module, from, to, t.files, t.there,
		share(t.right, t.there), share(t.there-t.right-t.wrong, t.there), share(t.wrong, t.there), t.gone, share(t.mistaken, t.gone))
}

// measure remembers lines of a module in one version and looks for them in another.
func measure(module, from, to string, show bool) (t tally, err error) {
	before, err := download(module, from)
	if err != nil {
		return t, err
	}
	after, err := download(module, to)
	if err != nil {
		return t, err
	}
	was, is := workspace.New(before), workspace.New(after)
	err = filepath.WalkDir(before, func(p string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() {
			return err
		}
		rel, _ := filepath.Rel(before, p)
		old, oldErr := os.ReadFile(p)
		now, nowErr := os.ReadFile(filepath.Join(after, rel))
		if oldErr != nil || nowErr != nil || string(old) == string(now) || text.NewDocument(old).Binary() || len(old) > 1<<20 {
			return nil
		}
		t.add(compare(was, is, filepath.ToSlash(rel), string(old), string(now), show))
		return nil
	})
	return t, err
}

// compare remembers lines of one file.
func compare(was, is *workspace.Workspace, path, old, now string, show bool) (t tally) {
	ctx := context.Background()
	t.files = 1
	there, taken := mapping(old, now)
	lines := strings.Split(old, "\n")
	news := strings.Split(now, "\n")
	asked := 0
	for n, l := range lines {
		if strings.TrimSpace(l) == "" {
			continue
		}
		if asked++; asked%every != 0 {
			continue
		}
		at := place.Remember(was.Lists.Anchor(ctx, place.Place{Path: path, Line: n + 1, Col: 1 + len(l) - len(strings.TrimLeft(l, " \t"))}))
		fate, err := is.Lists.Find(ctx, &at)
		if err != nil {
			log.Fatal(err)
		}
		truth := there[n+1]
		bad := false
		switch found := fate != place.Gone; {
		case truth > 0:
			t.there++
			if found && at.Line == truth {
				t.right++
			} else if bad = found; bad {
				t.wrong++
			}
		default:
			t.gone++
			if fate == place.Changed {
				t.changed++
			}
			if bad = found && taken[at.Line]; bad {
				t.mistaken++
			}
		}
		if bad && show {
			fmt.Printf("%s:%d %q is %s at %d %q, should be %d\n", path, n+1, l, fate, at.Line, news[min(at.Line, len(news))-1], truth)
		}
	}
	return t
}

// mapping says for the lines of a text where they are in another, and which lines of
// that are one of the first; counted from 1.
func mapping(old, now string) (there map[int]int, taken map[int]bool) {
	there, taken = map[int]int{}, map[int]bool{}
	a, b := 1, 1
	for _, d := range diff.Do(old, now) {
		n := strings.Count(d.Text, "\n")
		if !strings.HasSuffix(d.Text, "\n") {
			n++
		}
		switch d.Type {
		case diffmatchpatch.DiffEqual:
			for i := range n {
				there[a+i], taken[b+i] = b+i, true
			}
			a, b = a+n, b+n
		case diffmatchpatch.DiffDelete:
			a += n
		case diffmatchpatch.DiffInsert:
			b += n
		}
	}
	return there, taken
}

// download fetches a module from the registry and returns its folder.
func download(module, version string) (string, error) {
	cmd := exec.Command("go", "mod", "download", "-json", module+"@"+version)
	cmd.Dir = os.TempDir()
	out, err := cmd.Output()
	if err != nil {
		return "", fmt.Errorf("fetching %s@%s: %w: %s", module, version, err, out)
	}
	var info struct{ Dir string }
	if err := json.Unmarshal(out, &info); err != nil {
		return "", fmt.Errorf("fetching %s@%s: %w", module, version, err)
	}
	return info.Dir, nil
}
