package main

import (
	"context"
	"fmt"
	"log"
	"maps"
	"math/rand/v2"
	"slices"
	"time"

	"golang.org/x/tools/go/packages"

	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/workspace"
)

// The names whose references are timed are those of at least fewestUses uses and no
// more than mostUses.
const (
	fewestUses = 100
	mostUses   = 400
	namesTimed = 60
	batch      = 1000
)

// answers times the questions about names on a project that was read before, with
// the answers of the type checker: how long these take, references of names with
// some hundred uses, the first time and again, and a batch of definitions.
func answers(root, cache string) (rows []row) {
	ctx := context.Background()
	ws := workspace.New(root)
	ws.Code.KeepIndex(ctx, cache)
	if err := ws.Code.Read(ctx); err != nil {
		log.Fatal(err)
	}
	defer ws.Code.Close()
	started := time.Now()
	if err := ws.Code.Check(ctx, check.Fast); err != nil {
		log.Fatal(err)
	}
	checking := time.Since(started)
	cold, warm := references(ws)
	what := fmt.Sprintf("references of a name with %d to %d uses", fewestUses, mostUses)
	rows = append(rows,
		row{what + ", again, median", ms(warm[len(warm)/2]), 100, "ms", "≤ 100 ms"},
		row{what + ", first time, median", ms(cold[len(cold)/2]), 100, "ms", ""},
		row{what + ", first time, p95", ms(cold[len(cold)*95/100]), 100, "ms", ""},
		definitions(ws),
		proposed(ws),
		row{"checking all Go packages", ms(checking), ms(checkPlainly(root)), "ms", "≤ 1.3 × go/packages with go/types"},
	)
	return rows
}

// proposed times working out another name for the name with the most uses among those that are looked at, until its
// places can be shown, when their files have been read.
func proposed(ws *workspace.Workspace) row {
	ctx := context.Background()
	for _, s := range oftenNamed(ws) {
		asked := rename.Asked{Path: s.Path, Offset: s.Offset, New: "Tarnwell", Family: rename.ThisAlone}
		if p, _, err := ws.Changes.Begin(ctx, asked); err != nil || p.Count().Places < fewestProposed {
			continue
		}
		started := time.Now()
		p, _, err := ws.Changes.Begin(ctx, asked)
		if err != nil {
			log.Fatal(err)
		}
		c := p.Count()
		return row{fmt.Sprintf("another name proposed, %d places in %d files, again", c.Places, c.Files), ms(time.Since(started)), 100, "ms", "≤ 100 ms"}
	}
	log.Fatal("no name has so many uses")
	return row{}
}

// fewestProposed is how many places a proposal that is timed has at least.
const fewestProposed = 1000

// references times finding the references of names with some hundred uses, before
// their files have been read and after, sorted.
func references(ws *workspace.Workspace) (cold, warm []time.Duration) {
	for _, s := range oftenNamed(ws) {
		uses := 0
		ask := func() time.Duration {
			started := time.Now()
			_, refs := ws.Answers.All(context.Background(), answer.ToReferences.On(s.Path, s.Offset))
			uses = len(refs)
			return time.Since(started)
		}
		first := ask()
		if uses >= fewestUses && uses <= mostUses {
			cold, warm = append(cold, first), append(warm, ask())
		}
		if len(cold) == namesTimed {
			break
		}
	}
	if len(cold) == 0 {
		log.Fatal("no name has so many references")
	}
	slices.Sort(cold)
	slices.Sort(warm)
	return cold, warm
}

// oftenNamed are symbols whose names several of some files use, picked evenly from
// all.
func oftenNamed(ws *workspace.Workspace) (often []index.Symbol) {
	const picked, several = 300, 2
	ctx := context.Background()
	files := ws.Search.Files(ctx, "ext:go", 1<<20)
	users := map[string]int{}
	for i := 0; i < len(files); i += max(1, len(files)/picked) {
		f, err := ws.Code.Load(ctx, files[i].Path)
		if err != nil || f.Facts == nil {
			continue
		}
		names := map[string]bool{}
		for _, u := range f.Facts.Uses {
			names[u.Name] = true
		}
		for n := range names {
			users[n]++
		}
	}
	for _, name := range slices.Sorted(maps.Keys(users)) {
		if symbols := ws.Code.Named(name); users[name] >= several && len(symbols) > 0 && len(symbols) <= 3 && symbols[0].Kind != facts.Section {
			often = append(often, symbols[0])
		}
	}
	// Their order is that of the alphabet; this is any other, always the same.
	rand.New(rand.NewPCG(1, 2)).Shuffle(len(often), func(i, j int) { often[i], often[j] = often[j], often[i] })
	return often
}

// definitions times a batch of positions, each in another file, of a project opened
// just now.
func definitions(ws *workspace.Workspace) row {
	ctx := context.Background()
	files := ws.Search.Files(ctx, "ext:go", 1<<20)
	asked := 0
	started := time.Now()
	for i := 0; i < len(files) && asked < batch; i += max(1, len(files)/batch) {
		f, err := ws.Code.Load(ctx, files[i].Path)
		if err != nil || f.Facts == nil || len(f.Facts.Uses) == 0 {
			continue
		}
		ws.Answers.All(ctx, answer.ToDefinition.On(f.Path, int(f.Facts.Uses[len(f.Facts.Uses)/2].At.Start)))
		asked++
	}
	return row{fmt.Sprintf("%d definitions in as many files", asked), ms(time.Since(started)), 5000, "ms", "≤ 5 s"}
}

// checkPlainly has go/packages check all of a folder, which is the floor.
func checkPlainly(root string) time.Duration {
	started := time.Now()
	const all = packages.NeedName | packages.NeedFiles | packages.NeedCompiledGoFiles | packages.NeedImports | packages.NeedDeps |
		packages.NeedTypes | packages.NeedSyntax | packages.NeedTypesInfo
	if _, err := packages.Load(&packages.Config{Mode: all, Dir: root, Tests: true}, "./..."); err != nil {
		log.Fatal(err)
	}
	return time.Since(started)
}
