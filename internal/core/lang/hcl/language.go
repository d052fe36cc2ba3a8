package hcl

import (
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lexical"
)

// Language is HCL.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".hcl", ".tf", ".tfvars", ".nomad"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Keywords:   lang.Words{},
	Tests:      lang.NoTests,
	Code:       lang.No,
	Scopes:     lang.PlainScopes,
	Members:    lang.PlainMembers,
	Types:      lang.PlainTypes,
	Outside:    lang.PlainOutside,
	Imports:    lang.Beside,
	Checker:    lang.NoChecker,
	Format:     lang.AsWritten,
}

var signs = &lexical.Signs{Line: []string{"#", "//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}}}
