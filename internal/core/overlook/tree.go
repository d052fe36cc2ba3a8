package overlook

import (
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
)

// subject is the definition that the drawing is about.
func (s *sketch) subject(p string, offset int) (answer.Answer, error) {
	if offset < 0 {
		return answer.Answer{}, fmt.Errorf("%s as a whole has none; ask at a name in it", p)
	}
	at, _ := s.guide.Subject(s.ctx, p, offset)
	_, all := s.guide.All(s.ctx, answer.ToDefinition.On(p, at))
	if len(all) == 0 {
		return answer.Answer{}, fmt.Errorf("there is no name at that place of %s whose definition is known", p)
	}
	return all[0], nil
}

// called is what something is called, with the type that it belongs to.
func called(a *answer.Answer) string {
	switch {
	case a.Name == "":
		return strings.TrimSpace(a.Text)
	case a.Container != "":
		return a.Container + "." + a.Name
	}
	return a.Name
}

// boxOf is the box of a definition.
func (s *sketch) boxOf(a *answer.Answer) draw.Box {
	b := draw.Box{ID: idOf(a.Path, a.At.Start), Kind: a.Kind.String(), Name: called(a), Where: fmt.Sprintf("%s %d", path.Base(a.Path), a.Line), Group: s.groupOf(a.Path), Layer: -1, Place: placeOf(a), Symbol: a.Symbol}
	if dir := path.Dir(a.Path); dir != "." {
		b.Details = append(b.Details, dir)
	}
	if path.IsAbs(a.Path) {
		b.Look = draw.Faint
	}
	if a.Test {
		b.Badge = "test"
	}
	return b
}

// next is something to go on from.
type next struct {
	answer.Answer
	box, step int
}

// found is something one step on.
type found struct {
	answer.Answer
	look  draw.Look
	label string
}

// spread draws what is around a definition, step by step. Each step adds what steps gives, with lines from what one came
// from, or to it.
func (s *sketch) spread(of *answer.Answer, depth int, inward bool, steps func(answer.Answer) []found) {
	root := s.index[idOf(of.Path, of.At.Start)]
	var ends []next
	for queue, seen := []next{{*of, root, 0}}, map[string]bool{}; len(queue) > 0 && s.ctx.Err() == nil; queue = queue[1:] {
		at := queue[0]
		id := idOf(at.Path, at.At.Start)
		if seen[id] {
			continue
		}
		seen[id] = true
		if path.IsAbs(at.Path) && at.step > 0 {
			continue
		}
		if !s.grows(id, at.step, depth) {
			ends = append(ends, at)
			continue
		}
		all := s.keep(steps(at.Answer))
		s.scene.Boxes[at.box].Open = at.step >= depth
		for i := range all {
			f := &all[i]
			to, fresh, ok := s.box(s.boxOf(&f.Answer))
			if !ok {
				s.scene.Boxes[at.box].Hidden++
				continue
			}
			if inward {
				s.line(to, at.box, f.look, f.label)
			} else {
				s.line(at.box, to, f.look, f.label)
			}
			if fresh || !seen[idOf(f.Path, f.At.Start)] {
				queue = append(queue, next{f.Answer, to, at.step + 1})
			}
		}
	}
	s.behind(ends, steps)
}

// mostCounting is how long it is counted what lies behind the boxes at the ends of a drawing; that there is something is said
// of the others.
const mostCounting = 400 * time.Millisecond

// behind counts what lies behind the boxes at the ends of a drawing.
func (s *sketch) behind(ends []next, steps func(answer.Answer) []found) {
	began := time.Now()
	for _, at := range ends {
		if time.Since(began) > mostCounting || s.ctx.Err() != nil {
			s.scene.Boxes[at.box].Hidden = -1
			continue
		}
		tests, libraries, without := s.tests, s.libraries, s.without
		s.scene.Boxes[at.box].Hidden += s.fresh(s.keep(steps(at.Answer)))
		s.tests, s.libraries, s.without = tests, libraries, without // which are told of what is drawn
	}
}

// keep leaves out what is not wanted.
func (s *sketch) keep(all []found) (kept []found) {
	for _, f := range all {
		if s.wanted(f.Path, f.Test) {
			kept = append(kept, f)
		}
	}
	return kept
}

// fresh is how many have no box yet.
func (s *sketch) fresh(all []found) (n int) {
	for _, f := range all {
		if _, there := s.index[idOf(f.Path, f.At.Start)]; !there {
			n++
		}
	}
	return n
}

// ask asks about a definition, and takes each answer once.
func (s *sketch) ask(way answer.Way, of answer.Answer) (all []found) {
	seen := map[string]bool{}
	s.guide.Ask(s.ctx, answer.Question{Way: way, Path: of.Path, Offset: int(of.At.Start), Level: resolve.Direct}, func(some []answer.Answer) bool {
		for _, a := range some {
			if id := idOf(a.Path, a.At.Start); !seen[id] {
				seen[id] = true
				f := found{Answer: a}
				if a.Through != "" {
					f.look, f.label = draw.Indirect, "by "+a.Through
				}
				all = append(all, f)
			}
		}
		return len(all) < answer.MostFound
	})
	return all
}

// family draws what a type or method is derived from, and what is derived from it.
func (s *sketch) family() error {
	of, err := s.subject(s.asked.Path, s.asked.Offset)
	if err != nil {
		return err
	}
	s.scene.Title = "The family of " + called(&of)
	root := s.boxOf(&of)
	root.Look = draw.Present
	if _, _, ok := s.box(root); !ok {
		return nil
	}
	depth := s.asked.Reach()
	s.spread(&of, depth, true, func(a answer.Answer) []found { return s.ask(answer.ToSupers, a) })
	above := slices.Clone(s.scene.Boxes)
	s.spread(&of, depth, false, func(a answer.Answer) []found { return s.ask(answer.ToSubs, a) })
	s.beside(&of, above)
	if len(s.scene.Boxes) == 1 {
		return fmt.Errorf("%s is derived from nothing in this project, and nothing is derived from it", called(&of))
	}
	s.overrides()
	s.shorten()
	s.scene.Down = len(s.scene.Boxes) <= mostBeside
	s.means(draw.Present, false, "what was asked about")
	s.means(draw.Faint, false, "of a library")
	s.scene.Notes = append(s.scene.Notes, "Lines lead from a type to what is derived from it.")
	return nil
}

// mostBeside is how large a family is at the most that goes from top to bottom: in a larger one too much would stand beside
// each other.
const mostBeside = 10

// shorten takes out lines to what is derived from something between, too.
func (s *sketch) shorten() {
	below := make([][]int, len(s.scene.Boxes))
	for _, l := range s.scene.Lines {
		below[l.From] = append(below[l.From], l.To)
	}
	s.scene.Lines = slices.DeleteFunc(s.scene.Lines, func(l draw.Line) bool {
		seen := map[int]bool{l.From: true, l.To: true}
		for queue := slices.Clone(below[l.From]); len(queue) > 0; queue = queue[1:] {
			at := queue[0]
			if seen[at] {
				continue
			}
			seen[at] = true
			if slices.Contains(below[at], l.To) && !slices.Contains(below[l.To], at) {
				return true
			}
			queue = append(queue, below[at]...)
		}
		return false
	})
}

// beside draws what else is derived from what is directly above.
func (s *sketch) beside(of *answer.Answer, above []draw.Box) {
	root := s.index[idOf(of.Path, of.At.Start)]
	var parents []int
	for _, l := range s.scene.Lines {
		if l.To == root && l.From < len(above) && !slices.Contains(parents, l.From) {
			parents = append(parents, l.From)
		}
	}
	for _, p := range parents {
		b := s.scene.Boxes[p]
		if path.IsAbs(b.Place.Path) {
			continue // too much is derived from what a library has
		}
		_, all := s.guide.All(s.ctx, answer.ToDefinition.On(b.Place.Path, s.offset(b.ID)))
		if len(all) == 0 {
			continue
		}
		for _, f := range s.keep(s.ask(answer.ToSubs, all[0])) {
			if at, _, ok := s.box(s.boxOf(&f.Answer)); ok {
				s.line(p, at, f.look, "")
			} else {
				s.scene.Boxes[p].Hidden++
			}
		}
	}
}

// offset is the byte that the ID of a definition tells.
func (s *sketch) offset(id string) (n int) {
	_, tail, _ := cutLast(id, ":")
	fmt.Sscan(tail, &n)
	return n
}

func cutLast(s, sep string) (before, after string, ok bool) {
	i := strings.LastIndex(s, sep)
	if i < 0 {
		return s, "", false
	}
	return s[:i], s[i+len(sep):], true
}

// overrides notes in each type which methods it has that one above it has, too.
func (s *sketch) overrides() {
	methods := make([]map[string]bool, len(s.scene.Boxes))
	for i := range s.scene.Boxes {
		methods[i] = s.methods(&s.scene.Boxes[i])
	}
	above := make([][]int, len(s.scene.Boxes))
	for _, l := range s.scene.Lines {
		above[l.To] = append(above[l.To], l.From)
	}
	for i := range s.scene.Boxes {
		seen, shared := map[int]bool{i: true}, map[string]bool{}
		for queue := slices.Clone(above[i]); len(queue) > 0; queue = queue[1:] {
			if at := queue[0]; !seen[at] {
				seen[at] = true
				for name := range methods[at] {
					if methods[i][name] {
						shared[name] = true
					}
				}
				queue = append(queue, above[at]...)
			}
		}
		if len(shared) > 0 {
			names := make([]string, 0, len(shared))
			for name := range shared {
				names = append(names, name)
			}
			slices.Sort(names)
			if len(names) > 12 {
				names = append(names[:12], "…")
			}
			s.scene.Boxes[i].Details = append(s.scene.Boxes[i].Details, "has its own "+strings.Join(names, ", "))
		}
	}
}

// methods are the names of the methods of the type of a box.
func (s *sketch) methods(b *draw.Box) map[string]bool {
	f, _ := s.code.Facts(s.ctx, b.Place.Path)
	if f == nil {
		return nil
	}
	id := f.DefAt(s.offset(b.ID))
	if id == facts.NoDef {
		return nil
	}
	all, of := map[string]bool{}, &f.Defs[id]
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Kind == facts.Method && (d.Parent == id || d.Container == of.Name && of.Scope == 0) {
			all[d.Name] = true
		}
	}
	return all
}

// calls draws what calls what.
func (s *sketch) calls() error {
	of, err := s.subject(s.asked.Path, s.asked.Offset)
	if err != nil {
		return err
	}
	if !of.Kind.IsCallable() {
		return fmt.Errorf("%s is a %s, which is not called", called(&of), of.Kind)
	}
	if s.asked.To != nil {
		return s.between(of)
	}
	root := s.boxOf(&of)
	root.Look = draw.Present
	if _, _, ok := s.box(root); !ok {
		return nil
	}
	depth := s.asked.Reach()
	out, in := s.asked.Direction != Inward, s.asked.Direction != Outward
	switch {
	case out && in:
		s.scene.Title = "Calls around " + called(&of)
	case out:
		s.scene.Title = "What " + called(&of) + " calls"
	default:
		s.scene.Title = "What calls " + called(&of)
	}
	if out {
		s.spread(&of, depth, false, func(a answer.Answer) []found { return s.ask(answer.ToCalled, a) })
	}
	if in {
		s.spread(&of, depth, true, func(a answer.Answer) []found { return s.ask(answer.ToCallers, a) })
	}
	if len(s.scene.Boxes) == 1 && len(s.scene.Lines) == 0 && s.scene.Boxes[0].Hidden == 0 && s.tests+s.libraries+s.without == 0 {
		return fmt.Errorf("nothing was found that %s", map[bool]string{true: called(&of) + " calls", false: "calls " + called(&of)}[out])
	}
	s.legendOfCalls()
	return nil
}

func (s *sketch) legendOfCalls() {
	s.means(draw.Present, false, "what was asked about")
	s.means(draw.Faint, false, "of a library")
	s.means(draw.Indirect, true, "through an interface or a type above")
}

// values draws where a value comes from, and where it goes.
func (s *sketch) values() error {
	of, err := s.subject(s.asked.Path, s.asked.Offset)
	if err != nil {
		return err
	}
	_, first := s.guide.Branches(s.ctx, answer.Flows, of.Path, int(of.At.Start))
	if len(first) == 0 {
		return fmt.Errorf("nothing is known of where %s comes from, or goes to", called(&of))
	}
	s.scene.Title = "Where " + called(&of) + " comes from, and where it goes"
	root := s.boxOf(&of)
	root.Look = draw.Present
	at, _, ok := s.box(root)
	if !ok {
		return nil
	}
	s.flow(at, first, first[0].Group, 0, s.asked.Reach())
	s.means(draw.Present, false, "what was asked about")
	return nil
}

// flow draws branches of where values come from and go to. Those of the first group are on the one side.
func (s *sketch) flow(at int, all []answer.Branch, group string, step, depth int) {
	for i := range all {
		b := &all[i]
		if s.ctx.Err() != nil {
			return
		}
		g := group
		if b.Group != "" {
			g = b.Group
		}
		if !s.wanted(b.Path, b.Test) {
			continue
		}
		box := draw.Box{ID: idOf(b.Path, b.At.Start) + b.Role, Kind: b.Role, Name: strings.TrimSpace(b.Text), Where: fmt.Sprintf("%s %d", path.Base(b.Path), b.Line), Group: s.groupOf(b.Path), Layer: -1, Place: placeOf(&b.Answer), Symbol: b.Symbol}
		if b.In.Name != "" {
			box.Details = append(box.Details, "in "+b.In.Name)
		}
		to, fresh, ok := s.box(box)
		if !ok {
			s.scene.Boxes[at].Hidden++
			continue
		}
		if g == answer.FlowsFrom {
			s.line(to, at, draw.Usual, "")
		} else {
			s.line(at, to, draw.Usual, "")
		}
		switch {
		case !fresh || b.Grow == nil || b.Again:
		case s.grows(box.ID, step+1, depth):
			s.scene.Boxes[to].Open = step+1 >= depth
			s.flow(to, b.Grow(s.ctx), g, step+1, depth)
		default:
			s.scene.Boxes[to].Hidden = -1
		}
	}
}
