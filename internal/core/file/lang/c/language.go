package c

import (
	"github.com/smacker/go-tree-sitter/c"
	"github.com/smacker/go-tree-sitter/cpp"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
	"rooktrail/internal/core/file/syntax"
)

const (
	plainName = "C"
	plusName  = "C++"
	family    = plainName
)

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}},
	Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}, Directives: "#"}

var (
	plain = reader.New(reader.Language{Name: plainName, Grammar: syntax.NewGrammar(c.GetLanguage()), Rules: rules, Signs: signs, Ease: ease, Prepare: prepare(false)})
	plus  = reader.New(reader.Language{Name: plusName, Grammar: syntax.NewGrammar(cpp.GetLanguage()), Rules: rules, Signs: signs, Ease: easePlus, Prepare: prepare(true)})
)

// The endings of files that are C++ by their names.
var (
	plusFiles   = []string{".cpp", ".cc", ".cxx", ".c++", ".ipp", ".inl", ".tpp", ".cu", ".ino"}
	plusHeaders = []string{".hpp", ".hh", ".hxx", ".h++"}
)

// The languages of this family. A header is C unless it says something that
// only C++ has.
var (
	C      = language(plainName, plain.Facts, plain.Grammar.Pieces, "written", ".c")
	Header = language(plainName, header, plus.Grammar.Pieces, "declared", ".h")
	CPP    = language(plusName, plus.Facts, plus.Grammar.Pieces, "written", plusFiles...)
	HPP    = language(plusName, plus.Facts, plus.Grammar.Pieces, "declared", plusHeaders...)
)

// language is one of them: part says which half of a unit its files are.
func language(name string, facts lang.Extractor, pieces lang.Cutter, part string, extensions ...string) *lang.Language {
	l := &lang.Language{
		Name:   name,
		Family: family,
		Files: lang.Files{Extensions: extensions, Names: lang.None, Front: lang.None,
			Halves: []lang.Half{{Of: "unit", Part: part, Endings: extensions}}, Tops: []string{"CMakeLists.txt"}, Installed: lang.None},
		Facts:      facts,
		Pieces:     pieces,
		Wrong:      lang.OnlySyntax(lang.NoSyntax),
		Shorthands: lang.NoCuts,
		Signs:      signs,
		Shared:     shared.InCode(signs),
		Names: lang.Names{Reserved: lang.WordsOf(`auto break case char const continue default do double else enum extern float for goto if inline int long register
			restrict return short signed sizeof static struct switch typedef union unsigned void volatile while`), Also: lang.NoLetters, Argument: lang.NoLetters, Overrides: lang.NoLetters, Files: lang.NoFiles},
		Keywords: lang.WordsOf(`alignof case catch constexpr co_await co_return co_yield decltype do else for if noexcept return sizeof
			static_assert switch throw typeid typeof while`),
		Tests:     lang.Tests{Files: testFiles(), Functions: []string{"Test", "test_"}},
		Generated: lang.Generated{Files: []string{"*.pb.h", "*.pb.cc", "moc_*.cpp"}, Says: lang.SaysGenerated},
		Code:      lang.Yes,
		Scopes: lang.Scopes{Sees: lang.SeesIncludes, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.Yes,
			CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.No, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
		Members: lang.Members{Reached: []string{".", "->"}, Self: lang.Words{}, Super: lang.Words{}, Named: lang.Qualified, Apart: lang.Within, Overloads: lang.No,
			Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
		Types: lang.PlainTypes, Values: lang.Declared,
		Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !s.Has("static") },
			Entries: lang.WordsOf("main"), Called: lang.Words{}, Marks: []string{"[[", "@"}, Unmarked: lang.None},
		Imports: func(p lang.Project) lang.Imports {
			return imports{project: p, build: &build{project: p}, found: &found{}}
		},
		Surroundings: around,
		Importing:    lang.NoImporting,
		Checker:      lang.NoChecker,
		Mending:      lang.NoMending,
		Trying:       trying,
		Units:        units{},
		Structure:    lang.NoStructure,
		Format:       lang.AsWritten,
	}
	if name == plusName {
		l.Names.Reserved = lang.WordsOf(`alignas alignof and and_eq asm auto bitand bitor bool break case catch char char8_t char16_t char32_t class compl concept
			const consteval constexpr constinit const_cast continue co_await co_return co_yield decltype default delete do double dynamic_cast else enum
			explicit export extern false float for friend goto if inline int long mutable namespace new noexcept not not_eq nullptr operator or or_eq
			private protected public register reinterpret_cast requires return short signed sizeof static static_assert static_cast struct switch
			template this thread_local throw true try typedef typeid typename union unsigned using virtual void volatile wchar_t while xor xor_eq`)
		l.Scopes.Namespaces, l.Scopes.Paths, l.Scopes.TagsApart = lang.Yes, lang.Paths{Between: "::"}, lang.No
		l.Members.Reached = []string{".", "->", "::"}
		l.Types.Transparent = lang.WordsOf("unique_ptr shared_ptr weak_ptr optional reference_wrapper atomic observer_ptr remove_reference_t remove_cvref_t decay_t")
		l.Values.Holds = lang.WordsOf("vector list deque forward_list set multiset unordered_set unordered_multiset array span initializer_list stack queue priority_queue map multimap unordered_map unordered_multimap valarray")
		l.Values.Pairs = lang.WordsOf("map multimap unordered_map unordered_multimap")
		l.Values.Together = lang.WordsOf("pair tuple")
		l.Values.Gives = gives
		l.Members.Self, l.Members.Named, l.Members.Apart, l.Members.Overloads = lang.WordsOf("this"), lang.Anywhere, lang.Everywhere, lang.Yes
	}
	return l
}

// gives are what functions of the library of C++ give, and what is written like them.
var gives = map[string]lang.Result{
	"static_cast": {What: lang.Written}, "dynamic_cast": {What: lang.Written}, "const_cast": {What: lang.Written}, "reinterpret_cast": {What: lang.Written},
	"make_unique": {What: lang.Holding, Name: "unique_ptr"}, "make_shared": {What: lang.Holding, Name: "shared_ptr"},
	"allocate_shared": {What: lang.Holding, Name: "shared_ptr"}, "declval": {What: lang.Written},
	"static_pointer_cast": {What: lang.Written}, "dynamic_pointer_cast": {What: lang.Written}, "const_pointer_cast": {What: lang.Written},
	"any_cast": {What: lang.Written}, "get_if": {What: lang.Written}, "bit_cast": {What: lang.Written}, "duration_cast": {What: lang.Written},
	"move": {What: lang.TheSame}, "forward": {What: lang.TheSame}, "ref": {What: lang.TheSame}, "cref": {What: lang.TheSame}, "as_const": {What: lang.TheSame},
	"min": {What: lang.TheSame}, "max": {What: lang.TheSame}, "exchange": {What: lang.TheSame}, "next": {What: lang.TheSame}, "prev": {What: lang.TheSame},
	"addressof": {What: lang.TheSame}, "begin": {What: lang.AnElement}, "end": {What: lang.AnElement}, "cbegin": {What: lang.AnElement},
}

// testFiles are the names of files with tests, as they are usual.
func testFiles() (patterns []string) {
	for _, ending := range []string{".c", ".cc", ".cpp", ".cxx"} {
		for _, name := range []string{"test", "tests", "*_test", "*_tests", "*_unittest", "test_*", "*-test", "test-*"} {
			patterns = append(patterns, name+ending)
		}
	}
	return patterns
}
