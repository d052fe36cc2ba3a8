package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// ahead is what is to be done when one has arrived: a key that was pressed on the way, or an action.
type ahead struct {
	key tea.KeyPressMsg
	do  keymap.Action
}

// steps are those of a command of the user's own, to be done as what was pressed ahead is.
func steps(all []surface.Step) (out []ahead) {
	for _, s := range all {
		next := ahead{do: s.Do}
		if s.Press != "" {
			next.key = keyboard.Press(s.Press)
		}
		out = append(out, next)
	}
	return out
}

// ownCommands are the commands of the user's own.
func (m *Model) ownCommands() surface.Commands {
	all := surface.Commands{}
	for i := range m.mine.Commands {
		c := &m.mine.Commands[i]
		all[c.Action()] = func() surface.Intent { return m.doOwn(c) }
	}
	return all
}

// doOwn does what a command of the user's own says.
func (m *Model) doOwn(c *keymap.Command) (todo surface.Intent) {
	if c.Text != "" {
		return m.writing.Insert(c.Text)
	}
	for _, one := range c.Does {
		if keymap.Action(one).Naming().Name != "" {
			todo.Steps = append(todo.Steps, surface.Step{Do: keymap.Action(one)})
		} else if key, err := keymap.ReadKey(one); err == nil {
			todo.Steps = append(todo.Steps, surface.Step{Press: key})
		}
	}
	return todo
}
