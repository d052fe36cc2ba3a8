package rust

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Rust.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".rs"}, Names: lang.None, Front: []string{"mod.rs"}, Halves: lang.NoHalves, Tops: []string{manifestFile}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.Wrong{Syntax: language.Grammar.Faults, Bare: lang.NoBare, Wanting: lang.NoWanting, Leads: lang.NoLeads, Unused: lang.No, Slips: lang.Yes},
	Shorthands: language.Grammar.Nodes("shorthand_field_initializer", "shorthand_field_identifier"),
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`as async await break const continue crate dyn else enum extern false fn for if impl in let loop match mod move mut pub
			ref return self Self static struct super trait true type unsafe use where while abstract become box do final macro
			override priv try typeof unsized virtual yield`), Also: lang.NoLetters, Argument: lang.NoLetters, Overrides: lang.NoLetters, Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`as async await box break const continue dyn else enum fn for if impl in let loop match move mut pub ref return static struct trait type unsafe use where while yield`),
	Tests:     lang.Tests{Files: lang.None, Functions: []string{"test_"}},
	Generated: lang.Generated{Files: lang.None, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesModules, Implied: lang.None, Paths: paths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.Yes, Relative: lang.No, Again: lang.No, Builtin: builtin, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "::"}, Self: lang.WordsOf("self Self"), Super: lang.Words{}, Named: lang.Qualified, Apart: lang.Everywhere, Overloads: lang.No,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.Yes, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return s.Has("pub") || strings.HasPrefix(s.Name, "_") }, Entries: lang.WordsOf("main"),
		Called: lang.WordsOf("drop/0 fmt/1 next/0 clone/0 eq/1 cmp/1 partial_cmp/1 hash/1 from/1 into/0 deref/0 index/1 poll/1 default/0"), Marks: []string{"#["}, Unmarked: lang.None},
	Imports:      func(p lang.Project) lang.Imports { return &imports{project: p} },
	Surroundings: lang.NoSurroundings,
	Importing:    lang.NoImporting,
	Checker:      lang.NoChecker,
	Mending:      lang.NoMending,
	Trying:       trying,
	Units:        lang.NoUnits,
	Structure:    lang.NoStructure,
	Format:       lang.AsWritten,
}

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}}, Char: "'"}

var paths = lang.Paths{Between: "::", As: "as", Root: "crate", RootInMacro: "$crate", Above: "super", Here: "self", Library: "std", Prelude: "std::prelude::v1", Declared: "mod "}

var builtin = lang.WordsOf(`bool char str i8 i16 i32 i64 i128 isize u8 u16 u32 u64 u128 usize f32 f64
	Option Some None Result Ok Err Vec String Box ToString ToOwned Clone Copy Send Sync Sized Drop Fn FnMut FnOnce
	AsRef AsMut Into From Default Iterator IntoIterator Extend DoubleEndedIterator ExactSizeIterator
	Eq PartialEq Ord PartialOrd Debug Hash TryFrom TryInto FromIterator drop
	println print eprintln eprint format panic vec assert assert_eq assert_ne debug_assert debug_assert_eq
	debug_assert_ne write writeln unreachable unimplemented todo matches include_str include_bytes concat env
	option_env line file column module_path stringify cfg dbg compile_error format_args thread_local include
	global_asm asm try std core alloc`)
