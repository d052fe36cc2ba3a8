package kotlin

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Kotlin.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".kt", ".kts"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: []string{"build.gradle.kts"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(language.Grammar.Brackets),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`as break class continue do else false for fun if in interface is null object package return super this throw true try
			typealias typeof val var when while`), Also: lang.NoLetters, Argument: "=", Overrides: "override", Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`as catch do else finally for if in is return throw try when while`),
	Tests:     lang.Tests{Files: []string{"*Test.kt", "*Tests.kt"}, Functions: []string{"test"}},
	Generated: lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesPackage, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.No, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "?.", "::"}, Self: lang.WordsOf("this super"), Super: lang.WordsOf("super"), Named: lang.Anywhere, Apart: lang.Everywhere, Overloads: lang.Yes,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: flow,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !s.Has("private", "internal") }, Entries: lang.WordsOf("main"),
		Called: lang.WordsOf("toString/0 equals/1 hashCode/0 compareTo/1 iterator/0 invoke/0 run/0 close/0"), Marks: []string{"@"}, Unmarked: lang.None},
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

// flow is how values come to be of a type, where that is not said: collections of what they are made with.
var flow = func() lang.Values {
	v := lang.Declared
	v.Holds = lang.WordsOf("List MutableList Set MutableSet Map MutableMap Array ArrayList")
	v.Whole = lang.WordsOf("let also takeIf takeUnless")
	v.Gives = map[string]lang.Result{}
	for made, names := range map[string]string{
		"List": "listOf mutableListOf listOfNotNull arrayListOf arrayOf emptyList sequenceOf", "Set": "setOf mutableSetOf hashSetOf linkedSetOf emptySet",
		"Map": "mapOf mutableMapOf hashMapOf linkedMapOf emptyMap",
	} {
		for name := range lang.WordsOf(names) {
			v.Gives[name] = lang.Result{What: lang.Holding, Name: made}
		}
	}
	return v
}()

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}, {"'", "'"}}}
