package swift

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Swift.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".swift"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: []string{"Package.swift"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(language.Grammar.Brackets),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`as associatedtype break case catch class continue default defer deinit do else enum extension fallthrough false
			fileprivate for func guard if import in init inout internal is let nil operator private protocol public repeat rethrows
			return self static struct subscript super switch throw throws true try typealias var where while`), Also: lang.NoLetters, Argument: lang.NoLetters, Overrides: "override", Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`as await case catch do else for guard if in is repeat return switch throw try where while`),
	Tests:     lang.Tests{Files: []string{"*Test.swift", "*Tests.swift"}, Functions: []string{"test"}},
	Generated: lang.Generated{Files: []string{"*.pb.swift"}, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesProject, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.No, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "?."}, Self: lang.WordsOf("self super Self"), Super: lang.WordsOf("super"), Named: lang.Anywhere, Apart: lang.Everywhere, Overloads: lang.Yes,
		Constructors: []string{"init"}, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.Yes, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return s.Has("public", "open") }, Entries: lang.WordsOf("main"),
		Called: lang.WordsOf("encode/1 hash/1"), Marks: []string{"@"}, Unmarked: lang.None},
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

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}, {"'", "'"}}}
