package html

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/javascript"
	"rooktrail/internal/core/file/lexical"
)

// Language is that of pages.
var Language = lang.Data(lang.Language{
	Name:    name,
	Files:   lang.Files{Extensions: []string{".html", ".htm", ".xhtml", ".vue", ".svelte", ".astro"}, Names: lang.None, Front: lang.None, Halves: []lang.Half{{Of: "component", Part: "page", Endings: []string{".module.html", ".html", ".htm"}}}, Tops: lang.None, Installed: lang.None},
	Facts:   language.Facts,
	Pieces:  language.Grammar.Pieces,
	Signs:   signs,
	Imports: javascript.Imports,
})

var signs = &lexical.Signs{Block: [][2]string{{"<!--", "-->"}}, Quotes: [][2]string{{`"`, `"`}}, Tags: true}
