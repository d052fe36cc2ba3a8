package php

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is PHP.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".php", ".phtml", ".php5"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: []string{"composer.json"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(language.Grammar.Faults),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InMarkup(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`abstract and array as break callable case catch class clone const continue declare default do echo else elseif empty
			enddeclare endfor endforeach endif endswitch endwhile exit extends final finally fn for foreach function global goto if
			implements include include_once instanceof insteadof interface isset list match namespace new or print private protected
			public readonly require require_once return static switch throw trait try unset use var while xor yield`), Also: "$", Argument: ":", Overrides: lang.NoLetters, Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`and array as case catch do echo else elseif empty eval exit fn for foreach function if include include_once instanceof isset list match new or print require require_once return switch throw try unset use while xor yield`),
	Tests:     lang.Tests{Files: []string{"*Test.php"}, Functions: []string{"test"}},
	Generated: lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesPackage, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.Yes, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{"->", "?->", "::"}, Self: lang.WordsOf("$this self static parent"), Super: lang.WordsOf("parent"), Named: lang.Qualified, Apart: lang.Within, Overloads: lang.No,
		Constructors: []string{"__construct"}, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: flow,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return s.Container == "" || s.Has("public", "protected") }, Entries: lang.WordsOf("main"),
		Called: lang.Words{}, Marks: []string{"#["}, Unmarked: lang.None},
	Imports:      lang.NoImports,
	Surroundings: lang.NoSurroundings,
	Importing:    lang.NoImporting,
	Checker:      lang.NoChecker,
	Mending:      lang.NoMending,
	Trying:       lang.NoTrying,
	Units:        lang.NoUnits,
	Structure:    lang.NoStructure,
	Format:       lang.AsWritten,
}

var signs = &lexical.Signs{Line: []string{"//", "#"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`", Code: []string{"#["}, Tags: true}
