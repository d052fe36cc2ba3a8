package golang

import (
	"context"
	"go/format"
	"go/token"
	"os"
	"path"
	"runtime"
	"strings"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/golang/typecheck"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

// Language is Go.
var Language = &lang.Language{
	Name:   name,
	Family: name,
	Files: lang.Files{
		Extensions: []string{".go"},
		Names:      lang.None,
		Front:      []string{"doc.go", "*.go"},
		Halves:     []lang.Half{{Of: "protocol", Part: "code", Endings: []string{".pb.go"}}},
		Tops:       []string{modFile, "go.work"},
		Installed:  lang.None,
	},
	Facts:      Facts,
	Pieces:     Pieces,
	Wrong:      lang.OnlySyntax(Faults),
	Shorthands: lang.NoCuts,
	Signs:      signs,
	Shared:     shared.InCode(signs),
	Names: lang.Names{Reserved: lang.WordsOf(`break case chan const continue default defer else fallthrough for func go goto if import interface map package range
			return select struct switch type var`), Also: lang.NoLetters, Argument: lang.NoLetters, Overrides: lang.NoLetters, Files: lang.NoFiles},
	Keywords: lang.WordsOf(`break case chan const continue default defer else fallthrough for func go goto if import interface map package
		range return select struct switch type var`),
	Tests:     lang.Tests{Files: []string{"*_test.go"}, Functions: []string{"Test", "Benchmark", "Example", "Fuzz"}},
	Generated: lang.Generated{Files: []string{"*.pb.go"}, Says: says},
	Code:      lang.Yes,
	Scopes: lang.Scopes{Sees: lang.SeesFolder, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
		CallsApart: lang.No, Shared: lang.No, Relative: lang.No, Again: lang.No,
		Builtin: builtin,
		Builds:  builds{}},
	Members: lang.Members{Reached: []string{"."}, Self: lang.Words{}, Super: lang.Words{}, Named: lang.Qualified, Apart: lang.InPackage, Overloads: lang.No,
		Constructors: lang.None, Prototypes: lang.No, Root: lang.NoRoot, Everyone: lang.Words{}, OfLists: map[string]string{}, Gives: lang.GivesNames},
	Types:  lang.Types{Satisfied: lang.Yes, Private: func(name string) bool { return !exported(name) }, Written: lang.Yes, DerivedApart: lang.No, Transparent: lang.Words{}, KeysFirst: lang.Words{}},
	Values: lang.Declared,
	Outside: lang.Outside{Unused: lang.Yes,
		Visible: func(s lang.Symbol) bool {
			return exported(s.Name) && s.Package != "main" && !strings.Contains("/"+s.Path, "/internal/")
		},
		Entries: lang.WordsOf("main init TestMain"),
		Called: lang.WordsOf(`String/0 GoString/0 Error/0 Unwrap/0 Is/1 As/1 Format/2 Read/1 Write/1 Close/0 Seek/2 ReadAt/2 WriteAt/2 ReadFrom/1
			WriteTo/1 ReadByte/0 UnreadByte/0 WriteByte/1 ReadRune/0 UnreadRune/0 WriteString/1 Len/0 Less/2 Swap/2 Push/1 Pop/0
			MarshalJSON/0 UnmarshalJSON/1 MarshalText/0 UnmarshalText/1 AppendText/1 MarshalBinary/0 UnmarshalBinary/1 AppendBinary/1
			MarshalXML/2 UnmarshalXML/2 GobEncode/0 GobDecode/1 ServeHTTP/2 RoundTrip/1 Flush/0 Hijack/0 Scan/1 Scan/2 Value/0 Set/1 Type/0 IsBoolFlag/0
			Lock/0 Unlock/0 Done/0 Deadline/0 Err/0 Timeout/0 Temporary/0 Network/0 Addr/0 Accept/0 LocalAddr/0 RemoteAddr/0
			SetDeadline/1 SetReadDeadline/1 SetWriteDeadline/1 Open/1 Stat/0 ReadDir/1 Name/0 Size/0 Mode/0 ModTime/0 IsDir/0 Sys/0
			Sum/1 Reset/0 BlockSize/0 Handle/2 Enabled/2 WithAttrs/1 WithGroup/1 LogValue/0 Visit/1 Generate/2`),
		Marks: lang.None, Unmarked: lang.None},
	Imports:      func(p lang.Project) lang.Imports { return &imports{project: p} },
	Surroundings: lang.NoSurroundings,
	Importing:    importing{},
	Checker:      checker{},
	Mending:      mending,
	Trying:       trying,
	Units:        lang.NoUnits,
	Structure:    structure,
	Format:       format.Source,
}

// checker asks the type checker.
type checker struct{}

// Check implements lang.Checker.
func (checker) Check(ctx context.Context, root string, tops []string, book *check.Book, pace check.Pace) error {
	return typecheck.Check(ctx, root, tops, book, pace)
}

// CheckFolder implements lang.Checker.
func (checker) CheckFolder(ctx context.Context, root, top, folder string, book *check.Book) error {
	return typecheck.CheckFolder(ctx, root, top, folder, book)
}

// Errors implements lang.Checker.
func (checker) Errors(ctx context.Context, root string, tops, folders []string, importers bool, read func(string) ([]byte, error)) ([]check.Error, error) {
	return typecheck.Errors(ctx, root, tops, folders, importers, read)
}

// Values implements lang.Checker.
func (checker) Values(ctx context.Context, root, top, folder string, read func(string) ([]byte, error), asked check.Asked) (check.Values, error) {
	return typecheck.Values(ctx, root, top, folder, read, asked)
}

// Top implements lang.Checker.
func (checker) Top() string { return modFile }

// Reads implements lang.Checker.
func (checker) Reads(base string) bool { return path.Ext(base) == ".go" }

// Settings implements lang.Checker.
func (checker) Settings(base string) bool {
	switch base {
	case modFile, "go.work", "go.sum", "go.work.sum", "modules.txt":
		return true
	}
	return false
}

// Environment implements lang.Checker.
func (checker) Environment() string {
	var b strings.Builder
	for _, name := range []string{"GOFLAGS", "GOOS", "GOARCH", "CGO_ENABLED", "GOWORK"} {
		b.WriteString(os.Getenv(name) + "\n")
	}
	return b.String() + runtime.GOOS + "/" + runtime.GOARCH
}

// Ignores implements lang.Checker: the go command leaves such folders out.
func (checker) Ignores(folder string) bool {
	for part := range strings.SplitSeq(folder, "/") {
		if part == "testdata" || part == "vendor" || len(part) > 1 && (part[0] == '_' || part[0] == '.') {
			return true
		}
	}
	return false
}

// exported says whether other packages can name what has a name.
func exported(name string) bool { return token.IsExported(name) }

// says knows the line by which the go command knows files that a program has written.
func says(line string) bool {
	return strings.HasPrefix(line, "// Code generated ") && strings.HasSuffix(line, " DO NOT EDIT.")
}

// builtin are the names that the language itself defines.
var builtin = lang.WordsOf(`any bool byte comparable complex64 complex128 error float32 float64 int int8 int16
			int32 int64 rune string uint uint8 uint16 uint32 uint64 uintptr true false iota nil append cap
			clear close complex copy delete imag len make max min new panic print println real recover`)

var signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}},
	Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`", Tabs: true}
