package crumbs

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// huts is a project of two folders.
type huts struct{}

func (huts) Steps(file string, _ []codebase.Crumb) []answer.Step {
	return []answer.Step{{Name: "tarn", Path: ".", Folder: true}, {Name: "huts", Path: "huts", Folder: true}, {Name: "hut.go", Path: file}, {Name: "Hut", Path: file, Symbol: true}}
}

func (huts) FolderSteps(folder string) []answer.Step {
	return []answer.Step{{Name: "tarn", Path: ".", Folder: true}, {Name: folder, Path: folder, Folder: true}}
}

func (huts) Siblings(_ *codebase.File, steps []answer.Step, number int) ([]answer.Sibling, int) {
	switch {
	case number >= len(steps):
		return []answer.Sibling{{Name: "team.go", Path: "teams/team.go"}}, 0
	case steps[number].Symbol:
		return []answer.Sibling{{Name: "Hut", Kind: facts.Struct, At: place.Range{Start: 5, End: 8}, Line: 1}, {Name: "Open", Kind: facts.Function, At: place.Range{Start: 20, End: 24}, Line: 3}}, 0
	case number == 2:
		return []answer.Sibling{{Name: "hut.go", Path: "huts/hut.go"}, {Name: "winch.go", Path: "huts/winch.go"}}, 0
	}
	return []answer.Sibling{{Name: "huts", Path: "huts", Folder: true}, {Name: "teams", Path: "teams", Folder: true}}, 0
}

func opened() (*Model, surface.Intent) {
	f := &codebase.File{Path: "huts/hut.go", Text: text.NewDocument([]byte("type Hut struct{}\n\nfunc Open() {}\n"))}
	host := &uitest.Host{At: surface.Here{File: f, View: trail.View{Place: place.Place{Path: f.Path, Line: 1, Col: 1}}}}
	m := New(host, huts{})
	m.Resize(100, 12)
	return m, uitest.Last(uitest.Carry(m.Commands()[keymap.Crumbs]()))
}

func TestBesideASymbol(t *testing.T) {
	m, todo := opened()
	assert.Equal(t, "huts/hut.go", todo.Look.Path)
	assert.Contains(t, uitest.Of(m, 100, 12), "beside Hut")
	last := uitest.Last(uitest.Press(m, "down"))
	assert.EqualValues(t, 20, last.Look.Name.Start)
	last = uitest.Last(uitest.Press(m, "enter"))
	assert.Equal(t, &surface.Visit{Path: "huts/hut.go", Name: place.Range{Start: 20, End: 24}, How: "breadcrumb: Open", Symbol: "Open"}, last.Go)
}

func TestOtherCrumbs(t *testing.T) {
	m, _ := opened()
	last := uitest.Last(uitest.Press(m, "left"))
	assert.True(t, last.LookBack, "one is in that file already")
	last = uitest.Last(uitest.Press(m, "win"))
	assert.Equal(t, "huts/winch.go", last.Look.Path)
	assert.Equal(t, "beside hut.go", uitest.Last(uitest.Press(m, "enter")).Go.How)
	last = uitest.Last(uitest.Press(m, "left"))
	assert.True(t, last.LookBack, "a folder shows nothing")
	uitest.Press(m, "down")
	last = uitest.Last(uitest.Press(m, "enter"))
	assert.Nil(t, last.Go, "a folder is gone into")
	assert.Equal(t, "teams/team.go", last.Look.Path)
	assert.True(t, uitest.Last(uitest.Press(m, "esc")).Close)
}

func TestKeysWaitForTheList(t *testing.T) {
	m, _ := opened()
	todo := m.Update(uitest.Keys("left")[0])
	assert.True(t, m.Busy())
	m.Closed()
	assert.False(t, m.Busy())
	late := uitest.Carry(todo)
	assert.Len(t, late, 1, "it comes too late")
}
