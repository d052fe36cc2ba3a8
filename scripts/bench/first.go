package main

import (
	"context"
	"fmt"
	"log"

	sitter "github.com/smacker/go-tree-sitter"
	"github.com/smacker/go-tree-sitter/c"
	"github.com/smacker/go-tree-sitter/javascript"

	"rooktrail/internal/core/know/project"
)

// body is a folder of code in one language, as a flag names it.
type body struct {
	dir     string
	grammar *sitter.Language
	endings []string
	aim     string
}

// firstIndexes are the times to index bodies in other languages than Go, those that are at hand.
func firstIndexes(script, plain, cache string) (rows []row) {
	for _, b := range []body{
		{script, javascript.GetLanguage(), []string{".js"}, "≤ 1.5 × the parser alone on the same files"},
		{plain, c.GetLanguage(), []string{".c", ".h"}, "≤ 2.5 × the parser alone on the same files, without macros"},
	} {
		if b.dir != "" {
			rows = append(rows, b.first(cache))
		}
	}
	return rows
}

// first is the time to index a body for the first time, against parsing the same files and doing nothing with them.
func (b body) first(cache string) row {
	root, err := project.CheckFolder(b.dir)
	if err != nil {
		log.Fatal(err)
	}
	texts := read(root, b.endings...)
	floor := parseAll(texts, b.parse)
	_, took := open(root, cache)
	return row{fmt.Sprintf("first index of %s, %s", root, size(texts)), ms(took), ms(floor), "ms", b.aim}
}

func (b body) parse(text []byte) {
	parser := sitter.NewParser()
	defer parser.Close()
	parser.SetLanguage(b.grammar)
	if tree, err := parser.ParseCtx(context.Background(), nil, text); err == nil {
		tree.Close()
	}
}
