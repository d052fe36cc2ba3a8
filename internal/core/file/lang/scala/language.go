package scala

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Scala.
var Language = &lang.Language{
	Name:   name,
	Family: name,
	Files: lang.Files{Extensions: []string{".scala", ".sc", ".sbt"}, Names: lang.None, Front: []string{"package.scala"}, Halves: lang.NoHalves,
		Tops: []string{"build.sbt"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(language.Grammar.Brackets),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`abstract case catch class def do else enum export extends false final finally for given if implicit import lazy match
			new null object override package private protected return sealed super then this throw trait true try type val var while
			with yield`), Also: "$", Argument: "=", Overrides: "override", Files: lang.NoFiles},
	Keywords:  lang.WordsOf("case catch do else finally for given if import match new return throw try using while with yield"),
	Tests:     lang.Tests{Files: []string{"*Test.scala", "*Spec.scala", "*Suite.scala"}, Functions: []string{"test"}},
	Generated: lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesPackage, Implied: []string{"scala", "scala.Predef"}, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No,
		TagsApart: lang.No, CallsApart: lang.No, Shared: lang.Yes, Relative: lang.Yes, Again: lang.No, Builtin: builtin, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{"."}, Self: lang.WordsOf("this super"), Super: lang.WordsOf("super"), Named: lang.Anywhere, Apart: lang.Everywhere, Overloads: lang.Yes,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !s.Has("private") }, Entries: lang.WordsOf("main"),
		Called: lang.WordsOf("toString/0 equals/1 hashCode/0 apply unapply unapplySeq update compare/1 canEqual/1 run/0 close/0"),
		Marks:  []string{"@"}, Unmarked: []string{"@tailrec", "@inline"}},
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

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}}, Char: "'"}

var builtin = lang.WordsOf(`Any AnyRef AnyVal Nothing Null Unit Boolean Byte Short Char Int Long Float Double String Symbol Array
	List Nil Seq IndexedSeq Vector Set Map Option Some None Either Left Right Iterable Iterator Range Stream LazyList StringBuilder
	Throwable Exception Error RuntimeException IllegalArgumentException IllegalStateException NullPointerException
	IndexOutOfBoundsException UnsupportedOperationException NumberFormatException ClassCastException NoSuchElementException
	App Product Serializable Function Function0 Function1 Function2 PartialFunction Ordering Ordered Numeric Integral
	BigInt BigDecimal Console println print printf require assert assume identity implicitly summon locally classOf Predef Object Integer Thread
	Runnable Comparable Math System Override Deprecated`)
