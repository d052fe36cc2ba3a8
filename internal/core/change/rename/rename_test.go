package rename_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// at is where a text stands in a file, marked in it by a |.
func at(t *testing.T, files map[string]string, file, marked string) int {
	front, back, ok := strings.Cut(marked, "|")
	require.True(t, ok, marked)
	i := strings.Index(files[file], front+back)
	require.GreaterOrEqual(t, i, 0, "%s in %s", marked, file)
	return i + len(front)
}

func propose(t *testing.T, files map[string]string, file, marked string, a rename.Asked) (*workspace.Workspace, *proposal.Proposal, error) {
	ws := workspacetest.Open(t, files)
	a.Path, a.Offset = file, at(t, files, file, marked)
	p, err := ws.Changes.Propose(context.Background(), a)
	return ws, p, err
}

// lines are the lines that change, as they will be, each behind its file and number.
func lines(p *proposal.Proposal) (all []string) {
	for _, f := range p.Files {
		if f.Path != f.To {
			all = append(all, f.Path+" → "+f.To)
		}
		after := strings.Split(string(f.After().Bytes()), "\n")
		for i, l := range strings.Split(string(f.Before.Bytes()), "\n") {
			if after[i] != l {
				all = append(all, f.Name()+": "+strings.TrimSpace(after[i]))
			}
		}
	}
	return all
}

func warnings(p *proposal.Proposal, stops bool) string {
	var all []string
	for _, w := range p.Warnings {
		if w.Stops == stops {
			all = append(all, w.Text)
		}
	}
	return strings.Join(all, "\n")
}

var huts = map[string]string{
	"huts/hut.go": `package huts

// Snow is what lies there.
type Snow struct{ depth int }

type Deep struct {
	Snow
	name string
}

type Gauge interface{ Read(wait int) int }

type Pole struct{}

func (p Pole) Read(wait int) int { return wait }

func New(name string) Deep {
	d := Deep{Snow: Snow{depth: 1}, name: name}
	d.Snow.depth = 2
	return d
}

func read(g Gauge) int {
retry:
	n := g.Read(1)
	if n < 0 {
		goto retry
	}
	return n
}
`,
	"risk/model.py": `from risk.layers import Layer as L, weak


class Model:
    def __init__(self, slope, wet=False):
        self.slope = slope

    def load(self, depth, *, wet=False):
        def inner(depth):
            return depth
        return self.slope * depth + inner(1) + L(wet).depth


m = Model("south", wet=True)
m.load(3, wet=weak)
m.load(depth=2, wet=m.load(1, wet=1))
`,
	"risk/layers.py": "class Layer:\n    def __init__(self, depth):\n        self.depth = depth\n\n\nweak = Layer(depth=3)\n",
	"board/api.ts": `export interface Hut { name: string; depth: number }
export function load(name: string, { depth }: Hut): Hut {
  const hut = { name, depth };
  return hut;
}
export { load as fetchHut };
`,
	"board/main.ts": `import { load, fetchHut } from './api';
import { load as read } from './api';
console.log(load('a', { name: 'b', depth: 1 }), fetchHut, read('c', null!));
`,
	"gate/Radio.java": `package gate;
public class Radio {
    public enum Band { LOW, HIGH }
    public Radio() { this(1); }
    public Radio(int n) { }
    public Radio copy() { return new Radio(2); }
    @Override public String toString() { return "r"; }
}
`,
	"gate/Gate.java": `package gate;
import static gate.Radio.Band.LOW;
public class Gate extends Radio {
    gate.Radio full = new Radio();
    Band b = LOW;
}
`,
	"station/ring.h": "struct ring { int next; };\nint ring_push(struct ring *r, int v);\n#define RING_SIZE 4\n#define PUSH(r) \\\n    ring_push(r, RING_SIZE)\n",
	"station/ring.c": "#include \"ring.h\"\nint ring_push(struct ring *r, int v)\n{\n    r->next = v % RING_SIZE;\n    return r->next;\n}\n",
}

// The members of objects that are of a type because of where they are written are those of the type.
func TestObjectsOfATypeByWhereTheyStand(t *testing.T) {
	files := map[string]string{
		"board/watch.ts": `export interface Watcher<T> { next: (v: T) => void; deep?: { level: number } }
export interface Other { next: number }
export type Options = { each: Watcher<string>[]; depth: number };
export function watch<T>(from: string, w?: Partial<Watcher<T>> | ((v: T) => void)): void {}
export function both(o: Options): void {}
export function other(o: Other): void {}
`,
		"board/use.ts": `import { watch, both, other, Watcher, Options } from './watch';
watch('a', { next: v => {}, deep: { level: 1 } });
watch('b', cond ? { next() {} } : undefined);
both({ each: [{ next: v => {} }], depth: 1 });
other({ next: 1 });
const w: Watcher<number> = { next: v => {} };
function one(): Watcher<number> { return { next: v => {} }; }
const two = (): Watcher<number> => ({ next: v => {} });
async function three(): Promise<Watcher<number>> { return { next: v => {} }; }
class Board { w: Watcher<number> = { next: v => {} }; set() { this.w = { next: v => {} }; } }
const loose = { next: 1 };
const cast = { next: v => {} } as Watcher<number>;
interface Deep { kind: 'deep'; cm: number; note(): string }
interface Flat { kind: 'flat'; note(): string }
function noted(x: Deep | Flat) { return x.note(); }
type Any<T> = Deep | Flat;
declare function each(of: (x: Flat) => void): void;
each(Math.random() > 1 ? (x) => { x.note(); } : (x) => x.note());
function again<T>(x: Any<T>) { return x.note?.(); }
interface Loud { sound(): void; stop(): void }
class Siren { sound() {} stop() {} }
class Quiet { sound() {} }
const loud: Loud = new Siren();
class Bell { ring() {} }
function either(o: Options | undefined, s: boolean) { const x = s ? o : new Bell(); x.ring(); }
interface Rung { ring: typeof Bell.prototype.ring }
function apart(o: Options) { let depth: number, each; ({ depth, each: each = [] } = o); return depth; }
`,
	}
	want := []string{}
	for i, l := range strings.Split(files["board/use.ts"], "\n") {
		if i != 4 && i != 10 && strings.Contains(l, "next") {
			want = append(want, "board/use.ts: "+strings.TrimSpace(strings.ReplaceAll(l, "next", "then")))
		}
	}
	want = append(want, "board/watch.ts: export interface Watcher<T> { then: (v: T) => void; deep?: { level: number } }")
	for file, at := range map[string]string{"board/watch.ts": "Watcher<T> { |next", "board/use.ts": "watch('a', { |next"} {
		_, p, err := propose(t, files, file, at, rename.Asked{New: "then"})
		require.NoError(t, err)
		assert.Equal(t, want, lines(p), at)
	}
	_, p, err := propose(t, files, "board/use.ts", "class Bell { |ring", rename.Asked{New: "toll"})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: class Bell { toll() {} }", "board/use.ts: function either(o: Options | undefined, s: boolean) { const x = s ? o : new Bell(); x.toll(); }", "board/use.ts: interface Rung { ring: typeof Bell.prototype.toll }"}, lines(p))
	_, p, err = propose(t, files, "board/watch.ts", "[]; |depth", rename.Asked{New: "cm"})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: both({ each: [{ next: v => {} }], cm: 1 });", "board/use.ts: function apart(o: Options) { let depth: number, each; ({ cm: depth, each: each = [] } = o); return depth; }",
		"board/watch.ts: export type Options = { each: Watcher<string>[]; cm: number };"}, lines(p))
	_, p, err = propose(t, files, "board/use.ts", "let |depth", rename.Asked{New: "cm"})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: function apart(o: Options) { let cm: number, each; ({ depth: cm, each: each = [] } = o); return cm; }"}, lines(p))
	_, p, err = propose(t, files, "board/use.ts", "'flat'; |note", rename.Asked{New: "say"})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: interface Deep { kind: 'deep'; cm: number; say(): string }", "board/use.ts: interface Flat { kind: 'flat'; say(): string }", "board/use.ts: function noted(x: Deep | Flat) { return x.say(); }", "board/use.ts: each(Math.random() > 1 ? (x) => { x.say(); } : (x) => x.say());", "board/use.ts: function again<T>(x: Any<T>) { return x.say?.(); }"}, lines(p))
	_, p, err = propose(t, files, "board/use.ts", "Siren { |sound", rename.Asked{New: "wail", Family: rename.AllFamily})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: interface Loud { wail(): void; stop(): void }", "board/use.ts: class Siren { wail() {} stop() {} }"}, lines(p))
	_, p, err = propose(t, files, "board/watch.ts", "deep?: { |level", rename.Asked{New: "height"})
	require.NoError(t, err)
	assert.Equal(t, []string{"board/use.ts: watch('a', { next: v => {}, deep: { height: 1 } });", "board/watch.ts: export interface Watcher<T> { next: (v: T) => void; deep?: { height: number } }"}, lines(p))
}

func TestEveryUseIsRenamed(t *testing.T) {
	for _, c := range []struct {
		file, at, to string
		family       rename.Family
		want         []string
	}{
		{"huts/hut.go", "type |Snow", "Ice", 0, []string{"huts/hut.go: type Ice struct{ depth int }", "huts/hut.go: Ice", "huts/hut.go: d := Deep{Ice: Ice{depth: 1}, name: name}", "huts/hut.go: d.Ice.depth = 2"}},
		{"huts/hut.go", "d.|Snow.depth", "Ice", 0, []string{"huts/hut.go: type Ice struct{ depth int }", "huts/hut.go: Ice", "huts/hut.go: d := Deep{Ice: Ice{depth: 1}, name: name}", "huts/hut.go: d.Ice.depth = 2"}},
		{"huts/hut.go", "g.|Read", "Ask", rename.AllFamily, []string{"huts/hut.go: type Gauge interface{ Ask(wait int) int }", "huts/hut.go: func (p Pole) Ask(wait int) int { return wait }", "huts/hut.go: n := g.Ask(1)"}},
		{"huts/hut.go", "|retry:", "again", 0, []string{"huts/hut.go: again:", "huts/hut.go: goto again"}},
		{"huts/hut.go", "func New(|name", "called", 0, []string{"huts/hut.go: func New(called string) Deep {", "huts/hut.go: d := Deep{Snow: Snow{depth: 1}, name: called}"}},
		{"risk/model.py", "def load(self, |depth", "metres", 0, []string{"risk/model.py: def load(self, metres, *, wet=False):", "risk/model.py: return self.slope * metres + inner(1) + L(wet).depth", "risk/model.py: m.load(metres=2, wet=m.load(1, wet=1))"}},
		{"risk/model.py", "depth, *, |wet", "moist", 0, []string{"risk/model.py: def load(self, depth, *, moist=False):", "risk/model.py: return self.slope * depth + inner(1) + L(moist).depth", "risk/model.py: m.load(3, moist=weak)", "risk/model.py: m.load(depth=2, moist=m.load(1, moist=1))"}},
		{"risk/model.py", "slope, |wet", "moist", 0, []string{"risk/model.py: def __init__(self, slope, moist=False):", "risk/model.py: m = Model(\"south\", moist=True)"}},
		{"risk/layers.py", "class |Layer", "Stratum", 0, []string{"risk/layers.py: class Stratum:", "risk/layers.py: weak = Stratum(depth=3)", "risk/model.py: from risk.layers import Stratum as L, weak"}},
		{"risk/model.py", "+ |L(", "Lay", 0, []string{"risk/model.py: from risk.layers import Layer as Lay, weak", "risk/model.py: return self.slope * depth + inner(1) + Lay(wet).depth"}},
		{"board/api.ts", "function |load", "get", 0, []string{"board/api.ts: export function get(name: string, { depth }: Hut): Hut {", "board/api.ts: export { get as fetchHut };", "board/main.ts: import { get, fetchHut } from './api';", "board/main.ts: import { get as read } from './api';", "board/main.ts: console.log(get('a', { name: 'b', depth: 1 }), fetchHut, read('c', null!));"}},
		{"board/main.ts", "as |read", "fetch", 0, []string{"board/main.ts: import { load as fetch } from './api';", "board/main.ts: console.log(load('a', { name: 'b', depth: 1 }), fetchHut, fetch('c', null!));"}},
		{"gate/Radio.java", "class |Radio", "Beacon", 0, []string{"gate/Gate.java: import static gate.Beacon.Band.LOW;", "gate/Gate.java: public class Gate extends Beacon {", "gate/Gate.java: gate.Beacon full = new Beacon();", "gate/Radio.java → gate/Beacon.java", "gate/Radio.java: public class Beacon {", "gate/Radio.java: public Beacon() { this(1); }", "gate/Radio.java: public Beacon(int n) { }", "gate/Radio.java: public Beacon copy() { return new Beacon(2); }"}},
		{"gate/Radio.java", "new |Radio(2)", "Beacon", 0, nil},
		{"gate/Radio.java", "enum |Band", "Range", 0, []string{"gate/Gate.java: import static gate.Radio.Range.LOW;", "gate/Gate.java: Range b = LOW;", "gate/Radio.java: public enum Range { LOW, HIGH }"}},
		{"station/ring.h", "int |ring_push", "ring_add", 0, []string{"station/ring.c: int ring_add(struct ring *r, int v)", "station/ring.h: int ring_add(struct ring *r, int v);", "station/ring.h: ring_add(r, RING_SIZE)"}},
		{"station/ring.c", "r->|next = v", "at", 0, []string{"station/ring.c: r->at = v % RING_SIZE;", "station/ring.c: return r->at;", "station/ring.h: struct ring { int at; };"}},
		{"station/ring.c", "% |RING_SIZE", "RING_LENGTH", 0, []string{"station/ring.c: r->next = v % RING_LENGTH;", "station/ring.h: #define RING_LENGTH 4", "station/ring.h: ring_push(r, RING_LENGTH)"}},
	} {
		_, p, err := propose(t, huts, c.file, c.at, rename.Asked{New: c.to, Family: c.family})
		require.NoError(t, err, c.at)
		assert.Empty(t, warnings(p, true), c.at)
		if c.want != nil {
			assert.Equal(t, c.want, lines(p), c.at)
		} else {
			assert.Len(t, lines(p), 8, c.at)
		}
	}
}

func TestWhatStandsInTheWay(t *testing.T) {
	files := map[string]string{
		"a.go": `package a

var depth = 1

func snow(wet int) int {
	for i := range 3 {
		wet += i + depth
	}
	return wet
}

func main() { println(snow(1), Total()) }

func Total() int { return 1 }

type T struct{ a, b int }

func (t T) String() string { return "" }
`,
		"gen.go": "// Code generated by weather. DO NOT EDIT.\n\npackage a\n\nfunc storm() {}\n",
		"b/b.go": "package b\n\nimport \"a\"\n\nvar _ = a.Total()\n",
		"go.mod": "module a\n",
	}
	for _, c := range []struct{ file, at, to, stops, careful string }{
		{"a.go", "snow(|wet int", "i", "here it would mean something else", ""},
		{"a.go", "snow(|wet int", "depth", "depth would mean something else here", ""},
		{"a.go", "snow(|wet int", "func", "a word of the language", ""},
		{"a.go", "snow(|wet int", "so wet", "cannot hold", ""},
		{"a.go", "func |snow", "depth", "there is a variable depth already (a.go:3)", ""},
		{"a.go", "struct{ |a", "b", "there is a field b already", ""},
		{"a.go", "func |main", "start", "", "called from outside of all code"},
		{"a.go", ") |String", "Text", "", "a library may call String by that name"},
		{"a.go", "func |Total", "total", "could not be seen from here", ""},
		{"a.go", "func |Total", "Sum", "", "code outside this project may use Total"},
		{"gen.go", "func |storm", "gale", "", "a program writes this file"},
	} {
		_, p, err := propose(t, files, c.file, c.at, rename.Asked{New: c.to})
		require.NoError(t, err, c.at)
		if c.stops == "" {
			assert.Empty(t, warnings(p, true), c.at)
		} else {
			assert.Contains(t, warnings(p, true), c.stops, c.at)
		}
		assert.Contains(t, warnings(p, false), c.careful, c.at)
	}
	_, _, err := propose(t, files, "a.go", "|package", rename.Asked{New: "x"})
	assert.ErrorIs(t, err, rename.ErrNoName)
	_, _, err = propose(t, files, "a.go", "|println", rename.Asked{New: "x"})
	assert.Error(t, err)
	_, _, err = propose(t, files, "a.go", "var |depth", rename.Asked{New: "depth"})
	assert.ErrorContains(t, err, "its name already")
}

// A method of a family is renamed with all of it or alone, and else not at all.
func TestFamilies(t *testing.T) {
	_, p, err := propose(t, huts, "huts/hut.go", ") |Read", rename.Asked{New: "Ask"})
	require.NoError(t, err)
	assert.Contains(t, warnings(p, true), "Read is overridden by, or overrides")
	_, p, err = propose(t, huts, "huts/hut.go", ") |Read", rename.Asked{New: "Ask", Family: rename.ThisAlone})
	require.NoError(t, err)
	assert.Empty(t, warnings(p, true))
	assert.Equal(t, []string{"huts/hut.go: func (p Pole) Ask(wait int) int { return wait }"}, lines(p))
	assert.Contains(t, warnings(p, false), "keeps its name")
	_, p, err = propose(t, huts, "gate/Radio.java", "String |toString", rename.Asked{New: "text", Family: rename.AllFamily})
	require.NoError(t, err)
	assert.Contains(t, warnings(p, true), "overrides a method of something outside")
}

// What stands in the body of a constant of an enumeration has no name to belong to, and overrides all the same.
func TestFamilyOfBodiesWithoutAName(t *testing.T) {
	files := map[string]string{"Stage.java": "enum Stage {\n\tCALM { boolean go(int l) { return l > 0; } },\n\tSTORM { boolean go(int l) { return CALM.go(l); } };\n\tabstract boolean go(int l);\n}\n"}
	_, p, err := propose(t, files, "Stage.java", "CALM { boolean |go", rename.Asked{New: "walk"})
	require.NoError(t, err)
	assert.Contains(t, warnings(p, true), "2 methods of its family")
	_, p, err = propose(t, files, "Stage.java", "CALM { boolean |go", rename.Asked{New: "walk", Family: rename.AllFamily})
	require.NoError(t, err)
	assert.Len(t, lines(p), 3)
}

// What is mentioned stands apart, and is left out until it is taken in.
func TestMentions(t *testing.T) {
	_, p, err := propose(t, huts, "huts/hut.go", "type |Snow", rename.Asked{New: "Ice"})
	require.NoError(t, err)
	out := 0
	for _, at := range p.File("huts/hut.go").Places {
		if at.Group == proposal.Mentions {
			out++
			assert.True(t, at.Out)
			assert.Equal(t, "comment", at.What)
		}
	}
	assert.Equal(t, 1, out)
	_, p, err = propose(t, huts, "huts/hut.go", "type |Snow", rename.Asked{New: "Ice", Mentions: true})
	require.NoError(t, err)
	assert.Contains(t, lines(p), "huts/hut.go: // Ice is what lies there.")
}

// A rename is made in all files, taken back to the byte, and the project knows of it each time.
func TestMakingAndTakingBack(t *testing.T) {
	ctx := context.Background()
	ws, p, err := propose(t, huts, "gate/Radio.java", "class |Radio", rename.Asked{New: "Beacon"})
	require.NoError(t, err)
	ws.KnowChanges(t.TempDir())
	_, err = ws.Changes.Make(ctx, p)
	require.NoError(t, err)
	assert.True(t, ws.Code.Has("gate/Beacon.java"))
	assert.NotEmpty(t, ws.Code.Named("Beacon"))
	assert.Empty(t, ws.Code.Named("Radio"))
	_, err = ws.Changes.Make(ctx, p)
	assert.Error(t, err, "the files are others by now")
	_, err = ws.Changes.Undo(ctx)
	require.NoError(t, err)
	for file, want := range huts {
		f, err := ws.Code.Load(ctx, file)
		require.NoError(t, err)
		assert.Equal(t, want, string(f.Text.Bytes()), file)
	}
	assert.False(t, ws.Code.Has("gate/Beacon.java"))
}

// A name that files of several languages share is renamed in all of them, as it is written in each.
func TestRenamingSharedNames(t *testing.T) {
	files := map[string]string{
		"site.module.css": ".team-row { top: 0; }\n.team-row:hover, .other { top: 1; }\n",
		"Row.tsx":         "import styles from './site.module.css';\nexport const Row = () => <p className={styles.teamRow} data-snow-depth=\"3\"/>;\n",
		"other.css":       ".team-row { top: 0; }\n",
		"page.html":       "<p id=\"valley\" class=\"team-row\"></p><a href=\"#valley\">x</a>\n",
		"page.ts":         "const e = document.getElementById('valley');\ne.dataset.snowDepth;\n",
	}
	for _, c := range []struct {
		path, at, to string
		want         map[string]string
	}{
		{"site.module.css", "team-row:hover", "hut-row", map[string]string{"site.module.css": ".hut-row:hover", "Row.tsx": "styles.hutRow"}},
		{"Row.tsx", "teamRow", "hut-row", map[string]string{"site.module.css": ".hut-row { top: 0; }\n.hut-row:hover, .other { top: 1; }\n", "Row.tsx": "styles.hutRow"}},
		{"page.ts", "valley", "dale", map[string]string{"page.ts": "getElementById('dale')", "page.html": "<p id=\"dale\" class=\"team-row\"></p><a href=\"#dale\">x</a>\n"}},
		{"page.ts", "snowDepth", "data-depth", map[string]string{"page.ts": "e.dataset.depth;", "Row.tsx": "data-depth=\"3\""}},
	} {
		ws := workspacetest.Open(t, files)
		p, err := ws.Changes.Propose(context.Background(), rename.Asked{Path: c.path, Offset: strings.Index(files[c.path], c.at) + 1, New: c.to})
		require.NoError(t, err, c.at)
		for path, want := range c.want {
			f := p.File(path)
			require.NotNil(t, f, "%s in %s", c.at, path)
			assert.Contains(t, string(f.After().Bytes()), want, "%s in %s", c.at, path)
		}
		assert.Len(t, p.Files, len(c.want), c.at)
	}
	ws := workspacetest.Open(t, files)
	_, err := ws.Changes.Propose(context.Background(), rename.Asked{Path: "other.css", Offset: 0, New: "x"})
	assert.ErrorContains(t, err, "put the caret on a class")
}

// What an import brings in from outside the project, of which nothing is known, has no other name, and is no failure.
func TestWhatAnImportBringsInFromOutside(t *testing.T) {
	files := map[string]string{"Hut.java": "package tarn;\n\nimport snow.depth.Fresh;\n\n@Fresh\npublic class Hut {}\n"}
	_, _, err := propose(t, files, "Hut.java", "import snow.depth.|Fresh", rename.Asked{New: "Old"})
	assert.Error(t, err)
	_, _, err = propose(t, files, "Hut.java", "\n@|Fresh", rename.Asked{New: "Old"})
	assert.Error(t, err)
}
