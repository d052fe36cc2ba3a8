package serve

import (
	"encoding/json"
	"fmt"
)

// requests are who answers those of a method.
var requests = map[string]func(*call) (any, error){
	"textDocument/definition":           (*call).definition,
	"textDocument/declaration":          (*call).declaration,
	"textDocument/typeDefinition":       (*call).typeDefinition,
	"textDocument/implementation":       (*call).implementation,
	"textDocument/references":           (*call).references,
	"textDocument/documentHighlight":    (*call).highlights,
	"textDocument/hover":                (*call).hover,
	"textDocument/signatureHelp":        (*call).signature,
	"textDocument/completion":           (*call).completion,
	"textDocument/documentSymbol":       (*call).documentSymbols,
	"workspace/symbol":                  (*call).workspaceSymbols,
	"textDocument/prepareCallHierarchy": (*call).prepareCalls,
	"callHierarchy/incomingCalls":       (*call).incomingCalls,
	"callHierarchy/outgoingCalls":       (*call).outgoingCalls,
	"textDocument/prepareTypeHierarchy": (*call).prepareTypes,
	"typeHierarchy/supertypes":          (*call).supertypes,
	"typeHierarchy/subtypes":            (*call).subtypes,
	"textDocument/foldingRange":         (*call).foldingRanges,
	"textDocument/selectionRange":       (*call).selectionRanges,
	"textDocument/documentLink":         (*call).links,
	"textDocument/semanticTokens/full":  (*call).tokens,
	"textDocument/semanticTokens/range": (*call).tokens,
	"textDocument/codeLens":             (*call).lenses,
	"codeLens/resolve":                  (*call).resolveLens,
	"workspace/executeCommand":          (*call).command,
	"textDocument/prepareRename":        (*call).prepareRename,
	"textDocument/rename":               (*call).rename,
	"textDocument/formatting":           (*call).formatting,
	"textDocument/rangeFormatting":      (*call).rangeFormatting,
	"textDocument/codeAction":           (*call).actions,
	"codeAction/resolve":                (*call).resolveAction,
	"workspace/willRenameFiles":         (*call).willRename,
	"textDocument/diagnostic":           (*call).diagnosticReport,
	"workspace/diagnostic":              (*call).workspaceReport,
}

// notifications are who takes those of a method in.
var notifications = map[string]func(*Server, json.RawMessage) error{
	"$/cancelRequest":                     taking((*Server).cancel),
	"textDocument/didOpen":                taking((*Server).didOpen),
	"textDocument/didChange":              taking((*Server).didChange),
	"textDocument/didSave":                taking((*Server).didSave),
	"textDocument/didClose":               taking((*Server).didClose),
	"workspace/didChangeWorkspaceFolders": taking((*Server).didChangeFolders),
	"workspace/didChangeWatchedFiles":     taking((*Server).didChangeFiles),
	"workspace/didCreateFiles":            taking((*Server).didChangeNames),
	"workspace/didRenameFiles":            taking((*Server).didChangeNames),
	"workspace/didDeleteFiles":            taking((*Server).didChangeNames),
}

// taking reads the parameters of a notification.
func taking[P any](take func(*Server, *P)) func(*Server, json.RawMessage) error {
	return func(s *Server, params json.RawMessage) error {
		var p P
		if err := json.Unmarshal(params, &p); err != nil {
			return fmt.Errorf("reading the parameters: %w", err)
		}
		take(s, &p)
		return nil
	}
}
