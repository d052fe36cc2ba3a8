package json

import (
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lexical"
)

// Language is JSON.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".json", ".jsonc", ".json5", ".webmanifest", ".geojson"}, Names: []string{".babelrc", ".eslintrc", ".prettierrc"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:      Facts,
	Pieces:     lang.NoCuts,
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

var signs = &lexical.Signs{Line: lang.None}
