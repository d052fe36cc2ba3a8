package serve

import (
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/place"
)

// symbolKinds are what the protocol calls kinds of definitions.
var symbolKinds = map[facts.Kind]protocol.SymbolKind{
	facts.Package: protocol.SymbolKindPackage, facts.Class: protocol.SymbolKindClass, facts.Interface: protocol.SymbolKindInterface,
	facts.Struct: protocol.SymbolKindStruct, facts.Enum: protocol.SymbolKindEnum, facts.Type: protocol.SymbolKindClass,
	facts.Function: protocol.SymbolKindFunction, facts.Method: protocol.SymbolKindMethod, facts.Constructor: protocol.SymbolKindConstructor,
	facts.Field: protocol.SymbolKindField, facts.Property: protocol.SymbolKindProperty, facts.EnumMember: protocol.SymbolKindEnumMember,
	facts.Variable: protocol.SymbolKindVariable, facts.Constant: protocol.SymbolKindConstant, facts.Parameter: protocol.SymbolKindVariable,
	facts.TypeParameter: protocol.SymbolKindTypeParameter, facts.Import: protocol.SymbolKindModule, facts.Label: protocol.SymbolKindKey,
	facts.Namespace: protocol.SymbolKindNamespace, facts.Module: protocol.SymbolKindModule, facts.Trait: protocol.SymbolKindInterface,
	facts.Union: protocol.SymbolKindStruct, facts.Macro: protocol.SymbolKindConstant, facts.Event: protocol.SymbolKindEvent,
	facts.Section: protocol.SymbolKindString, facts.Key: protocol.SymbolKindKey, facts.Table: protocol.SymbolKindStruct,
	facts.View: protocol.SymbolKindStruct, facts.Procedure: protocol.SymbolKindFunction, facts.Rule: protocol.SymbolKindClass,
	facts.ID: protocol.SymbolKindKey, facts.Target: protocol.SymbolKindFunction, facts.Stage: protocol.SymbolKindModule,
	facts.Message: protocol.SymbolKindStruct, facts.Service: protocol.SymbolKindInterface, facts.Block: protocol.SymbolKindObject,
	facts.Test: protocol.SymbolKindFunction,
}

func symbolKind(k facts.Kind) protocol.SymbolKind {
	if kind, ok := symbolKinds[k]; ok {
		return kind
	}
	return protocol.SymbolKindFile
}

// documentSymbols answers the inside of a file: as a tree, or as a list for clients that know no other.
func (c *call) documentSymbols() (any, error) {
	p, err := read[protocol.DocumentSymbolParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.file(string(p.TextDocument.URI))
	if s == nil || err != nil {
		return nil, err
	}
	if !c.client.TextDocument.DocumentSymbol.Hierarchical {
		return c.symbolList(s, p.TextDocument.URI), nil
	}
	all := []protocol.DocumentSymbol{}
	if s.file.Facts != nil {
		entries := outline.Entries(s.file.Facts)
		all, _ = tree(s, withoutImports(entries), 0)
	}
	return all, nil
}

func withoutImports(all []outline.Entry) (rest []outline.Entry) {
	for _, e := range all {
		if e.Kind != facts.Import {
			rest = append(rest, e)
		}
	}
	return rest
}

// tree makes a tree of the entries that stand so deep or deeper, up to the first that does not; rest are those from there on.
func tree(s *spot, entries []outline.Entry, depth int) (all []protocol.DocumentSymbol, rest []outline.Entry) {
	all = []protocol.DocumentSymbol{}
	for len(entries) > 0 && entries[0].Depth >= depth {
		e := entries[0]
		one := protocol.DocumentSymbol{Name: e.Name, Detail: e.Kind.String(), Kind: symbolKind(e.Kind), Range: s.lines.span(around(e.Full, e.At)), SelectionRange: s.lines.span(e.At)}
		one.Children, entries = tree(s, entries[1:], e.Depth+1)
		all = append(all, one)
	}
	return all, entries
}

// around is what is around a name, which has to hold that.
func around(full, name place.Range) place.Range {
	return place.Range{Start: min(full.Start, name.Start), End: max(full.End, name.End)}
}

func (c *call) symbolList(s *spot, uri protocol.DocumentURI) any {
	all := []protocol.SymbolInformation{}
	if s.file.Facts == nil {
		return all
	}
	for _, id := range s.file.Facts.Symbols() {
		d := &s.file.Facts.Defs[id]
		all = append(all, protocol.SymbolInformation{Name: d.Name, Kind: symbolKind(d.Kind), Location: protocol.Location{URI: uri, Range: s.lines.span(around(d.Full, d.At))}, ContainerName: d.Container})
	}
	return all
}

// mostSymbols is how many symbols are found in the projects of a client.
const mostSymbols = 200

// workspaceSymbols finds symbols of all folders by what one remembers of their names.
func (c *call) workspaceSymbols() (any, error) {
	p, err := read[protocol.WorkspaceSymbolParams](c)
	if err != nil {
		return nil, err
	}
	if err := c.tell(c.ctx); err != nil {
		return nil, err
	}
	all := []protocol.SymbolInformation{}
	for _, f := range c.Server.all() {
		if err := c.ready(f, true); err != nil {
			return nil, err
		}
		some := []protocol.SymbolInformation{}
		for _, h := range f.ws.Search.Symbols(c.ctx, p.Query, mostSymbols) {
			at := place.Range{Start: uint32(h.Offset), End: uint32(h.Offset + len(h.Name))}
			if where, ok := c.location(f, h.Path, at); ok {
				some = append(some, protocol.SymbolInformation{Name: h.Name, Kind: symbolKind(h.Kind), Location: where, ContainerName: h.Container})
			}
		}
		if !c.send(some) {
			all = append(all, some...)
		}
	}
	return all, nil
}
