package serve

import (
	"context"
	"sync"
	"time"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/work"
)

// quiet is how long nothing is typed in a text before it is looked at for problems.
const quiet = 200 * time.Millisecond

// looks are the texts that are looked at for problems.
type looks struct {
	mu   sync.Mutex
	stop map[string]context.CancelFunc
}

// look looks at a text for problems once nothing has been typed in it for a moment; of several times the last one counts.
func (s *Server) look(uri string) {
	if s.client.TextDocument.Diagnostic != nil {
		return // such a client asks by itself
	}
	s.looks.mu.Lock()
	defer s.looks.mu.Unlock()
	if stop := s.looks.stop[uri]; stop != nil {
		stop()
	}
	ctx, stop := context.WithCancel(s.ctx)
	if s.looks.stop == nil {
		s.looks.stop = map[string]context.CancelFunc{}
	}
	s.looks.stop[uri] = stop
	s.beside(func(context.Context) {
		defer stop()
		if !work.Pause(ctx, quiet) {
			return
		}
		s.room <- struct{}{}
		defer func() { <-s.room }()
		if doc := s.docs.get(uri); doc != nil && doc.folder != nil && doc.lost == "" && doc.folder.ws.Code.Progress().Done {
			if all, err := s.problems(ctx, doc); err == nil && ctx.Err() == nil {
				s.publish(uri, &doc.version, all)
			}
		}
	})
}

// lookAgain looks at the open texts of a folder again whenever more is known of it.
func (s *Server) lookAgain(ctx context.Context, f *folder) {
	seen := codebase.Progress{Checked: -1}
	for {
		changed := f.ws.Code.Changed()
		if p := f.ws.Code.Progress(); p.Checked != seen.Checked || p.Refreshed != seen.Refreshed {
			seen = p
			for _, uri := range s.docs.of(f) {
				s.look(uri)
			}
			s.refresh(ctx)
		}
		select {
		case <-changed:
		case <-ctx.Done():
			return
		}
	}
}

// refresh has the client ask again for what it asks for by itself.
func (s *Server) refresh(ctx context.Context) {
	if s.client.TextDocument.Diagnostic != nil && s.client.Workspace.Diagnostics.RefreshSupport {
		s.beside(func(context.Context) { _, _ = s.conn.Call(ctx, "workspace/diagnostic/refresh", nil, nil) }) // it is a hint
	}
	if s.client.Workspace.CodeLens.RefreshSupport {
		s.beside(func(context.Context) { _, _ = s.conn.Call(ctx, "workspace/codeLens/refresh", nil, nil) }) // it is a hint
	}
}

// of are the texts of a folder that are open.
func (d *documents) of(f *folder) (uris []string) {
	d.mu.RLock()
	defer d.mu.RUnlock()
	for uri, doc := range d.all {
		if doc.folder == f {
			uris = append(uris, uri)
		}
	}
	return uris
}

// problems are what is wrong in a text that is open.
func (s *Server) problems(ctx context.Context, doc *document) ([]protocol.Diagnostic, error) {
	if err := s.tell(ctx); err != nil {
		return nil, err
	}
	found, err := doc.folder.ws.Problems.Look(ctx, doc.path)
	if err != nil || found.Of == nil {
		return []protocol.Diagnostic{}, err
	}
	if !text.Same(found.Of, doc.doc) {
		return nil, errModified
	}
	return diagnostics(readLines(found.Of, s.units), found.All), nil
}

// diagnostics are problems as the protocol tells them.
func diagnostics(l lines, found []problem.Problem) []protocol.Diagnostic {
	all := []protocol.Diagnostic{}
	for _, p := range found {
		d := protocol.Diagnostic{Range: l.span(p.At), Severity: protocol.DiagnosticSeverityError, Code: string(p.Kind), Source: p.By, Message: p.Text}
		switch {
		case p.Kind == problem.Spare || p.Kind == problem.Unused:
			d.Severity, d.Tags = protocol.DiagnosticSeverityHint, []protocol.DiagnosticTag{protocol.DiagnosticTagUnnecessary}
		case !p.Kind.Grave():
			d.Severity = protocol.DiagnosticSeverityWarning
		}
		d.Data = map[string]string{"certainty": p.Certainty.String()}
		all = append(all, d)
	}
	return all
}

// publish tells the client what is wrong in a text; nothing, if that is closed.
func (s *Server) publish(uri string, version *int32, all []protocol.Diagnostic) {
	if all == nil {
		all = []protocol.Diagnostic{}
	}
	params := map[string]any{"uri": uri, "diagnostics": all}
	if version != nil {
		params["version"] = *version
	}
	_ = s.conn.Notify(s.ctx, protocol.MethodTextDocumentPublishDiagnostics, params) // who does not read it does without
}

// diagnosticReport answers what is wrong in a file, to clients that ask for it.
func (c *call) diagnosticReport() (any, error) {
	p, err := read[struct {
		TextDocument protocol.TextDocumentIdentifier `json:"textDocument"`
	}](c)
	if err != nil {
		return nil, err
	}
	all := []protocol.Diagnostic{}
	s, err := c.file(string(p.TextDocument.URI))
	if err != nil {
		return nil, err
	}
	if s != nil {
		if err := c.ready(s.folder, true); err != nil {
			return nil, err
		}
		found, err := s.ws.Problems.In(c.ctx, s.path)
		if err != nil {
			return nil, cannot(err)
		}
		all = diagnostics(s.lines, found)
	}
	return map[string]any{"kind": "full", "items": all}, nil
}

// workspaceReport answers what is wrong in all folders, file by file.
func (c *call) workspaceReport() (any, error) {
	if err := c.tell(c.ctx); err != nil {
		return nil, err
	}
	all := []any{}
	for _, f := range c.Server.all() {
		if err := c.ready(f, true); err != nil {
			return nil, err
		}
		_, err := f.ws.Problems.All(c.ctx, ".", false, func(some []problem.Problem) bool {
			l := c.linesIn(f, some[0].Path)
			if l == nil {
				return true
			}
			uri := c.uri(f, some[0].Path)
			one := map[string]any{"kind": "full", "uri": uri, "version": nil, "items": diagnostics(*l, some)}
			if doc := c.docs.get(uri); doc != nil {
				one["version"] = doc.version
			}
			if !c.send(map[string]any{"items": []any{one}}) {
				all = append(all, one)
			}
			return true
		})
		if err != nil {
			return nil, err
		}
	}
	return map[string]any{"items": all}, nil
}

// didChangeFiles takes in that files have changed on disk, as the client has seen.
func (s *Server) didChangeFiles(p *protocol.DidChangeWatchedFilesParams) {
	changed := map[*folder][]string{}
	for _, e := range p.Changes {
		if f, path := s.locate(string(e.URI)); f != nil {
			changed[f] = append(changed[f], path)
		}
	}
	for f, paths := range changed {
		s.beside(func(ctx context.Context) {
			if f.ready(ctx, true) == nil && !f.ws.Code.RefreshFiles(ctx, paths) {
				f.ws.Code.Refresh(ctx)
			}
		})
	}
}

// didChangeNames takes in that files have come, gone or got other names.
func (s *Server) didChangeNames(*struct{}) {
	for _, f := range s.all() {
		s.beside(func(ctx context.Context) {
			if f.ready(ctx, true) == nil {
				f.ws.Code.Refresh(ctx)
			}
		})
	}
}
