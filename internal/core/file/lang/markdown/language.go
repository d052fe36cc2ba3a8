package markdown

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Markdown.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".md", ".markdown", ".mdx"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  Facts,
	Pieces: lang.NoCuts,
	Wrong:  lang.OnlySyntax(lang.NoSyntax),
	Signs:  signs,
	Shared: shared.Nothing,
})

var signs = &lexical.Signs{Block: [][2]string{{"<!--", "-->"}}}
