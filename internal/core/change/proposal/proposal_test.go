package proposal_test

import (
	"context"
	"fmt"
	"io/fs"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

const roster = "package dispatch\n\n// Assign finds a team.\nfunc Assign(c Callout) Team {\n\tt := free(c)\n\treturn t\n}\n"

// replacing proposes to write a word otherwise wherever it stands.
func replacing(files map[string]string, word, by string) *proposal.Proposal {
	p := &proposal.Proposal{Title: "replace " + word}
	for path, body := range files {
		for at := 0; ; {
			i := strings.Index(body[at:], word)
			if i < 0 {
				break
			}
			at += i
			p.Add(path, func() *text.Document { return text.NewDocument([]byte(body)) }, proposal.Place{At: place.Range{Start: uint32(at), End: uint32(at + len(word))}, New: by, What: "text"})
			at += len(word)
		}
	}
	p.Order()
	return p
}

func diffOf(t *testing.T, p *proposal.Proposal) string {
	var b strings.Builder
	require.NoError(t, p.WriteDiff(&b))
	return b.String()
}

func TestLinesAndLeavingOut(t *testing.T) {
	p := replacing(map[string]string{"a.go": roster}, "t", "T")
	f := p.Files[0]
	n := len(f.Places)
	last := n - 1
	before, after := f.Lines(last)
	assert.Equal(t, "\treturn t", before)
	assert.Equal(t, "\treTurn T", after)
	f.Places[last].Out = true
	_, after = f.Lines(last)
	assert.Equal(t, "\treTurn t", after)
	assert.Equal(t, "\treTurn T", f.Written(last), "what is edited is as it would be with the place")
	assert.Equal(t, proposal.Counts{Places: n - 1, Files: 1, Out: 1}, p.Count())

	f.Write(last, "\treturn team // by hand")
	before, after = f.Lines(len(f.Places) - 1)
	assert.Equal(t, "\treturn t", before)
	assert.Equal(t, "\treturn team // by hand", after)
	assert.True(t, f.Places[len(f.Places)-1].ByHand)
	f.Write(len(f.Places)-1, "\treturn t")
	_, after = f.Lines(len(f.Places) - 1)
	assert.Equal(t, "\treturn t", after, "as it was")
	f.Write(len(f.Places)-1, "\tx\n\treturn t")
	assert.Contains(t, string(f.After().Bytes()), "free(c)\n\tx\n\treturn t\n}\n")
}

func TestOverlapsKeepTheSurerOne(t *testing.T) {
	p := &proposal.Proposal{}
	add := func(start, end uint32, by string, g proposal.Group) {
		p.Add("a", func() *text.Document { return text.NewDocument([]byte("roster of teams")) }, proposal.Place{At: place.Range{Start: start, End: end}, New: by, Group: g})
	}
	add(0, 15, "all", proposal.Mentions)
	add(0, 6, "list", proposal.Sure)
	add(0, 6, "again", proposal.ByName)
	add(10, 15, "crews", proposal.Mentions)
	p.Order()
	assert.Equal(t, "list of crews", string(p.Files[0].After().Bytes()))
}

// What is written as a diff does, for git, what making the proposal does.
func TestDiffsAreTakenByGit(t *testing.T) {
	for name, c := range map[string]struct {
		files map[string]string
		make  func(p *proposal.Proposal)
	}{
		"a few places":        {files: map[string]string{"a.go": roster, "in/b.go": strings.Repeat(roster, 5)}},
		"no line end at last": {files: map[string]string{"a.go": strings.TrimSuffix(roster, "\n") + " Team"}},
		"CRLF":                {files: map[string]string{"a.go": strings.ReplaceAll(roster, "\n", "\r\n")}},
		"a blank in a name":   {files: map[string]string{"a b.go": roster, "täm \"x\".go": roster}},
		"UTF-16":              {files: map[string]string{"a.txt": "\xff\xfeT\x00e\x00a\x00m\x00\n\x00x\x00\n\x00"}},
		"moved": {map[string]string{"a.go": roster, "b.go": roster}, func(p *proposal.Proposal) {
			p.Move("a.go", "deep/c.go", nil)
			p.Move("b.go", "d.go", nil)
			for i := range p.File("b.go").Places {
				p.File("b.go").Places[i].Out = true
			}
		}},
		"made and taken away": {map[string]string{"a.go": roster}, func(p *proposal.Proposal) {
			p.Files = append(p.Files, &proposal.File{To: "new.go", Before: text.NewDocument(nil), Places: []proposal.Place{{New: "package x\n\nvar X = 1"}}})
			p.File("a.go").To = ""
			p.File("a.go").Places = nil
		}},
		"at the ends": {map[string]string{"a.go": "x\ny\n"}, func(p *proposal.Proposal) {
			at := func(start, end uint32, by string) {
				p.Add("a.go", func() *text.Document { return text.NewDocument([]byte("x\ny\n")) }, proposal.Place{At: place.Range{Start: start, End: end}, New: by})
			}
			at(0, 0, "first\n")
			at(2, 4, "")
			at(4, 4, "last")
		}},
		"empty before": {map[string]string{"a.go": ""}, func(p *proposal.Proposal) {
			p.Add("a.go", func() *text.Document { return text.NewDocument(nil) }, proposal.Place{New: "now\n"})
		}},
	} {
		p := replacing(c.files, "Team", "Crew")
		if strings.HasPrefix(name, "UTF") {
			d := text.NewDocument([]byte(c.files["a.txt"]))
			p.Add("a.txt", func() *text.Document { return d }, proposal.Place{At: place.Range{Start: 0, End: 4}, New: "Crew"})
		}
		if c.make != nil {
			c.make(p)
			p.Order()
		}
		byGit, byUs := folder(t, c.files), folder(t, c.files)
		diff := diffOf(t, p)
		cmd := exec.Command("git", "apply", "-")
		cmd.Dir, cmd.Stdin = byGit, strings.NewReader(diff)
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s: %s\n%s", name, out, diff)
		change, err := p.Change()
		require.NoError(t, err, name)
		require.NoError(t, making.New(byUs, "").Make(context.Background(), change), name)
		assert.Equal(t, tree(t, byUs), tree(t, byGit), "%s\n%s", name, diff)

		again, err := proposal.ReadDiff(strings.NewReader(diff), "read", reader(folder(t, c.files)))
		require.NoError(t, err, name)
		assert.Empty(t, again.Warnings, name)
		assert.Equal(t, diff, diffOf(t, again), "%s: read in again it is the same", name)
	}
}

func folder(t *testing.T, files map[string]string) string {
	dir := t.TempDir()
	for p, body := range files {
		require.NoError(t, os.MkdirAll(filepath.Join(dir, filepath.Dir(p)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, p), []byte(body), 0o644))
	}
	return dir
}

func tree(t *testing.T, dir string) map[string]string {
	all := map[string]string{}
	require.NoError(t, filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			data, err := os.ReadFile(p)
			require.NoError(t, err)
			all[strings.TrimPrefix(p, dir)] = string(data)
		}
		return err
	}))
	return all
}

func reader(dir string) func(p string) (*text.Document, error) {
	return func(p string) (*text.Document, error) { return text.Load(filepath.Join(dir, p)) }
}

// Lines that have moved are found where they are now; what reads otherwise is told, and the rest is there.
func TestReadingADiffOfAnEarlierText(t *testing.T) {
	files := map[string]string{"a.go": roster + strings.Repeat("//\n", 20) + strings.ReplaceAll(roster, "free", "near"), "b.go": roster}
	diff := diffOf(t, replacing(files, "return t", "return best"))
	files["a.go"] = "// new\n// lines\n" + strings.Replace(files["a.go"], "t := near(c)", "t := other(c)", 1)
	delete(files, "b.go")
	p, err := proposal.ReadDiff(strings.NewReader(diff), "read", reader(folder(t, files)))
	require.NoError(t, err)
	require.Len(t, p.Warnings, 2)
	assert.Equal(t, "a.go", p.Warnings[0].Path)
	assert.Equal(t, "b.go", p.Warnings[1].Path)
	after := string(p.Files[0].After().Bytes())
	assert.Contains(t, after, "t := free(c)\n\treturn best\n")
	assert.Contains(t, after, "t := other(c)\n\treturn t\n")

	for _, wrong := range []string{"", "no diff\n", "--- a/x\n+++ b/x\n@@ -1,5 +1 @@\n x\n", "diff --git a/../x b/../x\n--- a/../x\n+++ b/../x\n@@ -0,0 +1 @@\n+x\n"} {
		p, err := proposal.ReadDiff(strings.NewReader(wrong), "read", reader(t.TempDir()))
		assert.True(t, err != nil || len(p.Files) == 0 && len(p.Warnings) > 0, wrong)
	}
}

// Whatever is edited, the diff says it.
func TestDiffsOfRandomEdits(t *testing.T) {
	rnd := rand.New(rand.NewSource(1))
	for i := range 300 {
		var b strings.Builder
		for range rnd.Intn(30) {
			fmt.Fprintf(&b, "%s%s", strings.Repeat("ab ", rnd.Intn(3)), []string{"\n", "\n", "\n", "x"}[rnd.Intn(4)])
		}
		body, p, at := b.String(), &proposal.Proposal{}, 0
		for at <= len(body) && rnd.Intn(6) > 0 {
			start := at + rnd.Intn(8)
			end := start + rnd.Intn(6)
			if end > len(body) {
				break
			}
			p.Add("a", func() *text.Document { return text.NewDocument([]byte(body)) }, proposal.Place{At: place.Range{Start: uint32(start), End: uint32(end)}, New: []string{"", "N", "\n", "N\nM\n"}[rnd.Intn(4)]})
			at = end + 1
		}
		p.Order()
		if p.Count().Files == 0 {
			continue
		}
		diff := diffOf(t, p)
		if diff == "" {
			assert.Equal(t, body, string(p.Files[0].After().Bytes()))
			continue
		}
		again, err := proposal.ReadDiff(strings.NewReader(diff), "", reader(folder(t, map[string]string{"a": body})))
		require.NoError(t, err, "%d: %q\n%s", i, body, diff)
		require.Len(t, again.Files, 1, "%d: %q\n%s%v", i, body, diff, again.Warnings)
		assert.Equal(t, string(p.Files[0].After().Bytes()), string(again.Files[0].After().Bytes()), "%d: %q\n%s", i, body, diff)
	}
}

func FuzzReadDiff(f *testing.F) {
	f.Add("diff --git a/a b/a\n--- a/a\n+++ b/a\n@@ -1,2 +1,2 @@\n x\n-y\n+z\n", "x\ny\n")
	f.Add("--- a/a\n+++ b/a\n@@ -0,0 +1 @@\n+z\n", "")
	f.Fuzz(func(t *testing.T, diff, body string) {
		p, err := proposal.ReadDiff(strings.NewReader(diff), "", func(string) (*text.Document, error) { return text.NewDocument([]byte(body)), nil })
		if err != nil {
			return
		}
		for _, file := range p.Files {
			file.After()
		}
		var b strings.Builder
		_ = p.WriteDiff(&b)
	})
}
