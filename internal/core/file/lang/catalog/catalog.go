// Package catalog lists the languages.
package catalog

import (
	"sync"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/bash"
	"rooktrail/internal/core/file/lang/c"
	"rooktrail/internal/core/file/lang/csharp"
	"rooktrail/internal/core/file/lang/css"
	"rooktrail/internal/core/file/lang/dockerfile"
	"rooktrail/internal/core/file/lang/golang"
	"rooktrail/internal/core/file/lang/hcl"
	"rooktrail/internal/core/file/lang/html"
	"rooktrail/internal/core/file/lang/java"
	"rooktrail/internal/core/file/lang/javascript"
	"rooktrail/internal/core/file/lang/json"
	"rooktrail/internal/core/file/lang/kotlin"
	"rooktrail/internal/core/file/lang/lua"
	"rooktrail/internal/core/file/lang/makefile"
	"rooktrail/internal/core/file/lang/markdown"
	"rooktrail/internal/core/file/lang/php"
	"rooktrail/internal/core/file/lang/protobuf"
	"rooktrail/internal/core/file/lang/python"
	"rooktrail/internal/core/file/lang/ruby"
	"rooktrail/internal/core/file/lang/rust"
	"rooktrail/internal/core/file/lang/scala"
	"rooktrail/internal/core/file/lang/sql"
	"rooktrail/internal/core/file/lang/swift"
	"rooktrail/internal/core/file/lang/toml"
	"rooktrail/internal/core/file/lang/yaml"
	"rooktrail/internal/core/file/lexical"
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
