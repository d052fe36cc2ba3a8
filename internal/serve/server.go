package serve

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"sync"
	"syscall"
	"time"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
)

// Options are what a server needs to know of the program that it belongs to.
type Options struct {
	Version string
	// Open makes the workspace of the project at a folder, which is not read yet.
	Open func(folder string) (*workspace.Workspace, error)
	// Prepare is called before that is read, such as for its index on disk.
	Prepare func(ctx context.Context, ws *workspace.Workspace)
	// RootOf finds the root of the project that holds a folder.
	RootOf func(folder string) (string, error)
	// Reports is the folder for the report of a failure.
	Reports string
}

// ErrAbrupt says that the client ended the server without saying so before.
var ErrAbrupt = errors.New("the client ended the server without a request to shut down")

// The states of a server.
const (
	created = iota
	initialized
	shut
	exited
)

// mostAtOnce is how many requests may be under way; a client that sends more without reading the answers has to wait.
const mostAtOnce = 1 << 12

// Server serves one client.
type Server struct {
	Options
	conn jsonrpc2.Conn
	ctx  context.Context // of all that is done for the client
	stop context.CancelFunc

	client client
	units  units
	docs   documents
	looks  looks

	answering work.Group
	room      chan struct{} // for requests that are worked on at the same time
	begun     chan struct{} // for those that were taken
	failures  work.Report

	mu      sync.Mutex
	over    bool // nothing is begun any more
	state   int
	folders []*folder
	alone   bool // the client has named no folder
	live    map[jsonrpc2.ID]context.CancelFunc
}

// Run serves the client at the other end of in and out until it has had enough. The error is ErrAbrupt if it did not say so before, or
// says what went wrong with the connection.
func Run(ctx context.Context, in io.ReadCloser, out io.Writer, o Options) error {
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	return begin(ctx, stop, in, out, o).wait()
}

// begin begins to serve a client.
func begin(ctx context.Context, stop context.CancelFunc, in io.ReadCloser, out io.Writer, o Options) *Server {
	s := &Server{
		Options: o, ctx: ctx, stop: stop, units: utf16Units,
		room: make(chan struct{}, work.Processors()), begun: make(chan struct{}, mostAtOnce), live: map[jsonrpc2.ID]context.CancelFunc{},
	}
	s.docs.all = map[string]*document{}
	s.failures.Folder = o.Reports
	s.conn = jsonrpc2.NewConn(newTransport(in, out))
	s.conn.Go(ctx, s.handle)
	return s
}

// wait waits until the client has had enough, and ends what is under way.
func (s *Server) wait() error {
	select {
	case <-s.conn.Done():
	case <-s.ctx.Done():
	}
	s.stop()
	s.mu.Lock()
	s.over = true
	s.mu.Unlock()
	s.answering.Wait()
	var failed error
	for _, f := range s.all() {
		failed = errors.Join(failed, f.end())
	}
	return errors.Join(failed, s.ended())
}

// ended says how it ended.
func (s *Server) ended() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	switch {
	case s.state == exited:
		return nil
	case s.state == shut && errors.Is(s.conn.Err(), io.EOF):
		return nil
	}
	return ErrAbrupt
}

// call is a request that is answered.
type call struct {
	*Server
	ctx    context.Context
	method string
	params json.RawMessage
	// doc is the text that it is about as it was when it came; nil if it is about none that is open.
	doc *document
	// partial is the token with which answers are sent as they are found; nil if they are wanted all at once.
	partial json.RawMessage
	// work is the token with which it is told that the answer takes its time; nil if nobody wants to know.
	work json.RawMessage

	texts map[textKey]*lines
}

// about is what many requests have in common.
type about struct {
	TextDocument struct {
		URI string `json:"uri"`
	} `json:"textDocument"`
	Item struct {
		URI string `json:"uri"`
	} `json:"item"`
	PartialResultToken json.RawMessage `json:"partialResultToken"`
	WorkDoneToken      json.RawMessage `json:"workDoneToken"`
}

// handle takes what the client sends, one after the other. Requests are answered beside, notifications taken in at once, so that each
// request is about the texts as they were when it was sent.
func (s *Server) handle(ctx context.Context, reply jsonrpc2.Replier, req jsonrpc2.Request) error {
	asked, isCall := req.(*jsonrpc2.Call)
	if !isCall {
		if failed := work.Try(func() { s.notified(req.Method(), req.Params()) }); failed != nil {
			s.failed(failed)
		}
		return nil
	}
	answer := func(result any, err error) {
		data, err := encoded(result, err)
		_ = reply(s.ctx, data, err) // who does not read answers has none
	}
	if req.Method() == "initialize" {
		answer(s.initialize(req.Params()))
		return nil
	}
	do, err := s.taken(req.Method())
	if err != nil {
		answer(nil, err)
		return nil
	}
	c := &call{Server: s, method: req.Method(), params: req.Params(), texts: map[textKey]*lines{}}
	var a about
	_ = json.Unmarshal(req.Params(), &a) // what is wrong with it is told when it is read
	if a.TextDocument.URI == "" {
		a.TextDocument.URI = a.Item.URI
	}
	c.doc, c.partial, c.work = s.docs.get(a.TextDocument.URI), a.PartialResultToken, a.WorkDoneToken
	s.begun <- struct{}{}
	ctx, stop := context.WithCancel(s.ctx)
	c.ctx = ctx
	if !s.note(asked.ID(), stop) {
		<-s.begun
		stop()
		answer(nil, refused(jsonrpc2.InvalidRequest, "a request of this id is not answered yet"))
		return nil
	}
	s.start(func() {
		result, err := c.answered(do)
		s.finish(asked.ID())
		stop()
		answer(result, err)
		<-s.begun
	})
	return nil
}

// note notes that a request is under way; it is false if one of this id is.
func (s *Server) note(id jsonrpc2.ID, stop context.CancelFunc) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.live[id] != nil {
		return false
	}
	s.live[id] = stop
	return true
}

func (s *Server) finish(id jsonrpc2.ID) {
	s.mu.Lock()
	defer s.mu.Unlock()
	delete(s.live, id)
}

// encoded is a result as it is sent; with no error there always is one.
func encoded(result any, err error) (json.RawMessage, error) {
	if err != nil {
		return nil, err
	}
	data, err := json.Marshal(result)
	if err != nil {
		return nil, fmt.Errorf("writing the answer: %w", err)
	}
	return data, nil
}

func refused(code jsonrpc2.Code, format string, args ...any) error {
	return jsonrpc2.NewError(code, fmt.Sprintf(format, args...))
}

// taken finds who answers requests of a method, if they are answered now.
func (s *Server) taken(method string) (func(*call) (any, error), error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	do := requests[method]
	switch {
	case s.state == created:
		return nil, refused(jsonrpc2.ServerNotInitialized, "the server is not initialized")
	case s.state > initialized:
		return nil, refused(jsonrpc2.InvalidRequest, "the server was shut down")
	case method == "shutdown":
		s.state = shut
		return func(*call) (any, error) { return nil, nil }, nil
	case do == nil:
		return nil, refused(jsonrpc2.MethodNotFound, "there are no requests %q here", method)
	}
	return do, nil
}

// answered answers a request when there is room for it. What fails in it is the end of that request alone.
func (c *call) answered(do func(*call) (any, error)) (result any, err error) {
	select {
	case c.room <- struct{}{}:
		defer func() { <-c.room }()
	case <-c.ctx.Done():
		return nil, errCancelled
	}
	if failed := work.Try(func() { result, err = do(c) }); failed != nil {
		c.failed(failed)
		return nil, refused(jsonrpc2.InternalError, "answering %s failed: %v", c.method, failed)
	}
	if c.ctx.Err() != nil {
		return nil, errCancelled
	}
	return result, err
}

// The errors that the protocol has of its own.
var (
	errCancelled = jsonrpc2.NewError(-32800, "the request was cancelled")
	errModified  = jsonrpc2.NewError(-32801, "the text has changed since")
)

// cannot says that a request is right and still cannot be answered.
func cannot(err error) error { return jsonrpc2.NewError(-32803, err.Error()) }

// failed writes a report of a failure, and says where.
func (s *Server) failed(p *work.Panic) {
	s.failures.Write(p, p.Stack)
	s.log(protocol.MessageTypeError, s.failures.Words())
}

// start begins some work, unless all is over.
func (s *Server) start(do func()) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if !s.over {
		s.answering.Go(do)
	}
}

// beside does something that no request waits for.
func (s *Server) beside(do func(ctx context.Context)) {
	s.start(func() {
		if failed := work.Try(func() { do(s.ctx) }); failed != nil {
			s.failed(failed)
		}
	})
}

// notified takes a notification in.
func (s *Server) notified(method string, params json.RawMessage) {
	s.mu.Lock()
	state := s.state
	if method == "exit" {
		if s.state == shut {
			s.state = exited
		}
		s.mu.Unlock()
		s.stop()
		_ = s.conn.Close() // it is over
		return
	}
	s.mu.Unlock()
	do := notifications[method]
	if state != initialized || do == nil {
		return // as the protocol says
	}
	if err := do(s, params); err != nil {
		s.log(protocol.MessageTypeError, fmt.Sprintf("%s: %v", method, err))
	}
}

// cancel ends a request.
func (s *Server) cancel(p *struct{ ID jsonrpc2.ID }) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if stop := s.live[p.ID]; stop != nil {
		stop()
	}
}

// log tells the client something for its log.
func (s *Server) log(kind protocol.MessageType, words string) {
	s.beside(func(ctx context.Context) {
		_ = s.conn.Notify(ctx, protocol.MethodWindowLogMessage, &protocol.LogMessageParams{Type: kind, Message: words}) // there is nobody else to tell
	})
}

// follow ends the server when the process that began it has ended.
func (s *Server) follow(process int) {
	if process <= 0 || process == os.Getpid() {
		return
	}
	s.beside(func(ctx context.Context) {
		for work.Pause(ctx, 5*time.Second) {
			other, err := os.FindProcess(process)
			if err == nil {
				err = other.Signal(syscall.Signal(0))
			}
			if errors.Is(err, os.ErrProcessDone) || errors.Is(err, syscall.ESRCH) {
				s.stop()
				_ = s.conn.Close() // nobody is there
			}
		}
	})
}
