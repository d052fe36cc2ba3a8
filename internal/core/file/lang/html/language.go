package html

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/javascript"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of pages.
var Language = lang.Data(lang.Language{
	Name:    name,
	Files:   lang.Files{Extensions: []string{".html", ".htm", ".xhtml", ".vue", ".svelte", ".astro", ".gohtml", ".tmpl", ".jinja", ".jinja2", ".j2", ".njk", ".erb", ".ejs", ".hbs", ".twig"}, Names: lang.None, Front: lang.None, Halves: []lang.Half{{Of: "component", Part: "page", Endings: []string{".module.html", ".html", ".htm"}}}, Tops: lang.None, Installed: lang.None},
	Facts:   language.Facts,
	Pieces:  language.Grammar.Pieces,
	Wrong:   lang.OnlySyntax(lang.NoSyntax),
	Signs:   signs,
	Shared:  shared.InPages(signs),
	Imports: imports,
})

// imports are those of a page, whose addresses are files beside it or below the root of what is served, and of the scripts in
// it.
func imports(p lang.Project) lang.Imports {
	return addresses{javascript.Imports(p), lang.Beside(p)}
}

type addresses struct {
	lang.Imports
	files lang.Imports
}

// Module implements lang.Imports.
func (a addresses) Module(file string, imp facts.Imported) string {
	at := imp
	if at.Path = strings.TrimLeft(imp.Path, "/"); at.Path != "" {
		if p := a.files.Module(file, at); p != "" {
			return p
		}
	}
	return a.Imports.Module(file, imp)
}

var signs = &lexical.Signs{Block: [][2]string{{"<!--", "-->"}}, Quotes: [][2]string{{`"`, `"`}}, Tags: true}
