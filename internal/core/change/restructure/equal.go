package restructure

import (
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
)

// equal are the expressions in the same function that are written as another one, mean the same, and have the same
// value as far as can be told: nothing that is named in it is written between them.
func (s *scene) equal(x *expressed) (all []syntax.Node) {
	words := s.words(x.node)
	if len(words) == 0 {
		return nil
	}
	s.each(x.host, x.host.Range(), func(n syntax.Node) bool {
		if n.Index() != x.node.Index() && n.Named() && n.Type() == x.node.Type() && s.same(s.words(n), words) && s.isValue(s.around(n.Range())) == nil && s.meansTheSame(x, n) {
			all = append(all, n)
			return false
		}
		return true
	})
	return s.steady(x, all)
}

// word is one of the smallest parts of an expression.
type word struct {
	text string
	at   uint32
}

// words are the smallest parts of a node.
func (s *scene) words(n syntax.Node) (all []word) {
	leaf := true
	for c := range n.Children() {
		leaf = false
		all = append(all, s.words(c)...)
	}
	if leaf {
		return []word{{n.Text(), n.Range().Start}}
	}
	if s.Is(n, lang.Literal) || len(all) == 0 {
		return []word{{n.Text(), n.Range().Start}} // blanks count in it
	}
	return all
}

func (s *scene) same(a, b []word) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].text != b[i].text {
			return false
		}
	}
	return true
}

// meansTheSame says whether the names in two expressions that are written alike mean the same.
func (s *scene) meansTheSame(x *expressed, n syntax.Node) bool {
	a, b := s.words(x.node), s.words(n)
	for i := range a {
		if x.names.at[a[i].at] != x.names.at[b[i].at] || x.names.outer[a[i].at] != x.names.outer[b[i].at] {
			return false
		}
	}
	return true
}

// steady are those of some expressions, in order, between which and the one they equal nothing is written of which it
// is made, and nothing is called if calls could change it.
func (s *scene) steady(x *expressed, all []syntax.Node) (steady []syntax.Node) {
	harmless := s.harmless(x.node)
	for _, n := range all {
		a, b := x.node.Range(), n.Range()
		if b.Start < a.Start {
			a, b = b, a
		}
		between := place.Range{Start: a.End, End: b.Start}
		if s.writtenBetween(x, between) || !harmless && s.callsBetween(between) || s.sharesLoop(x, n) {
			continue
		}
		steady = append(steady, n)
	}
	return steady
}

func (s *scene) writtenBetween(x *expressed, between place.Range) bool {
	for start, v := range x.names.at {
		if !inside(place.Range{Start: start, End: start}, x.node.Range()) {
			continue
		}
		for _, o := range v.all {
			if o.writes && inside(o.at, between) {
				return true
			}
		}
	}
	return false
}

// callsBetween says whether something is called in a range, or a place is written that is no variable.
func (s *scene) callsBetween(between place.Range) (calls bool) {
	s.each(s.tree.Root(), between, func(n syntax.Node) bool {
		if inside(n.Range(), between) && n.Named() {
			calls = calls || s.Is(n, lang.Invokes)
			for c := range n.NamedChildren() {
				calls = calls || s.Place(n, c) && s.Is(s.firstOf(c), lang.Reach)
			}
		}
		return !calls
	})
	return calls
}

// firstOf is what a list of values begins with.
func (s *scene) firstOf(n syntax.Node) syntax.Node {
	if s.Is(n, lang.Several) {
		return firstPart(n)
	}
	return n
}

// sharesLoop says whether an expression stands in a loop that the other does not, in which something of it is written.
func (s *scene) sharesLoop(x *expressed, n syntax.Node) bool {
	for _, around := range s.tree.Around(n.Range()) {
		if s.Is(around, lang.Loop|lang.Function) && !inside(x.node.Range(), around.Range()) && s.writtenIn(around, x) {
			return true
		}
	}
	return false
}

// edits have a name stand in the place of some nodes.
func edits(nodes []syntax.Node, name string) (all []text.Edit) {
	for _, n := range nodes {
		all = append(all, text.Edit{Start: int(n.Range().Start), End: int(n.Range().End), New: []byte(name)})
	}
	return all
}
