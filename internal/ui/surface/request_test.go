package surface_test

import (
	"context"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func said(s string) func(string) surface.Intent {
	return func(found string) surface.Intent { return surface.Say("%s%s", s, found) }
}

func giving(s string) func(context.Context) string { return func(context.Context) string { return s } }

func answer(t *testing.T, cmd tea.Cmd) surface.Answer {
	all := uitest.Answers(cmd)
	require.Len(t, all, 1)
	return all[0]
}

func TestTheNextQuestionTakesThePlaceOfTheOneBefore(t *testing.T) {
	a := surface.NewAsker(context.Background(), nil)
	assert.False(t, a.Waiting())
	var first context.Context
	one := surface.Ask(a, func(ctx context.Context) string { first = ctx; return "1" }, said("answer "))
	early := answer(t, one)
	assert.NoError(t, first.Err())
	assert.True(t, a.Waiting())
	two := answer(t, surface.Ask(a, giving("2"), said("answer ")))
	assert.ErrorIs(t, first.Err(), context.Canceled, "its work ends")
	_, wanted := early.Deliver()
	assert.False(t, wanted)
	assert.True(t, a.Waiting(), "the other is still to come")
	todo, wanted := two.Deliver()
	assert.True(t, wanted)
	assert.Equal(t, "answer 2", todo.Say)
	assert.False(t, a.Waiting())
}

func TestMoreBelongsToTheSameQuestion(t *testing.T) {
	a := surface.NewAsker(context.Background(), nil)
	first := answer(t, surface.Ask(a, giving("so far"), said("")))
	more := answer(t, surface.More(a, giving("and the rest"), said("")))
	for _, one := range []surface.Answer{more, first} {
		assert.True(t, a.Waiting())
		_, wanted := one.Deliver()
		assert.True(t, wanted)
	}
	assert.False(t, a.Waiting())
	late := answer(t, surface.More(a, giving("x"), said("")))
	a.Cancel()
	_, wanted := late.Deliver()
	assert.False(t, wanted)
	assert.False(t, a.Waiting())
}

// What is to be done in any case is delivered though something else was asked, and ends only with the
// program.
func TestWhatIsDoneInAnyCase(t *testing.T) {
	life, end := context.WithCancel(context.Background())
	a := surface.NewAsker(life, nil)
	var under context.Context
	work := surface.Do(a, func(ctx context.Context) string { under = ctx; return "done" }, said(""))
	a.Cancel()
	assert.True(t, a.Busy())
	assert.False(t, a.Waiting())
	done := answer(t, work)
	todo, wanted := done.Deliver()
	assert.True(t, wanted)
	assert.Equal(t, "done", todo.Say)
	assert.False(t, a.Busy())
	assert.NoError(t, under.Err())
	end()
	assert.Error(t, under.Err())
	todo, wanted = answer(t, surface.Do[string](a, giving(""), nil)).Deliver()
	assert.True(t, wanted)
	assert.Equal(t, surface.Intent{}, todo)
}

func TestAfterAWhile(t *testing.T) {
	a := surface.NewAsker(context.Background(), nil)
	soon := answer(t, surface.After(a, time.Microsecond, func() surface.Intent { return surface.Say("now") }))
	todo, wanted := soon.Deliver()
	assert.True(t, wanted)
	assert.Equal(t, "now", todo.Say)
	never := surface.After(a, time.Hour, func() surface.Intent { return surface.Say("never") })
	a.Cancel() // else one would wait for it
	_, wanted = answer(t, never).Deliver()
	assert.False(t, wanted)
}

func TestOneThingAfterAnother(t *testing.T) {
	i := surface.Say("a").And(surface.Close()).And(surface.Look(surface.Visit{Path: "hut.go"})).And(surface.Intent{Keep: true, Then: func() surface.Intent { return surface.Say("x") }})
	j := i.And(surface.LookBack()).And(surface.Say("b")).And(surface.Intent{Then: func() surface.Intent { return surface.Say("y") }})
	assert.Equal(t, "a", i.Say)
	assert.Equal(t, "hut.go", i.Look.Path)
	assert.True(t, j.Close && j.Keep && j.LookBack)
	assert.Nil(t, j.Look, "what is looked at last counts")
	assert.Equal(t, "b", j.Say)
	assert.Equal(t, "y", j.Then().Say)
	assert.Equal(t, surface.Intent{}, surface.SayError(nil))
}

// What keeps something earlier is never done after what keeps it later, in whatever order commands run.
func TestTheLatestIsKept(t *testing.T) {
	a := surface.NewAsker(context.Background(), nil)
	kept := map[string]string{}
	keep := func(of, what string) tea.Cmd {
		return surface.Keep(a, of, func() error { kept[of] = what; return nil }, nil)
	}
	first, other, second, third := keep("roster", "first"), keep("teams", "other"), keep("roster", "second"), keep("roster", "third")
	second()
	first()
	other()
	assert.Equal(t, map[string]string{"roster": "second", "teams": "other"}, kept)
	third()
	assert.Equal(t, "third", kept["roster"])
}

// Of a question that takes its time something is said, once, unless it was answered or given up by then, or more is said of it.
func TestASlowQuestion(t *testing.T) {
	way, beside, waiting := surface.NewAsker(t.Context(), nil), surface.NewAsker(t.Context(), nil), ""
	slowly := func(cmd tea.Cmd) string {
		todo, wanted := cmd().(surface.Answer).Deliver()
		require.True(t, wanted)
		return todo.Wait
	}
	assert.Nil(t, way.Slow(beside, &waiting), "nothing was asked")
	ask := func() tea.Cmd {
		return surface.Ask(way, func(context.Context) int { return 0 }, func(int) surface.Intent { return surface.Intent{} })
	}
	ask()
	slow := way.Slow(beside, &waiting)
	assert.Nil(t, way.Slow(beside, &waiting))
	assert.Equal(t, "working it out; Esc gives up", slowly(slow))
	found := ask()
	slow = way.Slow(beside, &waiting)
	_, _ = found().(surface.Answer).Deliver()
	assert.Empty(t, slowly(slow))
	ask()
	slow = way.Slow(beside, &waiting)
	waiting = "drawing it"
	assert.Empty(t, slowly(slow))
	waiting = ""
	ask()
	slow = way.Slow(beside, &waiting)
	way.Cancel()
	assert.Empty(t, slowly(slow))
}
