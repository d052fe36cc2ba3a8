package ruby

import (
	"strings"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Ruby.
var Language = &lang.Language{
	Name:       name,
	Family:     name,
	Files:      lang.Files{Extensions: []string{".rb", ".rake", ".gemspec", ".ru", ".podspec"}, Names: []string{"Rakefile", "Gemfile", "Vagrantfile", "Podfile", "Guardfile", "Capfile"}, Front: lang.None, Halves: lang.NoHalves, Tops: []string{"Gemfile"}, Installed: lang.None},
	Facts:      language.Facts,
	Pieces:     language.Grammar.Pieces,
	Wrong:      lang.Wrong{Syntax: language.Grammar.Faults, Bare: lang.NoBare, Wanting: lang.NoWanting, Leads: lang.NoLeads, Unused: lang.No, Slips: lang.Yes},
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`alias and begin break case class def do else elsif end ensure false for if in module next nil not or redo rescue retry
			return self super then true undef unless until when while yield`), Also: "?!", Argument: ":", Overrides: lang.NoLetters, Files: lang.NoFiles},
	Keywords:  lang.WordsOf(`and begin case class def defined? do else elsif end ensure for if in module next not or redo rescue retry return super then undef unless until when while yield`),
	Tests:     lang.Tests{Files: []string{"*_spec.rb", "*_test.rb", "test_*.rb"}, Functions: []string{"test_"}},
	Generated: lang.Generated{Files: []string{"*_pb.rb"}, Says: lang.SaysGenerated},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesProject, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.Yes, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.Yes, Builtin: lang.Words{}, Builds: lang.AllBuilt{}},
	Members: lang.Members{Reached: []string{".", "&.", "::"}, Self: lang.WordsOf("self super"), Super: lang.WordsOf("super"), Named: lang.Anywhere, Apart: lang.Within, Overloads: lang.No,
		Constructors: []string{"initialize"}, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.WordsOf("each each_pair map collect select filter reject find detect any? all? none? count sort_by min_by max_by sum flat_map filter_map each_with_object partition group_by to_h")},
	Values: flow,
	Outside: lang.Outside{Unused: lang.Yes, Visible: func(s lang.Symbol) bool { return !strings.HasPrefix(s.Name, "_") }, Entries: lang.WordsOf("main"),
		Called: lang.WordsOf("to_s/0 inspect/0 each/0 initialize/0 hash/0 eql?/1 method_missing/1 respond_to_missing?/1 coerce/1 to_str/0 to_a/0 to_h/0"), Marks: lang.None, Unmarked: lang.None},
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

var signs = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}}, Closing: []string{"end"}}
