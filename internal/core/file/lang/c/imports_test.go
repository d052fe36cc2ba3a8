package c_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/c"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestHeaders(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"station/main.c": "", "station/frame.h": "", "include/radio/band.h": "", "far/deep/only.h": "", "far/only.h": "",
	})
	i := c.C.Imports(p)
	for included, want := range map[string]string{
		"frame.h": "station/frame.h", "radio/band.h": "include/radio/band.h", "only.h": "far/only.h", "deep/only.h": "far/deep/only.h",
		"no/such/header.h": "", "../../outside.h": "",
	} {
		assert.Equal(t, want, i.Module("station/main.c", facts.Imported{Path: included}), included)
	}
}

// What every C library has is not some header of its name that lies anywhere in the project; one beside the file, or above it, is.
// What lies outside of the project finds what lies there, too.
func TestHeadersOfTheLibrary(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"station/main.c": "", "far/deep/string.h": "", "far/deep/band.h": "", "far/errno.h": "", "compat/errno.h": "", "compat/port.c": "", "far/linux/frame.h": "",
	})
	system := t.TempDir()
	langtest.Lay(t, system, map[string]string{"string.h": "", "errno.h": "", "band.h": "", "linux/frame.h": "", "linux/band.h": "", "sys/ring.h": ""})
	p.Outside.Folders = map[string][]string{"C": {system}}
	i := c.C.Imports(p)
	for _, has := range []struct{ file, included, want string }{
		{"station/main.c", "string.h", system + "/string.h"},
		{"station/main.c", "errno.h", system + "/errno.h"},
		{"compat/port.c", "errno.h", "compat/errno.h"},
		{"station/main.c", "band.h", "far/deep/band.h"},
		{"station/main.c", "sys/ring.h", system + "/sys/ring.h"},
		{"station/main.c", "linux/frame.h", "far/linux/frame.h"},
		{system + "/string.h", "linux/frame.h", system + "/linux/frame.h"},
		{system + "/linux/frame.h", "band.h", system + "/linux/band.h"},
		{system + "/string.h", "band.h", system + "/band.h"},
	} {
		assert.Equal(t, has.want, i.Module(has.file, facts.Imported{Path: has.included}), has.file+" "+has.included)
	}
}

// What a text includes is read without a grammar.
func TestIncludesOfAText(t *testing.T) {
	h, ok := c.C.Imports(langtest.New(t, nil)).(lang.Headers)
	if assert.True(t, ok) {
		assert.Equal(t, []facts.Imported{{Path: "string.h", Name: "*"}, {Path: "band.h", Name: "*"}},
			h.Includes([]byte("#include <string.h>\n# if RING\n #  include \"band.h\"\n#endif\nchar *s = \"#include <no.h>\";\n")))
	}
}
