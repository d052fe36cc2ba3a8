package trails

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// project keeps the trail in memory, and several where there is a store.
type project struct {
	store *trail.Store
	news  int
	fails error
}

func (p *project) OpenTrail() (*trail.Kept, error) {
	if p.store == nil {
		return &trail.Kept{}, nil
	}
	return p.store.Open()
}

func (p *project) KeepTrail(d trail.Delta, recent []trail.Visit) error {
	if p.fails != nil {
		return p.fails
	}
	p.news++
	if p.store == nil {
		return nil
	}
	return p.store.Save(d, recent)
}

func (p *project) Trails() *trail.Store { return p.store }
func (p *project) WalkOf(_ context.Context, name string, stops []*trail.Stop) *walk.Walk {
	return &walk.Walk{Name: name, Stops: make([]walk.Stop, len(stops))}
}

func (p *project) Start(make func(ctx context.Context) *walk.Walk) surface.Intent {
	return surface.Say("walking %d", len(make(context.Background()).Stops))
}

func (p *project) Export(file string, make func(ctx context.Context) *walk.Walk) surface.Intent {
	return surface.Say("%d to %s", len(make(context.Background()).Stops), file)
}

type driven struct {
	*Surface
	host *uitest.Host
	p    *project
}

func onTheWay(p *project) *driven {
	host := &uitest.Host{}
	d := &driven{NewSurface(host, p, p), host, p}
	d.Resize(110, 20)
	uitest.Carry(surface.Begin(d.Load()))
	return d
}

// at puts a file on the screen.
func (d *driven) at(path string, line int) trail.View {
	f := &codebase.File{Path: path, Text: text.NewDocument([]byte("a\nb\nc\nd\ne\nf\ng\nh\n"))}
	v := trail.View{Place: place.Place{Path: path, Line: line, Col: 1}, Top: 1}
	d.host.At = surface.Here{File: f, View: v}
	return v
}

// goTo goes to a file as the program does.
func (d *driven) goTo(path string, line int, how string) {
	left := d.host.At
	d.Arrive(left.File, left.View, surface.Visit{Path: path, How: how}, d.at(path, line))
}

func (d *driven) do(a keymap.Action) surface.Intent {
	todo := uitest.Last(uitest.Carry(d.Commands()[a]()))
	if v := todo.Go; v != nil && v.View != nil { // the program goes there
		left := d.host.At
		d.Arrive(left.File, left.View, *v, d.at(v.View.Place.Path, v.View.Place.Line))
	}
	return todo
}

func TestBackForwardAndForks(t *testing.T) {
	d := onTheWay(&project{})
	assert.Contains(t, d.do(keymap.Back).Say, "the trail begins here")
	assert.Contains(t, d.do(keymap.TrailTree).Say, "there is no stop yet")
	d.goTo("hut.go", 2, "the beginning")
	d.goTo("team.go", 3, "definition of Team")
	assert.Equal(t, "hut.go", d.do(keymap.Back).Go.Path)
	d.goTo("winch.go", 4, "text: winch")
	assert.Equal(t, "hut.go", d.do(keymap.Back).Go.Path)
	todo := d.Commands()[keymap.Fork]()
	require.NotNil(t, todo.Open)
	assert.Equal(t, "winch.go", todo.Look.Path)
	last := uitest.Last(uitest.Press(todo.Open, "down", "enter"))
	assert.Equal(t, "team.go", last.Go.Path)
	assert.Contains(t, d.do(keymap.Forward).Say, "there were 2 ways on from there")
	assert.Contains(t, d.do(keymap.Forward).Say, "not gone on from here yet")
	assert.Contains(t, d.do(keymap.Fork).Say, "not gone on from here yet")
}

func TestEditPlaces(t *testing.T) {
	d := onTheWay(&project{})
	assert.Contains(t, d.do(keymap.EditBack).Say, "nothing was changed yet")
	for i, p := range []string{"hut.go", "team.go"} {
		d.goTo(p, 2, "file")
		d.Edited(d.host.At.File, place.Place{Path: p, Line: i + 3, Col: 1})
	}
	lines := 0
	d.Margin("team.go", func(line int) { lines += line })
	assert.Equal(t, 2, lines, "the stop it is near")
	d.goTo("winch.go", 1, "file")
	assert.Equal(t, "edit place 2 of 2", d.do(keymap.EditBack).Go.After)
	assert.Equal(t, "edit place 1 of 2", d.do(keymap.EditBack).Go.After)
	assert.Equal(t, "edit place 2 of 2, from the last again", d.do(keymap.EditBack).Go.After)
	assert.Equal(t, "edit place 1 of 2, from the first again", d.do(keymap.EditForward).Go.After)
}

func TestTheSheetOfStops(t *testing.T) {
	d := onTheWay(&project{})
	d.goTo("hut.go", 2, "the beginning")
	d.goTo("team.go", 3, "definition of Team")
	assert.Contains(t, d.do(keymap.StopStar).Say, "is starred")
	todo := d.Commands()[keymap.StopName]()
	assert.Contains(t, uitest.Last(uitest.Press(todo.Open, "the team", "enter")).Say, `this stop is called "the team" now`)
	todo = d.do(keymap.TrailTree)
	assert.Same(t, d.Surface, todo.Open)
	assert.Equal(t, surface.Tall, d.Form())
	press := func(keys ...string) surface.Intent { return uitest.Last(uitest.Press(d.Surface, keys...)) }
	assert.Contains(t, uitest.Of(d.Surface, 110, 20), "the team")
	assert.Equal(t, "hut.go", press("up").Look.Path)
	assert.True(t, press("alt+v").Keep)
	assert.Equal(t, "walking 2", press("alt+g").Say)
	assert.Equal(t, "the trail is only in memory here, so there are no others", press("alt+s").Say)
	assert.Equal(t, "hut.go", press("enter").Go.Path)
	d.do(keymap.TrailTree)
	assert.Contains(t, press("alt+d", "alt+d").Say, "1 stop cut away; Alt+U brings back")
	assert.Contains(t, press("alt+u").Say, "1 stop is back")
	assert.True(t, press("esc").Close)
	d.Closed()
	todo = d.do(keymap.StopNote)
	assert.NotNil(t, todo.Open)
	last := press("come back here", "enter")
	assert.True(t, last.Close)
	assert.Contains(t, last.Say, "is written down")
}

// What has changed of the trail is kept in its order, and what cannot be kept now, the next time.
func TestKeepingTheTrail(t *testing.T) {
	p := &project{}
	d := onTheWay(p)
	d.goTo("hut.go", 2, "the beginning")
	require.NoError(t, d.Keep()())
	require.NoError(t, d.Keep()())
	kept := p.news
	require.NoError(t, d.Keep()())
	assert.Equal(t, kept, p.news, "nothing is new")
	p.fails = errors.New("no space")
	d.goTo("team.go", 3, "file")
	assert.EqualError(t, d.Keep()(), "no space")
}

func TestSeveralTrails(t *testing.T) {
	store := trail.NewStore(t.TempDir())
	defer store.Close()
	d := onTheWay(&project{store: store})
	assert.True(t, d.IsRead())
	d.goTo("hut.go", 2, "the beginning")
	d.goTo("team.go", 3, "file")
	todo := d.do(keymap.Trails)
	assert.Same(t, d.Surface, todo.Open)
	press := func(keys ...string) surface.Intent { return uitest.Last(uitest.Press(d.Surface, keys...)) }
	begun := d.Update(uitest.Keys("alt+b")[0])
	assert.Nil(t, begun.Cmd)
	last := press("the alarm", "enter")
	assert.Contains(t, last.Say, `this is the trail "the alarm" now`)
	assert.Equal(t, "team.go", last.Go.Path)
	d.Closed()
	d.do(keymap.Trails)
	assert.Contains(t, uitest.Of(d.Surface, 110, 20), "the alarm")
	press("down")
	last = press("alt+j")
	assert.Contains(t, last.Say, "taken in from the trail")
	assert.True(t, last.Anew)
	assert.False(t, d.Busy())
	d.Moved("hut.go", "shelter.go")
	assert.NotNil(t, d.Trail().In("shelter.go"))
}

// The caret stays with its line if that is the present stop's.
func TestTheCaretFollowsItsLine(t *testing.T) {
	d := onTheWay(&project{})
	d.goTo("hut.go", 3, "the beginning")
	d.LeaveHere()
	in := d.In("hut.go")
	require.NotNil(t, in)
	now := &codebase.File{Path: "hut.go", Text: text.NewDocument([]byte("new\na\nb\nc\nd\ne\nf\ng\nh\n"))}
	in.Locate(context.Background(), nil, now)
	todo := in.Located()
	require.NotNil(t, todo.Follow)
	assert.Equal(t, 4, todo.Follow.Place.Line)
	assert.Nil(t, d.In("other.go"))
}
