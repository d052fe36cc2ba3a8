package python

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Python.
var Language = &lang.Language{
	Name:   name,
	Family: name,
	Files: lang.Files{
		Extensions: []string{".py", ".pyi", ".pyw"},
		Names:      []string{"SConstruct", "wscript"},
		Front:      []string{packageFile},
		Halves:     lang.NoHalves,
		Tops:       []string{"pyproject.toml", "setup.py"},
		Installed:  []string{"site-packages", "dist-packages"},
	},
	Facts:      language.Facts,
	Pieces:     grammar.Pieces,
	Wrong:      lang.Wrong{Syntax: grammar.Faults, Bare: bareIsWrong, Wanting: lang.NoWanting, Leads: hasToLead, Unused: lang.Yes, Slips: lang.Yes},
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`False None True and as assert async await break class continue def del elif else except finally for from global if
			import in is lambda nonlocal not or pass raise return try while with yield`), Also: lang.NoLetters, Argument: "=", Overrides: lang.NoLetters, Files: lang.MayFollow},
	Keywords: lang.WordsOf(`and as assert async await break class continue def del elif else except finally for from global if import in is
		lambda nonlocal not or pass raise return try while with yield match case`),
	Tests:     lang.Tests{Files: []string{"test_*.py", "*_test.py", "conftest.py"}, Functions: []string{"test_", "Test"}},
	Generated: lang.Generated{Files: []string{"*_pb2.py", "*_pb2.pyi", "*_pb2_grpc.py"}, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesItself, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.Yes, Builtin: builtin, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{"."}, Self: lang.Words{}, Super: lang.WordsOf("super"), Named: lang.InBody, Apart: lang.Within, Overloads: lang.No,
		Constructors: []string{"__init__"}, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{},
		Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: flow,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !strings.HasPrefix(s.Name, "_") },
		Entries: lang.WordsOf("main"), Called: lang.Words{}, Marks: []string{"@"}, Unmarked: lang.None},
	Imports:      func(p lang.Project) lang.Imports { return &imports{project: p} },
	Surroundings: lang.NoSurroundings,
	Importing:    importing,
	Checker:      lang.NoChecker,
	Mending:      lang.NoMending,
	Trying:       trying,
	Units:        lang.NoUnits,
	Structure:    structure,
	Format:       lang.AsWritten,
}

var builtin = lang.WordsOf(`abs aiter all anext any ascii bin bool breakpoint bytearray bytes
	callable chr classmethod compile complex delattr dict dir divmod enumerate eval exec filter float
	format frozenset getattr globals hasattr hash help hex id input int isinstance issubclass iter
	len list locals map max memoryview min next object oct open ord pow print property range repr
	reversed round set setattr slice sorted staticmethod str sum super tuple type vars zip
	__import__ __name__ __file__ __doc__ Ellipsis NotImplemented None True False
	BaseException Exception ArithmeticError AssertionError AttributeError BlockingIOError
	BrokenPipeError BufferError ChildProcessError ConnectionAbortedError ConnectionError
	ConnectionRefusedError ConnectionResetError EOFError EnvironmentError FileExistsError
	FileNotFoundError FloatingPointError GeneratorExit IOError ImportError IndentationError
	IndexError InterruptedError IsADirectoryError KeyError KeyboardInterrupt LookupError
	MemoryError ModuleNotFoundError NameError NotADirectoryError NotImplementedError OSError
	OverflowError PermissionError ProcessLookupError RecursionError ReferenceError ResourceWarning
	RuntimeError RuntimeWarning StopAsyncIteration StopIteration SyntaxError SystemError SystemExit
	TabError TimeoutError TypeError UnboundLocalError UnicodeDecodeError UnicodeEncodeError
	UnicodeError UserWarning ValueError Warning ZeroDivisionError DeprecationWarning PendingDeprecationWarning
	FutureWarning ImportWarning SyntaxWarning BytesWarning UnicodeWarning EncodingWarning UnicodeTranslateError
	BaseExceptionGroup ExceptionGroup PythonFinalizationError copyright credits license exit quit __debug__ __spec__ __loader__
	__package__ __build_class__`)

var signs = &lexical.Signs{Line: []string{"#"},
	Quotes: [][2]string{{`"""`, `"""`}, {"'''", "'''"}, {`"`, `"`}, {"'", "'"}}}
