// Command accuracy measures how often Rook Trail is right, by comparing its
// answers with those of compilers.
//
//	go run ./scripts/accuracy [flags] go DIR [PACKAGES]
//	go run ./scripts/accuracy [flags] told FILE DIR
//
// The first compares with the Go type checker over a Go module: definitions,
// references with their access, implementations and calls. The second compares
// with what another compiler said, in a file of one JSON object a line,
//
//	{"query":"path:line:col","target":"path:line:col"}
//
// where an empty target says that the definition lies outside of DIR. The
// scripts beside this one make such files.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math/rand"
	"os"
	"path/filepath"
	"runtime/pprof"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
)

// settings are what the flags say.
type settings struct {
	verbose int
	share   float64
	asked   int
	exact   bool
	program string // that is begun anew to ask compilers
	// libraries lets answers lead through sources outside the project.
	libraries bool
}

func main() {
	var s settings
	flag.IntVar(&s.verbose, "v", 0, "print this many wrong answers of each kind")
	flag.Float64Var(&s.share, "share", 1, "the share of all names to ask about")
	flag.IntVar(&s.asked, "n", 300, "how many definitions to ask for references and the like")
	flag.BoolVar(&s.exact, "exact", false, "ask the type checker first, as the program does in the background")
	flag.StringVar(&s.program, "program", "", "the built program, by which compilers of C and C++ are asked with -exact")
	flag.BoolVar(&s.libraries, "libraries", true, "use the sources of libraries on this machine")
	profile := flag.String("profile", "", "write a profile of the processor time there")
	flag.Parse()
	if *profile != "" {
		f, err := os.Create(*profile)
		if err != nil {
			log.Fatal(err)
		}
		if err := pprof.StartCPUProfile(f); err != nil {
			log.Fatal(err)
		}
		defer pprof.StopCPUProfile()
	}
	if flag.NArg() < 2 {
		log.Fatal("write: accuracy go DIR [PACKAGES], or: accuracy told FILE DIR")
	}
	var err error
	switch flag.Arg(0) {
	case "go":
		err = compareGo(s, flag.Arg(1), flag.Args()[2:])
	case "told":
		err = compareTold(s, flag.Arg(1), flag.Arg(2))
	default:
		err = fmt.Errorf("there is no comparison %q; choose go or told", flag.Arg(0))
	}
	if err != nil {
		log.Fatal(err)
	}
}

// open reads the project at a folder.
func open(s settings, dir string) (*workspace.Workspace, error) {
	root, err := project.CheckFolder(dir)
	if err != nil {
		return nil, err
	}
	ws := workspace.New(root)
	if s.libraries {
		ws.Code.KnowLibraries(filepath.Join(os.TempDir(), "rooktrail-accuracy"))
	}
	if s.program != "" {
		ws.Code.Compilers.Know(s.program, nil)
	}
	if err := ws.Code.Read(context.Background()); err != nil {
		return nil, err
	}
	if s.exact {
		err = ws.Code.Check(context.Background(), check.Fast)
	}
	return ws, err
}

// tally counts answers.
type tally struct {
	asked, first, within, wrongSure, noneRight, exact, wrongExact, missing, outside, outsideWrong int
	left                                                                                          int // wrong answers still to be printed
}

// sampler chooses names at random, the same ones each time.
func sampler(share float64) func() bool {
	random := rand.New(rand.NewSource(1))
	return func() bool { return share == 1 || random.Float64() < share }
}

func percent(n, of int) float64 { return 100 * float64(n) / float64(max(of, 1)) }

func (t *tally) print(title string) {
	inside := t.asked - t.outside
	fmt.Printf("%s: %d names, %d of them defined here\n", title, t.asked, inside)
	for _, line := range []struct {
		what  string
		n, of int
	}{
		{"first answer right", t.first, inside}, {"among the answers", t.within, inside},
		{"first answer wrong, though not by name", t.wrongSure, inside}, {"all answers wrong, though not by name", t.noneRight, inside}, {"exact", t.exact, inside}, {"first answer wrong, though exact", t.wrongExact, inside}, {"no answer", t.missing, inside},
		{"of those outside: answered from here, not by name", t.outsideWrong, t.outside},
	} {
		fmt.Printf("  %-52s %8d  %6.2f %%\n", line.what, line.n, percent(line.n, line.of))
	}
}
