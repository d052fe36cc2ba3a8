// Command queries types what people type (queries.txt) over the source of the
// Go standard library and counts how often the place they mean comes first and
// among the first five. It lists the others, and fails if there are too many.
//
//	go run ./scripts/queries [-root DIR -table FILE]
package main

import (
	"context"
	_ "embed"
	"flag"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"runtime"
	"strings"

	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/workspace"
)

//go:embed queries.txt
var table string

// The share of the queries, in hundredths, whose place must come first, and
// among the first five.
const (
	wantFirst = 85
	wantFive  = 97
)

func main() {
	dir := flag.String("root", filepath.Join(runtime.GOROOT(), "src"), "the source of the standard library")
	file := flag.String("table", "", "a file of other queries, in the form of queries.txt")
	flag.Parse()
	queries := table
	if *file != "" {
		data, err := os.ReadFile(*file)
		if err != nil {
			log.Fatal(err)
		}
		queries = string(data)
	}
	root, err := project.CheckFolder(*dir)
	if err != nil {
		log.Fatal(err)
	}
	ws := workspace.New(root)
	if err := ws.Code.Read(context.Background()); err != nil {
		log.Fatal(err)
	}
	total, first, five := 0, 0, 0
	for line := range strings.Lines(queries) {
		place, queries, ok := strings.Cut(strings.TrimSpace(line), ": ")
		if !ok || strings.HasPrefix(line, "#") {
			continue
		}
		for _, q := range strings.Split(queries, " | ") {
			total++
			found := search(ws, q, strings.Contains(place, " "))
			switch at := position(found, place); {
			case at == 0:
				first++
				five++
			case at > 0 && at < 5:
				five++
				fmt.Printf("%-26s %-46s is number %d, behind %s\n", q, place, at+1, found[0])
			default:
				fmt.Printf("%-26s %-46s is not among the first five: %s\n", q, place, strings.Join(found[:min(len(found), 3)], ", "))
			}
		}
	}
	fmt.Printf("%d queries: the place meant is first in %d %%, among the first five in %d %%\n", total, 100*first/total, 100*five/total)
	if 100*first < wantFirst*total || 100*five < wantFive*total {
		fmt.Fprintf(os.Stderr, "wanted are %d %% and %d %%\n", wantFirst, wantFive)
		os.Exit(1)
	}
}

func search(ws *workspace.Workspace, query string, symbols bool) (found []string) {
	const limit = 20
	if !symbols {
		for _, h := range ws.Search.Files(context.Background(), query, limit) {
			found = append(found, h.Path)
		}
		return found
	}
	for _, h := range ws.Search.Symbols(context.Background(), query, limit) {
		found = append(found, h.Path+" "+h.Qualified())
	}
	return found
}

func position(found []string, place string) int {
	for i, f := range found {
		if f == place {
			return i
		}
	}
	return -1
}
