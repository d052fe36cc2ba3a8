package yaml

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is YAML.
var Language = lang.Data(lang.Language{
	Name:   name,
	Files:  lang.Files{Extensions: []string{".yaml", ".yml"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:  language.Facts,
	Pieces: language.Grammar.Pieces,
	Wrong:  lang.OnlySyntax(language.Grammar.Brackets),
	Signs:  signs,
	Shared: shared.InSettings,
})

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}}
