package catalog_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/catalog"
)

// fuzz begins with the sample of the language and with broken pieces of it.
func fuzz(f *testing.F, sample string) {
	annotated, err := os.ReadFile(filepath.Join("testdata", sample+".sample"))
	require.NoError(f, err)
	text := string(factstest.Bare(annotated))
	factstest.Fuzz(f, catalog.Set().Of(sample), text, text[:len(text)/2], text[len(text)/3:], "{[(", "\x00\xff")
}

func FuzzC(f *testing.F)          { fuzz(f, "station.c") }
func FuzzHeader(f *testing.F)     { fuzz(f, "frame.h") }
func FuzzCPP(f *testing.F)        { fuzz(f, "ring.cpp") }
func FuzzCSharp(f *testing.F)     { fuzz(f, "Radio.cs") }
func FuzzRust(f *testing.F)       { fuzz(f, "slope.rs") }
func FuzzKotlin(f *testing.F)     { fuzz(f, "Pager.kt") }
func FuzzScala(f *testing.F)      { fuzz(f, "Roster.scala") }
func FuzzPHP(f *testing.F)        { fuzz(f, "board.php") }
func FuzzRuby(f *testing.F)       { fuzz(f, "board.rb") }
func FuzzSwift(f *testing.F)      { fuzz(f, "Pager.swift") }
func FuzzLua(f *testing.F)        { fuzz(f, "board.lua") }
func FuzzBash(f *testing.F)       { fuzz(f, "send.sh") }
func FuzzSQL(f *testing.F)        { fuzz(f, "store.sql") }
func FuzzHTML(f *testing.F)       { fuzz(f, "board.html") }
func FuzzCSS(f *testing.F)        { fuzz(f, "board.css") }
func FuzzMarkdown(f *testing.F)   { fuzz(f, "guide.md") }
func FuzzYAML(f *testing.F)       { fuzz(f, "huts.yaml") }
func FuzzJSON(f *testing.F)       { fuzz(f, "huts.json") }
func FuzzTOML(f *testing.F)       { fuzz(f, "huts.toml") }
func FuzzProtobuf(f *testing.F)   { fuzz(f, "radio.proto") }
func FuzzHCL(f *testing.F)        { fuzz(f, "huts.hcl") }
func FuzzDockerfile(f *testing.F) { fuzz(f, "Dockerfile") }
func FuzzMakefile(f *testing.F)   { fuzz(f, "Makefile") }
