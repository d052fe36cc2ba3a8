package java

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Java.
var Language = &lang.Language{
	Name:   name,
	Family: name,
	Files: lang.Files{Extensions: []string{".java"}, Names: lang.None, Front: []string{"package-info.java"}, Halves: lang.NoHalves,
		Tops: []string{"pom.xml", "build.gradle", "build.gradle.kts"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     grammar.Pieces,
	Wrong:      lang.Wrong{Syntax: grammar.Faults, Bare: lang.NoBare, Wanting: lang.AllWanting, Leads: lang.NoLeads, Unused: lang.Yes, Slips: lang.Yes},
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`abstract assert boolean break byte case catch char class const continue default do double else enum extends final
			finally float for goto if implements import instanceof int interface long native new package private protected public
			return short static strictfp super switch synchronized this throw throws transient try void volatile while true false
			null _`), Also: "$", Argument: lang.NoLetters, Overrides: "@Override", Files: lang.MustFollow},
	Keywords:  lang.WordsOf("assert case catch do else for if new return switch synchronized throw throws try while yield when"),
	Tests:     lang.Tests{Files: []string{"*Test.java", "*Tests.java", "*IT.java"}, Functions: []string{"test", "Test"}},
	Generated: lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesTypes, Implied: []string{"java.lang"}, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No,
		TagsApart: lang.No, CallsApart: lang.Yes, Shared: lang.No, Relative: lang.No, Again: lang.No, Builtin: builtin, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "::"}, Self: lang.WordsOf("this super"), Super: lang.WordsOf("super"), Named: lang.Anywhere, Apart: lang.Within,
		Overloads: lang.Yes, Constructors: lang.None, Prototypes: lang.No, Root: "java.lang.Object",
		Everyone: lang.WordsOf("toString equals hashCode getClass notify notifyAll wait clone finalize"),
		OfLists:  map[string]string{"length": "int"}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.WordsOf("forEach")},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes,
		Visible: func(s lang.Symbol) bool { return s.Has("public", "protected") },
		Entries: lang.WordsOf("main serialVersionUID"),
		Called: lang.WordsOf(`toString/0 equals/1 hashCode/0 compareTo/1 compare/2 run/0 call/0 close/0 clone/0 finalize/0 iterator/0 hasNext/0 next/0
			readObject/1 writeObject/1 readResolve/0 writeReplace/0 get/0 accept/1 apply/1 test/1`),
		Marks: []string{"@"}, Unmarked: []string{"@Override"}},
	Imports:      func(p lang.Project) lang.Imports { return &imports{project: p} },
	Surroundings: lang.NoSurroundings,
	Importing:    importing,
	Checker:      lang.NoChecker,
	Mending:      mending,
	Trying:       trying,
	Units:        lang.NoUnits,
	Structure:    structure,
	Format:       lang.AsWritten,
}

var builtin = lang.WordsOf(`Object String StringBuilder StringBuffer CharSequence
	Integer Long Short Byte Character Boolean Double Float Number Math StrictMath System Thread Runnable
	Runtime Process ProcessBuilder Class ClassLoader Comparable Iterable Cloneable AutoCloseable Enum
	Record Void Throwable Exception Error RuntimeException IllegalArgumentException
	IllegalStateException NullPointerException IndexOutOfBoundsException
	ArrayIndexOutOfBoundsException UnsupportedOperationException ClassCastException
	ArithmeticException NumberFormatException InterruptedException CloneNotSupportedException
	ReflectiveOperationException ClassNotFoundException SecurityException AssertionError
	OutOfMemoryError StackOverflowError LinkageError Override Deprecated SuppressWarnings
	FunctionalInterface SafeVarargs ThreadLocal StackTraceElement Module Package`)

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}},
	Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}, {"'", "'"}}}
