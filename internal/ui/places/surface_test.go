package places_test

import (
	"context"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// finder finds what it is told to.
type finder struct {
	result   resolve.Result
	found    []answer.Answer
	mentions []answer.Answer
	fails    error
	reading  bool
	asked    []string
	around   string
}

func (f *finder) Subject(_ context.Context, _ string, offset int) (int, string) {
	return offset, f.around
}

func (f *finder) Along(_ context.Context, way answer.Way, path string, _ int) (resolve.Result, []answer.Answer) {
	f.asked = append(f.asked, way.String()+" "+path)
	return f.result, f.found
}

func (f *finder) Anchor(_ context.Context, p place.Place) place.Anchor {
	return place.Anchor{Path: p.Path, Line: p.Line, Col: p.Col}
}
func (f *finder) Mentions(context.Context, string) ([]answer.Answer, error) {
	return f.mentions, f.fails
}
func (f *finder) ChangedPlaces(_ context.Context, rev string) []answer.Answer {
	f.asked = append(f.asked, rev)
	return f.found
}
func (f *finder) WrongPlaces(ctx context.Context, folder string) []answer.Answer {
	return f.UnusedPlaces(ctx, folder)
}

func (f *finder) UnusedPlaces(_ context.Context, folder string) []answer.Answer {
	f.asked = append(f.asked, folder)
	return f.found
}
func (f *finder) AskAgain(_ context.Context, from *sweep.Source) ([]answer.Answer, error) {
	f.asked = append(f.asked, "again: "+string(from.Kind)+" "+from.Way)
	return f.found, f.fails
}
func (f *finder) Progress() codebase.Progress { return codebase.Progress{Done: !f.reading} }
func (f *finder) Colors(context.Context, string, int) highlight.Spans {
	return nil
}

// kept is what was kept as a sweep.
type kept struct {
	title  string
	source sweep.Source
	all    []answer.Answer
}

func list(f *finder) (*places.Surface, *kept, *uitest.Host) {
	host := &uitest.Host{At: surface.Here{
		File: &codebase.File{Path: "huts/desk.go", Text: text.NewDocument([]byte("snow\n")), Facts: &facts.File{}},
		View: trail.View{Place: place.Place{Path: "huts/desk.go", Line: 1, Col: 1}},
	}}
	k := &kept{}
	s := places.NewSurface(host, f, func(title string, source sweep.Source, all []answer.Answer) surface.Intent {
		*k = kept{title, source, all}
		return surface.Say("kept")
	}, func() (string, string) { return "", "the last commit" })
	s.Resize(100, 14)
	return s, k, host
}

func along(s *places.Surface, a keymap.Action) surface.Intent {
	return uitest.Last(uitest.Carry(s.Commands()[a]()))
}

// On a line without a name a way is that of the function one is in, and says so.
func TestAWayFromWhatOneIsIn(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "Assign"}, found: some(), around: "Assign"}
	s, _, _ := list(f)
	assert.Equal(t, "of Assign, which the caret is in", along(s, keymap.References).Say)
	f.found = some()[:1]
	assert.Equal(t, "of Assign, which the caret was in", along(s, keymap.Callers).Say)
	assert.Empty(t, along(s, keymap.TypeDefinition).Say, "only a name has a type")
	f.found = nil
	assert.Equal(t, "nothing calls Assign", along(s, keymap.Callers).Say)
}

// A list is asked for again where it was left: with what narrowed it, and the place that was chosen.
func TestTheListAgain(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "snow"}, found: some()}
	s, _, _ := list(f)
	along(s, keymap.References)
	uitest.Press(s, "hut", "down", "down")
	last := s.Left()
	require.NotNil(t, last)
	assert.Equal(t, "hut", last.Typed)
	assert.Equal(t, "references of snow", last.Title)
	assert.Equal(t, place.Place{Path: "huts/hut_test.go", Line: 5, Col: 1}, last.At)
	other, _, _ := list(f)
	todo := uitest.Last(uitest.Carry(other.Again(*last)))
	require.Same(t, other, todo.Open)
	assert.Equal(t, "again: way references", f.asked[len(f.asked)-1])
	assert.Equal(t, "huts/hut_test.go", todo.Look.Path)
	assert.Contains(t, uitest.Of(other, 100, 14), "hut")
	assert.Equal(t, "reference of snow", uitest.Last(uitest.Press(other, "enter")).Go.How)
	f.found = nil
	assert.Equal(t, "nothing is left of references of snow", uitest.Last(uitest.Carry(other.Again(*last))).Say)
	f.fails = errors.New("it is gone")
	assert.Equal(t, "references of snow cannot be listed again: it is gone", uitest.Last(uitest.Carry(other.Again(*last))).Say)
}

// What is outside the project can be left out.
func TestOnlyThisProject(t *testing.T) {
	all := some()
	all[0].Path = "/usr/lib/snow/depth.go"
	s, k, _ := list(&finder{result: resolve.Result{Name: "snow"}, found: all})
	along(s, keymap.Called)
	assert.Contains(t, uitest.Of(s, 140, 14), "Alt+O only in this project")
	uitest.Press(s, "alt+o")
	assert.Contains(t, uitest.Of(s, 140, 14), "2 of 3   in 2 files, only: this project")
	assert.NotContains(t, uitest.Of(s, 140, 14), "depth.go")
	uitest.Press(s, "alt+k")
	assert.Equal(t, "what snow calls, in this project", k.title)
}

func TestAWayThatLeadsToManyPlaces(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "snow"}, found: some()}
	s, k, _ := list(f)
	todo := along(s, keymap.References)
	require.Same(t, s, todo.Open)
	assert.Equal(t, []string{"references huts/desk.go"}, f.asked)
	require.NotNil(t, todo.Look)
	assert.Equal(t, "huts/hut.go", todo.Look.Path, "the first is shown beneath")
	assert.Contains(t, uitest.Of(s, 100, 14), "references of snow")
	assert.Equal(t, 9, uitest.Last(uitest.Press(s, "down")).Look.Line)
	todo = uitest.Last(uitest.Press(s, "enter"))
	assert.Equal(t, 9, todo.Go.Line)
	assert.Equal(t, "reference of snow", todo.Go.How)
	uitest.Press(s, "alt+k")
	assert.Equal(t, "references of snow", k.title)
	assert.Equal(t, sweep.OfWay, k.source.Kind)
	assert.Len(t, k.all, 3)
	uitest.Press(s, "alt+t", "alt+k")
	assert.Equal(t, "references of snow, without tests", k.title)
	assert.Equal(t, sweep.OfList, k.source.Kind, "the question has a wider answer, so it is not asked again")
	assert.Len(t, k.all, 2)
	assert.True(t, uitest.Last(uitest.Press(s, "esc")).Close)
}

func TestAWayThatLeadsToOnePlace(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "snow"}, found: some()[:1]}
	s, _, host := list(f)
	todo := along(s, keymap.Callers)
	assert.Nil(t, todo.Open)
	require.NotNil(t, todo.Go)
	assert.Equal(t, "call of snow", todo.Go.How)
	host.At.View.Place = f.found[0].Place()
	assert.Equal(t, "the only one is here", along(s, keymap.Callers).Say)
}

func TestAWayThatLeadsNowhere(t *testing.T) {
	for words, f := range map[string]*finder{
		"there is no name under the caret":                               {},
		"nothing refers to snow":                                         {result: resolve.Result{Name: "snow"}},
		"nothing refers to snow so far; the project is still being read": {result: resolve.Result{Name: "snow"}, reading: true},
		"snow belongs to fmt, which is outside this project":             {result: resolve.Result{Name: "snow", Outside: "fmt"}},
	} {
		s, _, _ := list(f)
		assert.Equal(t, words, along(s, keymap.References).Say)
	}
	s, _, _ := list(&finder{result: resolve.Result{Name: "snow", Outside: "fmt"}})
	assert.Equal(t, "the type of snow belongs to fmt, which is outside this project", along(s, keymap.TypeDefinition).Say)
	s, _, host := list(&finder{})
	host.At.File.Facts = nil
	assert.Equal(t, "no names are known in this file", along(s, keymap.References).Say)
	host.At = surface.Here{}
	assert.Contains(t, along(s, keymap.References).Say, "no file is shown")
}

func TestEveryWayHasItsWords(t *testing.T) {
	for action, way := range places.Actions {
		w, ok := places.Words[way]
		assert.True(t, ok, action)
		for _, words := range []string{w.Title, w.How, w.None} {
			assert.Equal(t, 1, strings.Count(words, "%s"), words)
		}
	}
}

func TestMentionsComeBehindReferences(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "snow"}, found: some()}
	s, k, _ := list(f)
	along(s, keymap.References)
	assert.Equal(t, "snow is mentioned nowhere else", uitest.Last(uitest.Press(s, "alt+m")).Say)
	assert.Empty(t, uitest.Last(uitest.Press(s, "alt+m")).Say, "it was asked for")
	along(s, keymap.References)
	f.fails = errors.New("reading notes.txt: it is gone")
	assert.Equal(t, "reading notes.txt: it is gone", uitest.Last(uitest.Press(s, "alt+m")).Say)
	f.fails, f.mentions = nil, []answer.Answer{{Answer: resolve.Answer{Path: "notes.txt"}, Line: 4, Role: "comment", Text: "much snow"}}
	along(s, keymap.References)
	todo := uitest.Last(uitest.Press(s, "alt+m"))
	require.NotNil(t, todo.Look)
	assert.Equal(t, "notes.txt", todo.Look.Path, "the first of them is chosen")
	uitest.Press(s, "alt+k")
	assert.Equal(t, sweep.OfList, k.source.Kind)
	assert.Len(t, k.all, 4)
	along(s, keymap.Callers)
	assert.NotContains(t, uitest.Of(s, 140, 14), "mentions", "of calls there are none")
}

func TestOnlyAFolder(t *testing.T) {
	f := &finder{result: resolve.Result{Name: "snow"}, found: some()}
	f.found = append(f.found, answer.Answer{Answer: resolve.Answer{Path: "board/deep/x.ts"}, Line: 1, Role: "read", Text: "snow"})
	s, _, _ := list(f)
	along(s, keymap.References)
	uitest.Press(s, "end", "alt+o")
	shown := uitest.Of(s, 120, 14)
	assert.Contains(t, shown, "only: board/deep/")
	assert.NotContains(t, shown, "huts/hut.go")
	uitest.Press(s, "alt+o")
	assert.Contains(t, uitest.Of(s, 120, 14), "only: board/,"[:12])
	uitest.Press(s, "alt+o")
	assert.Contains(t, uitest.Of(s, 120, 14), "huts/hut.go", "and then all of them")
}

func TestWhatIsListedWithoutAName(t *testing.T) {
	f := &finder{}
	s, k, host := list(f)
	assert.Equal(t, "nothing differs from the last commit", along(s, keymap.ChangedPlaces).Say)
	assert.Equal(t, "everything in huts/ is referred to", along(s, keymap.Unused).Say)
	assert.Equal(t, []string{"", "huts"}, f.asked)
	host.At.View.Place.Path = "main.go"
	assert.Equal(t, "everything in this project is referred to", along(s, keymap.Unused).Say)
	f.found = some()
	todo := s.Commands()[keymap.Unused]()
	assert.Contains(t, todo.Wait, "Esc gives up", "it may take long")
	assert.Same(t, s, uitest.Last(uitest.Carry(todo)).Open)
	assert.Contains(t, uitest.Of(s, 100, 14), "nothing refers to")
	uitest.Press(s, "alt+k")
	assert.Equal(t, sweep.OfUnused, k.source.Kind)
}
