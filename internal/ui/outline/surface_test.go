package outline_test

import (
	"context"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// knows is a project in which Open is written out elsewhere.
type knows struct{}

func (knows) WrittenOut(context.Context, string) map[uint32]answer.Answer {
	return map[uint32]answer.Answer{34: {Answer: resolve.Answer{Path: "snow/deep.go"}, Line: 7}}
}

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
	s := outline.NewSurface(host, knows{})
	s.Resize(90, 12)
	opened := s.Commands()[keymap.Outline]()
	assert.Same(t, s, opened.Open)
	assert.NotContains(t, uitest.Of(s, 90, 12), "written out")
	uitest.Carry(opened)
	drawn := uitest.Of(s, 90, 12)
	assert.Contains(t, drawn, "line 2, written out in deep.go 7")
	assert.Contains(t, drawn, "Hut")
	assert.Contains(t, drawn, "▌  function  Open")
	last := uitest.Last(uitest.Press(s, "up"))
	assert.Equal(t, &surface.Visit{Path: "hut.go", Name: place.Range{Start: 5, End: 8}, Near: true}, last.Look)
	last = uitest.Last(uitest.Press(s, "op", "enter"))
	assert.Equal(t, &surface.Visit{Path: "hut.go", Name: place.Range{Start: 34, End: 38}, How: "outline: Open", Symbol: "Open"}, last.Go)
	assert.True(t, uitest.Last(uitest.Press(s, "zz")).LookBack)
	assert.True(t, uitest.Last(uitest.Press(s, "esc")).Close)
	host.At = surface.Here{}
	assert.Equal(t, "no file is shown whose outline there could be", s.Commands()[keymap.Outline]().Say)
}

func TestTheOutlineBesideTheCode(t *testing.T) {
	entries, _ := hutFile().Outline()
	rows := outline.Beside(entries, nil, 35, 30, 6, uitest.Plain)
	assert.Len(t, rows, 6)
	assert.Contains(t, uitest.Text(rows), "Open")
	assert.Len(t, outline.Beside(nil, nil, 0, 30, 4, uitest.Plain), 4)
}

// radioFile is a file of many functions with a type among them.
func radioFile(functions int) *codebase.File {
	var src strings.Builder
	f := &facts.File{Language: "Go"}
	add := func(kind facts.Kind, name, text string) {
		start := uint32(src.Len())
		src.WriteString(text)
		at := start + uint32(strings.Index(text, name))
		f.Defs = append(f.Defs, facts.Def{Name: name, Kind: kind, At: place.Range{Start: at, End: at + uint32(len(name))}, Full: place.Range{Start: start, End: start + uint32(len(text)) - 1}, Parent: facts.NoDef})
	}
	for i := range functions {
		if i == functions/2 {
			add(facts.Struct, "Radio", "type Radio struct{}\n")
		}
		add(facts.Function, fmt.Sprintf("f%03d", functions-i), fmt.Sprintf("func f%03d() {}\n", functions-i))
	}
	f.Scopes = []facts.Scope{{At: place.Range{End: uint32(src.Len())}, Owner: facts.NoDef}}
	return &codebase.File{Path: "radio.go", Text: text.NewDocument([]byte(src.String())), Facts: f}
}

// names are the rows of a drawn outline that show an entry, by what they show.
func names(drawn string) (all []string) {
	for _, m := range regexp.MustCompile(`(?m)(?:function|struct)\s+(\w+)`).FindAllStringSubmatch(drawn, -1) {
		all = append(all, m[1])
	}
	return all
}

func TestTheOutlineBeginsWhereOneIs(t *testing.T) {
	f := radioFile(60)
	for _, name := range []string{"f060", "f031", "f001"} {
		offset := strings.Index(string(f.Text.Bytes()), name)
		s := outline.NewSurface(&uitest.Host{At: surface.Here{File: f, Offset: offset}}, knows{})
		s.Resize(90, 12)
		s.Commands()[keymap.Outline]()
		drawn := uitest.Of(s, 90, 12)
		assert.Contains(t, drawn, "▌  function  "+name)
		assert.Contains(t, drawn, fmt.Sprintf("line %d", strings.Count(string(f.Text.Bytes()[:offset]), "\n")+1))
		assert.LessOrEqual(t, strings.Count(drawn, "\n"), 12)
	}
}

func TestKindsAndOrderOfTheOutline(t *testing.T) {
	s := outline.NewSurface(&uitest.Host{At: surface.Here{File: radioFile(4), Offset: 0}}, knows{})
	s.Resize(90, 16)
	s.Commands()[keymap.Outline]()
	assert.Equal(t, []string{"f004", "f003", "Radio", "f002", "f001"}, names(uitest.Of(s, 90, 16)), "as in the file")
	uitest.Press(s, "alt+z")
	byName := names(uitest.Of(s, 90, 16))
	assert.Equal(t, []string{"f001", "f002", "f003", "f004", "Radio"}, byName)
	last := uitest.Last(uitest.Press(s, "enter"))
	assert.Equal(t, "f004", last.Go.Symbol, "what was chosen stays chosen in another order")

	s.Commands()[keymap.Outline]()
	seen := map[string]bool{}
	for range 8 { // Tab goes round
		uitest.Press(s, "tab")
		seen[strings.Join(names(uitest.Of(s, 90, 16)), " ")] = true
	}
	assert.True(t, seen["f001 f002 f003 f004"] || seen["f004 f003 f002 f001"], "only what can be called: %v", seen)
	assert.True(t, seen["Radio"], "only types: %v", seen)
}

func TestLettersNarrowTheOutline(t *testing.T) {
	s := outline.NewSurface(&uitest.Host{At: surface.Here{File: radioFile(20), Offset: 0}}, knows{})
	s.Resize(90, 16)
	s.Commands()[keymap.Outline]()
	uitest.Press(s, "rad")
	assert.Equal(t, []string{"Radio"}, names(uitest.Of(s, 90, 16)))
	uitest.Press(s, "backspace", "backspace", "backspace")
	assert.Len(t, names(uitest.Of(s, 90, 40)), 21)
	assert.Less(t, len(names(uitest.Of(s, 90, 12))), 12, "as many as there is room for")
	uitest.Press(s, "q")
	assert.Nil(t, uitest.Last(uitest.Press(s, "enter")).Go, "nothing is chosen")
}

// The column stays as high as it is told, and shows what one is in.
func TestTheColumnFollowsTheCaret(t *testing.T) {
	f := radioFile(60)
	entries, _ := f.Outline()
	for _, height := range []int{2, 5, 20, 80} {
		for _, name := range []string{"f060", "f030", "f001"} {
			offset := strings.Index(string(f.Text.Bytes()), name)
			rows := outline.Beside(entries, nil, offset, 34, height, uitest.Plain)
			assert.Len(t, rows, height)
			if height > 3 {
				assert.Contains(t, uitest.Text(rows), "▪ "+name, "%d rows", height)
			}
			for r := range strings.Lines(uitest.Text(rows)) {
				assert.LessOrEqual(t, ink.Width(strings.TrimSuffix(r, "\n")), 34)
			}
		}
	}
	assert.Contains(t, uitest.Text(outline.Beside(nil, nil, 0, 40, 4, uitest.Plain)), "nothing is known")
}
