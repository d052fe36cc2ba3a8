// Command renames measures how often a rename leaves code as it was but for the name: it gives random symbols of every
// kind other names, compiles, and compares what the compiler says with what it said before.
//
//	go run ./scripts/renames [flags] DIR COMMAND
//
// The command is run by the shell in a copy of DIR, before and after. What it prints has to be the same, but for
// the names. Afterwards everything is undone, and has to be the same to the byte.
package main

import (
	"context"
	"crypto/sha256"
	"flag"
	"fmt"
	"io/fs"
	"log"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/workspace"
)

// suffix makes the new names, which nothing else has.
const suffix = "Rnmd"

type settings struct {
	number, batch int
	seed          int64
	exact         bool
	verbose       bool
	folders       string // where symbols are taken from
	exts          string
}

func main() {
	var s settings
	flag.IntVar(&s.number, "n", 200, "how many symbols to rename")
	flag.IntVar(&s.batch, "batch", 10, "how many are renamed before the compiler is asked")
	flag.Int64Var(&s.seed, "seed", 1, "another number takes other symbols")
	flag.BoolVar(&s.exact, "exact", false, "ask the type checker first, as the program does in the background")
	flag.BoolVar(&s.verbose, "v", false, "say of each failure what the compiler says")
	flag.StringVar(&s.folders, "in", "", "take symbols from below this folder")
	flag.StringVar(&s.exts, "ext", "", "take symbols from files with these endings, with commas between them")
	flag.Parse()
	if flag.NArg() != 2 {
		log.Fatal("write: renames [flags] DIR COMMAND")
	}
	if err := run(s, flag.Arg(0), flag.Arg(1)); err != nil {
		log.Fatal(err)
	}
}

func run(s settings, dir, command string) error {
	work, err := os.MkdirTemp("", "renames")
	if err != nil {
		return err
	}
	defer os.RemoveAll(work)
	if out, err := exec.Command("cp", "-a", dir+"/.", work).CombinedOutput(); err != nil {
		return fmt.Errorf("copying %s: %w: %s", dir, err, out)
	}
	m := measure{settings: s, root: work, command: command, ctx: context.Background()}
	return m.all()
}

// measure is one measurement.
type measure struct {
	settings
	root, command string
	ctx           context.Context
	ws            *workspace.Workspace
	before        string
	digest        [32]byte
	files         map[string]bool // those of the project, by their absolute paths
	table         map[facts.Kind]*counts
}

// counts are what became of the symbols of a kind: renamed and compiled as before, refused and right to be, refused in
// vain since it compiles all the same, or renamed wrongly.
type counts struct{ tried, right, refused, needless, wrong int }

// symbol is one to be renamed, with what is proposed, and why it is refused; "" if it is not.
type symbol struct {
	path    string
	def     facts.Def
	p       *proposal.Proposal
	refused string
}

func (m *measure) all() error {
	m.ws = workspace.New(m.root)
	m.ws.Code.KnowLibraries(filepath.Join(os.TempDir(), "rooktrail-accuracy"))
	kept, err := os.MkdirTemp("", "changes")
	if err != nil {
		return err
	}
	defer os.RemoveAll(kept)
	m.ws.KnowChanges(kept)
	if err := m.ws.Code.Read(m.ctx); err != nil {
		return err
	}
	if m.exact {
		if err := m.ws.Code.Check(m.ctx, check.Fast); err != nil {
			return err
		}
	}
	m.files = map[string]bool{}
	for f := range m.ws.Code.Listing().Files() {
		m.files[m.ws.Code.Absolute(f.Path)] = true
	}
	m.before = m.compile()
	if m.digest, err = m.tree(); err != nil {
		return err
	}
	m.table = map[facts.Kind]*counts{}
	symbols := m.choose()
	var proposed []*symbol
	for _, s := range symbols {
		if m.propose(s) {
			proposed = append(proposed, s)
		}
	}
	var made []*symbol
	for _, s := range proposed {
		if s.refused == "" {
			made = append(made, s)
			continue
		}
		if err := m.try([]*symbol{s}); err != nil { // it is to be seen whether that is right
			return err
		}
	}
	for part := range slices.Chunk(made, m.batch) {
		if err := m.try(part); err != nil {
			return err
		}
	}
	m.print()
	return nil
}

// choose takes symbols of every kind in turn.
func (m *measure) choose() (chosen []*symbol) {
	byKind := map[facts.Kind][]*symbol{}
	for file := range m.ws.Code.Listing().Files() {
		if m.folders != "" && !strings.HasPrefix(file.Path, m.folders) || m.exts != "" && !slices.Contains(strings.Split(m.exts, ","), filepath.Ext(file.Path)) {
			continue
		}
		f, err := m.ws.Code.Load(m.ctx, file.Path)
		if err != nil || f.Facts == nil || f.Generated() || !m.ws.Code.Languages().IsCode(file.Path) {
			continue
		}
		for _, d := range f.Facts.Defs {
			if m.suits(&d) {
				byKind[d.Kind] = append(byKind[d.Kind], &symbol{path: file.Path, def: d})
			}
		}
	}
	rnd := rand.New(rand.NewSource(m.seed))
	var kinds []facts.Kind
	for k, all := range byKind {
		kinds = append(kinds, k)
		slices.SortFunc(all, func(a, b *symbol) int {
			return strings.Compare(fmt.Sprintf("%s %08d", a.path, a.def.At.Start), fmt.Sprintf("%s %08d", b.path, b.def.At.Start))
		})
	}
	slices.Sort(kinds)
	for _, k := range kinds {
		rnd.Shuffle(len(byKind[k]), func(i, j int) { byKind[k][i], byKind[k][j] = byKind[k][j], byKind[k][i] })
	}
	for len(chosen) < m.number {
		found := false
		for _, k := range kinds {
			if all := byKind[k]; len(all) > 0 && len(chosen) < m.number {
				chosen, byKind[k], found = append(chosen, all[0]), all[1:], true
			}
		}
		if !found {
			break
		}
	}
	return chosen
}

func (m *measure) suits(d *facts.Def) bool {
	switch d.Kind {
	case facts.Section, facts.Package, facts.Module, facts.Key, facts.Import, facts.Namespace:
		return false
	}
	return d.Name != "" && d.At.Len() == len(d.Name) && d.Name != "_" && d.Name != "this" && d.Name != "self" && !strings.HasPrefix(d.Name, "__") && !strings.ContainsAny(d.Name, " '\"#:-[]")
}

func (m *measure) count(s *symbol) *counts {
	c := m.table[s.def.Kind]
	if c == nil {
		c = &counts{}
		m.table[s.def.Kind] = c
	}
	return c
}

// propose works out what a rename changes; false if it is refused.
func (m *measure) propose(s *symbol) bool {
	c := m.count(s)
	c.tried++
	p, err := m.ws.Changes.Propose(m.ctx, rename.Asked{Path: s.path, Offset: int(s.def.At.Start), New: s.def.Name + suffix, Family: rename.AllFamily})
	if err != nil {
		c.refused++
		m.say(s, "refused: "+err.Error())
		return false
	}
	s.p = p
	if w, stopped := p.Stopped(); stopped {
		s.refused = fmt.Sprintf("%s:%d: %s", w.Path, w.Line, w.Text)
		p.Warnings = nil
	}
	return true
}

func (m *measure) say(s *symbol, words string) {
	line := 0
	if f, err := m.ws.Code.Load(m.ctx, s.path); err == nil {
		line, _ = f.Text.Position(int(s.def.At.Start))
	}
	fmt.Printf("%s:%d: %s %s: %s\n", s.path, line, s.def.Kind, s.def.Name, words)
}

// try makes several renames at once, and looks for those that are wrong if the compiler says otherwise than before.
func (m *measure) try(all []*symbol) error {
	together := &proposal.Proposal{Title: "renames"}
	for _, s := range all {
		for _, f := range s.p.Files {
			before := func() *text.Document { return f.Before }
			if f.Path != f.To {
				together.Move(f.Path, f.To, before)
			}
			for _, at := range f.Places {
				if !at.Out {
					together.Add(f.Path, before, at)
				}
			}
		}
	}
	together.Order()
	if _, err := m.ws.Changes.Make(m.ctx, together); err != nil {
		return err
	}
	after := m.compile()
	if _, err := m.ws.Changes.Undo(m.ctx); err != nil {
		return err
	}
	digest, err := m.tree()
	if err != nil {
		return err
	}
	if digest != m.digest {
		return fmt.Errorf("undoing did not give the same bytes again")
	}
	switch {
	case all[0].refused != "":
		c := m.count(all[0])
		if c.refused++; after == m.before {
			c.refused--
			c.needless++
			m.say(all[0], "refused, but it compiles: "+all[0].refused)
		}
		return nil
	case after == m.before:
		for _, s := range all {
			m.count(s).right++
		}
		return nil
	case len(all) == 1:
		m.count(all[0]).wrong++
		m.say(all[0], "WRONG")
		if m.verbose {
			fmt.Println(differing(m.before, after))
		}
		return nil
	}
	if err := m.try(all[:len(all)/2]); err != nil {
		return err
	}
	return m.try(all[len(all)/2:])
}

// differing are the first lines that were not there before.
func differing(before, after string) string {
	had := map[string]bool{}
	for l := range strings.SplitSeq(before, "\n") {
		had[l] = true
	}
	var lines []string
	for l := range strings.SplitSeq(after, "\n") {
		if !had[l] && len(lines) < 4 {
			lines = append(lines, "    "+l)
		}
	}
	return strings.Join(lines, "\n")
}

// compile is what the compiler says, with the names as they were.
func (m *measure) compile() string {
	cmd := exec.Command("bash", "-c", m.command)
	cmd.Dir = m.root
	out, err := cmd.CombinedOutput()
	lines := strings.Split(strings.ReplaceAll(string(out), suffix, ""), "\n")
	slices.Sort(lines)
	return strings.Join(lines, "\n") + fmt.Sprint(err)
}

// tree is a digest of all files that belonged to the project in the beginning.
func (m *measure) tree() (sum [32]byte, err error) {
	h := sha256.New()
	err = filepath.WalkDir(m.root, func(p string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() || !m.files[p] {
			return err
		}
		data, err := os.ReadFile(p)
		fmt.Fprintf(h, "%s %d\n", p, len(data))
		h.Write(data)
		return err
	})
	return [32]byte(h.Sum(nil)), err
}

func (m *measure) print() {
	var sum counts
	row := func(name string, c *counts) {
		fmt.Printf("%-16s %6d %6d %8d %9d %6d  %5.1f %%\n", name, c.tried, c.right, c.refused, c.needless, c.wrong, 100*float64(c.right+c.refused)/float64(max(c.tried, 1)))
	}
	fmt.Printf("%-16s %6s %6s %8s %9s %6s\n", "kind", "tried", "right", "refused", "in vain", "wrong")
	for _, k := range facts.Kinds() {
		if c := m.table[k]; c != nil {
			row(k.String(), c)
			sum = counts{sum.tried + c.tried, sum.right + c.right, sum.refused + c.refused, sum.needless + c.needless, sum.wrong + c.wrong}
		}
	}
	row("all", &sum)
}
