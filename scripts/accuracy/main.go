// Command accuracy compares the definitions that Rook Trail finds in a Go
// module with those of the Go type checker, name by name, and prints how many
// agree and the commonest ways in which they do not.
//
//	go run ./scripts/accuracy [-v N] DIR [PACKAGES]
package main

import (
	"context"
	"flag"
	"fmt"
	"go/ast"
	"go/token"
	"go/types"
	"log"
	"math/rand"
	"path/filepath"
	"runtime"
	"strings"

	"golang.org/x/tools/go/packages"

	"rooktrail/internal/core/project"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/workspace"
)

func main() {
	verbose := flag.Int("v", 0, "print this many wrong answers")
	share := flag.Float64("share", 1, "the share of all names to ask about")
	flag.Parse()
	if flag.NArg() < 1 {
		log.Fatal("name the folder of a Go module")
	}
	root, err := project.CheckFolder(flag.Arg(0))
	if err != nil {
		log.Fatal(err)
	}
	c := &comparison{ws: workspace.New(root), verbose: *verbose, share: *share, random: rand.New(rand.NewSource(1))}
	if err := c.ws.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	patterns := flag.Args()[1:]
	if len(patterns) == 0 {
		patterns = []string{"./..."}
	}
	loaded, err := packages.Load(&packages.Config{Dir: root, Mode: packages.LoadSyntax}, patterns...)
	if err != nil {
		log.Fatal(err)
	}
	packages.PrintErrors(loaded)
	for _, p := range loaded {
		c.pkg(p)
	}
	c.print()
}

type comparison struct {
	ws      *workspace.Workspace
	verbose int
	share   float64
	random  *rand.Rand

	asked, first, within, wrongInferred, inferred, missing, outside, outsideWrong int
}

func (c *comparison) pkg(p *packages.Package) {
	for _, file := range p.Syntax {
		name := p.Fset.File(file.FileStart).Name()
		rel := c.ws.Relative(name)
		if filepath.IsAbs(rel) {
			continue
		}
		ast.Inspect(file, func(n ast.Node) bool {
			if id, ok := n.(*ast.Ident); ok && id.Name != "_" && (c.share == 1 || c.random.Float64() < c.share) {
				c.name(p, rel, id)
			}
			return true
		})
	}
}

// name compares the answers for one use of a name.
func (c *comparison) name(p *packages.Package, rel string, id *ast.Ident) {
	object := p.TypesInfo.Uses[id]
	if object == nil {
		return
	}
	if _, ok := object.(*types.PkgName); ok {
		return // what an import leads to is a matter of taste
	}
	at := p.Fset.Position(id.Pos())
	result, spots := c.ws.Definition(context.Background(), rel, at.Offset)
	want := place(p.Fset, object)
	c.asked++
	if strings.HasPrefix(want.Filename, "$GOROOT") && strings.HasPrefix(c.ws.Root(), runtime.GOROOT()) {
		want.Filename = filepath.Join(runtime.GOROOT(), strings.TrimPrefix(want.Filename, "$GOROOT"))
	}
	if want.Filename == "" || want.Filename[0] == '$' || filepath.IsAbs(c.ws.Relative(want.Filename)) {
		if len(spots) > 0 && spots[0].Certainty != resolve.ByName {
			c.outsideWrong++
			c.say(at, id.Name, "is outside", spots)
		}
		c.outside++
		return
	}
	for i, s := range spots {
		// The column is left out: export data does not always keep it.
		if s.Path == c.ws.Relative(want.Filename) && s.Line == want.Line && strings.TrimSuffix(s.Name, ":") == object.Name() {
			if i == 0 {
				c.first++
			}
			c.within++
			if i == 0 && s.Certainty == resolve.Inferred {
				c.inferred++
			}
			if i == 0 {
				return
			}
			break
		}
	}
	if len(spots) > 0 && spots[0].Certainty != resolve.ByName {
		c.wrongInferred++
		c.say(at, id.Name, "is at "+want.String(), spots)
	} else if len(spots) == 0 {
		c.missing++
		c.say(at, id.Name, "is at "+want.String()+" outside: "+result.Outside, spots)
	}
}

func place(fset *token.FileSet, o types.Object) token.Position {
	if v, ok := o.(*types.Var); ok {
		o = v.Origin()
	}
	if f, ok := o.(*types.Func); ok {
		o = f.Origin()
	}
	return fset.Position(o.Pos())
}

func (c *comparison) say(at token.Position, name, what string, spots []workspace.Spot) {
	if c.verbose <= 0 {
		return
	}
	c.verbose--
	got := "nothing"
	if len(spots) > 0 {
		got = spots[0].Place().String() + " " + spots[0].Certainty.String()
	}
	fmt.Printf("%s:%d:%d %s %s; got %s\n", c.ws.Relative(at.Filename), at.Line, at.Column, name, what, got)
}

func (c *comparison) print() {
	inside := c.asked - c.outside
	share := func(n, of int) float64 { return 100 * float64(n) / float64(max(of, 1)) }
	fmt.Printf("names asked about            %8d\n", c.asked)
	fmt.Printf("defined in the project       %8d\n", inside)
	fmt.Printf("  first answer right         %8d  %6.2f %%\n", c.first, share(c.first, inside))
	fmt.Printf("  among the answers          %8d  %6.2f %%\n", c.within, share(c.within, inside))
	fmt.Printf("  right and inferred         %8d  %6.2f %%\n", c.inferred, share(c.inferred, inside))
	fmt.Printf("  wrong and inferred         %8d  %6.2f %%\n", c.wrongInferred, share(c.wrongInferred, inside))
	fmt.Printf("  no answer                  %8d  %6.2f %%\n", c.missing, share(c.missing, inside))
	fmt.Printf("defined outside              %8d\n", c.outside)
	fmt.Printf("  answered as if inside      %8d  %6.2f %%\n", c.outsideWrong, share(c.outsideWrong, c.outside))
}
