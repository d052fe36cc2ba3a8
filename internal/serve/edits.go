package serve

import (
	"errors"
	"path/filepath"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/place"
)

// workspaceEdit is what a client is to do, as it can: text by text in order, with moves of files, or only texts.
type workspaceEdit struct {
	Changes         map[string][]protocol.TextEdit `json:"changes,omitempty"`
	DocumentChanges []any                          `json:"documentChanges,omitempty"`
}

type documentEdit struct {
	TextDocument struct {
		URI     string `json:"uri"`
		Version *int32 `json:"version"`
	} `json:"textDocument"`
	Edits []protocol.TextEdit `json:"edits"`
}

// edit is a proposal as the client is to make it. It is an error if that must not be made, or has files come, go or move.
func (c *call) edit(f *folder, p *proposal.Proposal) (*workspaceEdit, error) {
	if w, stopped := p.Stopped(); stopped {
		return nil, cannot(errors.New(w.Text))
	}
	e := &workspaceEdit{}
	for _, file := range p.Files {
		if file.Goes() && file.Path == "" {
			return nil, cannot(errors.New("it makes a file, which cannot be said here"))
		}
		edits := c.textEdits(file)
		if len(edits) == 0 {
			continue
		}
		uri := c.uri(f, file.Path)
		if !c.client.Workspace.WorkspaceEdit.DocumentChanges {
			if e.Changes == nil {
				e.Changes = map[string][]protocol.TextEdit{}
			}
			e.Changes[uri] = edits
			continue
		}
		one := &documentEdit{Edits: edits}
		one.TextDocument.URI = uri
		if doc := c.docs.get(uri); doc != nil {
			one.TextDocument.Version = &doc.version
		}
		e.DocumentChanges = append(e.DocumentChanges, one)
	}
	return e, nil
}

// textEdits are the edits of a file that are taken in.
func (c *call) textEdits(file *proposal.File) []protocol.TextEdit {
	all := []protocol.TextEdit{}
	l := readLines(file.Before, c.units)
	for _, e := range file.Edits() {
		all = append(all, protocol.TextEdit{Range: l.span(place.Range{Start: uint32(e.Start), End: uint32(e.End)}), NewText: string(e.New)})
	}
	return all
}

// prepareRename answers what would get another name at a place.
func (c *call) prepareRename() (any, error) {
	s, err := c.position()
	if s == nil || err != nil {
		return nil, err
	}
	if err := c.ready(s.folder, true); err != nil {
		return nil, err
	}
	subject, err := s.ws.Changes.Subject(c.ctx, s.path, s.offset)
	if errors.Is(err, rename.ErrNoName) {
		return nil, nil
	} else if err != nil {
		return nil, cannot(err)
	}
	at := place.Range{Start: uint32(subject.Offset), End: uint32(subject.Offset + len(subject.Name))}
	return map[string]any{"range": s.lines.span(at), "placeholder": subject.Name}, nil
}

// rename answers all that has to be written otherwise if something gets another name; methods that override each other are renamed
// together, since the code would not be the same otherwise.
func (c *call) rename() (any, error) {
	p, err := read[protocol.RenameParams](c)
	if err != nil {
		return nil, err
	}
	s, err := c.at(p.TextDocument.URI, p.Position)
	if s == nil || err != nil {
		return nil, err
	}
	if err := c.ready(s.folder, true); err != nil {
		return nil, err
	}
	if err := s.ws.Code.CheckAround(c.ctx, s.path); err != nil {
		return nil, err
	}
	proposed, err := s.ws.Changes.Propose(c.ctx, rename.Asked{Path: s.path, Offset: s.offset, New: p.NewName, Family: rename.AllFamily})
	if err != nil {
		return nil, cannot(err)
	}
	return c.edit(s.folder, proposed)
}

// willRename answers what refers to files that are to be moved, and has to be written otherwise then.
func (c *call) willRename() (any, error) {
	p, err := read[protocol.RenameFilesParams](c)
	if err != nil {
		return nil, err
	}
	if err := c.tell(c.ctx); err != nil {
		return nil, err
	}
	all := &proposal.Proposal{}
	var in *folder
	for _, file := range p.Files {
		f, from := c.locate(file.OldURI)
		to := place.OfURI(file.NewURI)
		if f == nil || to == "" || !place.IsInside(from) {
			continue
		}
		if in != nil && f != in {
			return nil, cannot(errors.New("files of several folders are moved at once"))
		}
		in = f
		if err := c.ready(f, true); err != nil {
			return nil, err
		}
		moved, err := f.ws.Move(c.ctx, from, f.within(to))
		if err != nil {
			return nil, cannot(err)
		}
		all.Merge(moved)
	}
	if in == nil {
		return nil, nil
	}
	return c.edit(in, all)
}

// within is what the project calls a path that need not be there.
func (f *folder) within(path string) string {
	if below, err := filepath.Rel(f.given, path); err == nil && place.IsInside(filepath.ToSlash(below)) {
		return filepath.ToSlash(below)
	}
	return f.ws.Code.Relative(path)
}

// formatting answers how a file is brought into the form that is usual.
func (c *call) formatting() (any, error) {
	p, err := read[protocol.DocumentFormattingParams](c)
	if err != nil {
		return nil, err
	}
	return c.form(p.TextDocument.URI, nil)
}

// rangeFormatting is formatting for some lines.
func (c *call) rangeFormatting() (any, error) {
	p, err := read[protocol.DocumentRangeFormattingParams](c)
	if err != nil {
		return nil, err
	}
	return c.form(p.TextDocument.URI, &p.Range)
}

func (c *call) form(uri protocol.DocumentURI, part *protocol.Range) (any, error) {
	s, err := c.file(string(uri))
	if s == nil || err != nil {
		return nil, err
	}
	which := tidy.Lines{}
	if part != nil {
		at := s.lines.bytesOf(*part)
		which.First, _ = s.file.Text.Position(int(at.Start))
		which.Last, _ = s.file.Text.Position(int(max(at.Start, at.End-min(at.End, 1))))
	}
	proposed, err := s.ws.Changes.Form(c.ctx, s.path, which)
	switch {
	case errors.Is(err, tidy.ErrInForm):
		return []protocol.TextEdit{}, nil
	case err != nil:
		return nil, cannot(err)
	}
	for _, file := range proposed.Files {
		if file.Path == s.path {
			return c.textEdits(file), nil
		}
	}
	return []protocol.TextEdit{}, nil
}
