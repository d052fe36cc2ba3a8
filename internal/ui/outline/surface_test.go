package outline_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func hutFile() *codebase.File {
	src := "type Hut struct { snow int }\nfunc Open() {}\n"
	def := func(name string, kind facts.Kind, start, end, from, to uint32) facts.Def {
		return facts.Def{Name: name, Kind: kind, At: place.Range{Start: start, End: end}, Full: place.Range{Start: from, End: to}}
	}
	return &codebase.File{Path: "hut.go", Text: text.NewDocument([]byte(src)), Facts: &facts.File{Language: "Go", Defs: []facts.Def{
		def("Hut", facts.Struct, 5, 8, 0, 28), def("Open", facts.Function, 34, 38, 29, 43),
	}}}
}

func TestTheOutlineOfAFile(t *testing.T) {
	host := &uitest.Host{At: surface.Here{File: hutFile(), Offset: 35}}
	s := outline.NewSurface(host)
	s.Resize(90, 12)
	assert.Same(t, s, s.Commands()[keymap.Outline]().Open)
	drawn := uitest.Of(s, 90, 12)
	assert.Contains(t, drawn, "Hut")
	assert.Contains(t, drawn, "▌  function  Open")
	last := uitest.Last(uitest.Press(s, "up"))
	assert.Equal(t, &surface.Visit{Path: "hut.go", Name: place.Range{Start: 5, End: 8}, Near: true}, last.Look)
	last = uitest.Last(uitest.Press(s, "op", "enter"))
	assert.Equal(t, &surface.Visit{Path: "hut.go", Name: place.Range{Start: 34, End: 38}, How: "outline: Open", Symbol: "Open"}, last.Go)
	assert.True(t, uitest.Last(uitest.Press(s, "zz")).LookBack)
	assert.True(t, uitest.Last(uitest.Press(s, "esc")).Close)
	host.At = surface.Here{}
	assert.Equal(t, "there is no file here to see the inside of", s.Commands()[keymap.Outline]().Say)
}

func TestTheOutlineBesideTheCode(t *testing.T) {
	entries, _ := hutFile().Outline()
	rows := outline.Beside(entries, 35, 30, 6, uitest.Plain)
	assert.Len(t, rows, 6)
	assert.Contains(t, uitest.Text(rows), "Open")
	assert.Len(t, outline.Beside(nil, 0, 30, 4, uitest.Plain), 4)
}
