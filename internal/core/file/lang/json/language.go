package json

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is JSON.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".json", ".jsonc", ".json5", ".webmanifest", ".geojson"}, Names: []string{".babelrc", ".eslintrc", ".prettierrc"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  Facts,
	Pieces: lang.NoCuts,
	Wrong:  lang.OnlySyntax(Faults),
	Signs:  signs,
	Shared: shared.InSettings,
})

var signs = &lexical.Signs{Line: lang.None}
