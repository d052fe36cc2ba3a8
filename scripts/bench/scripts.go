package main

import (
	"context"
	"fmt"
	"log"
	"runtime"
	"sync"
	"time"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/javascript"

	"rooktrail/internal/core/project"
)

// firstScripts is the time to index a body of JavaScript for the first time,
// against parsing the same files and doing nothing with them.
func firstScripts(dir, cache string) row {
	root, err := project.CheckFolder(dir)
	if err != nil {
		log.Fatal(err)
	}
	texts := read(root, ".js")
	started := time.Now()
	var wg sync.WaitGroup
	todo := make(chan []byte)
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for t := range todo {
				parser := sitter.NewParser()
				parser.SetLanguage(javascript.GetLanguage())
				if tree, err := parser.ParseCtx(context.Background(), nil, t); err == nil {
					tree.Close()
				}
				parser.Close()
			}
		})
	}
	for _, t := range texts {
		todo <- t
	}
	close(todo)
	wg.Wait()
	floor := time.Since(started)
	_, first := open(root, cache)
	return row{fmt.Sprintf("first index of %s, %s", root, size(texts)), ms(first), ms(floor), "ms", "≤ 1.5 × the parser alone on the same files"}
}
