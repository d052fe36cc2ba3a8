package sweep_test

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/report"
)

// made is a sweep of five places in three files.
func made() *sweep.Sweep {
	var items []sweep.Item
	for _, at := range []place.Place{{Path: "dispatch/desk.go", Line: 3, Col: 2}, {Path: "dispatch/desk.go", Line: 9, Col: 2}, {Path: "dispatch/roster.go", Line: 5, Col: 1}, {Path: "board/a.ts", Line: 1, Col: 1}, {Path: "board/a.ts", Line: 7, Col: 1}} {
		items = append(items, sweep.Item{Memory: place.Remember(place.Anchor{Path: at.Path, Line: at.Line, Col: at.Col, Text: at.String()})})
	}
	return sweep.New("references of Assign", sweep.Source{Kind: sweep.OfList}, items)
}

// walk goes on by steps and lists where one comes.
func walk(s *sweep.Sweep, forward bool, steps int) (visited []int) {
	for range steps {
		i, _, ok := s.Next(forward)
		if !ok {
			return append(visited, -1)
		}
		s.Go(i)
		visited = append(visited, i)
	}
	return visited
}

func TestWalking(t *testing.T) {
	s := made()
	assert.Equal(t, []int{0, 1, 2, 3, 4, 0}, walk(s, true, 6))
	assert.Equal(t, []int{4, 3}, walk(s, false, 2))
	assert.Equal(t, sweep.Count{All: 5, Left: 5}, s.Count())
	s.SetMark(3, sweep.Done)
	s.SetMark(4, sweep.Aside)
	s.Items[0].Fate = place.Gone
	assert.Equal(t, sweep.Count{All: 5, Left: 2, Done: 1, Aside: 1, Gone: 1}, s.Count())
	assert.Equal(t, []int{1, 2, 1}, walk(s, true, 3))
	assert.Equal(t, []int{3, 2, 1}, walk(s, false, 3), "back also to what is done")
	s.SetMark(1, sweep.Done)
	s.SetMark(2, sweep.Done)
	assert.Equal(t, []int{-1}, walk(s, true, 1))
}

func TestSettingFoldersAside(t *testing.T) {
	s := made()
	s.SetMark(0, sweep.Done)
	s.SetAside("dispatch", true)
	assert.Equal(t, []sweep.Mark{sweep.Done, sweep.Aside, sweep.Aside, sweep.Left, sweep.Left}, marks(s))
	s.SetAside("dispatch/desk.go", false)
	assert.Equal(t, []sweep.Mark{sweep.Done, sweep.Left, sweep.Aside, sweep.Left, sweep.Left}, marks(s))
	s.SetMark(2, sweep.Left)
	assert.Equal(t, []sweep.Mark{sweep.Done, sweep.Left, sweep.Left, sweep.Left, sweep.Left}, marks(s))
	s.SetAside("board/a.ts", true)
	s.SetMark(3, sweep.Left)
	assert.Equal(t, []sweep.Mark{sweep.Done, sweep.Left, sweep.Left, sweep.Left, sweep.Aside}, marks(s), "one of a file is brought back by itself")
	s.SetAside(".", false)
	assert.Equal(t, 4, s.Count().Left)
}

func marks(s *sweep.Sweep) (all []sweep.Mark) {
	for i := range s.Items {
		all = append(all, s.MarkOf(i))
	}
	return all
}

func TestRefreshing(t *testing.T) {
	s := made()
	s.SetMark(1, sweep.Done)
	s.SetNote(2, "ask the valley")
	answers := []sweep.Item{
		{Memory: place.Remember(place.Anchor{Path: "dispatch/desk.go", Line: 9, Col: 2})}, {Memory: place.Remember(place.Anchor{Path: "dispatch/desk.go", Line: 12, Col: 2})},
		{Memory: place.Remember(place.Anchor{Path: "dispatch/roster.go", Line: 5, Col: 1}), Role: "call"},
	}
	fresh, settled := s.Refreshed(answers)
	assert.Equal(t, []int{1, 3}, []int{fresh, settled})
	var got []string
	for i := range s.Items {
		it := &s.Items[i]
		got = append(got, it.Place().String()+" "+string(it.Mark)+" "+it.Note+map[bool]string{true: " new"}[it.New]+map[bool]string{true: " settled"}[it.Settled])
	}
	assert.Equal(t, []string{"dispatch/desk.go:3:2   settled", "dispatch/desk.go:9:2 done ", "dispatch/desk.go:12:2   new", "dispatch/roster.go:5:1  ask the valley", "board/a.ts:1:1   settled", "board/a.ts:7:1   settled"}, got)
	fresh, settled = s.Refreshed(answers)
	assert.Equal(t, []int{0, 0}, []int{fresh, settled})
}

// Two programs work on the same sweep; nothing that either did is lost.
func TestTwoProgramsKeepOneSweep(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "sweeps")
	st := sweep.NewStore(dir)
	none, err := st.Load()
	require.NoError(t, err)
	assert.Empty(t, none)
	s := made()
	require.NoError(t, st.Save(s))
	all, err := sweep.NewStore(dir).Load()
	require.NoError(t, err)
	other := all[0]
	other.SetMark(2, sweep.Done)
	other.SetAside("board", true)
	other.Rename("assigning")
	require.NoError(t, st.Save(other))
	s.SetMark(0, sweep.Done)
	s.SetNote(2, "later")
	require.NoError(t, st.Save(s))
	all, err = st.Load()
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "assigning", all[0].Name)
	assert.Equal(t, []sweep.Mark{sweep.Done, sweep.Left, sweep.Left, sweep.Aside, sweep.Aside}, marks(all[0]), "of one place the later")
	assert.Equal(t, marks(s), marks(all[0]))
	require.NoError(t, st.Remove(s.ID))
	require.NoError(t, st.Save(other), "what was still to be saved")
	all, err = st.Load()
	require.NoError(t, err)
	assert.Empty(t, all)
}

func TestFilesThatAreWrong(t *testing.T) {
	dir := t.TempDir()
	st := sweep.NewStore(dir)
	s := made()
	require.NoError(t, st.Save(s))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "cut.json"), []byte("{\n \"version\": 1,\n \"na"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "later.json"), []byte(`{"version": 99}`), 0o600))
	all, err := st.Load()
	assert.Len(t, all, 1)
	assert.ErrorContains(t, err, "cut.json is not well formed in line 3")
	assert.ErrorContains(t, err, "later version")
	require.NoError(t, os.WriteFile(filepath.Join(dir, s.ID+".json"), []byte("edited"), 0o600))
	require.ErrorContains(t, st.Save(s), "not well formed", "what somebody wrote is not written over")
}

func TestExports(t *testing.T) {
	s := made()
	s.SetMark(0, sweep.Done)
	s.SetMark(1, sweep.Aside)
	s.SetNote(2, "ask `them`")
	s.Items[2].Text, s.Items[2].In = "a `b`", "Roster.Assign"
	s.Items[3].Settled = true
	var text, markdown, object bytes.Buffer
	require.NoError(t, s.WriteText(&text))
	assert.Equal(t, "dispatch/desk.go:3:2: dispatch/desk.go:3:2\ndispatch/roster.go:5:1: a `b`\nboard/a.ts:7:1: board/a.ts:7:1\n", text.String())
	require.NoError(t, s.WriteMarkdown(&markdown))
	assert.Equal(t, "# references of Assign\n\n2 of 5 to do, 1 done, 1 set aside, 1 gone.\n\n## dispatch/desk.go\n\n"+
		"- [x] [line 3](dispatch/desk.go#L3) `dispatch/desk.go:3:2`\n- [ ] ~~[line 9](dispatch/desk.go#L9) `dispatch/desk.go:9:2`~~ (set aside)\n"+
		"\n## dispatch/roster.go\n\n- [ ] [line 5](dispatch/roster.go#L5) `` a `b` `` in `Roster.Assign`\n  ask `them`\n"+
		"\n## board/a.ts\n\n- [ ] ~~[line 1](board/a.ts#L1) `board/a.ts:1:1`~~ (gone)\n- [ ] [line 7](board/a.ts#L7) `board/a.ts:7:1`\n", markdown.String())
	require.NoError(t, s.WriteJSON(&object))
	assert.Contains(t, object.String(), `"mark":"aside"`)
	assert.Contains(t, object.String(), `"left": 2`)
	again, err := report.Read(&text)
	require.NoError(t, err)
	assert.Zero(t, again.Others)
	assert.Equal(t, report.Finding{Path: "dispatch/roster.go", Line: 5, Col: 1, Text: "a `b`"}, again.Findings[1])
}
