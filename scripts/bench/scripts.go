package main

import (
	"context"
	"fmt"
	"log"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/javascript"

	"rooktrail/internal/core/know/project"
)

// firstScripts is the time to index a body of JavaScript for the first time,
// against parsing the same files and doing nothing with them.
func firstScripts(dir, cache string) row {
	root, err := project.CheckFolder(dir)
	if err != nil {
		log.Fatal(err)
	}
	texts := read(root, ".js")
	floor := parseAll(texts, parseScript)
	_, first := open(root, cache)
	return row{fmt.Sprintf("first index of %s, %s", root, size(texts)), ms(first), ms(floor), "ms", "≤ 1.5 × the parser alone on the same files"}
}

func parseScript(text []byte) {
	parser := sitter.NewParser()
	defer parser.Close()
	parser.SetLanguage(javascript.GetLanguage())
	if tree, err := parser.ParseCtx(context.Background(), nil, text); err == nil {
		tree.Close()
	}
}
