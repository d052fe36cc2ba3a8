package dockerfile

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of the files by which images are made.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".dockerfile", ".containerfile"}, Names: []string{"Dockerfile", "Containerfile"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  language.Facts,
	Pieces: language.Grammar.Pieces,
	Wrong:  lang.OnlySyntax(lang.NoSyntax),
	Signs:  signs,
	Shared: shared.InImages,
})

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
