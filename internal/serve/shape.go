package serve

import (
	"cmp"
	"slices"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
)

// foldingRanges answers which lines of a file can be folded away.
func (c *call) foldingRanges() (any, error) {
	p, err := read[protocol.FoldingRangeParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil {
		return nil, err
	}
	all := []protocol.FoldingRange{}
	for _, r := range s.file.Regions() {
		kind := protocol.FoldingRangeKind("")
		switch r.Kind {
		case fold.Comment:
			kind = protocol.CommentFoldingRange
		case fold.Imports:
			kind = protocol.ImportsFoldingRange
		case fold.Section:
			kind = protocol.RegionFoldingRange
		}
		first, last := s.lineOf(r.Line), s.lineOf(r.Last)
		all = append(all, protocol.FoldingRange{StartLine: first, EndLine: last, Kind: kind})
	}
	return all, nil
}

// lineOf is what the protocol calls a line of the text, which is counted from 1.
func (s *spot) lineOf(line int) uint32 { return s.lines.position(s.file.Text.Offset(line, 1)).Line }

// selectionRange is a piece of a text within larger ones.
type selectionRange struct {
	Range  protocol.Range  `json:"range"`
	Parent *selectionRange `json:"parent,omitempty"`
}

// mostGrown bounds how often a selection grows.
const mostGrown = 200

// selectionRanges answers to what selections at some places grow.
func (c *call) selectionRanges() (any, error) {
	p, err := read[protocol.SelectionRangeParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil {
		return nil, err
	}
	ground := s.ws.Code.Ground(c.ctx, s.file)
	all := []*selectionRange{}
	for _, at := range p.Positions {
		offset := uint32(s.lines.offset(at))
		pieces := []place.Range{{Start: offset, End: offset}}
		for len(pieces) < mostGrown && c.ctx.Err() == nil {
			grown, ok := ground.Grow(pieces[len(pieces)-1])
			if !ok {
				break
			}
			pieces = append(pieces, grown)
		}
		var one *selectionRange
		for _, piece := range slices.Backward(pieces) {
			one = &selectionRange{s.lines.span(piece), one}
		}
		all = append(all, one)
	}
	return all, nil
}

// links answers where imports and includes of a file lead.
func (c *call) links() (any, error) {
	p, err := read[protocol.DocumentLinkParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil || s.file.Facts == nil {
		return nil, err
	}
	all, seen := []protocol.DocumentLink{}, map[place.Range]bool{}
	for i := range s.file.Facts.Imports {
		at := s.file.Facts.Imports[i].At
		if seen[at] || at.Len() == 0 {
			continue
		}
		seen[at] = true
		here := *s
		here.offset = int(at.Start)
		_, found, err := c.near(&here, answer.ToDefinition)
		if err != nil {
			return nil, err
		}
		if len(found) > 0 && found[0].Path != s.path {
			all = append(all, protocol.DocumentLink{Range: s.lines.span(at), Target: protocol.DocumentURI(c.uri(s.folder, found[0].Path)), Tooltip: found[0].Path})
		}
	}
	slices.SortFunc(all, func(a, b protocol.DocumentLink) int {
		return cmp.Or(cmp.Compare(a.Range.Start.Line, b.Range.Start.Line), cmp.Compare(a.Range.Start.Character, b.Range.Start.Character))
	})
	return all, nil
}
