package sql

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is SQL.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".sql", ".ddl", ".pgsql", ".psql"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  Facts,
	Pieces: lang.NoCuts,
	Wrong:  lang.OnlySyntax(lang.NoSyntax),
	Signs:  signs,
	Shared: shared.InScripts,
})

var signs = &lexical.Signs{Line: []string{"--"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{"'", "'"}, {`"`, `"`}}}
