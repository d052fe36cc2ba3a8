package answer

import (
	"context"
	"path"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Tree is a question whose answer is a tree that opens level by level.
type Tree uint8

// The trees.
const (
	// Kin is what a type or method is derived from or overrides, what is derived from
	// it, and what is derived from the same.
	Kin Tree = iota
	// Incoming are the functions that call it, those that call these, and so on;
	// Outgoing what it calls.
	Incoming
	Outgoing
	// Flows are where a value comes from, and where it goes to, step by step.
	Flows
)

// Branch is one entry of a tree.
type Branch struct {
	Answer
	// Group is the heading under which it stands on the first level.
	Group string
	// Present says that it is what was asked about.
	Present bool
	// Outside says that it belongs to a library; Again that it is one of those from
	// which one came to it, as in a recursion.
	Outside, Again bool
	// Grow finds what is below it; nil if nothing can be.
	Grow func(ctx context.Context) []Branch
}

// The headings of the first level: of types, of methods, of values.
var (
	typeGroups   = kinGroups{"derived from", "this type", "derived from it", "derived from the same"}
	methodGroups = kinGroups{"overrides or implements", "this method", "overridden or implemented by", "the same in other types"}
)

type kinGroups struct{ above, here, below, beside string }

// The headings of the first level of Flows.
const (
	FlowsFrom = "where the value comes from"
	FlowsTo   = "where it goes to"
)

// Branches finds the first level of a tree for the name at a byte offset of a file.
func (g *Guide) Branches(ctx context.Context, tree Tree, p string, offset int) (resolve.Result, []Branch) {
	res := g.resolver.Definition(ctx, p, offset)
	if len(res.Answers) == 0 {
		return res, nil
	}
	best := res.Answers[0]
	switch at := int(best.At.Start); tree {
	case Kin:
		return res, g.kin(ctx, best)
	case Incoming, Outgoing:
		if !best.Kind.IsCallable() {
			return res, nil
		}
		return res, g.callBranches(ctx, tree, best.Path, at, lineage{}.with(best))
	default:
		return res, g.flows(ctx, best)
	}
}

// lineage are the definitions by which one came to a branch.
type lineage struct {
	last resolve.Answer
	more *lineage
}

func (l lineage) with(a resolve.Answer) lineage { return lineage{a, &l} }

func (l lineage) has(a resolve.Answer) bool {
	for at := &l; at != nil; at = at.more {
		if at.last.Path == a.Path && at.last.At == a.At && at.last.Name != "" {
			return true
		}
	}
	return false
}

// branchOf is the branch of a definition.
func branchOf(a Answer) Branch { return Branch{Answer: a, Outside: path.IsAbs(a.Path)} }

// kin finds what is above, below and beside a type or method.
func (g *Guide) kin(ctx context.Context, of resolve.Answer) (all []Branch) {
	group := func(name string, branches []Branch) {
		for _, b := range branches {
			b.Group = name
			all = append(all, b)
		}
	}
	groups := methodGroups
	if of.Kind.IsType() {
		groups = typeGroups
	}
	above := g.related(ctx, true, of, lineage{}.with(of))
	group(groups.above, above)
	below := g.related(ctx, false, of, lineage{}.with(of))
	siblings := g.siblingsOf(ctx, of, above)
	if len(above)+len(below)+len(siblings) == 0 {
		return nil
	}
	for _, s := range g.defined(ctx, []resolve.Answer{of}) {
		b := branchOf(s)
		b.Present = true
		group(groups.here, []Branch{b})
	}
	group(groups.below, below)
	group(groups.beside, siblings)
	return all
}

// related finds what is directly above or below a type or method.
func (g *Guide) related(ctx context.Context, up bool, of resolve.Answer, line lineage) (all []Branch) {
	ask := g.resolver.Subtypes
	if up {
		ask = g.resolver.Supertypes
	}
	res := ask(ctx, of.Path, int(of.At.Start), resolve.Direct)
	for _, s := range g.defined(ctx, res.Answers) {
		b := branchOf(s)
		if b.Again = line.has(s.Answer); !b.Again {
			b.Grow = func(ctx context.Context) []Branch { return g.related(ctx, up, s.Answer, line.with(s.Answer)) }
		}
		all = append(all, b)
	}
	if up {
		all = append(all, g.unknownSupers(ctx, of)...)
	}
	return all
}

// unknownSupers are the types above whose definition is not within reach, as they are
// named where that is said.
func (g *Guide) unknownSupers(ctx context.Context, of resolve.Answer) (all []Branch) {
	for _, u := range g.resolver.UnknownSupers(ctx, of.Path, int(of.At.Start)) {
		f, err := g.code.Load(ctx, u.Path)
		if err != nil || u.At.Len() == 0 {
			continue
		}
		d := Standing(f, u.At)
		d.Name, d.Text, d.TextAt = u.Name, u.Name, place.Range{}
		d.Role, d.In, d.Why = "outside", resolve.Answer{}, "named here, defined outside"
		all = append(all, Branch{Answer: d, Outside: true})
	}
	return all
}

// siblingsOf are the others directly below what is directly above.
func (g *Guide) siblingsOf(ctx context.Context, of resolve.Answer, above []Branch) (all []Branch) {
	seen := map[place.Place]bool{{Path: of.Path, Line: int(of.At.Start)}: true}
	for _, b := range above {
		if b.Outside && b.Grow == nil {
			continue
		}
		res := g.resolver.Subtypes(ctx, b.Path, int(b.At.Start), resolve.Direct)
		for _, s := range g.defined(ctx, res.Answers) {
			key := place.Place{Path: s.Path, Line: int(s.At.Start)}
			if seen[key] || path.IsAbs(s.Path) {
				continue
			}
			seen[key] = true
			sibling := branchOf(s)
			sibling.Why = "as " + b.Symbol
			sibling.Grow = func(ctx context.Context) []Branch {
				return g.related(ctx, false, s.Answer, lineage{}.with(of).with(s.Answer))
			}
			all = append(all, sibling)
		}
	}
	return all
}

// callBranches finds who calls what is defined at an offset, or what that calls.
func (g *Guide) callBranches(ctx context.Context, tree Tree, p string, offset int, line lineage) (all []Branch) {
	way := ToCalled
	if tree == Incoming {
		way = ToCallers
	}
	g.Ask(ctx, Question{Way: way, Path: p, Offset: offset}, func(some []Answer) bool {
		for _, c := range some {
			all = append(all, g.callBranch(ctx, tree, c, line))
		}
		return true
	})
	return all
}

// callBranch is a function that calls, at its first call, or one that is called, where
// it is defined.
func (g *Guide) callBranch(ctx context.Context, tree Tree, c Answer, line lineage) Branch {
	b := branchOf(c)
	b.Text, b.TextAt = b.Symbol, place.Range{}
	var sites []Branch
	for _, s := range c.Sites {
		f, err := g.code.Load(ctx, s.Path)
		if err != nil {
			continue // it has gone since
		}
		at := nameAt(f, f.Text.Offset(s.Line, s.Col))
		d := Standing(f, at)
		d.Role, d.Symbol, d.Certainty = "at", b.Symbol, c.Certainty
		if tree == Outgoing {
			d.Symbol = codebase.SymbolAround(f, d.Line, d.Col)
		}
		sites = append(sites, Branch{Answer: d})
	}
	if tree == Incoming && len(sites) > 0 { // the function is gone to where it calls
		at := sites[0].Answer
		b.Path, b.Line, b.Col, b.At, b.Test = at.Path, at.Line, at.Col, at.At, at.Test
		if c.Name == "" {
			b.Role, b.Text, b.TextAt, b.Symbol = "at", at.Text, at.TextAt, ""
			return b
		}
	}
	switch b.Again = line.has(c.Answer); {
	case b.Again || b.Outside && tree == Outgoing:
		b.Grow = func(context.Context) []Branch { return sites }
	default:
		b.Grow = func(ctx context.Context) []Branch {
			return append(sites[:len(sites):len(sites)], g.callBranches(ctx, tree, c.Path, int(c.At.Start), line.with(c.Answer))...)
		}
	}
	return b
}

// nameAt is the name at an offset of a file, or nothing at it.
func nameAt(f *codebase.File, offset int) place.Range {
	if f.Facts != nil {
		if u, ok := f.Facts.UseAt(offset); ok {
			return u.At
		}
	}
	return place.Range{Start: uint32(offset), End: uint32(offset)}
}
