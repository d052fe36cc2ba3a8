package answer_test

import (
	"context"
	"fmt"
	"os"
	"path"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/demo"
	"rooktrail/internal/core/file/lang/langtest"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// unpacked is the demo, unpacked and read once for all tests that only ask.
var unpacked = sync.OnceValues(func() (*workspace.Workspace, error) {
	root, err := os.MkdirTemp("", "tarnwell")
	if err != nil {
		return nil, err
	}
	if err := demo.Unpack(context.Background(), root); err != nil {
		return nil, err
	}
	ws := workspace.New(root)
	return ws, ws.Code.Read(context.Background())
})

func TestMain(m *testing.M) {
	status := m.Run()
	if ws, err := unpacked(); err == nil {
		_ = os.RemoveAll(ws.Code.Root())
	}
	os.Exit(status)
}

func tarnwell(t *testing.T) *workspace.Workspace {
	t.Helper()
	ws, err := unpacked()
	require.NoError(t, err)
	return ws
}

// offsetOf finds a place: the name in the first line that holds the text, or
// the first word of the text.
func offsetOf(t *testing.T, ws *workspace.Workspace, file, line, name string) int {
	t.Helper()
	f, err := ws.Code.Load(context.Background(), file)
	require.NoError(t, err)
	at := strings.Index(string(f.Text.Bytes()), line)
	require.GreaterOrEqual(t, at, 0, "%s has no %q", file, line)
	in := strings.Index(line, name)
	require.GreaterOrEqual(t, in, 0)
	return at + in
}

// written writes answers shortly: the file without its folders, and the name.
func written(spots []answer.Answer) (all []string) {
	for _, s := range spots {
		name := s.Name
		if s.Container != "" {
			name = s.Container + "." + name
		}
		all = append(all, path.Base(s.Path)+" "+name)
	}
	return all
}

type asked func(ws *workspace.Workspace, file string, offset int) []string

func TestRelations(t *testing.T) {
	ctx := context.Background()
	level := func(way answer.Way, l resolve.Level) asked {
		return func(ws *workspace.Workspace, file string, offset int) []string {
			_, spots := ws.Answers.All(ctx, answer.Question{Way: way, Path: file, Offset: offset, Level: l})
			return written(spots)
		}
	}
	implementations := func(ws *workspace.Workspace, file string, offset int) []string {
		_, spots := ws.Answers.All(ctx, answer.ToImplementations.On(file, offset))
		return written(spots)
	}
	typeDefinition := func(ws *workspace.Workspace, file string, offset int) []string {
		_, spots := ws.Answers.All(ctx, answer.ToType.On(file, offset))
		return written(spots)
	}
	calls := func(incoming bool) asked {
		way := answer.ToCalled
		if incoming {
			way = answer.ToCallers
		}
		return func(ws *workspace.Workspace, file string, offset int) (all []string) {
			_, callers := ws.Answers.All(ctx, way.On(file, offset))
			for _, c := range callers {
				through := ""
				if c.Through != "" {
					through = " through " + c.Through
				}
				all = append(all, fmt.Sprintf("%s x%d%s", written([]answer.Answer{c})[0], len(c.Sites), through))
			}
			return all
		}
	}
	tests := func(ws *workspace.Workspace, file string, offset int) []string {
		_, spots := ws.Answers.All(ctx, answer.ToTests.On(file, offset))
		return written(spots)
	}
	up, down := answer.ToSupers, answer.ToSubs
	ws := tarnwell(t)
	for _, c := range []struct {
		about, file, line, name string
		ask                     asked
		want                    []string
	}{
		{"types that have the methods of an interface", "dispatch/assigner.go", "type Assigner", "Assigner", implementations, []string{"pinned.go Pinned", "pinned.go ByHour", "roster.go Roster", "rotation.go Rotation"}},
		{"methods that implement one", "dispatch/assigner.go", "	Assign(c", "Assign", implementations, []string{"pinned.go Pinned.Assign", "pinned.go ByHour.Assign", "roster.go Roster.Assign", "rotation.go Rotation.Assign"}},
		{"the interfaces of a type", "dispatch/roster.go", "type Roster", "Roster", level(up, resolve.Direct), []string{"assigner.go Assigner", "assigner.go Releaser"}},
		{"the method that one implements", "dispatch/roster.go", ") Assign(", "Assign", level(up, resolve.Direct), []string{"assigner.go Assigner.Assign"}},
		{"classes derived from one", "risk/weather.py", "class Factor", "Factor", level(down, resolve.All), []string{"weather.py NewSnow", "weather.py Wind", "weather.py Thaw"}},
		{"methods that override one", "risk/weather.py", "def danger", "danger", level(down, resolve.All), []string{"weather.py NewSnow.danger", "weather.py Wind.danger", "weather.py Thaw.danger"}},
		{"what a class is derived from", "risk/weather.py", "class Wind", "Wind", level(up, resolve.All), []string{"weather.py Factor"}},
		{"where interfaces alone extend one, they are below it", "board/src/api/types.ts", "interface Named", "Named", implementations, []string{"types.ts Team"}},
		{"but a subtype", "board/src/api/types.ts", "interface Named", "Named", level(down, resolve.Direct), []string{"types.ts Team"}},
		{"the type of a list's elements", "dispatch/roster.go", "teams   []Team", "teams", typeDefinition, []string{"team.go Team"}},
		{"the type of what a function gives", "risk/snowpack.py", "def add_layer", "add_layer", typeDefinition, []string{"snowpack.py Layer"}},
		{"who calls a method", "dispatch/roster.go", ") nearest(", "nearest", calls(true), []string{"roster.go Roster.Assign x1"}},
		{"what a method calls", "dispatch/roster.go", ") Assign(", "Assign", calls(false), []string{"roster.go Roster.nearest x1", "roster.go Roster.free x1", "roster.go Roster.send x1"}},
		{"the tests of a method, those named after it first", "risk/snowpack.py", "def weakest_layer", "weakest_layer", tests, nil},
	} {
		got := c.ask(ws, c.file, offsetOf(t, ws, c.file, c.line, c.name))
		if c.want == nil && c.about[:3] == "the" {
			assert.NotEmpty(t, got, c.about)
			continue
		}
		assert.Equal(t, c.want, got, c.about)
	}
}

func TestReferencesAndValues(t *testing.T) {
	ctx, ws := context.Background(), tarnwell(t)
	at := offsetOf(t, ws, "dispatch/roster.go", "	RestTime time.Duration", "RestTime")
	res, refs := ws.Answers.All(ctx, answer.ToReferences.On("dispatch/roster.go", at))
	assert.Equal(t, "RestTime", res.Name)
	access := map[string]int{}
	for _, r := range refs {
		access[r.Access.String()]++
		assert.Equal(t, "RestTime", r.Name)
		assert.NotEmpty(t, r.Text)
	}
	assert.NotZero(t, access["read"])
	assert.NotZero(t, access["write"])
	_, values := ws.Answers.All(ctx, answer.ToValues.On("dispatch/roster.go", at))
	require.NotEmpty(t, values)
	assert.Equal(t, answer.Set.String(), values[0].Role, "what sets it comes first")

	at = offsetOf(t, ws, "dispatch/roster.go", "nearest(valley string", "valley")
	_, values = ws.Answers.All(ctx, answer.ToValues.On("dispatch/roster.go", at))
	flows := map[string]string{}
	for _, v := range values {
		flows[v.Role] = v.To.Name
	}
	assert.Contains(t, flows, "passed", "an argument gives it its value")
	assert.Contains(t, flows, "passed on")
}

// References of a method of an interface leave out those of what implements it,
// unless asked for.
func TestReferencesOfTheFamily(t *testing.T) {
	ctx, ws := context.Background(), tarnwell(t)
	at := offsetOf(t, ws, "dispatch/assigner.go", "	Assign(c", "Assign")
	_, own := ws.Answers.All(ctx, answer.ToReferences.On("dispatch/assigner.go", at))
	_, family := ws.Answers.All(ctx, answer.Question{Way: answer.ToReferences, Path: "dispatch/assigner.go", Offset: at, Scope: resolve.Scope{Family: true}})
	assert.NotEmpty(t, own)
	assert.Greater(t, len(family), len(own))
}

func TestUnused(t *testing.T) {
	ws, found := tarnwell(t), map[string]resolve.Certainty{}
	ws.Answers.Unused(context.Background(), "station", func(s answer.Answer) bool {
		found[s.Name] = s.Certainty
		return true
	})
	assert.Contains(t, found, "FRAME_HELLO")
	assert.NotContains(t, found, "main")
	assert.NotContains(t, found, "station_run")
}

// What stands in a macro is used where that is, whatever it means there.
func TestUnusedButForMacros(t *testing.T) {
	ws, found := workspacetest.Open(t, map[string]string{
		"snow.h": "static void _clear(int depth) {}\nstatic void _melt(int depth) {}\nstatic void _fall(int depth) {}\n#define clear(d) _clear((int)(d))\n#define melt(d) \\\n\tdo { _melt(d); } while (0)\n#define NOBODY 1\n",
	}), []string(nil)
	ws.Answers.Unused(t.Context(), ".", func(a answer.Answer) bool {
		found = append(found, a.Name)
		return true
	})
	slices.Sort(found)
	assert.Equal(t, []string{"NOBODY", "_fall", "clear", "melt"}, found)
}

// What a program has written is not for people to take out, and the context ends the looking.
func TestUnusedInGeneratedFiles(t *testing.T) {
	root := t.TempDir()
	langtest.Lay(t, root, map[string]string{
		"a.py": "def by_hand():\n    pass\n", "b.py": "# Generated by bell. DO NOT EDIT.\ndef by_bell():\n    pass\n", "c_pb2.py": "def by_name():\n    pass\n",
	})
	ws := workspace.New(root)
	require.NoError(t, ws.Code.Read(context.Background()))
	unused := func(ctx context.Context) (names []string) {
		ws.Answers.Unused(ctx, ".", func(a answer.Answer) bool {
			names = append(names, a.Name)
			return true
		})
		return names
	}
	assert.Equal(t, []string{"by_hand"}, unused(context.Background()))
	ended, end := context.WithCancel(context.Background())
	end()
	assert.Empty(t, unused(ended))
	f, err := ws.Code.Load(context.Background(), "b.py")
	require.NoError(t, err)
	assert.True(t, f.Generated())
	f, err = ws.Code.Load(context.Background(), "a.py")
	require.NoError(t, err)
	assert.False(t, f.Generated())
}

// What is no name in code points somewhere as well.
func TestPointers(t *testing.T) {
	ctx, ws := context.Background(), tarnwell(t)
	for _, c := range []struct{ file, line, name, want string }{
		{"README.md", "[docs/overview.md]", "docs/overview.md", "docs/overview.md:1"},
		{"docs/overview.md", "`risk/model.py`", "risk/model.py", "risk/model.py:1"},
		{"config/config.go", `"config/valleys.yaml"`, "valleys", "config/valleys.yaml:1"},
	} {
		_, spots := ws.Answers.All(ctx, answer.ToDefinition.On(c.file, offsetOf(t, ws, c.file, c.line, c.name)+1))
		if assert.NotEmpty(t, spots, c.line) {
			assert.Equal(t, c.want, fmt.Sprintf("%s:%d", spots[0].Path, spots[0].Line))
		}
	}
	_, spots := ws.Answers.All(ctx, answer.ToDefinition.On("README.md", offsetOf(t, ws, "README.md", "the dispatch service", "dispatch")))
	for _, s := range spots {
		assert.Equal(t, resolve.ByName, s.Certainty)
	}
	hits, err := ws.Answers.Mentions(ctx, "RiskModel")
	require.NoError(t, err)
	for _, h := range hits {
		assert.Contains(t, h.Text, "RiskModel")
	}
	assert.Equal(t, []string{"dispatch/roster_test.go"}, ws.Answers.TestFiles("dispatch/roster.go"))
	assert.Equal(t, []string{"dispatch/roster.go"}, ws.Answers.TestFiles("dispatch/roster_test.go"))
}

// Positions that make no sense have no answer, and no more than that.
func TestOddPositions(t *testing.T) {
	ctx, ws := context.Background(), tarnwell(t)
	for _, offset := range []int{0, 1, 13, 1 << 30} {
		ws.Answers.All(ctx, answer.ToReferences.On("dispatch/roster.go", offset))
		ws.Answers.All(ctx, answer.ToValues.On("dispatch/roster.go", offset))
		ws.Answers.All(ctx, answer.ToTests.On("dispatch/roster.go", offset))
		ws.Answers.All(ctx, answer.ToImplementations.On("dispatch/roster.go", offset))
	}
	_, refs := ws.Answers.All(ctx, answer.ToReferences.On("nowhere.go", 0))
	assert.Empty(t, refs)
	gone, cancel := context.WithCancel(ctx)
	cancel()
	_, refs = ws.Answers.All(gone, answer.ToReferences.On("dispatch/team.go", offsetOf(t, ws, "dispatch/team.go", "type Team", "Team")))
	assert.Empty(t, refs, "nothing is looked for any more")
}

// What is derived from something that nobody knows may be below a type: it is counted apart.
func TestPossibleImplementations(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{
		"bell.py": "from brass import Mixed\nclass Bell:\n    def ring(self): pass\nclass Loud(Bell):\n    def ring(self): pass\n" +
			"def make(base):\n    class Horn(base):\n        def ring(self): pass\n    return Horn\n" +
			"class Out(Mixed):\n    def ring(self): pass\nclass Alone:\n    def ring(self): pass\n",
	})
	at := offsetOf(t, ws, "bell.py", "    def ring", "ring")
	_, found := ws.Answers.All(context.Background(), answer.ToImplementations.On("bell.py", at))
	var got []string
	for _, a := range found {
		got = append(got, fmt.Sprintf("%s %v", a.Container, a.Possible))
	}
	assert.Equal(t, []string{"Loud false", "Horn true"}, got)
	n := ws.Answers.CountWays(context.Background(), "bell.py", at)
	assert.Equal(t, []int{1, 1}, []int{n.Implementations, n.PossibleBelow})
}
