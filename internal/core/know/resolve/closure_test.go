package resolve_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace/workspacetest"
)

// noting is code of which it is noted which files are read for their facts.
type noting struct {
	resolve.Code
	read map[string]bool
}

func (n *noting) Facts(ctx context.Context, path string) (*facts.File, []byte) {
	n.read[path] = true
	return n.Code.Facts(ctx, path)
}

// A name that many files define costs a question about C no more than the files that come into question.
func TestOfManyOfANameFewAreRead(t *testing.T) {
	files := map[string]string{
		"include/hut.h": "#include \"log.h\"\nstruct hut;\nint probe(struct hut *h);\nextern int depth;\n",
		"include/log.h": "#include \"hut.h\"\nvoid log_it(void);\n",
		"snow/probe.c":  "#include \"hut.h\"\nstruct hut { int beds; };\nint probe(struct hut *h) { return h->beds; }\nint depth = 3;\n",
		"snow/walk.c":   "#include \"log.h\"\nint walk(struct hut *h) { return probe(h) + depth + ring(h); }\n",
		"valley/ring.c": "int ring(void *h) { return 0; }\n",
	}
	for i := range 50 {
		files[fmt.Sprintf("far/away/%d.c", i)] = "#include \"log.h\"\n#include \"no/such.h\"\nvoid far(void) { log_it(); }\n"
		files[fmt.Sprintf("far/other/%d.c", i)] = "#include \"other.h\"\nstruct hut { int doors; };\nint depth = 4;\nint probe(struct hut *h) { return h->doors; }\nvoid ring(void) {}\n"
	}
	files["far/other/other.h"] = "void other(void);\n"
	w := workspacetest.Open(t, files)
	for name, want := range map[string]string{"probe": "snow/probe.c", "depth": "snow/probe.c", "ring": ""} {
		n := &noting{Code: w.Code, read: map[string]bool{}}
		res := resolve.New(n).Definition(t.Context(), "snow/walk.c", strings.Index(files["snow/walk.c"], name))
		if want != "" && assert.NotEmpty(t, res.Answers, name) {
			assert.Equal(t, want, res.Answers[0].Path, name)
		}
		var read []string
		for p := range n.read {
			if strings.HasPrefix(p, "far/") {
				read = append(read, p)
			}
		}
		slices.Sort(read)
		assert.Empty(t, read, name)
	}
}

// A struct that a header only makes known is the nearest that is written out, and the others are not read for it.
func TestTheNearestOfAStruct(t *testing.T) {
	files := map[string]string{
		"include/hut.h": "struct hut;\n", "snow/hut.c": "#include \"hut.h\"\nstruct hut { int beds; };\n",
		"snow/walk.c": "#include \"hut.h\"\nint walk(struct hut *h) { return h->beds; }\n",
	}
	for i := range 20 {
		files[fmt.Sprintf("far/%d.c", i)] = "struct hut { int doors; };\n"
	}
	w := workspacetest.Open(t, files)
	n := &noting{Code: w.Code, read: map[string]bool{}}
	res := resolve.New(n).Definition(t.Context(), "snow/walk.c", strings.Index(files["snow/walk.c"], "beds"))
	if assert.Len(t, res.Answers, 1) {
		assert.Equal(t, "snow/hut.c", res.Answers[0].Path)
		assert.Equal(t, resolve.Inferred, res.Answers[0].Certainty)
	}
	assert.Less(t, len(n.read), 6)
}

// A name that nothing defines may come from a header that is not there; of several, it is not said which.
func TestAMissingHeader(t *testing.T) {
	w := workspacetest.Open(t, map[string]string{
		"one.c":     "#include \"far/radio.h\"\nvoid one(void) { ring(); }\n",
		"several.c": "#include \"far/radio.h\"\n#include \"own.h\"\nvoid several(void) { ring(); }\n",
		"own.h":     "#include \"far/snow.h\"\n#include \"far/radio.h\"\n",
	})
	for file, want := range map[string]string{"one.c": "far/radio.h", "several.c": "one of 2 headers, such as far/radio.h"} {
		text := string(w.Code.Text(file))
		assert.Equal(t, want, resolve.New(w.Code).Definition(t.Context(), file, strings.Index(text, "ring")).Outside, file)
	}
}
