package serve

import (
	"bytes"
	"cmp"
	"slices"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
)

// The types of tokens, by their numbers in the legend.
const (
	tokenKeyword = iota
	tokenString
	tokenNumber
	tokenComment
	tokenType
	tokenClass
	tokenStruct
	tokenInterface
	tokenEnum
	tokenTypeParameter
	tokenFunction
	tokenMethod
	tokenProperty
	tokenVariable
	tokenParameter
	tokenEnumMember
	tokenNamespace
	tokenMacro
	tokenEvent
)

// The modifiers of tokens, as bits.
const (
	tokenDefined = 1 << iota
	tokenReadonly
	tokenModified
)

// legend names them.
var legend = protocol.SemanticTokensLegend{
	TokenTypes: []protocol.SemanticTokenTypes{
		protocol.SemanticTokenKeyword, protocol.SemanticTokenString, protocol.SemanticTokenNumber, protocol.SemanticTokenComment,
		protocol.SemanticTokenType, protocol.SemanticTokenClass, protocol.SemanticTokenStruct, protocol.SemanticTokenInterface,
		protocol.SemanticTokenEnum, protocol.SemanticTokenTypeParameter, protocol.SemanticTokenFunction, protocol.SemanticTokenMethod,
		protocol.SemanticTokenProperty, protocol.SemanticTokenVariable, protocol.SemanticTokenParameter, protocol.SemanticTokenEnumMember,
		protocol.SemanticTokenNamespace, protocol.SemanticTokenMacro, protocol.SemanticTokenEvent,
	},
	TokenModifiers: []protocol.SemanticTokenModifiers{protocol.SemanticTokenModifierDefinition, protocol.SemanticTokenModifierReadonly, protocol.SemanticTokenModifierModification},
}

// tokenTypes are the types of tokens by what a name means.
var tokenTypes = map[facts.Kind]int{
	facts.Class: tokenClass, facts.Struct: tokenStruct, facts.Union: tokenStruct, facts.Interface: tokenInterface, facts.Trait: tokenInterface,
	facts.Enum: tokenEnum, facts.Type: tokenType, facts.TypeParameter: tokenTypeParameter, facts.Function: tokenFunction, facts.Method: tokenMethod,
	facts.Constructor: tokenMethod, facts.Field: tokenProperty, facts.Property: tokenProperty, facts.Key: tokenProperty, facts.Variable: tokenVariable,
	facts.Constant: tokenVariable, facts.Parameter: tokenParameter, facts.EnumMember: tokenEnumMember, facts.Package: tokenNamespace,
	facts.Namespace: tokenNamespace, facts.Module: tokenNamespace, facts.Macro: tokenMacro, facts.Event: tokenEvent, facts.Message: tokenStruct,
	facts.Service: tokenInterface, facts.Table: tokenStruct, facts.View: tokenStruct, facts.Procedure: tokenFunction,
}

// painted are the types of tokens by how a part of a text is drawn.
var painted = map[highlight.Role]int{
	highlight.Keyword: tokenKeyword, highlight.String: tokenString, highlight.Number: tokenNumber, highlight.Comment: tokenComment,
	highlight.Type: tokenType, highlight.Function: tokenFunction, highlight.Defined: tokenFunction,
}

// token is a part of a text with what it is.
type token struct {
	at              place.Range
	kind, modifiers int
}

// tokens answers what the parts of a file are: names by what they mean.
func (c *call) tokens() (any, error) {
	p, err := read[struct {
		TextDocument protocol.TextDocumentIdentifier `json:"textDocument"`
		Range        *protocol.Range                 `json:"range"`
	}](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil {
		return nil, err
	}
	part := place.Range{End: uint32(s.file.Text.Len())}
	if p.Range != nil {
		part = s.lines.bytesOf(*p.Range)
	}
	all := c.meant(s, part)
	named := len(all)
	spans := highlight.Text(c.ctx, s.path, s.file.Text.Bytes(), 0, s.file.Facts)
	for _, span := range spans.From(int(part.Start)) {
		at := place.Range{Start: uint32(span.Start), End: uint32(span.End)}
		if kind, ok := painted[span.Role]; ok && at.Start < part.End {
			for _, piece := range between(all[:named], at) {
				all = append(all, token{at: piece, kind: kind})
			}
		}
	}
	slices.SortFunc(all, func(a, b token) int { return cmp.Compare(a.at.Start, b.at.Start) })
	return map[string]any{"data": s.numbers(all)}, c.ctx.Err()
}

// between are the pieces of a part of a text that none of some tokens takes, which are in order.
func between(all []token, at place.Range) (pieces []place.Range) {
	i, _ := slices.BinarySearchFunc(all, at.Start, func(t token, start uint32) int { return cmp.Compare(t.at.End, start+1) })
	for ; i < len(all) && all[i].at.Start < at.End; i++ {
		if all[i].at.Start > at.Start {
			pieces = append(pieces, place.Range{Start: at.Start, End: all[i].at.Start})
		}
		at.Start = all[i].at.End
	}
	if at.Start < at.End {
		pieces = append(pieces, at)
	}
	return pieces
}

// meant are the names of a part of a file, in order, of which it is known what they mean.
func (c *call) meant(s *spot, part place.Range) (all []token) {
	f := s.file.Facts
	if f == nil {
		return nil
	}
	for i := range f.Defs {
		d := &f.Defs[i]
		if kind, ok := tokenTypes[d.Kind]; ok && part.Covers(d.At) && d.At.Len() > 0 {
			all = append(all, token{d.At, kind, tokenDefined | readonly(d.Kind)})
		}
	}
	var offsets []int
	var uses []*facts.Use
	for i := range f.Uses {
		if u := &f.Uses[i]; part.Covers(u.At) && u.At.Len() > 0 {
			offsets, uses = append(offsets, int(u.At.Start)), append(uses, u)
		}
	}
	for i, a := range s.ws.Answers.Meanings(c.ctx, s.path, offsets) {
		if kind, ok := tokenTypes[a.Kind]; ok && a.Path != "" {
			t := token{uses[i].At, kind, readonly(a.Kind)}
			if uses[i].Role == facts.Write || uses[i].Role == facts.ReadWrite {
				t.modifiers |= tokenModified
			}
			all = append(all, t)
		}
	}
	slices.SortStableFunc(all, func(a, b token) int { return cmp.Compare(a.at.Start, b.at.Start) })
	return apart(all)
}

func readonly(k facts.Kind) int {
	if k == facts.Constant {
		return tokenReadonly
	}
	return 0
}

// apart are the tokens, which are in order, that do not overlap with one before.
func apart(all []token) (some []token) {
	for _, t := range all {
		if len(some) == 0 || some[len(some)-1].at.End <= t.at.Start {
			some = append(some, t)
		}
	}
	return some
}

// numbers are tokens as they are sent: five numbers each, from where the one before begins. A token of several lines is one for each.
func (s *spot) numbers(all []token) []uint32 {
	out := make([]uint32, 0, 5*len(all))
	var before protocol.Position
	for _, t := range all {
		for start := int(t.at.Start); start < int(t.at.End); {
			piece := s.file.Text.Slice(start, int(t.at.End))
			end := bytes.IndexAny(piece, "\r\n")
			if end < 0 {
				end = len(piece)
			}
			if length := s.lines.units.count(piece[:end]); length > 0 {
				at := s.lines.position(start)
				column := at.Character
				if at.Line == before.Line {
					column -= before.Character
				}
				out = append(out, at.Line-before.Line, column, uint32(length), uint32(t.kind), uint32(t.modifiers))
				before = at
			}
			start += end + 1
		}
	}
	return out
}
