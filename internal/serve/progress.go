package serve

import (
	"context"

	"go.lsp.dev/protocol"
)

// progress is some work of which the client is told how far it has come.
type progress struct {
	s     *Server
	token any
}

// beginProgress tells the client that some work has begun; nil if it does not want to know.
func (s *Server) beginProgress(ctx context.Context, title string) *progress {
	if !s.client.Window.WorkDoneProgress {
		return nil
	}
	p := &progress{s, "rooktrail: " + title}
	if _, err := s.conn.Call(ctx, protocol.MethodWorkDoneProgressCreate, map[string]any{"token": p.token}, nil); err != nil {
		return nil
	}
	p.begin(ctx, title, false)
	return p
}

func (p *progress) begin(ctx context.Context, title string, cancellable bool) {
	p.tell(ctx, map[string]any{"kind": "begin", "title": title, "cancellable": cancellable})
}

func (p *progress) report(ctx context.Context, words string, percent int) {
	p.tell(ctx, map[string]any{"kind": "report", "message": words, "percentage": percent})
}

func (p *progress) end(ctx context.Context) { p.tell(ctx, map[string]any{"kind": "end"}) }

func (p *progress) tell(ctx context.Context, value any) {
	_ = p.s.conn.Notify(ctx, protocol.MethodProgress, map[string]any{"token": p.token, "value": value}) // whoever does not read it does without
}
