package c_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
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
