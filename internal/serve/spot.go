package serve

import (
	"encoding/json"
	"errors"
	"os"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// spot is a file of a folder, and an offset in it if one was asked about.
type spot struct {
	*folder
	path   string
	file   *codebase.File
	lines  lines
	offset int
}

// read reads the parameters of a request.
func read[P any](c *call) (*P, error) {
	var p P
	if len(c.params) == 0 {
		return nil, refused(jsonrpc2.InvalidParams, "%s has no parameters", c.method)
	}
	if err := json.Unmarshal(c.params, &p); err != nil {
		return nil, refused(jsonrpc2.InvalidParams, "reading the parameters of %s: %v", c.method, err)
	}
	return &p, nil
}

// file is the file that a URI names, as the client has it open or as it is on disk; nil if it is none of a project.
func (c *call) file(uri string) (*spot, error) {
	doc := c.doc
	if doc == nil || doc.uri != uri {
		doc = c.docs.get(uri)
	}
	s := &spot{}
	if doc != nil {
		if doc.lost != "" {
			return nil, cannot(errors.New("the text is not known any more: " + doc.lost))
		}
		s.folder, s.path = doc.folder, doc.path
	} else {
		s.folder, s.path = c.locate(uri)
	}
	if s.folder == nil {
		return nil, nil
	}
	if err := c.ready(s.folder, false); err != nil {
		return nil, err
	}
	var err error
	if s.file, err = c.load(s.folder, s.path); err == nil && doc != nil && !text.Same(doc.doc, s.file.Text) {
		c.docs.again(uri) // it was read from disk, where it reads otherwise by now
		s.file, err = c.load(s.folder, s.path)
	}
	switch {
	case errors.Is(err, os.ErrNotExist):
		return nil, refused(jsonrpc2.InvalidParams, "there is no file %s", uri)
	case err != nil:
		return nil, cannot(err)
	case doc != nil && !text.Same(doc.doc, s.file.Text):
		return nil, errModified
	}
	s.lines = readLines(s.file.Text, c.units)
	c.texts[textKey{s.folder, s.path}] = &s.lines
	return s, nil
}

func (c *call) load(f *folder, path string) (*codebase.File, error) {
	if err := c.tell(c.ctx); err != nil {
		return nil, err
	}
	return f.ws.Code.Load(c.ctx, path)
}

// at is the place that a request is about.
func (c *call) at(uri protocol.DocumentURI, p protocol.Position) (*spot, error) {
	s, err := c.file(string(uri))
	if s != nil {
		s.offset = s.lines.offset(p)
	}
	return s, err
}

// ready waits until the files of a folder are known, or if whole all of it was read, without taking the room of others meanwhile.
func (c *call) ready(f *folder, whole bool) error {
	p := f.ws.Code.Progress()
	if p.Done || p.Listed && !whole {
		return nil
	}
	<-c.room
	if c.work != nil {
		told := &progress{c.Server, c.work}
		told.begin(c.ctx, "Waiting until "+f.name+" is read", true)
		defer told.end(c.Server.ctx)
	}
	err := f.ready(c.ctx, whole)
	c.room <- struct{}{}
	return err
}

// all asks a question about the whole project.
func (c *call) all(s *spot, q answer.Question) (resolve.Result, []answer.Answer, error) {
	if err := c.ready(s.folder, true); err != nil {
		return resolve.Result{}, nil, err
	}
	q.Path, q.Offset = s.path, s.offset
	res, found := s.ws.Answers.All(c.ctx, q)
	return res, found, c.ctx.Err()
}

// near asks a question that few files answer. While the project is read these may not be known yet; then it is asked once more.
func (c *call) near(s *spot, way answer.Way) (res resolve.Result, found []answer.Answer, err error) {
	for _, whole := range []bool{false, true} {
		if err := c.ready(s.folder, whole); err != nil {
			return res, nil, err
		}
		done := s.ws.Code.Progress().Done
		found = nil
		res = s.ws.Answers.Ask(c.ctx, answer.Question{Way: way, Path: s.path, Offset: s.offset}, func(some []answer.Answer) bool {
			found = append(found, some...)
			return true
		})
		if done || c.ctx.Err() != nil || len(found) > 0 && found[0].Certainty != resolve.ByName {
			break
		}
	}
	return res, found, c.ctx.Err()
}

type textKey struct {
	folder *folder
	path   string
}

// linesIn are the lines of a file that an answer lies in; nil if it cannot be read.
func (c *call) linesIn(f *folder, path string) *lines {
	key := textKey{f, path}
	if known, ok := c.texts[key]; ok {
		return known
	}
	var l *lines
	if file, err := f.ws.Code.Load(c.ctx, path); err == nil { // what has gone since is no answer
		found := readLines(file.Text, c.units)
		l = &found
	}
	c.texts[key] = l
	return l
}

// location is where a run of bytes of a file lies; ok is false if it cannot be read.
func (c *call) location(f *folder, path string, at place.Range) (where protocol.Location, ok bool) {
	l := c.linesIn(f, path)
	if l == nil {
		return where, false
	}
	return protocol.Location{URI: protocol.DocumentURI(c.uri(f, path)), Range: l.span(at)}, true
}

// answeredAt is where an answer lies; one that stands for a file or a package has no name there, but a line.
func (c *call) answeredAt(f *folder, a *answer.Answer) (where protocol.Location, ok bool) {
	at := a.At
	if l := c.linesIn(f, a.Path); l != nil && at.Len() == 0 {
		offset := uint32(l.doc.Offset(a.Line, a.Col))
		at = place.Range{Start: offset, End: offset}
	}
	return c.location(f, a.Path, at)
}

// locations are where answers lie.
func (c *call) locations(f *folder, found []answer.Answer) []protocol.Location {
	all := make([]protocol.Location, 0, len(found))
	for i := range found {
		if where, ok := c.answeredAt(f, &found[i]); ok {
			all = append(all, where)
		}
	}
	return all
}

// definedAt is what a file defines at a name; nil if nothing.
func definedAt(f *facts.File, at place.Range) *facts.Def {
	if f == nil {
		return nil
	}
	for i := range f.Defs {
		if f.Defs[i].At == at {
			return &f.Defs[i]
		}
	}
	return nil
}

// whole is all of the definition at a name, or the name if that is not known.
func (c *call) whole(f *folder, path string, at place.Range) place.Range {
	found, _ := f.ws.Code.Facts(c.ctx, path)
	if d := definedAt(found, at); d != nil && d.Full.Covers(at) {
		return d.Full
	}
	return at
}

// send hands over a part of the answers, if the client wants them so; it says whether that was done.
func (c *call) send(some any) bool {
	if c.partial == nil {
		return false
	}
	return c.conn.Notify(c.ctx, protocol.MethodProgress, map[string]any{"token": c.partial, "value": some}) == nil
}
