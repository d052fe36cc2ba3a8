package answer

import (
	"context"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// flows finds where a value comes from and where it goes to.
func (g *Guide) flows(ctx context.Context, of resolve.Answer) (all []Branch) {
	if of.Kind.IsType() {
		return nil
	}
	line := lineage{}.with(of)
	for _, b := range g.comesFrom(ctx, of, line, 0) {
		b.Group = FlowsFrom
		all = append(all, b)
	}
	for _, b := range g.goesOn(ctx, of, line) {
		b.Group = FlowsTo
		all = append(all, b)
	}
	return all
}

// comesFrom are the places that give something its value; of a function, where it says
// what it gives back, or a part of it, counted from 1.
func (g *Guide) comesFrom(ctx context.Context, of resolve.Answer, line lineage, part int) (all []Branch) {
	if of.Kind.IsCallable() {
		return g.results(ctx, of, line, part)
	}
	_, values := g.values(ctx, of.Path, int(of.At.Start))
	for _, v := range values {
		if !v.flow.gives() {
			continue
		}
		all = append(all, g.valueBranch(ctx, v, func(ctx context.Context, f *codebase.File) []Branch {
			if v.flow == Passed {
				return g.sources(ctx, f, v.At, line, 0)
			}
			src := f.Text.Bytes()
			value, part := one(src, v.At, given(src, v.At))
			return g.sources(ctx, f, value, line, part)
		}))
	}
	return all
}

// goesOn are the places that take a value.
func (g *Guide) goesOn(ctx context.Context, of resolve.Answer, line lineage) (all []Branch) {
	if of.Kind.IsCallable() {
		return g.callers(ctx, of, line)
	}
	_, values := g.values(ctx, of.Path, int(of.At.Start))
	for _, v := range values {
		if v.flow.gives() {
			continue
		}
		all = append(all, g.valueBranch(ctx, v, func(ctx context.Context, f *codebase.File) []Branch {
			switch {
			case v.flow == PassedOn && v.To.Name != "" && !line.has(v.To):
				return g.goesOn(ctx, v.To, line.with(v.To))
			case v.flow == Result && !line.has(v.To):
				return g.callers(ctx, v.To, line.with(v.To))
			}
			return g.taken(ctx, f, v.At, line)
		}))
	}
	return all
}

// valueBranch is the branch of a place of a value.
func (g *Guide) valueBranch(ctx context.Context, v Answer, grow func(ctx context.Context, f *codebase.File) []Branch) Branch {
	b := Branch{Answer: v}
	if v.flow == PassedOn && v.To.Name != "" {
		b.Why = "to " + v.To.Name + " of " + v.To.Container
	}
	b.Grow = func(ctx context.Context) []Branch {
		f, err := g.code.Load(ctx, v.Path)
		if err != nil || f.Facts == nil {
			return nil
		}
		return grow(ctx, f)
	}
	return b
}

// sources are the names that stand in a part of a file from which a value is made, each
// with where it gets its own value; of a function that gives several, the part.
func (g *Guide) sources(ctx context.Context, f *codebase.File, in place.Range, line lineage, part int) (all []Branch) {
	src := f.Text.Bytes()
	reached := g.code.Languages().Of(f.Path).Members.Reached
	skip := uint32(0) // the arguments of a call that is known go into it
	for _, u := range f.Facts.Uses {
		if u.At.Start < in.Start || u.At.End > in.End || u.At.Start < skip {
			continue
		}
		rest := strings.TrimLeft(string(src[u.At.End:min(int(u.At.End)+3, len(src))]), "?! ")
		if slices.ContainsFunc(reached, func(sign string) bool { return strings.HasPrefix(rest, sign) }) {
			continue // a part of it is meant
		}
		res := g.resolver.Definition(ctx, f.Path, int(u.At.Start))
		if len(res.Answers) == 0 || path.IsAbs(res.Answers[0].Path) {
			continue
		}
		of := res.Answers[0]
		if of.Kind.IsType() || of.Kind == facts.Package {
			continue
		}
		if args, ok := g.code.Ground(ctx, f).Arguments(int(u.At.End)); ok && len(args) > 0 && of.Kind.IsCallable() {
			skip = args[len(args)-1].End
		}
		d := Standing(f, u.At)
		d.Role, d.Certainty = of.Kind.String(), of.Certainty
		b := Branch{Answer: d}
		b.Text, b.TextAt = of.Name, place.Range{}
		if of.Container != "" {
			b.Text = of.Container + "." + of.Name
		}
		if b.Again = line.has(of); !b.Again && of.Kind != facts.Constant && of.Kind != facts.EnumMember {
			b.Grow = func(ctx context.Context) []Branch { return g.comesFrom(ctx, of, line.with(of), part) }
		}
		all = append(all, b)
	}
	return all
}

// results are the places where a function says what it gives back, or what it gives for one of several parts.
func (g *Guide) results(ctx context.Context, of resolve.Answer, line lineage, part int) (all []Branch) {
	f, id := g.definitionOf(ctx, of)
	if f == nil {
		return nil
	}
	src, full := f.Text.Bytes(), f.Facts.Defs[id].Full
	for at := int(full.Start); at < int(full.End); {
		i := strings.Index(string(src[at:full.End]), "return")
		if i < 0 {
			break
		}
		start := at + i
		at = start + len("return")
		if _, prose := g.code.Ground(ctx, f).Runs.At(start); prose || !wholeWord(src, start, at) {
			continue
		}
		said := place.Range{Start: uint32(at), End: uint32(statementEnd(src, at))}
		handed := part
		if parts := listed(said.In(src)); part > 0 && len(parts) >= part && len(parts) > 1 {
			said = place.Range{Start: said.Start + parts[part-1].Start, End: said.Start + parts[part-1].End}
			handed = 0
		}
		d := Standing(f, place.Range{Start: uint32(start), End: uint32(at)})
		d.Role, d.Certainty = Result.String(), max(of.Certainty, resolve.Inferred)
		all = append(all, Branch{Answer: d, Grow: func(ctx context.Context) []Branch { return g.sources(ctx, f, said, line, handed) }})
	}
	return all
}

// callers are the calls of a function, whose result goes on from there.
func (g *Guide) callers(ctx context.Context, of resolve.Answer, line lineage) (all []Branch) {
	g.Ask(ctx, Question{Way: ToReferences, Path: of.Path, Offset: int(of.At.Start)}, func(refs []Answer) bool {
		for _, r := range refs {
			if r.Access != facts.Call {
				continue
			}
			v, read := r.flows(ReadHere, resolve.Answer{}), r
			read.Access = facts.Read
			if flow, to := g.goesTo(ctx, read); flow == Result {
				v = r.flows(flow, to)
			}
			b := g.valueBranch(ctx, v, func(ctx context.Context, f *codebase.File) []Branch {
				if v.flow == Result && !line.has(v.To) {
					return g.callers(ctx, v.To, line.with(v.To))
				}
				return g.taken(ctx, f, v.At, line)
			})
			if v.flow == ReadHere {
				b.Role = facts.Call.String()
			}
			all = append(all, b)
		}
		return len(all) < MostFound
	})
	return all
}

// taken finds what a value is assigned to where it is read, and where that goes.
func (g *Guide) taken(ctx context.Context, f *codebase.File, at place.Range, line lineage) (all []Branch) {
	src := f.Text.Bytes()
	start := statementStart(src, int(at.Start))
	said := string(src[start:at.Start])
	if !strings.Contains(said, "=") && !strings.Contains(said, ":") && !strings.Contains(said, "<-") {
		return nil
	}
	add := func(offset int) {
		res := g.resolver.Definition(ctx, f.Path, offset)
		if len(res.Answers) == 0 || path.IsAbs(res.Answers[0].Path) || line.has(res.Answers[0]) {
			return
		}
		of := res.Answers[0]
		d := Standing(f, place.Range{Start: uint32(offset), End: uint32(offset + len(of.Name))})
		d.Role, d.Text, d.TextAt, d.Certainty = of.Kind.String(), of.Name, place.Range{}, of.Certainty
		if of.Container != "" {
			d.Text = of.Container + "." + of.Name
		}
		all = append(all, Branch{Answer: d, Grow: func(ctx context.Context) []Branch { return g.goesOn(ctx, of, line.with(of)) }})
	}
	for i := range f.Facts.Defs {
		d := &f.Facts.Defs[i]
		if int(d.At.Start) >= start && d.At.End <= at.Start && (d.Kind.IsValue() || d.Kind == facts.Parameter) {
			add(int(d.At.Start))
		}
	}
	for _, u := range f.Facts.Uses {
		if int(u.At.Start) >= start && u.At.End <= at.Start && (u.Role == facts.Write || u.Role == facts.ReadWrite) {
			add(int(u.At.Start))
		}
	}
	return all
}

// wholeWord says whether a part of a text is no part of a longer word.
func wholeWord(src []byte, start, end int) bool {
	before, _ := utf8.DecodeLastRune(src[:start])
	behind, _ := utf8.DecodeRune(src[end:])
	return !text.InWord(before) && !text.InWord(behind)
}
