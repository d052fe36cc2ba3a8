package branches

import (
	"context"
	"fmt"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// words say of each tree what it shows, how one comes to a place of it, what to say
// if there is nothing in it, and what Tab leads to.
var words = map[answer.Tree]struct{ title, how, none, turn string }{
	answer.Kin:      {"the family of %s", "family of %s", "%s is derived from nothing, and nothing from it", ""},
	answer.Incoming: {"what calls %s", "caller of %s", "nothing calls %s", "what it calls"},
	answer.Outgoing: {"what %s calls", "called by %s", "%s calls nothing", "what calls it"},
	answer.Flows:    {"where the value of %s comes from and goes to", "value of %s", "%s is nothing that has a value", ""},
}

// question is what a tree answers.
type question struct {
	tree   answer.Tree
	path   string
	offset int
}

// answer is the first level of a tree.
type reply struct {
	asked  question
	result resolve.Result
	first  []answer.Branch
	source sweep.Source
	turned bool
	around string // what the question is about, if it is not the name under the caret
}

// Commands are what opens the trees.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{}
	for a, tree := range map[keymap.Action]answer.Tree{keymap.Family: answer.Kin, keymap.CallTree: answer.Incoming, keymap.Values: answer.Flows} {
		all[a] = func() surface.Intent { return m.askHere(tree) }
	}
	return all
}

// askHere finds the first level of a tree for the name under the caret.
func (m *Model) askHere(tree answer.Tree) surface.Intent {
	here := m.host.Here()
	if here.File == nil || here.File.Facts == nil {
		return here.Lack("no names are known in this file")
	}
	return surface.Begin(m.ask(question{tree, here.File.Path, here.Offset}, false))
}

func (m *Model) ask(asked question, turned bool) tea.Cmd {
	trees := m.trees
	return surface.Ask(m.host.Way(), func(ctx context.Context) reply {
		around := ""
		if !turned {
			asked.offset, around = trees.Subject(ctx, asked.path, asked.offset)
		}
		res, first := trees.Branches(ctx, asked.tree, asked.path, asked.offset)
		source := sweep.Source{Kind: sweep.OfList}
		if f, err := trees.Load(ctx, asked.path); err == nil {
			line, col := f.Text.Position(asked.offset)
			from := trees.Anchor(ctx, place.Place{Path: asked.path, Line: line, Col: col})
			if source.From = &from; wayOf[asked.tree] != 0 {
				source.Kind, source.Way = sweep.OfWay, wayOf[asked.tree].String()
			}
		}
		return reply{asked, res, first, source, turned, around}
	}, m.answered)
}

// wayOf is the way whose places are those of the first level.
var wayOf = map[answer.Tree]answer.Way{answer.Incoming: answer.ToCallers, answer.Outgoing: answer.ToCalled, answer.Flows: answer.ToValues}

// answered shows a tree. Where calls are asked for and there are none, those the
// other way round are shown.
func (m *Model) answered(a reply) surface.Intent {
	todo := m.led(a)
	if a.around != "" && todo.Say == "" {
		todo.Say = surface.Around(a.around, todo.Go != nil)
	}
	return todo
}

func (m *Model) led(a reply) surface.Intent {
	w, name := words[a.asked.tree], a.result.Name
	switch {
	case name == "":
		return surface.Say("there is no name under the caret")
	case len(a.first) == 0 && a.result.Outside != "":
		return surface.Say("%s belongs to %s, which is outside this project", name, a.result.Outside)
	case len(a.first) == 0 && a.asked.tree == answer.Incoming && !a.turned && len(a.result.Answers) > 0 && a.result.Answers[0].Kind.IsCallable():
		a.asked.tree = answer.Outgoing
		return surface.Begin(m.ask(a.asked, true))
	case len(a.first) == 0 && a.turned && !m.open:
		return surface.Say("nothing calls %s, and it calls nothing", name)
	case len(a.first) == 0:
		return surface.Say(w.none, name)
	case len(a.first) == 1 && a.asked.tree == answer.Flows:
		return surface.Go(surface.To(a.first[0].Answer, fmt.Sprintf(w.how, name)))
	}
	m.asked, m.how, m.source, m.open = a.asked, fmt.Sprintf(w.how, name), a.source, true
	m.colors.Forget()
	m.show(fmt.Sprintf(w.title, name), w.turn, a.first)
	m.choose(m.want)
	m.want = place.Place{}
	return surface.Intent{Open: m, Cmd: m.color()}.And(m.selected())
}

// Left implements surface.Reopened.
func (m *Model) Left() *resume.Last {
	b, ok := m.Chosen()
	if !ok || m.source.From == nil {
		return nil
	}
	return &resume.Last{List: "tree", Title: m.title, How: m.how, Source: m.source, Tree: int(m.asked.tree), At: b.Place()}
}

// Again implements surface.Reopened: the first level of the tree, asked for where its name is by now.
func (m *Model) Again(last resume.Last) surface.Intent {
	type start struct {
		asked question
		why   string
	}
	trees := m.trees
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) start {
		if last.Source.From == nil {
			return start{why: "it is not known of what it was"}
		}
		at := place.Remember(*last.Source.From)
		fate, err := trees.Find(ctx, &at)
		if err != nil || fate == place.Gone {
			return start{why: "the name it was asked for is not in " + at.Path + " any more"}
		}
		f, err := trees.Load(ctx, at.Path)
		if err != nil {
			return start{why: err.Error()}
		}
		return start{asked: question{answer.Tree(last.Tree), at.Path, f.Text.Offset(at.Line, at.Col)}}
	}, func(s start) surface.Intent {
		if s.why != "" {
			return surface.Say("%s cannot be shown again: %s", last.Title, s.why)
		}
		m.want = last.At
		return surface.Begin(m.ask(s.asked, true))
	}))
}

// turned asks for calls the other way round.
func (m *Model) turned() surface.Intent {
	asked := m.asked
	asked.tree = map[answer.Tree]answer.Tree{answer.Incoming: answer.Outgoing, answer.Outgoing: answer.Incoming}[asked.tree]
	return surface.Begin(m.ask(asked, true))
}
