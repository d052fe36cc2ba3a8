package app

import (
	"context"
	"errors"
	"maps"
	"sync"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/fold"
	"rooktrail/internal/core/resume"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/sheet"
)

// What is on the screen is kept this long after the caret last moved, so that
// even a program that is killed begins again about where it was.
const keepAfter = 2 * time.Second

// keepMsg says that the caret has stood still for that long, if number is still
// the latest.
type keepMsg struct{ number int }

func (m *Model) keepLater() tea.Cmd {
	number := m.asks
	return tea.Tick(keepAfter, func(time.Time) tea.Msg { return keepMsg{number} })
}

func (m *Model) keepNow(msg keepMsg) tea.Cmd {
	if msg.number != m.asks || m.before != nil {
		return nil
	}
	return tea.Batch(m.keepState(), m.stayLater())
}

// quit leaves the program, after what is on the screen was kept.
func (m *Model) quit() tea.Cmd {
	keep, lists := m.keepState(), m.touched()
	return func() tea.Msg {
		keep() // what it says comes too late
		lists()
		return tea.QuitMsg{}
	}
}

// touched keeps the lists once more that were changed: a command that keeps one may still be
// under way when the program ends.
func (m *Model) touched() (keep func()) {
	ws := m.ws
	var marks []*bookmark.List
	for _, l := range m.marks.book.Lists {
		if m.marks.touched[l] {
			marks = append(marks, l.Clone())
		}
	}
	var swept []*sweep.Sweep
	for _, s := range m.sweeps {
		if m.swept[s] {
			swept = append(swept, s.Clone())
		}
	}
	return func() {
		for _, l := range marks {
			_ = ws.KeepBookmarks(l) // there is no screen any more to say it on
		}
		for _, s := range swept {
			_ = ws.KeepSweep(s)
		}
	}
}

// keepState keeps how the program is set and what is on the screen.
func (m *Model) keepState() tea.Cmd {
	ws, keeper := m.ws, &m.keeper
	m.keepFolds()
	m.keepTrail()
	m.keeps++
	number := m.keeps
	state, folds := resume.State{Text: m.scout.Text(), Screen: m.screen()}, maps.Clone(m.folded)
	return func() tea.Msg {
		state.Folds = map[string][]fold.Mark{}
		for p, f := range folds {
			state.Folds[p] = f.found()
		}
		if err := keeper.keep(ws, number, state); err != nil {
			return noteMsg("your way is kept in memory only: " + whyNotSaved(err))
		}
		return nil
	}
}

// keeper keeps states in the order in which they were taken, as commands may run
// in any order.
type keeper struct {
	mu   sync.Mutex
	last int // the latest state that is on disk

	news sync.Mutex
	// trail are the changes of the trail that are still to be kept, in their order: of
	// these none may be left out.
	trail []trailNews
}

// trailNews is what has changed of the trail, with the files one was in.
type trailNews struct {
	delta  trail.Delta
	recent []trail.Visit
}

// add notes changes of the trail that are to be kept.
func (k *keeper) add(n trailNews) {
	k.news.Lock()
	defer k.news.Unlock()
	k.trail = append(k.trail, n)
}

// take gives out the changes of the trail that are still to be kept.
func (k *keeper) take() []trailNews {
	k.news.Lock()
	defer k.news.Unlock()
	all := k.trail
	k.trail = nil
	return all
}

func (k *keeper) keep(ws *workspace.Workspace, number int, state resume.State) error {
	k.mu.Lock()
	defer k.mu.Unlock()
	var failed error
	for _, n := range k.take() { // what cannot be written now is written the next time
		if err := ws.KeepTrail(n.delta, n.recent); err != nil {
			failed = err
		}
	}
	if number < k.last {
		return failed
	}
	k.last = number
	return errors.Join(failed, ws.SetState(state))
}

// screen is what is on the screen; nil while nothing was opened yet.
func (m *Model) screen() *resume.Screen {
	if !m.begun {
		return m.ws.State().Screen
	}
	s := &resume.Screen{Quiet: m.quiet, Full: m.full, Outline: m.beside, Column: m.column, Signpost: m.signSize}
	s.Sides = m.keptSides(m.tree)
	for i, number := range m.tree.Sides() {
		if number == m.codeSide().number {
			s.Present = i
		}
	}
	s.Closed = append(s.Closed, m.closed...)
	return s
}

func (m *Model) keptSides(t *panes.Tree) resume.Sides {
	if t.Parts != nil {
		return resume.Sides{
			Parts: []resume.Sides{m.keptSides(t.Parts[0]), m.keptSides(t.Parts[1])}, Stacked: t.Stacked, Share: t.Share,
		}
	}
	s, out := m.sides[t.Side], resume.Sides{}
	for i, v := range s.views {
		state := v.state
		if v == s.present() {
			out.Shown = i
			if m.before == nil || s != m.side { // else something else is only looked at
				state = s.code.State()
			}
		}
		out.Views = append(out.Views, kept(state))
	}
	return out
}

// resumedMsg brings the files that were on the screen, by the numbers of their
// sides; gone are those that are there no more.
type resumedMsg struct {
	files map[int]*workspace.File
	gone  []string
	done  map[int]*write.History // to their texts before
}

// resume shows what was on the screen when the program was left; nil if there
// is nothing to show.
func (m *Model) resume() tea.Cmd {
	state := m.ws.State()
	for p, marks := range state.Folds {
		m.folded[p] = folded{marks: marks}
	}
	s := state.Screen
	if s == nil {
		return nil
	}
	m.quiet, m.beside, m.column, m.signSize, m.closed = s.Quiet, s.Outline, s.Column, s.Signpost, s.Closed
	tree := m.sidesOf(s.Sides)
	if tree == nil {
		return nil
	}
	delete(m.sides, m.side.number)
	m.tree = tree
	numbers := tree.Sides()
	m.side = m.sides[numbers[min(max(s.Present, 0), len(numbers)-1)]]
	m.full = s.Full && len(numbers) > 1
	m.going = true
	wanted := map[int][]*view{}
	for _, number := range numbers {
		side := m.sides[number]
		wanted[number] = append([]*view{side.latest()}, side.views...)
	}
	return func() tea.Msg { return m.loadAgain(wanted) }
}

// sidesOf makes the sides that were kept; nil if there is no file in them.
func (m *Model) sidesOf(kept resume.Sides) *panes.Tree {
	if len(kept.Parts) == 2 {
		a, b := m.sidesOf(kept.Parts[0]), m.sidesOf(kept.Parts[1])
		if a == nil {
			return b
		}
		if b == nil {
			return a
		}
		return &panes.Tree{Parts: &[2]*panes.Tree{a, b}, Stacked: kept.Stacked, Share: min(max(kept.Share, 0.1), 0.9)}
	}
	if len(kept.Views) == 0 {
		return nil
	}
	s := m.addSide()
	for _, v := range kept.Views {
		s.touch(v.State())
	}
	if kept.Shown >= 0 && kept.Shown < len(s.views) {
		s.touch(kept.Views[kept.Shown].State())
	}
	return panes.One(s.number)
}

// loadAgain reads for each side the first of its files that can be read.
func (m *Model) loadAgain(wanted map[int][]*view) resumedMsg {
	out := resumedMsg{files: map[int]*workspace.File{}, done: map[int]*write.History{}}
	missing := map[string]bool{}
	for number, views := range wanted {
		for _, v := range views {
			p := v.state.Place.Path
			f, err := m.ws.Load(context.Background(), p)
			if err != nil {
				missing[p] = true
				continue
			}
			f.Prepare()
			out.files[number], out.done[number] = f, m.ws.History(p, f.Text)
			break
		}
	}
	for p := range missing {
		out.gone = append(out.gone, p)
	}
	return out
}

// resumed shows the files that were read. A side without any goes.
func (m *Model) resumed(msg resumedMsg) tea.Cmd {
	for _, number := range m.tree.Sides() {
		s, f := m.sides[number], msg.files[number]
		for _, p := range msg.gone {
			if v := s.view(p); v != nil {
				s.drop(v)
			}
		}
		if f == nil {
			next := m.tree.Close(number)
			if next != number {
				delete(m.sides, number)
				if s == m.side {
					m.side = m.sides[next]
				}
			}
			continue
		}
		m.keepDone(f, msg.done[number])
		s.code.Show(f, s.view(f.Path).state)
		s.code.Fold(m.folded[f.Path].found())
		s.touch(s.code.State())
		s.crumbs = workspace.Crumbs(f, s.code.Offset())
	}
	m.begun = true
	if m.code.File() == nil {
		return m.arrivedAt(m.beginAnew)
	}
	if len(msg.gone) > 0 {
		m.say("%s of last time cannot be opened any more", sheet.Count(len(msg.gone), "file", "files"))
	}
	for _, number := range m.tree.Sides() {
		for _, v := range m.sides[number].views {
			m.recent.Touch(v.state.Place.Path, time.Time{})
		}
	}
	m.recent.Touch(m.code.Path(), time.Now())
	for _, s := range m.sides {
		s.code.Away(s != m.side)
	}
	m.trail.Go(m.code.State(), "where you were", "")
	locate := m.locateShown() // by what stood there last time, before anything new is remembered
	cmd := tea.Batch(locate, m.caretMoved(), m.rearranged())
	if m.start.Path != "" {
		return tea.Batch(cmd, m.beginAnew())
	}
	return m.arrived(cmd)
}

// openFiles counts the files that are open in any side.
func (m *Model) openFiles() int {
	paths := map[string]bool{}
	for _, s := range m.sides {
		for _, v := range s.views {
			paths[v.state.Place.Path] = true
		}
	}
	return len(paths)
}
