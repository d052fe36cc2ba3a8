package proposals

import (
	"context"
	"path"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
)

// replacing is what is replaced by what, while one types it: the proposal follows.
type replacing struct {
	what, by entry.Line
	onWhat   bool // what is replaced is typed, not by what
	asked    replace.Asked
	where    string // in which places, in a few words
	roles    int    // of kinds, which are wanted
	wrong    string // what is wrong with the pattern
}

// kinds are those of the places in which something is replaced, by what Tab chooses among them.
var kinds = []struct {
	words string
	roles []find.Role
}{
	{"", nil},
	{"only in code", []find.Role{find.Code, find.Definition}},
	{"only in comments", []find.Role{find.Comment}},
	{"only in strings", []find.Role{find.String}},
	{"only definitions", []find.Role{find.Definition}},
}

// everywhere is a replacement in all files.
func (s *Surface) everywhere() (replace.Asked, string) {
	return replace.Asked{Words: true}, "in all files"
}

// inFile is one in the file on the screen, or in what is selected of it.
func (s *Surface) inFile() (replace.Asked, string) {
	here := s.host.Here()
	a := replace.Asked{In: here.View.Place.Path}
	if sel := here.Selection; here.File != nil && sel.Len() > 0 {
		first, _ := here.File.Text.Position(int(sel.Start))
		if last, _ := here.File.Text.Position(int(sel.End)); last > first {
			a.Part = sel
			return a, "in what is selected"
		}
	}
	return a, "in " + path.Base(a.In)
}

// replace asks what is to be replaced, and by what.
func (s *Surface) replace(a replace.Asked, where string) surface.Intent {
	here := s.host.Here()
	if a.In == "" && a.Lines == nil && here.File == nil && !a.Words {
		return here.Lack("there is no text here")
	}
	r := &replacing{what: entry.New(), by: entry.New(), onWhat: true, asked: a, where: where}
	r.asked.KeepCase = true
	if here.File != nil && here.Selection.Len() > 0 && a.Part.Len() == 0 {
		r.what.Put(string(here.Selection.In(here.File.Text.Bytes())))
	} else {
		r.what.Put(here.Word())
	}
	s.present, s.after, s.due, s.typing = &proposal.Proposal{Title: "replace a text " + where}, nil, false, r
	s.list.checking, s.list.whole = false, true
	s.list.open(s.present, s.Height-1)
	return surface.Intent{Open: s}.And(s.seek())
}

// typed takes a key for the two lines.
func (s *Surface) typed(msg tea.Msg) (todo surface.Intent, taken bool) {
	r := s.typing
	if k, ok := msg.(tea.KeyPressMsg); ok {
		name := k.String()
		if _, moves := keymap.Step(name, s.Height-4, len(s.list.entries)); moves || keymap.Is(name, keymap.Ends.Close) {
			return todo, false
		}
		if keymap.Is(name, keymap.Ends.Take) && !r.onWhat {
			return todo, false
		}
		if keymap.Is(name, keymap.Ends.Take) || keymap.Is(name, on.Other) {
			r.onWhat = !r.onWhat
			return todo, true
		}
	}
	line := &r.by
	if r.onWhat {
		line = &r.what
	}
	if !line.Edit(msg) {
		return todo, true
	}
	return s.seek(), true
}

// key takes what narrows or widens what is replaced; false for another key.
func (r *replacing) key(name string) bool {
	switch {
	case keymap.Is(name, on.Case):
		switch {
		case r.asked.KeepCase:
			r.asked.KeepCase = false
		case !r.asked.Query.Case:
			r.asked.Query.Case = true
		default:
			r.asked.Query.Case, r.asked.KeepCase = false, true
		}
	case keymap.Is(name, on.Word):
		r.asked.Query.Word = !r.asked.Query.Word
	case keymap.Is(name, on.Pattern):
		r.asked.Query.Regexp = !r.asked.Query.Regexp
	case keymap.Is(name, on.Only):
		r.roles = (r.roles + 1) % len(kinds)
		r.asked.Roles = kinds[r.roles].roles
	default:
		return false
	}
	return true
}

// seek works out the proposal anew. What was left out stays so.
func (s *Surface) seek() surface.Intent {
	r := s.typing
	a := r.asked
	a.Query.Pattern, a.By = r.what.Value(), r.by.Value()
	if a.Query.Pattern == "" {
		s.seeker.Cancel()
		return s.found(&proposal.Proposal{Title: "replace a text " + r.where}, nil)
	}
	type found struct {
		p   *proposal.Proposal
		err error
	}
	project := s.project
	return surface.Begin(surface.Ask(s.seeker, func(ctx context.Context) found {
		p, err := project.Replace(ctx, a)
		return found{p, err}
	}, func(f found) surface.Intent {
		if s.typing != r {
			return surface.Intent{}
		}
		return s.found(f.p, f.err)
	}))
}

// found shows what was worked out.
func (s *Surface) found(p *proposal.Proposal, err error) surface.Intent {
	r := s.typing
	r.wrong = ""
	if err != nil {
		r.wrong = err.Error()
		p = &proposal.Proposal{Title: "replace a text " + r.where}
	}
	if !strings.HasSuffix(p.Title, r.where) {
		p.Title += " " + r.where
	}
	out := map[place.Place]bool{}
	for _, f := range s.present.Files {
		for _, at := range f.Places {
			out[place.Place{Path: f.Path, Line: int(at.At.Start)}] = at.Out
		}
	}
	for _, f := range p.Files {
		for i := range f.Places {
			f.Places[i].Out = out[place.Place{Path: f.Path, Line: int(f.Places[i].At.Start)}]
		}
	}
	s.present, s.after = p, nil
	s.list.proposal, s.list.empty = p, r.wrong
	s.list.again()
	s.list.picker.Set(s.list.list(), max(s.list.firstPlace(), 0))
	return s.selected()
}

// The words before the two lines.
const (
	whatPrompt = "  replace  "
	byPrompt   = "  by  "
)

// halves are how many columns there are for each of the two lines.
func (r *replacing) halves(width int) (what, by int) {
	half := max((width-len(whatPrompt)-len(byPrompt)-ink.Width(r.how())-4)/2, 8)
	return half, half
}

// how says in which way it is replaced.
func (r *replacing) how() string {
	words := "any case, kept"
	switch {
	case r.asked.Query.Case:
		words = "same case"
	case !r.asked.KeepCase:
		words = "any case"
	}
	if r.asked.Query.Word {
		words += ", words"
	}
	if r.asked.Query.Regexp {
		words += ", regex"
	}
	if k := kinds[r.roles].words; k != "" {
		words += ", " + k
	}
	return words
}

// row draws the two lines, beside each other.
func (r *replacing) row(width int, p *palette.Palette) string {
	quiet, strong := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet).Strong()
	what, by := r.halves(width)
	first, _ := r.what.Shown(what)
	second, _ := r.by.Shown(by)
	row := ink.NewRow(width).Put(whatPrompt, quiet).Put(first, strong).To(len(whatPrompt)+what, quiet).Put(byPrompt, quiet).Put(second, strong)
	if second == "" {
		row.Put("nothing", quiet)
	}
	return row.End(r.how()+" ", quiet, quiet).String(quiet)
}

// cursor is the column of the caret.
func (r *replacing) cursor(width int) int {
	what, by := r.halves(width)
	if r.onWhat {
		_, caret := r.what.Shown(what)
		return len(whatPrompt) + caret
	}
	_, caret := r.by.Shown(by)
	return len(whatPrompt) + what + len(byPrompt) + caret
}

// hints are the keys of the foot line.
func (r *replacing) hints() [][2]string {
	next := "by what"
	if !r.onWhat {
		next = "what"
	}
	return [][2]string{keymap.Hint(on.Make, "make it"), keymap.Hint(on.Other, next), keymap.Hint(on.Aside, "leave out"), keymap.Hint(on.Case, "case"), keymap.Hint(on.Word, "words"),
		keymap.Hint(on.Pattern, "regex"), keymap.Hint(on.Only, "code, comments …"), keymap.Hint(on.File, "the file"), keymap.Hint(on.Folder, "the folder")}
}
