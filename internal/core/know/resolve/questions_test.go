package resolve_test

import (
	"context"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// The samples in testdata/questions ask all kinds of questions, each folder in one
// language. A mark says what the answer has to be, and that there is no other:
//
//	@is KEY             the name of KEY is defined here; "name:more" is the key of
//	                    another thing of that name
//	@type NAME = KEY    what NAME on this line is of the type KEY
//	@under KEY = KEYS   what implements or extends KEY, which is on this line
//	@over KEY = KEYS    what KEY implements, extends or overrides, however far up
//	@calls KEY = KEYS   what the function KEY calls
//	@called KEY = KEYS  which functions call it
//	@tests KEY = KEYS   the functions that test it
//	@ref KEY ACCESS     a use of KEY, and what is done with it
//	@value KEY          a place where KEY gets its value or gives it away
//	@unused             nothing uses what is defined here
//
// "= -" is for no answer. Behind a name or key, #2 means the second time that the
// name stands on the line. References and values are compared for those keys of
// which any are marked; what is unused, in all of a folder with such a mark.
var questionPattern = regexp.MustCompile(`@(is|type|under|over|calls|called|tests|ref|value|unused)(?: ([^\s@=]+))?(?: ?= ?([^\s@]+)| (readwrite|read|write|call|type|import))?`)

// asking is one folder of samples.
type asking struct {
	t     *testing.T
	ws    *workspace.Workspace
	marks []questionMark
	keys  map[string]questionMark // the definitions
}

type questionMark struct {
	verb, key, answer, access string
	file                      string
	line, offset              int
}

// at is where a mark is about.
func (m questionMark) at() string { return fmt.Sprintf("%s:%d", m.file, m.line) }

func TestQuestions(t *testing.T) {
	folders, err := os.ReadDir("testdata/questions")
	require.NoError(t, err)
	asked := map[string]map[string]bool{} // by language and kind of question
	for _, f := range folders {
		t.Run(f.Name(), func(t *testing.T) {
			a := openQuestions(t, filepath.Join("testdata/questions", f.Name()))
			a.definitions()
			a.related()
			a.references()
			a.values()
			a.unused()
			for _, m := range a.marks {
				of := catalog.Set().Of(m.file).Name
				if asked[of] == nil {
					asked[of] = map[string]bool{}
				}
				asked[of][m.verb] = true
			}
		})
	}
	for _, l := range catalog.All() {
		if !l.Outside.Unused.Is() {
			continue
		}
		for _, verb := range []string{"is", "ref", "type", "under", "over", "calls", "called", "tests", "value", "unused"} {
			assert.Equal(t, !slices.Contains(lacks[l.Name], verb), asked[l.Name][verb], "@%s is asked about %s, or it is said that there is nothing to be asked", verb, l.Name)
		}
	}
}

// lacks are the questions that a language has no answers to: it has no types, none that are derived
// from others, no tests, or says of nothing what it is.
var lacks = map[string][]string{
	"Bash": {"type", "under", "over", "tests"},
	"C":    {"under", "over"},
	"Lua":  {"type", "under", "over"},
	"Ruby": {"type"},
}

func openQuestions(t *testing.T, dir string) *asking {
	root, err := filepath.Abs(dir)
	require.NoError(t, err)
	a := &asking{t: t, ws: workspace.New(root), keys: map[string]questionMark{}}
	require.NoError(t, a.ws.Code.Read(context.Background()))
	require.NoError(t, filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			a.read(a.ws.Code.Relative(p), p)
		}
		return err
	}))
	for _, m := range a.marks {
		if m.verb == "is" {
			require.NotContains(t, a.keys, m.key, "%s: %s is defined twice", m.at(), m.key)
			a.keys[m.key] = m
		}
	}
	return a
}

func (a *asking) read(rel, file string) {
	data, err := os.ReadFile(file)
	require.NoError(a.t, err)
	offset := 0
	for i, line := range strings.SplitAfter(string(data), "\n") {
		marks := questionPattern.FindAllStringSubmatchIndex(line, -1)
		for _, at := range marks {
			part := func(n int) string {
				if at[2*n] < 0 {
					return ""
				}
				return line[at[2*n]:at[2*n+1]]
			}
			m := questionMark{verb: part(1), key: part(2), answer: part(3), access: part(4), file: rel, line: i + 1}
			m.locate(a.t, line[:marks[0][0]], offset)
			a.marks = append(a.marks, m)
		}
		offset += len(line)
	}
}

// locate finds the name that a mark speaks of on its line, which begins at an offset.
func (m *questionMark) locate(t *testing.T, code string, offset int) {
	if m.key == "" || m.verb == "value" {
		return
	}
	nth := 1
	if key, n, ok := strings.Cut(m.key, "#"); ok {
		m.key, nth = key, int(n[0]-'0')
	}
	name, _, _ := strings.Cut(m.key, ":")
	found := regexp.MustCompile(`(?:\b|\$)`+regexp.QuoteMeta(name)+`\b`).FindAllStringIndex(code, -1)
	require.GreaterOrEqual(t, len(found), nth, "%s: no %s", m.at(), name)
	m.offset = offset + found[nth-1][1] - len(name)
}

// wanted are the places of the keys in an answer.
func (a *asking) wanted(m questionMark) []string {
	if m.answer == "-" {
		return nil
	}
	var places []string
	for _, key := range strings.Split(m.answer, ",") {
		require.Contains(a.t, a.keys, key, m.at())
		places = append(places, a.keys[key].at())
	}
	slices.Sort(places)
	return places
}

// same compares the places of some answers with those of the keys of a mark.
func (a *asking) same(m questionMark, got []string) {
	slices.Sort(got)
	assert.Equal(a.t, a.wanted(m), slices.Compact(got), "%s: @%s %s", m.at(), m.verb, m.key)
}

func at(spots []answer.Answer) (places []string) {
	for _, s := range spots {
		places = append(places, fmt.Sprintf("%s:%d", s.Path, s.Line))
	}
	return places
}

func (a *asking) definitions() {
	for _, m := range a.marks {
		switch m.verb {
		case "is", "ref":
			_, spots := a.ws.Answers.All(context.Background(), answer.ToDefinition.On(m.file, m.offset))
			if assert.NotEmpty(a.t, spots, "%s: %s", m.at(), m.key) && m.access != "import" {
				assert.Equal(a.t, a.keys[m.key].at(), at(spots[:1])[0], "%s: %s", m.at(), m.key)
			}
		case "type":
			_, spots := a.ws.Answers.All(context.Background(), answer.ToType.On(m.file, m.offset))
			a.same(m, at(spots))
		}
	}
}

func (a *asking) related() {
	ctx := context.Background()
	for _, m := range a.marks {
		var spots []answer.Answer
		switch m.verb {
		case "under":
			_, spots = a.ws.Answers.All(ctx, answer.ToImplementations.On(m.file, m.offset))
		case "over":
			_, spots = a.ws.Answers.All(ctx, answer.ToSupers.On(m.file, m.offset))
		case "tests":
			_, spots = a.ws.Answers.All(ctx, answer.ToTests.On(m.file, m.offset))
		case "calls", "called":
			way := answer.ToCalled
			if m.verb == "called" {
				way = answer.ToCallers
			}
			_, spots = a.ws.Answers.All(ctx, way.On(m.file, m.offset))
		default:
			continue
		}
		a.same(m, at(spots))
	}
}

// references compares those of each key of which any are marked.
func (a *asking) references() {
	want := map[string][]string{}
	for _, m := range a.marks {
		if m.verb == "ref" {
			want[m.key] = append(want[m.key], fmt.Sprintf("%s %s", m.at(), m.access))
		}
	}
	for key, marked := range want {
		def, ok := a.keys[key]
		require.True(a.t, ok, "%s is defined nowhere", key)
		_, refs := a.ws.Answers.All(context.Background(), answer.ToReferences.On(def.file, def.offset))
		var got []string
		for _, r := range refs {
			got = append(got, fmt.Sprintf("%s:%d %s", r.Path, r.Line, r.Access))
		}
		slices.Sort(marked)
		slices.Sort(got)
		assert.Equal(a.t, marked, got, "references of %s", key)
	}
}

func (a *asking) values() {
	want := map[string][]string{}
	for _, m := range a.marks {
		if m.verb == "value" {
			want[m.key] = append(want[m.key], m.at())
		}
	}
	for key, marked := range want {
		def := a.keys[key]
		_, values := a.ws.Answers.All(context.Background(), answer.ToValues.On(def.file, def.offset))
		var got []string
		for _, v := range values {
			got = append(got, fmt.Sprintf("%s:%d", v.Path, v.Line))
		}
		slices.Sort(got)
		slices.Sort(marked)
		assert.Equal(a.t, marked, slices.Compact(got), "values of %s", key)
	}
}

func (a *asking) unused() {
	var want, got []string
	for _, m := range a.marks {
		if m.verb == "unused" {
			want = append(want, m.at())
		}
	}
	if want == nil {
		return
	}
	a.ws.Answers.Unused(context.Background(), ".", func(s answer.Answer) bool {
		got = append(got, fmt.Sprintf("%s:%d", s.Path, s.Line))
		return true
	})
	slices.Sort(want)
	slices.Sort(got)
	assert.Equal(a.t, want, got, "what nothing uses")
}

// A call through a field that holds a function may lead to each that is put into it.
func TestFunctionsInTables(t *testing.T) {
	text := `struct file { int n; };
typedef int (*reader)(struct file *f);
struct ops { char *name; int (*read)(struct file *f); reader again; void (*close)(struct file *f); };
static int disk_read(struct file *f) { return f->n; }
static int net_read(struct file *f) { return 0; }
static int card_read(struct file *f) { return 1; }
static int late_read(struct file *f) { return 2; }
static int other(struct file *f) { return 3; }
static void shut(struct file *f) { f->n = 0; }
static const struct ops disk = { .read = disk_read, .again = other, .close = shut };
static struct ops net = { "a, {b", net_read, /* { */ other, shut };
static struct ops cards[] = { [3] = { "c", (reader)&card_read, other, shut }, { .close = shut }, { .name = "d", disk_read } };
int all(struct ops *o, struct file *f) {
  net.read = late_read;
  if (net.read == other) return 4;
  o->close = (shut);
  return o->read(f) + o->again(f);
}
`
	w := workspacetest.Open(t, map[string]string{"ops.c": text, "use.c": "#include \"ops.c\"\nint use(struct ops *o, struct file *f) { return o->read(f); }\n"})
	held := func(path, in, name string) (names []string) {
		_, all := w.Answers.All(context.Background(), answer.ToImplementations.On(path, strings.LastIndex(in, name)))
		for _, a := range all {
			names = append(names, a.Name)
		}
		return names
	}
	assert.Equal(t, []string{"disk_read", "net_read", "card_read", "late_read"}, held("ops.c", text, "read(f)"))
	assert.Equal(t, []string{"other"}, held("ops.c", text, "again(f)"))
	assert.Equal(t, []string{"shut"}, held("ops.c", text, "close = (shut)"))
	assert.Empty(t, held("ops.c", text, "name = \"d\""))
	for name, want := range map[string]string{"late_read": "ops.c through ops.read, use.c through ops.read", "card_read": "ops.c through ops.read, use.c through ops.read", "disk_read": "ops.c through ops.read, use.c through ops.read", "other": "ops.c through ops.again", "shut": ""} {
		_, all := w.Answers.All(context.Background(), answer.ToCallers.On("ops.c", strings.Index(text, name)))
		var calls []string
		for _, a := range all {
			calls = append(calls, a.Path+" "+a.Why)
		}
		assert.Equal(t, want, strings.Join(calls, ", "), name)
	}
	assert.Equal(t, 4, w.Answers.CountWays(context.Background(), "ops.c", strings.LastIndex(text, "read(f)")).Implementations)
}
