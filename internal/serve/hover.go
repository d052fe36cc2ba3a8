package serve

import (
	"fmt"
	"slices"
	"strings"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
)

// hover tells about the name at a place.
func (c *call) hover() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	if _, _, err := c.near(s, answer.ToDefinition); err != nil { // which waits if it has to
		return nil, err
	}
	d := s.ws.Answers.Describe(c.ctx, s.path, s.offset)
	if d.Candidates == 0 {
		return nil, nil
	}
	h := protocol.Hover{Contents: c.told(s, &d)}
	if d.At.Len() > 0 {
		at := s.lines.span(d.At)
		h.Range = &at
	}
	return &h, nil
}

// told is what is to be told about a name: how it is defined, its documentation, where that is and how certain.
func (c *call) told(s *spot, d *answer.Description) protocol.MarkupContent {
	var b strings.Builder
	plain := !slices.Contains(c.client.TextDocument.Hover.ContentFormat, protocol.Markdown)
	if plain {
		b.WriteString(d.Signature)
	} else {
		fence := "```"
		for strings.Contains(d.Signature, fence) {
			fence += "`"
		}
		fmt.Fprintf(&b, "%s%s\n%s\n%s", fence, languageID(s, d.Best.Path), d.Signature, fence)
	}
	if d.Doc != "" {
		b.WriteString("\n\n" + d.Doc)
	}
	b.WriteString("\n\n")
	where := fmt.Sprintf("%s:%d", d.Best.Path, d.Best.Line)
	if !plain {
		where = "`" + where + "`"
	}
	b.WriteString(d.Best.What() + " in " + where)
	if d.Best.Certainty != resolve.Exact {
		b.WriteString(", " + d.Best.Certainty.String())
	}
	if d.Candidates > 1 {
		fmt.Fprintf(&b, ", one of %d", d.Candidates)
	}
	if plain {
		return protocol.MarkupContent{Kind: protocol.PlainText, Value: b.String()}
	}
	return protocol.MarkupContent{Kind: protocol.Markdown, Value: b.String()}
}

// languageID is what clients call the language of a file.
func languageID(s *spot, path string) string {
	if l := s.ws.Code.Languages().Of(path); l != nil {
		return l.ID()
	}
	return ""
}

// signature tells about the call in whose brackets a place is.
func (c *call) signature() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	found, ok := s.ws.Answers.CallAround(c.ctx, s.file, s.offset)
	if !ok && !s.ws.Code.Progress().Done {
		if err := c.ready(s.folder, true); err != nil {
			return nil, err
		}
		found, ok = s.ws.Answers.CallAround(c.ctx, s.file, s.offset)
	}
	if !ok {
		return nil, nil
	}
	info := signatureInformation{Label: found.Signature, Documentation: found.Summary}
	for _, at := range found.Parameters {
		info.Parameters = append(info.Parameters, parameter{c.label(found.Signature, at)})
	}
	return &signatureHelp{Signatures: []signatureInformation{info}, ActiveParameter: max(found.Number-1, 0)}, nil
}

// label tells a parameter of a signature: by where it stands, in UTF-16 whatever positions count, or by its words.
func (c *call) label(signature string, at place.Range) any {
	if !c.client.TextDocument.SignatureHelp.SignatureInformation.ParameterInformation.LabelOffsetSupport {
		return string(at.In([]byte(signature)))
	}
	return []int{utf16Units.count([]byte(signature[:at.Start])), utf16Units.count([]byte(signature[:at.End]))}
}

// signatureHelp is like that of the package, but that the first parameter is told, too, and may be told by where it stands.
type signatureHelp struct {
	Signatures      []signatureInformation `json:"signatures"`
	ActiveSignature int                    `json:"activeSignature"`
	ActiveParameter int                    `json:"activeParameter"`
}

type signatureInformation struct {
	Label         string      `json:"label"`
	Documentation string      `json:"documentation,omitempty"`
	Parameters    []parameter `json:"parameters"`
}

type parameter struct {
	Label any `json:"label"`
}
