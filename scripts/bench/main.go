// Command bench measures how fast Rook Trail is, each figure against a floor
// measured in the same run, since machines differ. It prints a table, and with
// -tsv one line a figure: name, figure, floor, unit, ratio, aim.
//
//	go run ./scripts/bench [-tsv] [-go DIR]
package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"go/parser"
	"go/token"
	"io/fs"
	"log"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/project"
	"rooktrail/internal/core/workspace"
)

// row is one figure with its floor, both in the unit.
type row struct {
	name          string
	figure, floor float64
	unit, aim     string
}

func main() {
	tsv := flag.Bool("tsv", false, "print tab-separated values")
	goDir := flag.String("go", filepath.Join(runtime.GOROOT(), "src"), "a large body of Go")
	flag.Parse()
	root, err := project.CheckFolder(*goDir)
	if err != nil {
		log.Fatal(err)
	}
	texts := read(root, ".go")
	var rows []row
	add := func(r row) {
		rows = append(rows, r)
		if !*tsv {
			fmt.Printf("%-46s %10.1f %10.1f %-3s %6.2f ×   %s\n", r.name, r.figure, r.floor, r.unit, r.figure/r.floor, r.aim)
		}
	}
	if !*tsv {
		fmt.Printf("%-46s %10s %10s %-3s %8s   %s\n", "", "figure", "floor", "", "ratio", "aim")
	}
	floor := parseAll(texts)
	ws := workspace.New(root)
	started := time.Now()
	if err := ws.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	add(row{"reading " + root, ms(time.Since(started)), ms(floor), "ms", "≤ 2.5 × go/parser on the same files"})
	add(listing(root))
	keys, names := scoutKeys(ws)
	add(row{fmt.Sprintf("a key in the scout, %d symbols, p95", ws.Progress().Symbols), keys, names, "ms", "≤ 3 × bytes.Contains over the names"})
	var mem runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&mem)
	total := 0
	for _, t := range texts {
		total += len(t)
	}
	add(row{"memory after reading", float64(mem.HeapInuse) / 1e6, float64(total) / 1e6, "MB", "≤ 2 × the sources"})
	if *tsv {
		for _, r := range rows {
			fmt.Printf("%s\t%.3f\t%.3f\t%s\t%.3f\t%s\n", r.name, r.figure, r.floor, r.unit, r.figure/r.floor, r.aim)
		}
	}
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// read returns the texts of all files with the extension, which also warms the
// page cache.
func read(root, extension string) (texts [][]byte) {
	err := filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && strings.HasSuffix(p, extension) {
			text, err := os.ReadFile(p)
			if err != nil {
				return err
			}
			texts = append(texts, text)
		}
		return err
	})
	if err != nil {
		log.Fatal(err)
	}
	return texts
}

// parseAll is the floor of reading Go: the parser alone, with as many workers.
func parseAll(texts [][]byte) time.Duration {
	started := time.Now()
	var wg sync.WaitGroup
	todo := make(chan []byte)
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for t := range todo {
				_, _ = parser.ParseFile(token.NewFileSet(), "", t, parser.ParseComments|parser.SkipObjectResolution)
			}
		})
	}
	for _, t := range texts {
		todo <- t
	}
	close(todo)
	wg.Wait()
	return time.Since(started)
}

// listing is the time until all files are known, against walking the folders.
func listing(root string) row {
	started := time.Now()
	err := filepath.WalkDir(root, func(_ string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			_, err = d.Info()
		}
		return err
	})
	if err != nil {
		log.Fatal(err)
	}
	floor := time.Since(started)
	started = time.Now()
	if _, err := project.List(context.Background(), root, func([]project.File) {}); err != nil {
		log.Fatal(err)
	}
	return row{"listing the files", ms(time.Since(started)), ms(floor), "ms", "≤ 2 × walking the folders"}
}

// scoutKeys types queries letter by letter over the symbols of the project.
func scoutKeys(ws *workspace.Workspace) (p95, floor float64) {
	names := symbolNames(ws)
	var keys, floors []float64
	for _, query := range []string{"listenandserve", "Handler", "ro.as", "http serv", "nwrq", "marshla", "readall", "tb.err"} {
		for i := range query {
			started := time.Now()
			ws.Symbols(context.Background(), query[:i+1], 200)
			keys = append(keys, ms(time.Since(started)))
			started = time.Now()
			for _, n := range names {
				bytes.Contains(n, []byte(query[:i+1]))
			}
			floors = append(floors, ms(time.Since(started)))
		}
	}
	slices.Sort(keys)
	slices.Sort(floors)
	return keys[len(keys)*95/100], floors[len(floors)/2]
}

// symbolNames are the names to look through for the floor.
func symbolNames(ws *workspace.Workspace) (names [][]byte) {
	for _, s := range ws.AllSymbols() {
		names = append(names, []byte(s))
	}
	return names
}
