package app

import (
	"strings"

	tea "charm.land/bubbletea/v2"
)

// askUnlock lets one write in a file that is not the project's own. A key alone does not: what
// others have installed is used by more than this project.
func (m *Model) askUnlock() {
	f := m.code.File()
	switch {
	case f == nil:
		m.say("there is no file here")
		return
	case !f.Foreign || m.desk.unlocked[f.Path] || m.desk.pens[f.Path] != nil:
		m.say("%s is not locked", shortName(f.Path))
		return
	}
	name := f.Path
	m.askLine("other projects use it, too; yes unlocks "+shortName(name)+":", "", func(answer string) tea.Cmd {
		if strings.ToLower(strings.TrimSpace(answer)) != "yes" {
			m.say("%s stays locked", shortName(name))
			return nil
		}
		if m.desk.unlocked == nil {
			m.desk.unlocked = map[string]bool{}
		}
		m.desk.unlocked[name] = true
		m.say("%s can be written in now, until you leave the program", shortName(name))
		return nil
	})
}
