package csharp

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is C#.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".cs", ".csx"}, Names: lang.None, Front: lang.None, Halves: lang.NoHalves, Tops: lang.None, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.OnlySyntax(language.Grammar.Brackets),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else
			enum event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock long
			namespace new null object operator out override params private protected public readonly ref return sbyte sealed short
			sizeof stackalloc static string struct switch this throw true try typeof uint ulong unchecked unsafe ushort using
			virtual void volatile while`), Also: lang.NoLetters, Argument: ":", Overrides: "override", Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`await case catch checked default do else fixed for foreach if in is lock nameof new out ref return sizeof stackalloc switch throw try typeof unchecked using when while yield`),
	Tests:     lang.Tests{Files: []string{"*Test.cs", "*Tests.cs"}, Functions: []string{"Test"}},
	Generated: lang.Generated{Files: []string{"*.g.cs", "*.designer.cs"}, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesPackage, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.Yes, Again: lang.No, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "?.", "->"}, Self: lang.WordsOf("this base"), Super: lang.WordsOf("base"), Named: lang.Anywhere, Apart: lang.Within, Overloads: lang.Yes,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return s.Has("public", "protected") }, Entries: lang.WordsOf("Main"),
		Called: lang.WordsOf("ToString/0 Equals/1 GetHashCode/0 Dispose/0 CompareTo/1 GetEnumerator/0 MoveNext/0"), Marks: []string{"["}, Unmarked: lang.None},
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

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}, {"'", "'"}}, Directives: "#"}
