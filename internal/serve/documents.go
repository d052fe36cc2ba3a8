package serve

import (
	"context"
	"errors"
	"fmt"
	"sync"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/text"
)

// document is a text that the client has open: what counts of the file is this.
type document struct {
	uri     string // as the client writes it
	version int32
	doc     *text.Document
	lone    int // how many of its lines end with a CR alone
	// lost says why the text is not known any more, until all of it comes anew; "" if it is.
	lost string
	// folder and path are the file; folder is nil for what is no file of a project.
	folder *folder
	path   string
	// dirty says that the code has not been told yet, saved that it may be as on disk.
	dirty, saved bool
}

func textOf(words string) *text.Document { return text.NewDocument(nil).With([]byte(words)) }

func (d *document) lines(u units) lines { return linesOf(d.doc, u, d.lone) }

// change is one change of a text; without a range the text is replaced.
type change struct {
	Range *protocol.Range `json:"range"`
	Text  string          `json:"text"`
}

// apply makes a change.
func (d *document) apply(c change, u units) error {
	if c.Range == nil {
		d.doc, d.lost = textOf(c.Text), ""
		d.lone = loneReturns(d.doc.Bytes())
		return nil
	}
	if d.lost != "" {
		return errors.New(d.lost)
	}
	l := d.lines(u)
	start, end := l.offset(c.Range.Start), l.offset(c.Range.End)
	if end < start {
		return errors.New("a change ends before it begins")
	}
	before := d.doc
	d.doc = before.Apply([]text.Edit{{Start: start, End: end, New: []byte(c.Text)}})
	// What stands in front of the change may have ended with a CR whose LF has gone, or come.
	d.lone += loneWithin(d.doc, start-1, start+len(c.Text)) - loneWithin(before, start-1, end)
	return nil
}

// loneWithin counts the CRs of a part of a text behind which no LF stands.
func loneWithin(doc *text.Document, start, end int) int {
	start = max(start, 0)
	piece := doc.Slice(start, min(end+1, doc.Len()))
	n := loneReturns(piece)
	if len(piece) > end-start && piece[len(piece)-1] == '\r' {
		n-- // it is behind that part
	}
	return n
}

// documents are the texts that the client has open.
type documents struct {
	mu  sync.RWMutex
	all map[string]*document
	// writing is held while the code is told of them.
	writing sync.Mutex
}

// get is a copy of a document as it is now; nil if it is not open.
func (d *documents) get(uri string) *document {
	d.mu.RLock()
	defer d.mu.RUnlock()
	if doc := d.all[uri]; doc != nil {
		now := *doc
		return &now
	}
	return nil
}

// at is what the client calls the file of a folder that it has open; "" if it has not.
func (d *documents) at(f *folder, path string) string {
	d.mu.RLock()
	defer d.mu.RUnlock()
	for uri, doc := range d.all {
		if doc.folder == f && doc.path == path {
			return uri
		}
	}
	return ""
}

func (s *Server) didOpen(p *protocol.DidOpenTextDocumentParams) {
	doc := &document{uri: string(p.TextDocument.URI), version: p.TextDocument.Version, doc: textOf(p.TextDocument.Text), dirty: true, saved: true}
	doc.lone = loneReturns(doc.doc.Bytes())
	doc.folder, doc.path = s.locate(doc.uri)
	s.docs.mu.Lock()
	s.docs.all[doc.uri] = doc
	s.docs.mu.Unlock()
	s.look(doc.uri)
}

// didChangeParams are like those of the package, but that they tell whether a change has a range.
type didChangeParams struct {
	TextDocument struct {
		URI     string `json:"uri"`
		Version int32  `json:"version"`
	} `json:"textDocument"`
	ContentChanges []change `json:"contentChanges"`
}

func (s *Server) didChange(p *didChangeParams) {
	s.docs.mu.Lock()
	err := s.docs.change(p, s.units)
	s.docs.mu.Unlock()
	if err != nil {
		s.log(protocol.MessageTypeError, fmt.Sprintf("%s: %v; its text is not known until all of it is sent", p.TextDocument.URI, err))
	}
	s.look(p.TextDocument.URI)
}

func (d *documents) change(p *didChangeParams, u units) error {
	doc := d.all[p.TextDocument.URI]
	switch {
	case doc == nil:
		return errors.New("what is not open was changed")
	case p.TextDocument.Version < doc.version:
		doc.lost = fmt.Sprintf("version %d came behind version %d", p.TextDocument.Version, doc.version)
	}
	doc.version, doc.dirty = max(doc.version, p.TextDocument.Version), true
	for _, c := range p.ContentChanges {
		if err := doc.apply(c, u); err != nil {
			doc.lost = err.Error()
			return err
		}
	}
	return nil
}

func (s *Server) didSave(p *protocol.DidSaveTextDocumentParams) {
	s.docs.mu.Lock()
	if doc := s.docs.all[string(p.TextDocument.URI)]; doc != nil {
		doc.dirty, doc.saved = true, true
	}
	s.docs.mu.Unlock()
	s.look(string(p.TextDocument.URI))
}

func (s *Server) didClose(p *protocol.DidCloseTextDocumentParams) {
	uri := string(p.TextDocument.URI)
	s.docs.mu.Lock()
	doc := s.docs.all[uri]
	delete(s.docs.all, uri)
	s.docs.mu.Unlock()
	if doc == nil || doc.folder == nil {
		return
	}
	s.beside(func(ctx context.Context) {
		s.docs.writing.Lock()
		defer s.docs.writing.Unlock()
		if s.docs.get(uri) != nil {
			return // it was opened again
		}
		doc.folder.asOnDisk(ctx, doc.path)
		s.publish(uri, nil, nil)
	})
}

// tell tells the code of the texts that have changed since, so that answers are about these.
func (s *Server) tell(ctx context.Context) error {
	s.docs.writing.Lock()
	defer s.docs.writing.Unlock()
	for _, doc := range s.docs.taken() {
		doc.folder.write(s.ctx, &doc) // it counts as told, whoever asked
	}
	return ctx.Err()
}

// again has the code be told of a text once more, since the file is read from disk by now.
func (d *documents) again(uri string) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if doc := d.all[uri]; doc != nil {
		doc.dirty = true
	}
}

// taken are the documents of which the code is to be told, which count as told then.
func (d *documents) taken() (all []document) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, doc := range d.all {
		if doc.dirty && doc.lost == "" && doc.folder != nil {
			all = append(all, *doc)
			doc.saved = false
		}
		doc.dirty = false
	}
	return all
}

// write tells the code of a folder what a file reads.
func (f *folder) write(ctx context.Context, doc *document) {
	if doc.saved {
		if disk, err := f.ws.Code.TextOnDisk(doc.path); err == nil && text.Same(disk, doc.doc) {
			f.asOnDisk(ctx, doc.path)
			return
		}
	}
	f.ws.Code.Write(ctx, doc.path, doc.doc)
}

// asOnDisk has a file count as it is on disk again.
func (f *folder) asOnDisk(ctx context.Context, path string) {
	if u := f.ws.Code.Unsaved(path); u != nil {
		f.ws.Code.Settle(ctx, path, u.Text)
	}
}
