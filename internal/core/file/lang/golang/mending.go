package golang

import (
	"go/ast"
	"go/parser"
	"go/token"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

var mending = &lang.Mending{
	Lacking: lacking, Stub: stub,
	Spare: func(said string) (string, bool) {
		name, ok := strings.CutPrefix(said, "declared and not used: ")
		return name, ok
	},
	Drop: drop, Calls: unheard, Failing: failing,
}

// said are the words of the type checker about a type that lacks methods.
var said = regexp.MustCompile(`\*?([\w./]+)(?:\[[^\]]*\])? does not implement ([\w./]+).*missing method`)

func lacking(words string) (typ, iface string, ok bool) {
	m := said.FindStringSubmatch(words)
	if m == nil {
		return "", "", false
	}
	return afterDot(m[1]), afterDot(m[2]), true
}

func afterDot(name string) string { return name[strings.LastIndexAny(name, "./")+1:] }

// receivers are those of methods that a type has already.
var receivers = regexp.MustCompile(`(?m)^func \((\w+) (\*?)(\w+)(?:\[[^\]]*\])?\)`)

// stub writes a method with a receiver as the type's other methods have it.
func stub(s lang.Stub) string {
	name, star := strings.ToLower(s.Type[:1]), "*"
	for _, m := range receivers.FindAllStringSubmatch(string(s.Text), -1) {
		if m[3] == s.Type {
			name, star = m[1], m[2]
			break
		}
	}
	head := strings.TrimSpace(s.Head)
	if s.From != "" {
		head = qualify(head, s.From)
	}
	return "\n// " + s.Name + " is not written yet.\nfunc (" + name + " " + star + s.Type + ") " + head + " {\n\tpanic(\"" + s.Name + " is not written yet\")\n}\n"
}

// qualify puts the name of the package in front of the types of a method's head that are that package's own.
func qualify(head, pkg string) string {
	const before = "package p\n\ntype i interface {\n"
	set := token.NewFileSet()
	f, err := parser.ParseFile(set, "", before+head+"\n}\n", parser.SkipObjectResolution)
	if err != nil {
		return head
	}
	var at []int
	ast.Inspect(f, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.SelectorExpr:
			return false
		case *ast.Field:
			ast.Inspect(n.Type, func(n ast.Node) bool {
				switch n := n.(type) {
				case *ast.SelectorExpr:
					return false
				case *ast.Field:
					return true
				case *ast.Ident:
					if n.IsExported() {
						at = append(at, set.Position(n.Pos()).Offset-len(before))
					}
				}
				return true
			})
		}
		return true
	})
	done := map[int]bool{}
	for i := len(head) - 1; i >= 0; i-- {
		for _, o := range at {
			if o == i && !done[o] {
				done[o] = true
				head = head[:o] + pkg + "." + head[o:]
			}
		}
	}
	return head
}

// parsed is a text with where one is in it: what stands around an offset, from the innermost out.
type parsed struct {
	set    *token.FileSet
	file   *ast.File
	around []ast.Node
}

func parseAt(text []byte, at int) *parsed {
	p := &parsed{set: token.NewFileSet()}
	p.file, _ = parser.ParseFile(p.set, "", text, parser.SkipObjectResolution|parser.AllErrors) // what could be read of it will do
	if p.file == nil {
		return nil
	}
	pos := p.set.File(p.file.FileStart).Pos(min(at, len(text)))
	ast.Inspect(p.file, func(n ast.Node) bool {
		if n == nil || n.Pos() > pos || n.End() < pos {
			return false
		}
		p.around = append([]ast.Node{n}, p.around...)
		return true
	})
	return p
}

func (p *parsed) offset(pos token.Pos) uint32 { return uint32(p.set.Position(pos).Offset) }

func (p *parsed) span(n ast.Node) place.Range {
	return place.Range{Start: p.offset(n.Pos()), End: p.offset(n.End())}
}

// drop takes a variable out of its declaration: all of that if it does nothing, else the variable alone.
func drop(text []byte, at int) (edits []lang.Replaced, ok bool) {
	p := parseAt(text, at)
	if p == nil {
		return nil, false
	}
	for _, n := range p.around {
		switch n := n.(type) {
		case *ast.AssignStmt:
			return p.dropFrom(text, n, at)
		case *ast.ValueSpec:
			if len(n.Names) == 1 && allHarmless(n.Values) {
				for _, o := range p.around {
					if d, is := o.(*ast.GenDecl); is && len(d.Specs) == 1 {
						return []lang.Replaced{{At: wholeLines(text, p.span(d))}}, true
					}
				}
				return []lang.Replaced{{At: wholeLines(text, p.span(n))}}, true
			}
			for _, name := range n.Names {
				if p.offset(name.Pos()) == uint32(at) {
					return []lang.Replaced{{At: p.span(name), New: "_"}}, true
				}
			}
		case *ast.RangeStmt:
			if n.Value != nil && p.offset(n.Value.Pos()) == uint32(at) {
				return []lang.Replaced{{At: place.Range{Start: p.offset(n.Key.End()), End: p.offset(n.Value.End())}}}, true
			}
			if n.Key != nil && p.offset(n.Key.Pos()) == uint32(at) {
				if n.Value != nil {
					return []lang.Replaced{{At: p.span(n.Key), New: "_"}}, true
				}
				return []lang.Replaced{{At: place.Range{Start: p.offset(n.Key.Pos()), End: p.offset(n.Range)}}}, true
			}
		case *ast.BlockStmt:
			return nil, false
		}
	}
	return nil, false
}

func (p *parsed) dropFrom(text []byte, n *ast.AssignStmt, at int) ([]lang.Replaced, bool) {
	if n.Tok != token.DEFINE {
		return nil, false
	}
	if len(n.Lhs) == 1 && len(n.Rhs) == 1 {
		if allHarmless(n.Rhs) && p.isStatement(n) {
			return []lang.Replaced{{At: wholeLines(text, p.span(n))}}, true
		}
		return []lang.Replaced{{At: p.span(n.Lhs[0]), New: "_"}, {At: place.Range{Start: p.offset(n.TokPos), End: p.offset(n.TokPos) + 2}, New: "="}}, true
	}
	others := 0
	for _, l := range n.Lhs {
		if id, is := l.(*ast.Ident); is && id.Name != "_" && p.offset(l.Pos()) != uint32(at) {
			others++
		}
	}
	for _, l := range n.Lhs {
		if p.offset(l.Pos()) != uint32(at) {
			continue
		}
		edits := []lang.Replaced{{At: p.span(l), New: "_"}}
		if others == 0 {
			edits = append(edits, lang.Replaced{At: place.Range{Start: p.offset(n.TokPos), End: p.offset(n.TokPos) + 2}, New: "="})
		}
		return edits, true
	}
	return nil, false
}

// isStatement says whether something stands by itself in a block.
func (p *parsed) isStatement(n ast.Node) bool {
	for i, o := range p.around {
		if o == n && i+1 < len(p.around) {
			switch p.around[i+1].(type) {
			case *ast.BlockStmt, *ast.CaseClause, *ast.CommClause:
				return true
			}
		}
	}
	return false
}

// allHarmless says whether nothing of what is worked out does anything.
func allHarmless(all []ast.Expr) bool {
	harmless := true
	for _, e := range all {
		ast.Inspect(e, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.CallExpr:
				harmless = false
			case *ast.UnaryExpr:
				harmless = harmless && n.Op != token.ARROW
			case *ast.FuncLit:
				return false
			}
			return harmless
		})
	}
	return harmless
}

// wholeLines is a piece of a text with the rest of its lines, if nothing else stands on these.
func wholeLines(text []byte, at place.Range) place.Range {
	start, end := at.Start, at.End
	for start > 0 && (text[start-1] == ' ' || text[start-1] == '\t') {
		start--
	}
	for int(end) < len(text) && (text[end] == ' ' || text[end] == '\t' || text[end] == '\r') {
		end++
	}
	if (start == 0 || text[start-1] == '\n') && int(end) < len(text) && text[end] == '\n' {
		return place.Range{Start: start, End: end + 1}
	}
	return at
}

// unheard finds what is called around an offset by a call that stands by itself, or whose results are given names.
func unheard(text []byte, at int) (place.Range, bool) {
	p := parseAt(text, at)
	if p == nil {
		return place.Range{}, false
	}
	c, _ := p.call()
	if c == nil {
		return place.Range{}, false
	}
	switch f := c.Fun.(type) {
	case *ast.Ident:
		return p.span(f), true
	case *ast.SelectorExpr:
		return p.span(f.Sel), true
	}
	return place.Range{}, false
}

// resultsOf are the types of what a function gives, by its beginning.
func resultsOf(signature string) (all []string) {
	signature = strings.TrimRight(strings.TrimSpace(signature), "{ ")
	if !strings.HasPrefix(signature, "func") {
		signature = "func " + signature // a method of an interface
	}
	const before = "package p\n"
	set := token.NewFileSet()
	f, _ := parser.ParseFile(set, "", before+signature+"{}\n", parser.SkipObjectResolution)
	if f == nil || len(f.Decls) == 0 {
		return nil
	}
	d, ok := f.Decls[0].(*ast.FuncDecl)
	if !ok || d.Type.Results == nil {
		return nil
	}
	for _, r := range d.Type.Results.List {
		for range max(len(r.Names), 1) {
			from, to := set.Position(r.Type.Pos()).Offset, set.Position(r.Type.End()).Offset
			all = append(all, (before + signature)[from:to])
		}
	}
	return all
}

// call is the outermost call of the statement around, if that is nothing but a call, or gives its results names.
func (p *parsed) call() (*ast.CallExpr, ast.Stmt) {
	for i, n := range p.around {
		switch n := n.(type) {
		case *ast.ExprStmt:
			if c, ok := n.X.(*ast.CallExpr); ok && p.isStatement(n) {
				return c, n
			}
			return nil, nil
		case *ast.AssignStmt:
			if len(n.Rhs) != 1 || !p.isStatement(n) {
				return nil, nil
			}
			if c, ok := n.Rhs[0].(*ast.CallExpr); ok {
				return c, n
			}
			return nil, nil
		case *ast.BlockStmt, *ast.FuncLit:
			if i > 0 {
				return nil, nil
			}
		}
	}
	return nil, nil
}

// failing handles the error that is the last result of a call, or hands it on.
func failing(text []byte, at int, signature string) []lang.Handling {
	p, results := parseAt(text, at), resultsOf(signature)
	if p == nil || len(results) == 0 || results[len(results)-1] != "error" {
		return nil
	}
	call, statement := p.call()
	if call == nil {
		return nil
	}
	indent := indentOf(text, p.offset(statement.Pos()))
	written := string(text[p.offset(call.Pos()):p.offset(call.End())])
	at0, end := p.offset(statement.Pos()), p.offset(statement.End())
	head := "if err := " + written + "; err != nil {"
	if a, ok := statement.(*ast.AssignStmt); ok {
		names := make([]string, 0, len(results))
		for _, l := range a.Lhs {
			names = append(names, string(text[p.offset(l.Pos()):p.offset(l.End())]))
		}
		switch {
		case len(names) == len(results) && names[len(names)-1] == "_":
			names[len(names)-1] = "err"
		case len(names) == len(results)-1:
			names = append(names, "err")
		default:
			return nil // it is taken already
		}
		head = strings.Join(names, ", ") + " := " + written + "\n" + indent + "if err != nil {"
	} else if len(results) > 1 {
		head = "if " + strings.Repeat("_, ", len(results)-1) + "err := " + written + "; err != nil {"
	}
	var all []lang.Handling
	add := func(title, then string) {
		all = append(all, lang.Handling{Title: title, Edits: []lang.Replaced{{At: place.Range{Start: at0, End: end}, New: head + "\n" + indent + "\t" + then + "\n" + indent + "}"}}})
	}
	f := p.function()
	if f == nil {
		return nil
	}
	if t := testOf(f); t != "" {
		add("fail the test if "+called(call)+" fails", t+".Fatal(err)")
	}
	zeros, hands := zerosOf(text, p, f)
	switch {
	case hands:
		add("hand on the error of "+called(call), "return "+strings.Join(append(append([]string{}, zeros...), "err"), ", "))
		add("hand it on with what was being done", "return "+strings.Join(append(append([]string{}, zeros...), `fmt.Errorf("`+doing(call)+`: %w", err)`), ", "))
		all[len(all)-1].Imports = []string{"fmt"}
	case zeros == nil:
		add("leave the function if "+called(call)+" fails", "return")
	default:
		add("leave the function if "+called(call)+" fails", "return "+strings.Join(zeros, ", "))
	}
	return all
}

// called is what a call calls, in a word.
func called(c *ast.CallExpr) string {
	switch f := c.Fun.(type) {
	case *ast.Ident:
		return f.Name
	case *ast.SelectorExpr:
		return f.Sel.Name
	}
	return "the call"
}

// doing says what a call does: its name in words.
func doing(c *ast.CallExpr) string {
	var words []rune
	for i, r := range called(c) {
		if unicode.IsUpper(r) && i > 0 {
			words = append(words, ' ')
		}
		words = append(words, unicode.ToLower(r))
	}
	return string(words)
}

func indentOf(text []byte, at uint32) string {
	start := at
	for start > 0 && text[start-1] != '\n' {
		start--
	}
	end := start
	for int(end) < len(text) && (text[end] == '\t' || text[end] == ' ') {
		end++
	}
	return string(text[start:end])
}

// function is the type of the function around.
func (p *parsed) function() *ast.FuncType {
	for _, n := range p.around {
		switch n := n.(type) {
		case *ast.FuncLit:
			return n.Type
		case *ast.FuncDecl:
			return n.Type
		}
	}
	return nil
}

// testOf is the name of the parameter of a test by which it fails; "" if the function is none.
func testOf(f *ast.FuncType) string {
	for _, field := range f.Params.List {
		star, ok := field.Type.(*ast.StarExpr)
		if !ok {
			continue
		}
		if sel, ok := star.X.(*ast.SelectorExpr); ok && len(field.Names) > 0 {
			if pkg, ok := sel.X.(*ast.Ident); ok && pkg.Name == "testing" {
				return field.Names[0].Name
			}
		}
	}
	return ""
}

// zerosOf are the values that a function gives back beside an error, as they are if it fails; hands says that its last result is one.
func zerosOf(text []byte, p *parsed, f *ast.FuncType) (zeros []string, hands bool) {
	if f.Results == nil {
		return nil, false
	}
	var types []ast.Expr
	for _, r := range f.Results.List {
		for range max(len(r.Names), 1) {
			types = append(types, r.Type)
		}
	}
	last := types[len(types)-1]
	if id, ok := last.(*ast.Ident); ok && id.Name == "error" {
		hands, types = true, types[:len(types)-1]
	}
	zeros = []string{}
	for _, t := range types {
		zeros = append(zeros, zeroOf(string(text[p.offset(t.Pos()):p.offset(t.End())]), t, p.file))
	}
	return zeros, hands
}

var numbers = regexp.MustCompile(`^(u?int(8|16|32|64|ptr)?|float(32|64)|byte|rune|complex(64|128))$`)

// zeroOf is the value of a type that nothing was given to.
func zeroOf(written string, t ast.Expr, f *ast.File) string {
	switch t := t.(type) {
	case *ast.StarExpr, *ast.MapType, *ast.ChanType, *ast.FuncType, *ast.InterfaceType:
		return "nil"
	case *ast.ArrayType:
		if t.Len == nil {
			return "nil"
		}
	case *ast.Ident:
		switch {
		case t.Name == "string":
			return `""`
		case t.Name == "bool":
			return "false"
		case t.Name == "error" || t.Name == "any":
			return "nil"
		case numbers.MatchString(t.Name):
			return "0"
		case declaredStruct(t.Name, f):
			return written + "{}"
		}
	}
	if r, _ := utf8.DecodeRuneInString(written); r == '[' || strings.HasPrefix(written, "struct") {
		return written + "{}"
	}
	return "*new(" + written + ")" // whatever it is
}

// declaredStruct says whether a name is that of a struct of the same file.
func declaredStruct(name string, f *ast.File) bool {
	for _, d := range f.Decls {
		g, ok := d.(*ast.GenDecl)
		if !ok {
			continue
		}
		for _, s := range g.Specs {
			if t, ok := s.(*ast.TypeSpec); ok && t.Name.Name == name {
				_, is := t.Type.(*ast.StructType)
				return is
			}
		}
	}
	return false
}
