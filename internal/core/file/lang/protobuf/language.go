package protobuf

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of protocol buffers.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".proto"}, Names: lang.None, Front: lang.None, Halves: []lang.Half{{Of: "protocol", Part: "protocol", Endings: []string{".proto"}}}, Tops: lang.None, Installed: lang.None},
	Facts:  language.Facts,
	Pieces: language.Grammar.Pieces,
	Wrong:  lang.OnlySyntax(language.Grammar.Brackets),
	Signs:  signs,
	Shared: shared.Nothing,
	Code:   lang.Yes,
})

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
