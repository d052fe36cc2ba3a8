package serve

import (
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
)

// position is the place of a request that is about one.
func (c *call) position() (*spot, error) {
	p, err := read[protocol.TextDocumentPositionParams](c)
	if err != nil {
		return nil, err
	}
	return c.at(p.TextDocument.URI, p.Position)
}

// definition answers where a name is defined.
func (c *call) definition() (any, error) {
	return c.leading(answer.ToDefinition, c.client.TextDocument.Definition)
}

// typeDefinition answers where the type of a value is defined.
func (c *call) typeDefinition() (any, error) {
	return c.leading(answer.ToType, c.client.TextDocument.TypeDefinition)
}

func (c *call) leading(way answer.Way, as links) (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	res, found, err := c.near(s, way)
	if err != nil {
		return nil, err
	}
	return c.led(s, res, found, as), nil
}

// declaration answers where something is declared that is written out elsewhere, else where it is defined.
func (c *call) declaration() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	res, found, err := c.near(s, answer.ToDefinition)
	if err != nil {
		return nil, err
	}
	d := s.ws.Answers.Describe(c.ctx, s.path, s.offset)
	switch {
	case d.Candidates == 0:
	case d.OnlyDeclared:
		found = []answer.Answer{d.Best}
	case d.Twin.Path != "":
		found = []answer.Answer{d.Twin}
	}
	return c.led(s, res, found, c.client.TextDocument.Declaration), nil
}

// implementation answers what implements a type or a method.
func (c *call) implementation() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	res, found, err := c.all(s, answer.Question{Way: answer.ToImplementations})
	if err != nil {
		return nil, err
	}
	return c.led(s, res, sure(found), c.client.TextDocument.Implementation), nil
}

// sure are the answers that are not only possible.
func sure(found []answer.Answer) (all []answer.Answer) {
	for _, a := range found {
		if !a.Possible {
			all = append(all, a)
		}
	}
	return all
}

// led are answers as the client wants them: with the name that was asked about and all of what is defined there, or where they lie.
func (c *call) led(s *spot, res resolve.Result, found []answer.Answer, as links) any {
	if !as.LinkSupport {
		return c.locations(s.folder, found)
	}
	all := make([]protocol.LocationLink, 0, len(found))
	var origin *protocol.Range
	if res.Name != "" && res.At.Len() > 0 {
		at := s.lines.span(res.At)
		origin = &at
	}
	for i := range found {
		a := &found[i]
		if where, ok := c.answeredAt(s.folder, a); ok {
			whole := where.Range
			if a.At.Len() > 0 {
				whole = c.linesIn(s.folder, a.Path).span(c.whole(s.folder, a.Path, a.At))
			}
			all = append(all, protocol.LocationLink{OriginSelectionRange: origin, TargetURI: where.URI, TargetRange: whole, TargetSelectionRange: where.Range})
		}
	}
	return all
}

// references answers where something is used.
func (c *call) references() (any, error) {
	p, err := read[protocol.ReferenceParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.at(p.TextDocument.URI, p.Position)
	if s == nil || err != nil {
		return nil, err
	}
	return c.usesOf(s, p.Context.IncludeDeclaration)
}

func (c *call) usesOf(s *spot, declaration bool) ([]protocol.Location, error) {
	q := answer.Question{Way: answer.ToReferences, Path: s.path, Offset: s.offset}
	if c.partial == nil {
		res, found, err := c.all(s, q)
		if declaration {
			found = append(definitionsIn(res, found), found...)
		}
		return c.locations(s.folder, found), err
	}
	if err := c.ready(s.folder, true); err != nil {
		return nil, err
	}
	var told []answer.Answer
	res := s.ws.Answers.Ask(c.ctx, q, func(some []answer.Answer) bool {
		told = append(told, some...)
		return c.send(c.locations(s.folder, some)) && len(told) < answer.MostFound
	})
	if declaration {
		c.send(c.locations(s.folder, definitionsIn(res, told)))
	}
	return []protocol.Location{}, nil
}

// definitionsIn are the definitions of what was asked about that are not among its uses.
func definitionsIn(res resolve.Result, uses []answer.Answer) (all []answer.Answer) {
	known := map[symbolAt]bool{}
	for _, u := range uses {
		known[symbolAt{u.Path, u.At}] = true
	}
	for _, a := range res.Answers {
		if !known[symbolAt{a.Path, a.At}] {
			all = append(all, answer.Answer{Answer: a, Line: 1, Col: 1})
		}
	}
	return all
}

type symbolAt struct {
	path string
	at   place.Range
}

// highlights answers where in its file a name means the same.
func (c *call) highlights() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	all := []protocol.DocumentHighlight{}
	if s.file.Facts == nil {
		return all, nil
	}
	res, found, err := c.near(s, answer.ToDefinition)
	if err != nil || res.Name == "" {
		return all, err
	}
	roles := alike(s.file.Facts, res.Name)
	var offsets []int
	var places []place.Range
	for at := range roles {
		offsets, places = append(offsets, int(at.Start)), append(places, at)
	}
	means := s.ws.Answers.Meanings(c.ctx, s.path, offsets)
	for i, at := range places {
		if len(found) == 0 || found[0].Certainty == resolve.ByName || means[i].Path == found[0].Path && means[i].At == found[0].At {
			all = append(all, protocol.DocumentHighlight{Range: s.lines.span(at), Kind: highlightOf(roles[at])})
		}
	}
	return all, c.ctx.Err()
}

// alike are the places of a file where a name stands, with what is done with it there.
func alike(f *facts.File, name string) map[place.Range]facts.Role {
	all := map[place.Range]facts.Role{}
	for i := range f.Defs {
		if f.Defs[i].Name == name {
			all[f.Defs[i].At] = facts.Write
		}
	}
	for i := range f.Uses {
		if u := &f.Uses[i]; u.Name == name {
			all[u.At] = u.Role
		}
	}
	return all
}

func highlightOf(r facts.Role) protocol.DocumentHighlightKind {
	switch r {
	case facts.Write, facts.ReadWrite:
		return protocol.DocumentHighlightKindWrite
	case facts.Read, facts.Call:
		return protocol.DocumentHighlightKindRead
	}
	return protocol.DocumentHighlightKindText
}
