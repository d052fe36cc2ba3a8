package serve

import (
	"encoding/json"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
)

// item is a function or type in a hierarchy: CallHierarchyItem and, since version 3.17, TypeHierarchyItem, which are alike.
type item struct {
	Name           string               `json:"name"`
	Kind           protocol.SymbolKind  `json:"kind"`
	Detail         string               `json:"detail,omitempty"`
	URI            protocol.DocumentURI `json:"uri"`
	Range          protocol.Range       `json:"range"`
	SelectionRange protocol.Range       `json:"selectionRange"`
	Data           *itemData            `json:"data,omitempty"`
}

// itemData goes along with an item.
type itemData struct {
	Certainty string `json:"certainty"`
	// Through is the method through which it may be called, if it is not said outright.
	Through string `json:"through,omitempty"`
}

// item makes an entry of what an answer leads to.
func (c *call) item(f *folder, a *answer.Answer) (one item, ok bool) {
	where, ok := c.answeredAt(f, a)
	if !ok {
		return one, false
	}
	whole := c.linesIn(f, a.Path).span(c.whole(f, a.Path, a.At))
	return item{a.Name, symbolKind(a.Kind), a.Container, where.URI, whole, where.Range, &itemData{a.Certainty.String(), a.Through}}, true
}

// prepareCalls answers the functions that a place means.
func (c *call) prepareCalls() (any, error) {
	return c.prepareItems(func(a *answer.Answer) bool { return a.Kind.IsCallable() })
}

// prepareTypes answers the types and methods that a place means.
func (c *call) prepareTypes() (any, error) {
	return c.prepareItems(func(a *answer.Answer) bool { return a.Kind.IsType() || a.Kind.IsCallable() && a.Container != "" })
}

func (c *call) prepareItems(wanted func(*answer.Answer) bool) (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	_, found, err := c.near(s, answer.ToDefinition)
	if err != nil {
		return nil, err
	}
	var all []item // null if there are none, as the protocol has it
	for i := range found {
		if one, ok := c.item(s.folder, &found[i]); ok && wanted(&found[i]) {
			all = append(all, one)
		}
	}
	return all, nil
}

// itemParams ask about an item.
type itemParams struct {
	Item item `json:"item"`
}

// ofItem is the place of the item that a request is about.
func (c *call) ofItem() (*spot, error) {
	var p itemParams
	if err := json.Unmarshal(c.params, &p); err != nil || p.Item.URI == "" {
		return nil, refused(jsonrpc2.InvalidParams, "%s asks about no item", c.method)
	}
	return c.at(p.Item.URI, p.Item.SelectionRange.Start)
}

// incomingCalls answers what calls a function, with the places of the calls.
func (c *call) incomingCalls() (any, error) { return c.calls(answer.ToCallers, "from") }

// outgoingCalls answers what a function calls.
func (c *call) outgoingCalls() (any, error) { return c.calls(answer.ToCalled, "to") }

// calls answers what is at the other side of calls, which the protocol calls as side says.
func (c *call) calls(way answer.Way, side string) (any, error) {
	s, found, err := c.asked(answer.Question{Way: way})
	all := []map[string]any{}
	for i := range found {
		if one, ok := c.item(s.folder, &found[i]); ok {
			all = append(all, map[string]any{side: one, "fromRanges": c.sites(s.folder, found[i].Sites)})
		}
	}
	return all, err
}

// asked asks a question about the item of a request; only what is sure is an answer.
func (c *call) asked(q answer.Question) (*spot, []answer.Answer, error) {
	s, err := c.ofItem()
	if s == nil || err != nil {
		return nil, nil, err
	}
	_, found, err := c.all(s, q)
	return s, sure(found), err
}

// sites are the names at the places of calls.
func (c *call) sites(f *folder, places []place.Place) []protocol.Range {
	all := []protocol.Range{}
	for _, p := range places {
		l := c.linesIn(f, p.Path)
		if l == nil {
			continue
		}
		at := l.doc.Offset(p.Line, p.Col)
		_, end := text.WordAround(l.doc.Line(p.Line), p.Col-1)
		all = append(all, l.span(place.Range{Start: uint32(at), End: uint32(max(at, l.doc.Offset(p.Line, end+1)))}))
	}
	return all
}

// supertypes answers what a type or method is derived from.
func (c *call) supertypes() (any, error) {
	return c.kin(answer.Question{Way: answer.ToSupers, Level: resolve.Level(false)})
}

// subtypes answers what is derived from a type or method.
func (c *call) subtypes() (any, error) {
	return c.kin(answer.Question{Way: answer.ToSubs, Level: resolve.Level(false)})
}

func (c *call) kin(q answer.Question) (any, error) {
	s, found, err := c.asked(q)
	all := []item{}
	for i := range found {
		if one, ok := c.item(s.folder, &found[i]); ok {
			all = append(all, one)
		}
	}
	return all, err
}
