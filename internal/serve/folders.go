package serve

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
)

// folder is a folder of the client that is open as a project.
type folder struct {
	ws    *workspace.Workspace
	given string // its path as the client writes it, which may lead over links
	name  string

	reading work.Group
	close   context.CancelFunc
}

// open opens a folder, and begins to read it; nothing is done if it is open.
func (s *Server) open(uri, name string) error {
	given := place.OfURI(uri)
	if given == "" {
		return fmt.Errorf("%q is no folder of this machine", uri)
	}
	ws, err := s.Open(given)
	if err != nil {
		return err
	}
	f := &folder{ws: ws, given: given, name: name}
	if f.name == "" {
		f.name = ws.Code.Name()
	}
	ctx, stop := context.WithCancel(s.ctx)
	f.close = stop
	if !s.add(f) {
		stop()
		return ws.Code.Close()
	}
	f.reading.Go(func() { s.read(ctx, f) })
	return nil
}

// add adds a folder to those that are open; it is false if it is open already, or all is over.
func (s *Server) add(f *folder) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, other := range s.folders {
		if other.ws.Code.Root() == f.ws.Code.Root() {
			return false
		}
	}
	if !s.over {
		s.folders = append(s.folders, f)
	}
	return !s.over
}

// read reads a project, and follows what becomes of it.
func (s *Server) read(ctx context.Context, f *folder) {
	ended := make(chan struct{})
	f.reading.Go(func() { s.showReading(ctx, f, ended) })
	s.Prepare(ctx, f.ws)
	err := f.ws.Code.Read(ctx)
	close(ended)
	if err != nil {
		if ctx.Err() == nil {
			s.log(protocol.MessageTypeError, fmt.Sprintf("reading %s: %v", f.given, err))
		}
		return
	}
	for _, words := range f.ws.Code.Progress().Notes {
		s.log(protocol.MessageTypeInfo, words)
	}
	f.reading.Go(func() { codebase.KeepListing(ctx, f.ws.Code) })
	f.reading.Go(func() { f.ws.Code.KeepChecked(ctx) })
	f.reading.Go(func() { s.lookAgain(ctx, f) })
	f.ws.Code.Watch(ctx)
}

// end lets go of a folder.
func (f *folder) end() error {
	f.close()
	f.reading.Wait()
	return f.ws.Code.Close()
}

// didChangeFolders opens and closes folders.
func (s *Server) didChangeFolders(p *protocol.DidChangeWorkspaceFoldersParams) {
	for _, gone := range p.Event.Removed {
		if f := s.remove(place.OfURI(gone.URI)); f != nil {
			s.docs.leave(f)
			s.beside(func(context.Context) {
				if err := f.end(); err != nil {
					s.log(protocol.MessageTypeError, fmt.Sprintf("closing %s: %v", f.given, err))
				}
			})
		}
	}
	for _, new := range p.Event.Added {
		if err := s.open(new.URI, new.Name); err != nil {
			s.log(protocol.MessageTypeError, fmt.Sprintf("opening a folder: %v", err))
		}
	}
	s.place()
}

// remove takes a folder out of those that are open; nil if it is not.
func (s *Server) remove(path string) *folder {
	s.mu.Lock()
	defer s.mu.Unlock()
	for i, f := range s.folders {
		if f.given == path {
			s.folders = append(s.folders[:i:i], s.folders[i+1:]...)
			return f
		}
	}
	return nil
}

// leave has the texts of a folder that is closed belong to none.
func (d *documents) leave(f *folder) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, doc := range d.all {
		if doc.folder == f {
			doc.folder = nil
		}
	}
}

// place finds the folders of texts that belong to none.
func (s *Server) place() {
	s.docs.mu.Lock()
	defer s.docs.mu.Unlock()
	for uri, doc := range s.docs.all {
		if doc.folder == nil {
			doc.folder, doc.path = s.locate(uri)
			doc.dirty, doc.saved = true, true
		}
	}
}

// locate finds the folder and the path in it of a file; nil if it is no file, or no folder is open. Where none is, the project of the
// file is opened. A file outside all of them is asked about as one outside the first.
func (s *Server) locate(uri string) (*folder, string) {
	path := place.OfURI(uri)
	if path == "" {
		return nil, ""
	}
	real := path
	if folder, err := filepath.EvalSymlinks(filepath.Dir(path)); err == nil {
		real = filepath.Join(folder, filepath.Base(path))
	}
	if f, p := s.within(path, real); f != nil {
		return f, p
	}
	s.mu.Lock()
	lonely := len(s.folders) == 0 && s.alone
	s.mu.Unlock()
	if lonely {
		root, err := s.RootOf(filepath.Dir(real))
		if err == nil {
			err = s.open(place.URI(root), "")
		}
		if err != nil {
			s.log(protocol.MessageTypeError, fmt.Sprintf("opening the project of %s: %v", path, err))
		}
		if f, p := s.within(path, real); f != nil {
			return f, p
		}
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.folders) == 0 {
		return nil, ""
	}
	return s.folders[0], filepath.ToSlash(real)
}

// within finds the innermost folder that holds a file.
func (s *Server) within(paths ...string) (found *folder, p string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, f := range s.folders {
		for _, path := range paths {
			rel := f.ws.Code.Relative(path)
			if filepath.IsAbs(rel) {
				if below, ok := strings.CutPrefix(path, f.given+string(filepath.Separator)); ok {
					rel = filepath.ToSlash(below)
				}
			}
			if place.IsInside(rel) && (found == nil || len(f.given) > len(found.given)) {
				found, p = f, rel
			}
		}
	}
	return found, p
}

// uri is what the client calls a file of a folder.
func (s *Server) uri(f *folder, path string) string {
	if known := s.docs.at(f, path); known != "" {
		return known
	}
	if filepath.IsAbs(path) {
		return place.URI(path)
	}
	return place.URI(filepath.Join(f.given, filepath.FromSlash(path)))
}

// all are the folders that are open.
func (s *Server) all() []*folder {
	s.mu.Lock()
	defer s.mu.Unlock()
	return append([]*folder(nil), s.folders...)
}

// ready waits until the files of a folder are known; if whole, until all of them were read.
func (f *folder) ready(ctx context.Context, whole bool) error {
	var failed error
	err := f.ws.Code.Await(ctx, func(p *codebase.Progress) bool {
		failed = p.Err
		return p.Err != nil || p.Done || p.Listed && !whole
	})
	return errors.Join(err, failed)
}

// readingShown is how long reading takes at least before it is said how far it has come.
const readingShown = 300 * time.Millisecond

// showReading tells the client how far reading a folder has come.
func (s *Server) showReading(ctx context.Context, f *folder, ended <-chan struct{}) {
	timer := time.NewTimer(readingShown)
	defer timer.Stop()
	select {
	case <-ended:
		return
	case <-ctx.Done():
		return
	case <-timer.C:
	}
	told := s.beginProgress(ctx, "Reading "+f.name)
	if told == nil {
		return
	}
	for over := false; !over; {
		p := f.ws.Code.Progress()
		percent := 0
		if p.Listed && p.Readable > 0 {
			percent = 100 * p.Read / p.Readable
		}
		told.report(ctx, fmt.Sprintf("%d of %d files", p.Read, p.Readable), percent)
		timer.Reset(readingShown)
		select {
		case <-ended:
			over = true
		case <-ctx.Done():
			over = true
		case <-timer.C:
		}
	}
	told.end(ctx)
}
