// Command bench measures how fast Rook Trail is, each figure against a floor
// measured in the same run, since machines differ. It prints a table, and with
// -tsv one line a figure: name, figure, floor, unit, ratio, aim.
//
//	go run ./scripts/bench [-tsv] [-keys | -answers | -first] [-go DIR] [-script DIR] [-c DIR] [-program FILE]
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
	"sync"
	"time"

	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
)

// row is one figure with its floor, both in the unit.
type row struct {
	name          string
	figure, floor float64
	unit, aim     string
}

func main() {
	if len(os.Args) > 2 && os.Args[1] == launching {
		launch(os.Args[2:])
		return
	}
	if len(os.Args) > 1 && os.Args[1] == spinning {
		spin()
		return
	}
	tsv := flag.Bool("tsv", false, "print tab-separated values")
	goDir := flag.String("go", filepath.Join(runtime.GOROOT(), "src"), "a large body of Go")
	program := flag.String("program", "bin/rooktrail", "the built program, whose keys are timed")
	only := flag.Bool("keys", false, "time nothing but keys in a long file")
	signs := flag.Bool("signpost", false, "time nothing but the signpost")
	typing := flag.Bool("writing", false, "time nothing but writing")
	places := flag.Bool("remembered", false, "time nothing but many stops and bookmarks")
	drawn := flag.Bool("drawings", false, "time nothing but drawings")
	asked := flag.Bool("answers", false, "time nothing but questions about names")
	shell := flag.Bool("shell", false, "time nothing but a question from the shell")
	protocol := flag.Bool("serve", false, "time nothing but the language server")
	scriptDir := flag.String("script", "", "a large body of JavaScript, if there is one at hand")
	plainDir := flag.String("c", "", "a large body of C, if there is one at hand")
	firsts := flag.Bool("first", false, "time nothing but the first index of these two")
	largeDir := flag.String("large", "", "time what costs how much in this folder, and nothing else")
	switched := flag.String("switching", "", "time nothing but keys while branches of a copy of a part of this folder are switched")
	flag.Parse()
	root, err := project.CheckFolder(*goDir)
	if err != nil {
		log.Fatal(err)
	}
	add := func(r row) {
		if *tsv {
			fmt.Printf("%s\t%.3f\t%.3f\t%s\t%.3f\t%s\n", r.name, r.figure, r.floor, r.unit, r.figure/r.floor, r.aim)
		} else {
			fmt.Printf("%-58s %10.1f %10.1f %-3s %6.2f ×   %s\n", r.name, r.figure, r.floor, r.unit, r.figure/r.floor, r.aim)
		}
	}
	if !*tsv {
		fmt.Printf("%-58s %10s %10s %-3s %8s   %s\n", "", "figure", "floor", "", "ratio", "aim")
	}
	if *largeDir != "" {
		folder, err := project.CheckFolder(*largeDir)
		if err != nil {
			log.Fatal(err)
		}
		large(*program, folder, add)
		return
	}
	if *switched != "" {
		switching(*program, *switched, add)
		return
	}
	if *only {
		for _, r := range keysInALongFile(*program) {
			add(r)
		}
		return
	}
	if *typing {
		for _, r := range writingInALongFile() {
			add(r)
		}
		return
	}
	if *places {
		for _, r := range remembered() {
			add(r)
		}
		return
	}
	if *drawn {
		for _, r := range drawing() {
			add(r)
		}
		return
	}
	if *shell {
		add(fromTheShell(*program, root))
		return
	}
	if *protocol {
		for _, r := range overTheProtocol(*program, root) {
			add(r)
		}
		return
	}
	if *asked || *signs || *firsts {
		cache, err := os.MkdirTemp("", "rooktrail-bench-")
		if err != nil {
			log.Fatal(err)
		}
		defer os.RemoveAll(cache)
		if *firsts {
			for _, r := range firstIndexes(*scriptDir, *plainDir, cache) {
				add(r)
			}
			return
		}
		ws, _ := open(root, cache)
		if *signs {
			for _, r := range signpost(ws) {
				add(r)
			}
			return
		}
		for _, r := range answers(root, cache) {
			add(r)
		}
		return
	}
	texts := read(root, ".go")
	floor := parseAll(texts, parseGo)
	cache, err := os.MkdirTemp("", "rooktrail-bench-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(cache)
	_, first := open(root, cache)
	add(row{"first index of " + root + ", " + size(texts), ms(first), ms(floor), "ms", "≤ 2.5 × go/parser on the same files"})
	list := listing(root)
	add(list)
	ws, again := open(root, cache)
	add(row{"opening it again", ms(again), list.floor, "ms", "≤ 2 × walking the folders"})
	add(textSearch(ws))
	keys, names := scoutKeys(ws)
	add(row{fmt.Sprintf("a key in the scout, %d symbols, p95", ws.Code.Progress().Symbols), keys, names, "ms", "≤ 3 × bytes.Contains over the names"})
	add(savedFile())
	for _, r := range drawing() {
		add(r)
	}
	for _, r := range keysInALongFile(*program) {
		add(r)
	}
	var mem runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&mem)
	total := 0
	for _, t := range texts {
		total += len(t)
	}
	add(row{"memory after reading", float64(mem.HeapInuse) / 1e6, float64(total) / 1e6, "MB", "≤ 2 × the sources"})
	for _, r := range signpost(ws) {
		add(r)
	}
	for _, r := range remembered() {
		add(r)
	}
	for _, r := range writingInALongFile() {
		add(r)
	}
	add(row{"peak memory of all of the above", peakMemory(), float64(total) / 1e6, "MB", ""})
	for _, r := range firstIndexes(*scriptDir, *plainDir, cache) {
		add(r)
	}
	for _, r := range answers(root, cache) {
		add(r)
	}
	add(fromTheShell(*program, root))
	for _, r := range overTheProtocol(*program, root) {
		add(r)
	}
}

// size writes how much text there is.
func size(texts [][]byte) string {
	total := 0
	for _, t := range texts {
		total += len(t)
	}
	return fmt.Sprintf("%.0f MB", float64(total)/1e6)
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// open reads a project with an index in the cache folder, and times it.
func open(root, cache string) (*workspace.Workspace, time.Duration) {
	ws := workspace.New(root)
	started := time.Now()
	ws.Code.KeepIndex(context.Background(), cache)
	if err := ws.Code.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	took := time.Since(started)
	if err := ws.Code.Close(); err != nil {
		log.Fatal(err)
	}
	return ws, took
}

// textSearch is the time to look through all files for a text that is rare,
// against reading the same files with as many workers.
func textSearch(ws *workspace.Workspace) row {
	m, err := find.Compile(find.Query{Pattern: "listenandserve"})
	if err != nil {
		log.Fatal(err)
	}
	floor := readAll(ws.Code.Root())
	started := time.Now()
	ws.Search.FindText(context.Background(), m, func([]search.TextHit) bool { return true })
	return row{"text search of all files", ms(time.Since(started)), ms(floor), "ms", "≤ 1.5 × reading the files"}
}

// readAll reads every file with as many workers as there are processors.
func readAll(root string) time.Duration {
	var paths []string
	if _, err := project.List(context.Background(), root, false, func(files []project.File) {
		for _, f := range files {
			paths = append(paths, filepath.Join(root, f.Path))
		}
	}); err != nil {
		log.Fatal(err)
	}
	started := time.Now()
	var wg sync.WaitGroup
	todo := make(chan string)
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for p := range todo {
				if _, err := os.ReadFile(p); err != nil {
					log.Fatal(err)
				}
			}
		})
	}
	for _, p := range paths {
		todo <- p
	}
	close(todo)
	wg.Wait()
	return time.Since(started)
}

// read returns the texts of all files with the extension, which also warms the
// page cache.
func read(root string, endings ...string) (texts [][]byte) {
	err := filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && slices.Contains(endings, filepath.Ext(p)) {
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

// parseAll is the floor of reading a language: a parser alone, with as many
// workers.
func parseAll(texts [][]byte, parse func([]byte)) time.Duration {
	started := time.Now()
	var wg sync.WaitGroup
	todo := make(chan []byte)
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for t := range todo {
				parse(t)
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

func parseGo(text []byte) {
	_, _ = parser.ParseFile(token.NewFileSet(), "", text, parser.ParseComments|parser.SkipObjectResolution)
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
	if _, err := project.List(context.Background(), root, false, func([]project.File) {}); err != nil {
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
			ws.Search.Symbols(context.Background(), query[:i+1], 200)
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
	for _, s := range ws.Search.AllSymbols() {
		names = append(names, []byte(s))
	}
	return names
}
