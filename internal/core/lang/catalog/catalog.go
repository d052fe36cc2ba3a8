// Package catalog lists the languages.
package catalog

import (
	"sync"

	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/lang/bash"
	"rooktrail/internal/core/lang/c"
	"rooktrail/internal/core/lang/csharp"
	"rooktrail/internal/core/lang/css"
	"rooktrail/internal/core/lang/dockerfile"
	"rooktrail/internal/core/lang/golang"
	"rooktrail/internal/core/lang/hcl"
	"rooktrail/internal/core/lang/html"
	"rooktrail/internal/core/lang/java"
	"rooktrail/internal/core/lang/javascript"
	"rooktrail/internal/core/lang/json"
	"rooktrail/internal/core/lang/kotlin"
	"rooktrail/internal/core/lang/lua"
	"rooktrail/internal/core/lang/makefile"
	"rooktrail/internal/core/lang/markdown"
	"rooktrail/internal/core/lang/php"
	"rooktrail/internal/core/lang/protobuf"
	"rooktrail/internal/core/lang/python"
	"rooktrail/internal/core/lang/ruby"
	"rooktrail/internal/core/lang/rust"
	"rooktrail/internal/core/lang/scala"
	"rooktrail/internal/core/lang/sql"
	"rooktrail/internal/core/lang/swift"
	"rooktrail/internal/core/lang/toml"
	"rooktrail/internal/core/lang/yaml"
	"rooktrail/internal/core/lexical"
)

// All are the languages that facts can be had from.
func All() []*lang.Language {
	return []*lang.Language{
		golang.Language, python.Language, java.Language,
		javascript.JavaScript, javascript.JSX, javascript.TypeScript, javascript.TSX,
		c.C, c.Header, c.CPP, c.HPP, csharp.Language, rust.Language, kotlin.Language, scala.Language, php.Language, ruby.Language, swift.Language, lua.Language, bash.Language,
		sql.Language, html.Language, css.Language, css.Sheets, markdown.Language, yaml.Language, json.Language,
		toml.Language, protobuf.Language, hcl.Language, dockerfile.Language, makefile.Language,
	}
}

// Written are those of which it is known how they are written, and no more.
func Written() []lang.Writing {
	braces := &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`"}
	hashes := &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"""`, `"""`}, {"'''", "'''"}, {`"`, `"`}, {"'", "'"}}}
	return []lang.Writing{
		{Extensions: []string{".dart", ".groovy", ".gradle"}, Signs: braces},
		{Extensions: []string{".pl", ".r", ".ex", ".exs", ".nix", ".cmake"}, Signs: hashes},
		{Extensions: []string{".xml", ".svg"}, Signs: html.Language.Signs},
	}
}

// Set are all of them, to be found by the names of files. It is made once, since
// nothing in it changes.
var Set = sync.OnceValue(func() *lang.Set { return lang.NewSet(All(), Written()) })
