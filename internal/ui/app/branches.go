package app

import (
	"context"
	"fmt"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/branches"
)

// treeWords say of each tree what it shows, how one comes to a place of it, what to say
// if there is nothing in it, and what Tab leads to.
var treeWords = map[workspace.Tree]struct{ title, how, none, turn string }{
	workspace.Kin:      {"the family of %s", "family of %s", "%s is derived from nothing, and nothing from it", ""},
	workspace.Incoming: {"what calls %s", "caller of %s", "nothing calls %s", "what it calls"},
	workspace.Outgoing: {"what %s calls", "called by %s", "%s calls nothing", "what calls it"},
	workspace.Flows:    {"where the value of %s comes from and goes to", "value of %s", "%s is nothing that has a value", ""},
}

// branchesMsg brings the first level of a tree.
type branchesMsg struct {
	number int
	asked  treeQuestion
	result resolve.Result
	first  []workspace.Branch
	source sweep.Source
	turned bool
}

// treeQuestion is what a tree answers.
type treeQuestion struct {
	tree   workspace.Tree
	path   string
	offset int
}

// openBranches finds the first level of a tree for the name under the caret.
func (m *Model) openBranches(tree workspace.Tree) tea.Cmd {
	file := m.code.File()
	if file == nil || file.Facts == nil {
		m.say("nothing is known of the names in this file")
		return nil
	}
	return m.askBranches(treeQuestion{tree, file.Path, m.code.Offset()}, false)
}

func (m *Model) askBranches(asked treeQuestion, turned bool) tea.Cmd {
	m.opens++
	m.going = true
	ctx, cancel := context.WithCancel(context.Background())
	m.giveUp = cancel
	number, ws := m.opens, m.ws
	return func() tea.Msg {
		defer cancel()
		res, first := ws.Branches(ctx, asked.tree, asked.path, asked.offset)
		source := sweep.Source{Kind: sweep.OfList}
		if way, ok := wayOfTree[asked.tree]; ok {
			if f, err := ws.Load(ctx, asked.path); err == nil {
				line, col := f.Text.Position(asked.offset)
				from := ws.Anchor(ctx, place.Place{Path: asked.path, Line: line, Col: col})
				source = sweep.Source{Kind: sweep.OfWay, Way: way.String(), From: &from}
			}
		}
		return branchesMsg{number, asked, res, first, source, turned}
	}
}

// wayOfTree is the way whose places are those of the first level.
var wayOfTree = map[workspace.Tree]workspace.Way{workspace.Incoming: workspace.ToCallers, workspace.Outgoing: workspace.ToCalled, workspace.Flows: workspace.ToValues}

// branchesFound shows a tree. Where calls are asked for and there are none, those the
// other way round are shown.
func (m *Model) branchesFound(msg branchesMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	words, name := treeWords[msg.asked.tree], msg.result.Name
	switch {
	case name == "":
		m.say("there is no name under the caret")
	case len(msg.first) == 0 && msg.result.Outside != "":
		m.sayOutside(workspace.ToDefinition, msg.result)
	case len(msg.first) == 0 && msg.asked.tree == workspace.Incoming && !msg.turned && len(msg.result.Answers) > 0 && msg.result.Answers[0].Kind.IsCallable():
		msg.asked.tree = workspace.Outgoing
		return m.askBranches(msg.asked, true)
	case len(msg.first) == 0 && msg.turned && m.overlay != branchesOverlay:
		m.say("nothing calls %s, and it calls nothing", name)
	case len(msg.first) == 0:
		m.say(words.none, name)
	case len(msg.first) == 1 && msg.asked.tree == workspace.Flows:
		return m.open(toDestination(msg.first[0].Destination, fmt.Sprintf(words.how, name)))
	default:
		return m.arrived(m.showBranches(msg))
	}
	return m.arrived(nil)
}

func (m *Model) showBranches(msg branchesMsg) tea.Cmd {
	words, name := treeWords[msg.asked.tree], msg.result.Name
	if m.overlay != branchesOverlay {
		m.remember()
	}
	m.overlay, m.treeAsked = branchesOverlay, msg.asked
	m.placesHow, m.placesSource, m.branchesTitle = fmt.Sprintf(words.how, name), msg.source, fmt.Sprintf(words.title, name)
	m.branches.Open(m.branchesTitle, words.turn, msg.first, m.sheetHeight())
	m.arrange()
	m.lines.spans = nil
	return tea.Batch(m.previewBranch(), m.colorLines(placesOf(m.branches.Shown())))
}

// branchesUpdate hands a message to the tree and acts on what came of it.
func (m *Model) branchesUpdate(msg tea.Msg) tea.Cmd {
	cmd, event := m.branches.Update(msg)
	if m.overlay == branchesOverlay {
		cmd = m.waitFor(m.branches.Busy(), cmd)
	}
	switch event {
	case branches.Closed:
		m.branches.Close()
		return tea.Batch(cmd, m.restore())
	case branches.Selected:
		return tea.Batch(cmd, m.previewBranch())
	case branches.Grown:
		return tea.Batch(cmd, m.colorLines(placesOf(m.branches.Shown())))
	case branches.Taken:
		b, _ := m.branches.Chosen()
		m.branches.Close()
		return tea.Batch(cmd, m.jumpFromOverlay(toDestination(b.Destination, m.placesHow)))
	case branches.Turned:
		asked := m.treeAsked
		asked.tree = map[workspace.Tree]workspace.Tree{workspace.Incoming: workspace.Outgoing, workspace.Outgoing: workspace.Incoming}[asked.tree]
		return tea.Batch(cmd, m.askBranches(asked, true))
	case branches.Kept:
		shown, source := m.branches.Shown(), m.placesSource
		m.branches.Close()
		return tea.Batch(cmd, m.restore(), m.makeSweep(m.branchesTitle, source, func(context.Context) ([]workspace.Destination, error) { return shown, nil }))
	}
	return cmd
}

// previewBranch shows the chosen branch beneath the sheet.
func (m *Model) previewBranch() tea.Cmd {
	b, ok := m.branches.Chosen()
	if !ok {
		return m.showBefore()
	}
	o := toDestination(b.Destination, "")
	o.preview = true
	return m.open(o)
}
