package bash

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is that of shell scripts.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".sh", ".bash", ".zsh", ".ksh", ".bats", ".env"}, Names: []string{".bashrc", ".bash_profile", ".profile", ".zshrc", ".envrc", ".env", ".env.example", ".env.sample", ".env.local", ".env.test", ".env.development", ".env.production", "PKGBUILD"}, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(lang.NoSyntax),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.All(shared.InShell, shared.InCode(signs)),
	Names:      lang.Names{Reserved: lang.WordsOf(`case coproc do done elif else esac fi for function if in select then time until while`), Also: lang.NoLetters, Argument: lang.NoLetters, Overrides: lang.NoLetters, Files: lang.NoFiles},
	Keywords:   lang.WordsOf(`case do done elif else esac fi for function if in select then until while`),
	Tests:      lang.Tests{Files: lang.None, Functions: lang.None},
	Generated:  lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:       lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesItself, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.Yes, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: lang.None, Self: lang.Words{}, Super: lang.Words{}, Named: lang.Qualified, Apart: lang.Within, Overloads: lang.No,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !strings.HasPrefix(s.Name, "_") }, Entries: lang.WordsOf("main"),
		Called: lang.Words{}, Marks: lang.None, Unmarked: lang.None},
	Imports:      func(p lang.Project) lang.Imports { return imports{project: p} },
	Surroundings: lang.NoSurroundings,
	Importing:    lang.NoImporting,
	Checker:      lang.NoChecker,
	Mending:      lang.NoMending,
	Trying:       lang.NoTrying,
	Units:        lang.NoUnits,
	Structure:    lang.NoStructure,
	Format:       lang.AsWritten,
}

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}, Closing: []string{"fi", "done", "esac"}}
