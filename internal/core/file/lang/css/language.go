package css

import (
	"path"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of style sheets.
var Language = lang.Data(lang.Language{
	Name:    name,
	Files:   lang.Files{Extensions: []string{".css", ".pcss"}, Names: lang.None, Front: lang.None, Halves: []lang.Half{half}, Tops: lang.None, Installed: lang.None},
	Facts:   language.Facts,
	Pieces:  language.Grammar.Pieces,
	Wrong:   lang.OnlySyntax(faults),
	Signs:   signs,
	Shared:  shared.InSheets,
	Imports: sheets,
})

// sheets finds the files that style sheets lead to: beside them, or below the root; where there is a preprocessor the ending
// may be missing, and the file may begin with a line.
func sheets(p lang.Project) lang.Imports { return addresses{lang.Beside(p)} }

type addresses struct{ lang.Imports }

// Module implements lang.Imports.
func (a addresses) Module(file string, imp facts.Imported) string {
	to := strings.TrimLeft(strings.TrimPrefix(imp.Path, "~"), "/")
	folder, name := path.Split(to)
	for _, end := range []string{"", ".scss", ".less", ".css", "/_index.scss", "/index.scss"} {
		for _, begin := range []string{"", "_"} {
			if path.Ext(name+end) == "" {
				continue
			}
			imp.Path = folder + begin + name + end
			if p := a.Imports.Module(file, imp); p != "" {
				return p
			}
		}
	}
	return ""
}

// Sheets is that of style sheets for a preprocessor, which have comments that end
// with the line.
var Sheets = func() *lang.Language {
	l := *Language
	l.Facts = preprocessed
	l.Files.Extensions, l.Signs = []string{".scss", ".less"}, &lexical.Signs{Line: []string{"//"}, Block: signs.Block, Quotes: signs.Quotes}
	return &l
}()

// Endings are those of the files of style sheets.
var Endings = []string{".css", ".pcss", ".scss", ".sass", ".less"}

// half is what a style sheet is of a component.
var half = lang.Half{Of: "component", Part: "style", Endings: []string{".module.css", ".module.scss", ".module.less", ".css", ".scss", ".less"}}

var signs = &lexical.Signs{Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
