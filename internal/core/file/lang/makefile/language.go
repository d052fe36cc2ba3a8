package makefile

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of makefiles.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".mk", ".mak"}, Names: []string{"Makefile", "makefile", "GNUmakefile"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  Facts,
	Pieces: lang.NoCuts,
	Wrong:  lang.OnlySyntax(lang.NoSyntax),
	Signs:  signs,
	Shared: shared.Nothing,
	Trying: &lang.Trying{Proposing: []string{"Makefile", "makefile", "GNUmakefile"}, Propose: propose},
})

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}, Tabs: true}
