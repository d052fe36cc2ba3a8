package dockerfile

import (
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lexical"
)

// Language is that of the files by which images are made.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".dockerfile", ".containerfile"}, Names: []string{"Dockerfile", "Containerfile"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
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

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
