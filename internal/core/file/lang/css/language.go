package css

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
)

// Language is that of style sheets.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".css", ".pcss"}, Names: lang.None, Front: lang.None, Halves: []lang.Half{half}, Tops: lang.None, Installed: lang.None},
	Facts:  language.Facts,
	Pieces: language.Grammar.Pieces,
	Signs:  signs,
})

// Sheets is that of style sheets for a preprocessor, which have comments that end
// with the line.
var Sheets = func() *lang.Language {
	l := *Language
	l.Files.Extensions, l.Signs = []string{".scss", ".less"}, &lexical.Signs{Line: []string{"//"}, Block: signs.Block, Quotes: signs.Quotes}
	return &l
}()

// half is what a style sheet is of a component.
var half = lang.Half{Of: "component", Part: "style", Endings: []string{".module.css", ".module.scss", ".module.less", ".css", ".scss", ".less"}}

var signs = &lexical.Signs{Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
