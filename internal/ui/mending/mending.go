// Package mending offers what can be done about what is wrong where the caret is, or about the name there.
package mending

import (
	"context"
	"path"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/mend"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Mender finds what can be done; see package mend.
type Mender interface {
	At(ctx context.Context, p string, offset int) ([]mend.Mend, error)
}

// Maker makes changes; see package proposals.
type Maker interface {
	Change(p *proposal.Proposal) surface.Intent
}

// Model offers them.
type Model struct {
	host   surface.Host
	mender Mender
	maker  Maker
	list   choice.Surface
}

// New makes one.
func New(host surface.Host, mender Mender, maker Maker) *Model {
	return &Model{host: host, mender: mender, maker: maker}
}

// Commands are those by which things are mended.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{keymap.Mend: func() surface.Intent { return m.find(m.offer) }, keymap.MendBest: func() surface.Intent { return m.find(m.best) }}
}

// found is what can be done.
type found struct {
	all []mend.Mend
	err error
}

// find looks what can be done where the caret is.
func (m *Model) find(then func([]mend.Mend) surface.Intent) surface.Intent {
	here := m.host.Here()
	if here.File == nil || path.IsAbs(here.File.Path) {
		return surface.Say("there is nothing here that could be mended")
	}
	p, offset := here.File.Path, here.Offset
	wait := surface.Intent{Wait: "looking for what can be done here; Esc gives up"}
	return wait.And(surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) found {
		all, err := m.mender.At(ctx, p, offset)
		return found{all, err}
	}, func(f found) surface.Intent {
		switch {
		case f.err != nil:
			return surface.SayError(f.err)
		case len(f.all) == 0:
			return surface.Say("nothing is known that could be done here; {problem-next} goes to the next problem")
		}
		return then(f.all)
	})))
}

// best does what is best at once.
func (m *Model) best(all []mend.Mend) surface.Intent { return m.maker.Change(all[0].Proposal) }

// offer lists what can be done, with how it will read then.
func (m *Model) offer(all []mend.Mend) surface.Intent {
	rows := make([]choice.Row, len(all))
	for i := range all {
		x := &all[i]
		what, mark := "do", ""
		if len(x.Proposal.Files) > 1 || count(x.Proposal) > 1 {
			mark = sheet.Count(count(x.Proposal), "place", "places")
		}
		rows[i] = choice.Row{
			Row:  sheet.Row{What: what, Name: x.Title, Where: mark, Reads: true, Below: becomes(x.Proposal)},
			Take: func() surface.Intent { return m.maker.Change(x.Proposal) },
		}
	}
	title := "what can be done here"
	if about := strings.Join(strings.Fields(all[0].About), " "); about != "" {
		title = text.Visible(about)
	}
	return m.list.Open(title, "do it", rows)
}

func count(p *proposal.Proposal) (n int) {
	for _, f := range p.Files {
		n += len(f.Places)
	}
	return n
}

// becomes is how the first lines read with what is proposed that change.
func becomes(p *proposal.Proposal) string {
	f := p.Files[0]
	if len(f.Places) == 0 {
		return ""
	}
	before, after := f.Lines(0)
	for line := range strings.Lines(after) {
		if s := strings.TrimSpace(line); s != "" && !strings.Contains(before, s) {
			return "will read: " + text.Visible(s)
		}
	}
	return "goes: " + text.Visible(strings.TrimSpace(firstGone(before, after)))
}

// firstGone is the first line that is not there afterwards.
func firstGone(before, after string) string {
	for line := range strings.Lines(before) {
		if s := strings.TrimSpace(line); s != "" && !strings.Contains(after, s) {
			return s
		}
	}
	return strings.TrimSpace(before)
}
