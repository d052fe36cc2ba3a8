package serve

import (
	"encoding/json"
	"fmt"
	"slices"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/place"
)

// Protocol is the version of the Language Server Protocol that is spoken.
const Protocol = "3.17"

// client is what a client says that it can do, as far as it matters here.
type client struct {
	General struct {
		PositionEncodings []units `json:"positionEncodings"`
	} `json:"general"`
	Window struct {
		WorkDoneProgress bool `json:"workDoneProgress"`
		ShowDocument     struct {
			Support bool `json:"support"`
		} `json:"showDocument"`
	} `json:"window"`
	Workspace struct {
		WorkspaceEdit struct {
			DocumentChanges bool `json:"documentChanges"`
		} `json:"workspaceEdit"`
		Diagnostics refreshes `json:"diagnostics"`
		CodeLens    refreshes `json:"codeLens"`
	} `json:"workspace"`
	TextDocument struct {
		Definition     links `json:"definition"`
		Declaration    links `json:"declaration"`
		TypeDefinition links `json:"typeDefinition"`
		Implementation links `json:"implementation"`
		DocumentSymbol struct {
			Hierarchical bool `json:"hierarchicalDocumentSymbolSupport"`
		} `json:"documentSymbol"`
		Hover struct {
			ContentFormat []protocol.MarkupKind `json:"contentFormat"`
		} `json:"hover"`
		SignatureHelp struct {
			SignatureInformation struct {
				DocumentationFormat  []protocol.MarkupKind `json:"documentationFormat"`
				ParameterInformation struct {
					LabelOffsetSupport bool `json:"labelOffsetSupport"`
				} `json:"parameterInformation"`
			} `json:"signatureInformation"`
		} `json:"signatureHelp"`
		CodeAction struct {
			ResolveSupport struct {
				Properties []string `json:"properties"`
			} `json:"resolveSupport"`
		} `json:"codeAction"`
		Diagnostic *struct{} `json:"diagnostic"`
	} `json:"textDocument"`
}

type links struct {
	LinkSupport bool `json:"linkSupport"`
}

type refreshes struct {
	RefreshSupport bool `json:"refreshSupport"`
}

// initializeParams are what of the parameters matters here.
type initializeParams struct {
	ProcessID        *int                        `json:"processId"`
	RootPath         string                      `json:"rootPath"`
	RootURI          string                      `json:"rootUri"`
	Capabilities     client                      `json:"capabilities"`
	WorkspaceFolders *[]protocol.WorkspaceFolder `json:"workspaceFolders"`
}

// initializeResult is that of the package with what version 3.17 of the protocol has beside it.
type initializeResult struct {
	Capabilities capabilities        `json:"capabilities"`
	ServerInfo   protocol.ServerInfo `json:"serverInfo"`
}

type capabilities struct {
	protocol.ServerCapabilities
	PositionEncoding      units              `json:"positionEncoding"`
	TypeHierarchyProvider bool               `json:"typeHierarchyProvider"`
	DiagnosticProvider    *diagnosticOptions `json:"diagnosticProvider"`
}

type diagnosticOptions struct {
	InterFileDependencies bool `json:"interFileDependencies"`
	WorkspaceDiagnostics  bool `json:"workspaceDiagnostics"`
}

// agreed is what characters of positions count: bytes if the client can do that, since the text is kept so; else UTF-16, which all can.
func agreed(offered []units) units {
	for _, u := range []units{utf8Units, utf16Units, utf32Units} {
		if slices.Contains(offered, u) {
			return u
		}
	}
	return utf16Units
}

// initialize begins to serve a client.
func (s *Server) initialize(params json.RawMessage) (any, error) {
	s.mu.Lock()
	state := s.state
	s.mu.Unlock()
	if state != created {
		return nil, refused(jsonrpc2.InvalidRequest, "the server is initialized already")
	}
	var p initializeParams
	if err := json.Unmarshal(params, &p); err != nil {
		return nil, refused(jsonrpc2.InvalidParams, "reading the parameters of initialize: %v", err)
	}
	s.client, s.units = p.Capabilities, agreed(p.Capabilities.General.PositionEncodings)
	var folders []protocol.WorkspaceFolder
	switch {
	case p.WorkspaceFolders != nil:
		folders = *p.WorkspaceFolders
	case p.RootURI != "":
		folders = []protocol.WorkspaceFolder{{URI: p.RootURI}}
	case p.RootPath != "":
		folders = []protocol.WorkspaceFolder{{URI: place.URI(p.RootPath)}}
	}
	s.mu.Lock()
	s.state, s.alone = initialized, len(folders) == 0
	s.mu.Unlock()
	for _, f := range folders {
		if err := s.open(f.URI, f.Name); err != nil {
			s.log(protocol.MessageTypeError, fmt.Sprintf("opening a folder: %v", err))
		}
	}
	if p.ProcessID != nil {
		s.follow(*p.ProcessID)
	}
	return &initializeResult{s.offers(), protocol.ServerInfo{Name: "rooktrail", Version: s.Version}}, nil
}

// offers are what this server can do.
func (s *Server) offers() capabilities {
	files := &protocol.FileOperationRegistrationOptions{Filters: []protocol.FileOperationFilter{{Scheme: "file", Pattern: protocol.FileOperationPattern{Glob: "**"}}}}
	return capabilities{
		PositionEncoding: s.units, TypeHierarchyProvider: true,
		DiagnosticProvider: &diagnosticOptions{InterFileDependencies: true, WorkspaceDiagnostics: true},
		ServerCapabilities: protocol.ServerCapabilities{
			TextDocumentSync: &protocol.TextDocumentSyncOptions{OpenClose: true, Change: protocol.TextDocumentSyncKindIncremental, Save: &protocol.SaveOptions{}},
			HoverProvider:    true, DeclarationProvider: true, DefinitionProvider: true, TypeDefinitionProvider: true, ImplementationProvider: true,
			ReferencesProvider: true, DocumentHighlightProvider: true, DocumentSymbolProvider: true, WorkspaceSymbolProvider: true,
			CallHierarchyProvider: true, FoldingRangeProvider: true, SelectionRangeProvider: true,
			DocumentFormattingProvider: true, DocumentRangeFormattingProvider: true,
			CompletionProvider:     &protocol.CompletionOptions{},
			SignatureHelpProvider:  &protocol.SignatureHelpOptions{TriggerCharacters: []string{"(", ","}},
			CodeActionProvider:     &protocol.CodeActionOptions{CodeActionKinds: actionKinds, ResolveProvider: true},
			CodeLensProvider:       &protocol.CodeLensOptions{ResolveProvider: true},
			DocumentLinkProvider:   &protocol.DocumentLinkOptions{},
			RenameProvider:         &protocol.RenameOptions{PrepareProvider: true},
			ExecuteCommandProvider: &protocol.ExecuteCommandOptions{Commands: []string{commandReferences, commandTests}},
			SemanticTokensProvider: map[string]any{"legend": legend, "full": true, "range": true},
			Workspace: &protocol.ServerCapabilitiesWorkspace{
				WorkspaceFolders: &protocol.ServerCapabilitiesWorkspaceFolders{Supported: true, ChangeNotifications: true},
				FileOperations: &protocol.ServerCapabilitiesWorkspaceFileOperations{
					WillRename: files, DidRename: files, DidCreate: files, DidDelete: files,
				},
			},
		},
	}
}
