package golang

import (
	"bytes"
	"context"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// importing changes what files import.
type importing struct{}

// lines are the packages that are imported, each on a line of its own in a list.
var lines = &lang.ImportLines{
	Read:   readImports,
	Write:  func(i facts.Imported) string { return "\t" + spec(i) },
	Name:   func(facts.Imported) string { return "" },
	Module: func(i facts.Imported) string { return i.Path },
	Key:    func(s *lang.ImportLine, written string) string { return s.Module },
	Kind: func(module string) int {
		if first, _, _ := strings.Cut(module, "/"); strings.Contains(first, ".") {
			return 1
		}
		return 0
	},
}

func spec(i facts.Imported) string {
	if i.Alias != "" {
		return i.Alias + " " + strconv.Quote(i.Path)
	}
	return strconv.Quote(i.Path)
}

// readImports finds the packages in the list of those that are imported.
func readImports(_ context.Context, text []byte) (all []lang.ImportLine, first int, err error) {
	set := token.NewFileSet()
	f, err := parser.ParseFile(set, "", text, parser.ImportsOnly|parser.ParseComments)
	if f == nil {
		return nil, 0, err
	}
	offset := func(p token.Pos) uint32 { return uint32(set.PositionFor(p, false).Offset) }
	for _, d := range f.Decls {
		g, is := d.(*ast.GenDecl)
		if !is || !g.Lparen.IsValid() {
			continue
		}
		for _, s := range g.Specs {
			i := s.(*ast.ImportSpec)
			name, err := strconv.Unquote(i.Path.Value)
			if err != nil || name == "C" {
				continue
			}
			l := lang.ImportLine{At: place.Range{Start: offset(i.Pos()), End: offset(i.End())}, Module: name}
			l.Lines(text)
			l.Above(text, func(line string) bool { return strings.HasPrefix(line, "//") })
			all = append(all, l)
		}
	}
	return all, int(offset(f.Name.End())), nil
}

// Change implements lang.Importing.
func (importing) Change(ctx context.Context, text []byte, drop []place.Range, add []facts.Imported) ([]byte, error) {
	all, _, err := readImports(ctx, text)
	if err != nil {
		return nil, err
	}
	if len(all) == 0 {
		return listed(ctx, text, drop, add)
	}
	out, err := lines.Change(ctx, text, drop, add)
	if err != nil {
		return nil, err
	}
	return bytes.Replace(out, []byte("import (\n)\n\n"), nil, 1), nil
}

// listed makes a list of the imports that stand by themselves, if there are others to come.
func listed(ctx context.Context, text []byte, drop []place.Range, add []facts.Imported) ([]byte, error) {
	set := token.NewFileSet()
	f, err := parser.ParseFile(set, "", text, parser.ImportsOnly)
	if f == nil {
		return nil, err
	}
	offset := func(p token.Pos) int { return set.PositionFor(p, false).Offset }
	end := offset(f.Name.End())
	for k := len(f.Decls) - 1; k >= 0; k-- {
		g, is := f.Decls[k].(*ast.GenDecl)
		if !is || g.Lparen.IsValid() || len(g.Specs) != 1 {
			continue
		}
		i := g.Specs[0].(*ast.ImportSpec)
		at := place.Range{Start: uint32(offset(g.Pos())), End: uint32(offset(g.End()))}
		name, err := strconv.Unquote(i.Path.Value)
		gone := slices.ContainsFunc(drop, func(d place.Range) bool { return at.Start <= d.Start && d.End <= at.End })
		if err != nil || name == "C" || !gone && len(add) == 0 {
			continue
		}
		if !gone {
			imp := facts.Imported{Path: name}
			if i.Name != nil {
				imp.Alias = i.Name.Name
			}
			add = append(add, imp)
		}
		l := lang.ImportLine{At: at}
		l.Lines(text)
		text = slices.Concat(text[:l.At.Start], bytes.TrimLeft(text[l.At.End:], "\n"))
	}
	if len(add) == 0 {
		return text, nil
	}
	none := *lines
	none.Read = func(context.Context, []byte) ([]lang.ImportLine, int, error) { return nil, 0, nil }
	list, err := none.Change(ctx, nil, nil, add)
	if err != nil {
		return nil, err
	}
	block := "\n\nimport (\n" + strings.TrimRight(string(list), "\n") + "\n)\n"
	if len(add) == 1 {
		block = "\n\nimport " + spec(add[0]) + "\n"
	}
	rest := bytes.TrimLeft(text[end:], "\n")
	if len(rest) > 0 {
		block += "\n"
	}
	return slices.Concat(text[:end], []byte(block), rest), nil
}

// Wanted implements lang.Importing: packages are named in front of what is in them.
func (importing) Wanted(_ facts.Use, before bool) bool { return before }

// Stays implements lang.Importing.
func (importing) Stays(i facts.Imported, name string, _ []byte) bool {
	return i.Alias == "_" || i.Name == "*" || i.Path == "C" || name == "_"
}

// Reach implements lang.Imports: the package in the folder of a file is imported whole.
func (i *imports) Reach(file, definer, _ string) (facts.Imported, bool) {
	dir := path.Dir(definer)
	if dir == path.Dir(file) {
		return facts.Imported{}, false
	}
	best, found := "", false
	for name, at := range i.ownModules() {
		rest, under := strings.CutPrefix(dir+"/", strings.TrimPrefix(at+"/", "./"))
		if at == "." || under {
			full := path.Join(name, strings.TrimSuffix(rest, "/"))
			if !found || len(full) < len(best) {
				best, found = full, true
			}
		}
	}
	if k := strings.Index("/"+best+"/", "/internal/"); found && k >= 0 {
		if from, ok := i.Reach("", file, ""); !ok || !strings.HasPrefix(from.Path+"/", best[:k]) {
			return facts.Imported{}, false
		}
	}
	return facts.Imported{Path: best}, found && !strings.HasSuffix(definer, "_test.go")
}

// Known implements lang.Imports: packages of the library, and those of the modules that are required.
func (i *imports) Known(file, name, member string) (all []facts.Imported) {
	m := i.project.Machine()
	if m == nil {
		return nil
	}
	i.once.Do(func() { i.look(m) })
	if i.goRoot != "" {
		for _, dir := range library.Folders(filepath.Join(i.goRoot, "src", name), filepath.Join(i.goRoot, "src", "*", name), filepath.Join(i.goRoot, "src", "*", "*", name)) {
			p := strings.TrimPrefix(filepath.ToSlash(dir), i.goRoot+"/src/")
			if hiddenAway(p) || !declares(dir, member) {
				continue
			}
			all = append(all, facts.Imported{Path: p})
		}
	}
	slices.SortStableFunc(all, func(a, b facts.Imported) int { return len(a.Path) - len(b.Path) })
	for p := range i.requires(file) {
		base := path.Base(p)
		if len(base) > 1 && base[0] == 'v' && base[1] >= '0' && base[1] <= '9' {
			base = path.Base(path.Dir(p))
		}
		base, _, _ = strings.Cut(strings.TrimPrefix(base, "go-"), ".")
		if base == name {
			if dir := i.onMachine(m, file, p); dir != "" && declares(dir, member) {
				all = append(all, facts.Imported{Path: p})
			}
		}
	}
	return all
}

// hiddenAway says whether a folder of the library is not for everybody.
func hiddenAway(p string) bool {
	for part := range strings.SplitSeq(p, "/") {
		if part == "internal" || part == "vendor" || part == "testdata" || part == "cmd" {
			return true
		}
	}
	return false
}

// declares says whether a package declares a name.
func declares(dir, name string) bool {
	files, err := os.ReadDir(dir)
	if err != nil {
		return false
	}
	for _, f := range files {
		if path.Ext(f.Name()) != ".go" || strings.HasSuffix(f.Name(), "_test.go") {
			continue
		}
		parsed, _ := parser.ParseFile(token.NewFileSet(), filepath.Join(dir, f.Name()), nil, parser.SkipObjectResolution)
		if parsed == nil || parsed.Name.Name == "main" {
			continue
		}
		for _, d := range parsed.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				if d.Recv == nil && d.Name.Name == name {
					return true
				}
			case *ast.GenDecl:
				for _, s := range d.Specs {
					switch s := s.(type) {
					case *ast.TypeSpec:
						if s.Name.Name == name {
							return true
						}
					case *ast.ValueSpec:
						if slices.ContainsFunc(s.Names, func(id *ast.Ident) bool { return id.Name == name }) {
							return true
						}
					}
				}
			}
		}
	}
	return false
}
