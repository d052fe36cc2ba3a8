package golang

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/scanner"
	"go/token"
	"slices"
)

// howRead is how files are parsed for facts. Without all errors, a file with more than ten of them would have no declarations at all.
const howRead = parser.ParseComments | parser.SkipObjectResolution | parser.AllErrors

// parse reads a file; positions in it begin at 1. Of a text with errors, a declaration whose brackets are not closed, as while one
// writes it, does not take in those behind it: each part up to where the next one begins in the first column is read by itself, with
// what is open closed at its end.
func parse(text []byte) *ast.File {
	file, err := parser.ParseFile(token.NewFileSet(), "", text, howRead)
	if err == nil || file == nil || !file.Name.Pos().IsValid() {
		return file
	}
	breaks := unfinished(text)
	if len(breaks) == 0 {
		return file
	}
	from, decls, comments := 0, []ast.Decl(nil), []*ast.CommentGroup(nil)
	for _, b := range append(breaks, unfinishedAt{at: len(text)}) {
		part := append(slices.Concat(blanked(text, file, from), text[from:b.at], []byte("\n")), b.closing...)
		read, _ := parser.ParseFile(token.NewFileSet(), "", part, howRead) // what could be read of it will do
		if read == nil {
			return file
		}
		for _, d := range read.Decls {
			if int(d.Pos()) > from {
				endBy(d, token.Pos(b.at))
				decls = append(decls, d)
			}
		}
		for _, c := range read.Comments {
			if int(c.Pos()) > from {
				comments = append(comments, c)
			}
		}
		from = b.at
	}
	file.Decls, file.Comments = decls, comments
	return file
}

// endBy has the brackets of a declaration that were closed behind its text end at that.
func endBy(d ast.Decl, last token.Pos) {
	ast.Inspect(d, func(n ast.Node) bool {
		var closes []*token.Pos
		switch n := n.(type) {
		case *ast.GenDecl:
			closes = append(closes, &n.Rparen)
		case *ast.FieldList:
			closes = append(closes, &n.Closing)
		case *ast.BlockStmt:
			closes = append(closes, &n.Rbrace)
		case *ast.CompositeLit:
			closes = append(closes, &n.Rbrace)
		case *ast.CallExpr:
			closes = append(closes, &n.Rparen)
		case *ast.ParenExpr:
			closes = append(closes, &n.Rparen)
		case *ast.TypeAssertExpr:
			closes = append(closes, &n.Rparen)
		case *ast.IndexExpr:
			closes = append(closes, &n.Rbrack)
		case *ast.IndexListExpr:
			closes = append(closes, &n.Rbrack)
		case *ast.SliceExpr:
			closes = append(closes, &n.Rbrack)
		case *ast.BadExpr:
			closes = append(closes, &n.To)
		case *ast.BadStmt:
			closes = append(closes, &n.To)
		case *ast.BadDecl:
			closes = append(closes, &n.To)
		}
		for _, at := range closes {
			*at = min(*at, last)
		}
		return true
	})
}

// blanked is the beginning of a text up to an offset, with blanks for all behind the package clause.
func blanked(text []byte, file *ast.File, end int) []byte {
	out := bytes.Clone(text[:end])
	for i := min(int(file.Name.End())-1, end); i < end; i++ {
		if out[i] != '\n' {
			out[i] = ' '
		}
	}
	return out
}

// unfinishedAt is where a declaration begins, with its comment, while brackets of the one before are open; closing closes these.
type unfinishedAt struct {
	at      int
	closing []byte
}

// unfinished finds these places. A keyword of declarations in the first column begins one, whatever is open.
func unfinished(text []byte) (all []unfinishedAt) {
	var s scanner.Scanner
	set := token.NewFileSet()
	s.Init(set.AddFile("", set.Base(), len(text)), text, nil, 0)
	var open []byte
	for {
		pos, tok, _ := s.Scan()
		at := int(pos) - 1
		switch tok {
		case token.EOF:
			return all
		case token.LPAREN:
			open = append(open, ')')
		case token.LBRACK:
			open = append(open, ']')
		case token.LBRACE:
			open = append(open, '}')
		case token.RPAREN, token.RBRACK, token.RBRACE:
			if i := bytes.LastIndexByte(open, tok.String()[0]); i >= 0 {
				open = open[:i] // what is open within is not any more
			}
		case token.FUNC, token.TYPE, token.VAR, token.CONST:
			if len(open) > 0 && (at == 0 || text[at-1] == '\n') {
				slices.Reverse(open)
				all = append(all, unfinishedAt{commentAbove(text, at), open})
				open = nil
			}
		}
	}
}

// commentAbove is where the comment of whole lines begins that stands directly above an offset; the offset itself if none does.
func commentAbove(text []byte, at int) int {
	for at > 0 {
		line := bytes.LastIndexByte(text[:at-1], '\n') + 1
		if !bytes.HasPrefix(text[line:at], []byte("//")) {
			return at
		}
		at = line
	}
	return at
}
