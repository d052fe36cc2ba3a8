package serve

import (
	"fmt"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// completionKinds are what the protocol calls kinds of definitions when it completes names.
var completionKinds = map[facts.Kind]protocol.CompletionItemKind{
	facts.Class: protocol.CompletionItemKindClass, facts.Struct: protocol.CompletionItemKindStruct, facts.Union: protocol.CompletionItemKindStruct,
	facts.Interface: protocol.CompletionItemKindInterface, facts.Trait: protocol.CompletionItemKindInterface, facts.Enum: protocol.CompletionItemKindEnum,
	facts.Type: protocol.CompletionItemKindClass, facts.TypeParameter: protocol.CompletionItemKindTypeParameter,
	facts.Function: protocol.CompletionItemKindFunction, facts.Method: protocol.CompletionItemKindMethod, facts.Constructor: protocol.CompletionItemKindConstructor,
	facts.Field: protocol.CompletionItemKindField, facts.Property: protocol.CompletionItemKindProperty, facts.Variable: protocol.CompletionItemKindVariable,
	facts.Parameter: protocol.CompletionItemKindVariable, facts.Constant: protocol.CompletionItemKindConstant, facts.Macro: protocol.CompletionItemKindConstant,
	facts.EnumMember: protocol.CompletionItemKindEnumMember, facts.Package: protocol.CompletionItemKindModule,
	facts.Namespace: protocol.CompletionItemKindModule, facts.Module: protocol.CompletionItemKindModule, facts.Event: protocol.CompletionItemKindEvent,
}

// completion answers names that go on the word at a place.
func (c *call) completion() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	start := text.WordBefore(s.file.Text.Bytes(), s.offset)
	word := string(s.file.Text.Slice(start, s.offset))
	list := protocol.CompletionList{IsIncomplete: true, Items: []protocol.CompletionItem{}}
	if word == "" {
		return &list, nil
	}
	at := s.lines.span(place.Range{Start: uint32(start), End: uint32(s.offset)})
	for i, name := range s.ws.Search.Complete(c.ctx, s.path, s.file.Text, s.offset, word) {
		one := protocol.CompletionItem{Label: name, Kind: protocol.CompletionItemKindText, SortText: fmt.Sprintf("%04d", i), FilterText: name, TextEdit: &protocol.TextEdit{Range: at, NewText: name}}
		if kind := s.kindOf(name); kind != facts.NoKind {
			one.Detail = kind.String()
			if k, ok := completionKinds[kind]; ok {
				one.Kind = k
			}
		}
		list.Items = append(list.Items, one)
	}
	return &list, nil
}

// kindOf is what a name is called that a file or the project defines; the kind of its first definition.
func (s *spot) kindOf(name string) facts.Kind {
	if f := s.file.Facts; f != nil {
		for i := range f.Defs {
			if f.Defs[i].Name == name {
				return f.Defs[i].Kind
			}
		}
	}
	for _, sym := range s.ws.Code.Named(name) {
		return sym.Kind
	}
	return facts.NoKind
}
