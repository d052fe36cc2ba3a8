package lsif_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/lsif"
	"rooktrail/internal/core/know/publish"
	"rooktrail/internal/core/know/resolve"
)

// read reads a project, the index of which lies in a folder.
func read(t *testing.T, root, indexes string) *codebase.Base {
	b := codebase.New(root)
	b.KeepIndex(t.Context(), indexes)
	require.NoError(t, b.Read(t.Context()))
	t.Cleanup(func() { b.Close() })
	return b
}

func write(t *testing.T, root string, files map[string]string) {
	for name, text := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(root, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o644))
	}
}

// dumper writes a dump as a tool of a compiler would, element by element.
type dumper struct {
	bytes.Buffer
	ids int
}

func (d *dumper) add(kind, label string, more map[string]any) int {
	d.ids++
	more["id"], more["type"], more["label"] = d.ids, kind, label
	line, _ := json.Marshal(more)
	d.Write(append(line, '\n'))
	return d.ids
}

func (d *dumper) vertex(label string, more map[string]any) int { return d.add("vertex", label, more) }

func (d *dumper) edge(label string, from int, to ...int) {
	d.add("edge", label, map[string]any{"outV": from, "inVs": to})
}

// ofTypes is a dump made of what the type checker of Go says of a package of its library, which is copied to root.
func ofTypes(t *testing.T, root string) (d *dumper, means map[place.Place]place.Place) {
	from := filepath.Join(runtime.GOROOT(), "src", "text", "template", "parse")
	files, err := filepath.Glob(filepath.Join(from, "*.go"))
	require.NoError(t, err)
	fset, parsed := token.NewFileSet(), []*ast.File(nil)
	texts := map[string]string{"go.mod": "module parse\n"}
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		if base := filepath.Base(f); !strings.HasSuffix(base, "_test.go") {
			texts[base] = string(data)
			file, err := parser.ParseFile(fset, base, data, 0)
			require.NoError(t, err)
			parsed = append(parsed, file)
		}
	}
	write(t, root, texts)
	info := &types.Info{Defs: map[*ast.Ident]types.Object{}, Uses: map[*ast.Ident]types.Object{}}
	config := types.Config{Importer: importer.ForCompiler(fset, "source", nil)}
	_, err = config.Check("parse", fset, parsed, info)
	require.NoError(t, err)

	d = &dumper{}
	d.vertex("metaData", map[string]any{"version": "0.6.0", "projectRoot": place.URI(root), "positionEncoding": "utf-8"})
	documents, inside := map[string]int{}, map[string][]int{}
	for _, f := range parsed {
		name := fset.Position(f.Pos()).Filename
		documents[name] = d.vertex("document", map[string]any{"uri": place.URI(filepath.Join(root, name)), "languageId": "go"})
	}
	span := func(id *ast.Ident) (p token.Position, number int) {
		p = fset.Position(id.Pos())
		number = d.vertex("range", map[string]any{"start": map[string]int{"line": p.Line - 1, "character": p.Column - 1}, "end": map[string]int{"line": p.Line - 1, "character": p.Column - 1 + len(id.Name)}})
		inside[p.Filename] = append(inside[p.Filename], number)
		return p, number
	}
	sets, places := map[types.Object]int{}, map[types.Object]token.Position{}
	for id, object := range info.Defs {
		if object == nil || id.Name == "_" {
			continue
		}
		p, number := span(id)
		places[object] = p
		sets[object] = d.vertex("resultSet", map[string]any{})
		d.edge("next", number, sets[object])
		result := d.vertex("definitionResult", map[string]any{})
		d.edge("textDocument/definition", sets[object], result)
		d.add("edge", "item", map[string]any{"outV": result, "inVs": []int{number}, "shard": documents[p.Filename]})
	}
	means = map[place.Place]place.Place{}
	for id, object := range info.Uses {
		if info.Defs[id] != nil {
			continue // an embedded field is both the field and a use of its type
		}
		if set, ok := sets[object]; ok && id.Name == object.Name() {
			p, number := span(id)
			d.edge("next", number, set)
			to := places[object]
			means[place.Place{Path: p.Filename, Line: p.Line, Col: p.Column}] = place.Place{Path: to.Filename, Line: to.Line, Col: to.Column}
		}
	}
	for name, all := range inside {
		d.edge("contains", documents[name], all...)
	}
	return d, means
}

func definition(t *testing.T, b *codebase.Base, r *resolve.Resolver, at place.Place) resolve.Answer {
	f, err := b.Load(t.Context(), at.Path)
	require.NoError(t, err)
	res := r.Definition(t.Context(), at.Path, f.Text.Offset(at.Line, at.Col))
	if len(res.Answers) == 0 {
		return resolve.Answer{}
	}
	return res.Answers[0]
}

// What a compiler says is answered exactly, also when the project is opened again, and followed when a text has changed.
func TestACompilersDump(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	d, means := ofTypes(t, root)
	b := read(t, root, indexes)
	taken, err := codebase.TakeDump(t.Context(), b, &d.Buffer)
	require.NoError(t, err)
	assert.Equal(t, len(means), taken.Names)
	assert.Zero(t, taken.Other+taken.Outside)
	require.NoError(t, b.Close())

	b = read(t, root, indexes)
	r := resolve.New(b)
	check := func(shift int, certainty resolve.Certainty) {
		wrong := 0
		for at, to := range means {
			if at.Path == "parse.go" {
				at.Line += shift
			}
			want := to
			if want.Path == "parse.go" {
				want.Line += shift
			}
			a := definition(t, b, r, at)
			f, err := b.Load(t.Context(), want.Path)
			require.NoError(t, err)
			if a.Path != want.Path || int(a.At.Start) != f.Text.Offset(want.Line, want.Col) || a.Certainty != certainty && (at.Path == "parse.go" || want.Path == "parse.go") {
				if wrong++; wrong < 5 {
					t.Logf("%v: %+v, want %v", at, a, want)
				}
			}
		}
		assert.Zero(t, wrong, "of %d", len(means))
	}
	check(0, resolve.Exact)

	file := filepath.Join(root, "parse.go")
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, append([]byte("// Snow lies on it.\n\n"), data...), 0o644))
	b.Refresh(t.Context())
	check(2, resolve.Inferred)
}

// What is written out and taken in again answers the same, at ten thousand places, but does not claim to be a compiler's.
func TestThereAndBack(t *testing.T) {
	if testing.Short() {
		t.Skip("it goes through ten thousand places")
	}
	root, indexes := t.TempDir(), t.TempDir()
	for _, folder := range []string{"go/doc", "text/template", "encoding/json", "net/url", "regexp/syntax"} {
		files, err := filepath.Glob(filepath.Join(runtime.GOROOT(), "src", folder, "*.go"))
		require.NoError(t, err)
		for _, f := range files {
			data, err := os.ReadFile(f)
			require.NoError(t, err)
			write(t, root, map[string]string{filepath.Join(folder, filepath.Base(f)): string(data)})
		}
	}
	write(t, root, map[string]string{"go.mod": "module there\n", "hut.ts": "export class Hut { beds = 2; free() { return this.beds; } }\nconst 𝛼 = new Hut(); 𝛼.free();\n"})
	b := read(t, root, indexes)
	type asked struct {
		path   string
		offset int
	}
	before, r := map[asked]resolve.Answer{}, resolve.New(b)
	for f := range b.Listing().Files() {
		found, _ := b.Facts(t.Context(), f.Path)
		if found == nil {
			continue
		}
		var offsets []int
		for _, u := range found.Uses {
			offsets = append(offsets, int(u.At.Start))
		}
		for i, a := range r.Meanings(t.Context(), f.Path, offsets) {
			if len(before) < 10_000 {
				before[asked{f.Path, offsets[i]}] = a
			}
		}
	}
	require.Len(t, before, 10_000)
	var out bytes.Buffer
	packed := gzip.NewWriter(&out)
	require.NoError(t, publish.LSIF(t.Context(), &publish.Source{Code: b, Resolver: r}, packed, lsif.Own, "1"))
	require.NoError(t, packed.Close())
	taken, err := codebase.TakeDump(t.Context(), b, &out)
	require.NoError(t, err)
	assert.Greater(t, taken.Names, 10_000)
	r = resolve.New(b)
	for at, want := range before {
		got := r.Meanings(t.Context(), at.path, []int{at.offset})[0]
		assert.Equal(t, want.Path, got.Path, "%v", at)
		assert.Equal(t, want.At, got.At, "%v", at)
		assert.False(t, got.Path != "" && got.Certainty == resolve.Exact, "%v", at)
	}
}

// What is no dump, or not all of one, is refused, and nothing of it is kept.
func TestWhatIsNoDump(t *testing.T) {
	root := t.TempDir()
	write(t, root, map[string]string{"a.go": "package a\n\nfunc Ring() {}\n\nfunc Call() { Ring() }\n"})
	meta := fmt.Sprintf(`{"id":1,"type":"vertex","label":"metaData","projectRoot":%q}`+"\n", place.URI(root))
	document := func(uri string) string {
		return fmt.Sprintf(`{"id":"d","type":"vertex","label":"document","uri":%q}`+"\n", uri)
	}
	ranges := `{"id":3,"type":"vertex","label":"range","start":{"line":2,"character":5},"end":{"line":2,"character":9}}
{"id":4,"type":"vertex","label":"range","start":{"line":4,"character":14},"end":{"line":4,"character":18}}
{"id":5,"type":"edge","label":"contains","outV":"d","inVs":[3,4]}
{"id":6,"type":"vertex","label":"definitionResult"}
{"id":7,"type":"edge","label":"textDocument/definition","outV":4,"inV":6}
{"id":8,"type":"edge","label":"item","outV":6,"inVs":[3]}
`
	good := meta + document(place.URI(root+"/a.go")) + ranges
	tests := []struct {
		name, dump, says string
		names            int
	}{
		{"all is right", good, "", 1},
		{"nothing", "", "metaData", 0},
		{"words", "snow\n", "line 1 is no element", 0},
		{"cut off", good[:len(good)-20], "cut off", 0},
		{"no project", document("file:///a.go") + ranges, "metaData", 0},
		{"neither vertex nor edge", meta + `{"id":2,"type":"rope"}`, "neither", 0},
		{"a range without ends", meta + `{"id":2,"type":"vertex","label":"range"}`, "no ends", 0},
		{"packed, and cut off", "\x1f\x8b\x08\x00", "unpacking", 0},
		{"outside", meta + document("file:///etc/passwd") + ranges, "", 0},
		{"outside by a way", meta + document(place.URI(root)+"/../"+filepath.Base(root)+"/a.go") + ranges, "", 0},
		{"outside by an escape", meta + document(place.URI(root)+"/%2e%2e/x/a.go") + ranges, "", 0},
		{"none of the project", meta + document(place.URI(root+"/b.go")) + ranges, "", 0},
		{"places that are not there", strings.ReplaceAll(good, `"line":4`, `"line":4000000000`), "", 0},
		{"another text", strings.ReplaceAll(good, `"character":1`, `"character":9`), "", 0},
		{"no text that it could be", strings.Replace(good, `"label":"document"`, `"label":"document","contents":"&&"`, 1), "reading the text", 0},
		{"a definition of itself", meta + document(place.URI(root+"/a.go")) + strings.ReplaceAll(ranges, `"inVs":[3]}`, `"inVs":[6]}`), "", 0},
		{"sets in a ring", good + `{"id":9,"type":"edge","label":"next","outV":3,"inV":3}` + "\n", "", 1},
		{"a long line", meta + strings.Repeat(" ", 300<<20), "longer", 0},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			b := read(t, root, t.TempDir())
			taken, err := codebase.TakeDump(t.Context(), b, strings.NewReader(tt.dump))
			if tt.says == "" {
				require.NoError(t, err)
			} else {
				assert.ErrorContains(t, err, tt.says)
			}
			assert.Equal(t, tt.names, taken.Names)
			_, _, ok := b.Told(t.Context(), "a.go", strings.Index("package a\n\nfunc Ring() {}\n\nfunc Call() { Ring() }\n", "Ring() }"))
			assert.Equal(t, tt.names > 0, ok)
		})
	}
}

// What is damaged on disk says nothing.
func TestDamaged(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	d, means := ofTypes(t, root)
	b := read(t, root, indexes)
	_, err := codebase.TakeDump(t.Context(), b, &d.Buffer)
	require.NoError(t, err)
	require.NoError(t, b.Close())
	kept, err := filepath.Glob(filepath.Join(indexes, "*.lsif*.db"))
	require.NoError(t, err)
	require.Len(t, kept, 1)
	whole, err := os.ReadFile(kept[0])
	require.NoError(t, err)
	for _, cut := range []int{0, 10, len(whole) / 2, len(whole) - 5000} {
		broken := slices.Clone(whole)
		for i := cut; i < min(cut+3000, len(broken)); i++ {
			broken[i] ^= 0x55
		}
		require.NoError(t, os.WriteFile(kept[0], broken, 0o644))
		b := read(t, root, indexes)
		r := resolve.New(b)
		for at, to := range means {
			if a := definition(t, b, r, at); a.Certainty == resolve.Exact {
				f, err := b.Load(t.Context(), to.Path)
				require.NoError(t, err)
				require.Equal(t, f.Text.Offset(to.Line, to.Col), int(a.At.Start), "%v", at)
			}
		}
		require.NoError(t, b.Close())
	}
}
