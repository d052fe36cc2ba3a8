// Command restructures measures how often code does what it did after parts of it were moved: random expressions become
// variables and functions, random statements functions, random variables and functions are put in place of their uses.
//
//	go run ./scripts/restructures [flags] DIR COMMAND
//
// The command is run by the shell in a copy of DIR with FOLDER set to the folder of the file that was changed: once before,
// and after each change. It has to end as it did before, and to say the same.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math/rand"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/workspace"
)

type settings struct {
	number  int
	seed    int64
	verbose bool
	exts    string
	folder  string
	kinds   string
}

func main() {
	var s settings
	flag.IntVar(&s.number, "n", 50, "how many changes of each kind to try")
	flag.Int64Var(&s.seed, "seed", 1, "another number takes other code")
	flag.BoolVar(&s.verbose, "v", false, "say of each failure what the command says, and why others are refused")
	flag.StringVar(&s.exts, "ext", ".go", "take code from files with these endings, with commas between them")
	flag.StringVar(&s.folder, "in", "", "take code from below this folder")
	flag.StringVar(&s.kinds, "kinds", "variable,function,value,inline,unfold", "what to try")
	flag.Parse()
	if flag.NArg() != 2 {
		log.Fatal("write: restructures [flags] DIR COMMAND")
	}
	if err := run(s, flag.Arg(0), flag.Arg(1)); err != nil {
		log.Fatal(err)
	}
}

func run(s settings, dir, command string) error {
	work, err := os.MkdirTemp("", "restructures")
	if err != nil {
		return err
	}
	defer os.RemoveAll(work)
	if out, err := exec.Command("cp", "-a", dir+"/.", work).CombinedOutput(); err != nil {
		return fmt.Errorf("copying %s: %w: %s", dir, err, out)
	}
	m := &measure{settings: s, root: work, command: command, ctx: context.Background(), random: rand.New(rand.NewSource(s.seed)), before: map[string]string{}}
	return m.all()
}

// measure is one measurement.
type measure struct {
	settings
	root, command string
	ctx           context.Context
	ws            *workspace.Workspace
	random        *rand.Rand
	files         []string
	before        map[string]string // what the command says, by folder
}

func (m *measure) all() error {
	m.ws = workspace.New(m.root)
	if err := m.ws.Code.Read(m.ctx); err != nil {
		return err
	}
	for f := range m.ws.Code.Listing().Files() {
		if slices.Contains(strings.Split(m.exts, ","), path.Ext(f.Path)) && strings.HasPrefix(f.Path, m.folder) {
			m.files = append(m.files, f.Path)
		}
	}
	if len(m.files) == 0 {
		return fmt.Errorf("there are no files with %s", m.exts)
	}
	for kind := range strings.SplitSeq(m.kinds, ",") {
		if err := m.measure(kind); err != nil {
			return err
		}
	}
	return nil
}

// measure tries changes of one kind until so many were made.
func (m *measure) measure(kind string) error {
	made, right, refused := 0, 0, map[string]int{}
	tried := 0
	for made < m.number && tried < m.number*40 {
		p, where, err := m.propose(kind)
		if where == "" {
			continue
		}
		tried++
		if err == nil {
			if w, stopped := p.Stopped(); stopped {
				err = fmt.Errorf("%s", w.Text)
				if m.verbose && strings.Contains(w.Text, "compiler") {
					fmt.Printf("  stopped %s %s: %s\n", kind, where, w.Text)
				}
			}
		}
		if err != nil {
			refused[reason(err)]++
			continue
		}
		made++
		ok, err := m.try(p, kind, where)
		if err != nil {
			return err
		}
		if ok {
			right++
		}
	}
	fmt.Printf("%-10s %4d of %4d right, %d refused\n", kind, right, made, tried-made)
	if m.verbose {
		for _, r := range slices.SortedFunc(keys(refused), func(a, b string) int { return refused[b] - refused[a] }) {
			fmt.Printf("  %5d  %s\n", refused[r], r)
		}
	}
	return nil
}

func keys(m map[string]int) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

// reason is an error without the names in it.
func reason(err error) string {
	words := strings.Fields(err.Error())
	if len(words) > 12 {
		words = words[len(words)-12:]
	}
	return strings.Join(words, " ")
}

// propose tries one change somewhere.
func (m *measure) propose(kind string) (p *proposal.Proposal, where string, err error) {
	file := m.files[m.random.Intn(len(m.files))]
	l := m.ws.Code.Languages().Of(file)
	f, err := m.ws.Code.Load(m.ctx, file)
	if err != nil || f.Facts == nil || l.Structure.Grammar == nil {
		return nil, "", nil
	}
	at := place.Range{}
	switch kind {
	case "variable", "value":
		at = m.node(l, f.Text.Bytes(), func(n syntax.Node) bool {
			return l.Structure.Is(n, lang.Value) && n.Range().Len() > 8 && l.Structure.Is(n, lang.Loose|lang.Invokes|lang.Reach)
		})
	case "function":
		at = m.statements(l, f.Text.Bytes())
	default:
		at = m.definition(f.Facts, kind == "inline")
	}
	if at.Len() == 0 {
		return nil, "", nil
	}
	of := restructure.Part{Path: file, At: at}
	line, _ := f.Text.Position(int(at.Start))
	where = fmt.Sprintf("%s:%d", file, line)
	switch kind {
	case "variable":
		p, err = m.ws.Changes.Variable(m.ctx, of, "extractedValue", m.random.Intn(2) == 0)
	case "function", "value":
		p, err = m.ws.Changes.Function(m.ctx, of, "extractedFunction")
	default:
		of.At.End = of.At.Start
		p, err = m.ws.Changes.Inline(m.ctx, of)
	}
	return p, where, err
}

// node is one of the nodes of a text that suit.
func (m *measure) node(l *lang.Language, body []byte, suits func(syntax.Node) bool) place.Range {
	all := m.nodes(l, body, suits)
	if len(all) == 0 {
		return place.Range{}
	}
	return all[m.random.Intn(len(all))].Range()
}

func (m *measure) nodes(l *lang.Language, body []byte, suits func(syntax.Node) bool) (all []syntax.Node) {
	tree, err := syntax.Parse(m.ctx, l.Structure.Grammar, body)
	if err != nil {
		return nil
	}
	var visit func(n syntax.Node, in bool)
	visit = func(n syntax.Node, in bool) {
		in = in || l.Structure.Is(n, lang.Function)
		if in && suits(n) {
			all = append(all, n)
		}
		for c := range n.NamedChildren() {
			visit(c, in)
		}
	}
	visit(tree.Root(), false)
	return all
}

// statements are some that stand one after the other.
func (m *measure) statements(l *lang.Language, body []byte) place.Range {
	blocks := m.nodes(l, body, func(n syntax.Node) bool { return l.Structure.Is(n, lang.Block) })
	if len(blocks) == 0 {
		return place.Range{}
	}
	var all []syntax.Node
	for c := range blocks[m.random.Intn(len(blocks))].NamedChildren() {
		if l.Structure.Is(c, lang.Statement) {
			all = append(all, c)
		}
	}
	if len(all) == 0 {
		return place.Range{}
	}
	from := m.random.Intn(len(all))
	to := from + m.random.Intn(min(5, len(all)-from))
	return place.Range{Start: all[from].Range().Start, End: all[to].Range().End}
}

// definition is the name of a local variable, or of a function.
func (m *measure) definition(f *facts.File, local bool) place.Range {
	var all []place.Range
	for i := range f.Defs {
		d := &f.Defs[i]
		if local && f.Local(d) && (d.Kind == facts.Variable || d.Kind == facts.Constant) || !local && d.Kind.IsCallable() && !f.Local(d) {
			all = append(all, d.At)
		}
	}
	if len(all) == 0 {
		return place.Range{}
	}
	return all[m.random.Intn(len(all))]
}

// try makes a change, runs the command and takes the change back.
func (m *measure) try(p *proposal.Proposal, kind, where string) (ok bool, err error) {
	folder := path.Dir(p.Files[0].Path)
	for _, f := range p.Files {
		folder = path.Dir(f.Path)
	}
	before, known := m.before[folder]
	if !known {
		before = m.run(folder)
		m.before[folder] = before
	}
	for _, f := range p.Files {
		if err := os.WriteFile(filepath.Join(m.root, f.Path), f.After().Bytes(), 0o644); err != nil {
			return false, err
		}
	}
	after := m.run(folder)
	for _, f := range p.Files {
		if err := os.WriteFile(filepath.Join(m.root, f.Path), f.Before.Bytes(), 0o644); err != nil {
			return false, err
		}
	}
	if after == before {
		return true, nil
	}
	fmt.Printf("  wrong %s %s\n", kind, where)
	if m.verbose {
		var b strings.Builder
		if err := p.WriteDiff(&b); err != nil {
			return false, err
		}
		fmt.Println(b.String())
		fmt.Println(after[:min(len(after), 1500)])
	}
	return false, nil
}

// run runs the command, and gives how it ended and what it said.
func (m *measure) run(folder string) string {
	cmd := exec.Command("sh", "-c", m.command)
	cmd.Dir = m.root
	cmd.Env = append(os.Environ(), "FOLDER="+folder)
	out, err := cmd.CombinedOutput()
	return fmt.Sprintf("%v\n%s", err, out[:min(len(out), 20000)])
}
