package hunks

import (
	"context"
	"path"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/surface"
)

// sides shows all of the file side by side with what it was. What is taken of that is put back.
func (m *Model) sides() surface.Intent { return m.compared(m.sidesOf) }

func (m *Model) sidesOf(_ *code.Model, d *hunk.Diff) surface.Intent {
	if len(d.Hunks) == 0 {
		return surface.Say("this file is as it was in %s", m.words())
	}
	file := m.host.Here().File.Path
	return m.whole.Show(path.Base(file), "as it was in "+m.words(), "as it is", d.Was, write.Regions(d.Was, d.Now, d.Was), func(regions []write.Region) surface.Intent {
		back := hunk.Compare(write.Assemble(d.Was, regions), d.Now)
		var edits []text.Edit
		for _, h := range back.Hunks {
			edits = append(edits, back.Back(h))
		}
		if len(edits) == 0 {
			return surface.Intent{}
		}
		return m.change.Change(proposed("put parts of "+path.Base(file)+" back as they were in "+m.words(), file, d, edits...))
	}, func() surface.Intent { return surface.Intent{} })
}

// staged is what came of taking a hunk into the stage, or out of it.
type staged struct {
	hunk hunk.Hunk
	in   bool
	err  error
}

// stage takes the hunk at the caret into the next commit, or out of it.
func (m *Model) stage() surface.Intent {
	here := m.host.Here()
	if here.File == nil {
		return here.Lack("there is no file here")
	}
	f, line := here.File, here.View.Place.Line
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) (s staged) {
		s.hunk, s.in, s.err = m.project.Stage(ctx, f, line)
		return s
	}, func(s staged) surface.Intent {
		if s.err != nil {
			return surface.SayError(s.err)
		}
		m.Forget()
		if s.in {
			return surface.Say("in the next commit: %s; {hunk-stage} takes it out again", Amount(s.hunk))
		}
		return surface.Say("not in the next commit any more: %s", Amount(s.hunk))
	}))
}
