package workspace

import (
	"context"
	"fmt"
	"os"
	"path"
	"runtime"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/door"
	"rooktrail/internal/core/gocheck"
	"rooktrail/internal/core/index"
)

// CheckGo asks the Go type checker about the packages of the project that have
// changed since it was last asked, and returns when all answers are in. Where
// that cannot be, as without a go command, the answers come from the general
// resolver, and a note says why.
func (w *Workspace) CheckGo(ctx context.Context, pace gocheck.Pace) error {
	var folders []string
	for _, m := range w.Modules() {
		if !ignoredByGo(m.Folder) {
			folders = append(folders, m.Folder)
		}
	}
	if len(folders) == 0 {
		return nil
	}
	slices.Sort(folders)
	err := gocheck.Check(ctx, w.root, folders, w.checked, pace)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	if err != nil {
		w.note(fmt.Sprintf("answers about Go are not exact: %v", err))
	}
	w.advance(func(p *Progress) { p.Checked++ })
	return nil
}

// settle is how long files have to rest before they are checked again.
const settle = time.Second

// KeepChecked checks the project's Go packages, and those that change again
// whenever they do, until the context is cancelled.
func (w *Workspace) KeepChecked(ctx context.Context) {
	for ctx.Err() == nil {
		before := w.goFilesNow()
		if err := w.CheckGo(ctx, gocheck.Beside); err != nil {
			return
		}
		for w.goFilesNow() == before {
			select {
			case <-ctx.Done():
				return
			case <-w.Changed():
			}
		}
		for now := w.goFilesNow(); ; now = w.goFilesNow() {
			select {
			case <-ctx.Done():
				return
			case <-time.After(settle):
			}
			if w.goFilesNow() == now {
				break
			}
		}
	}
}

// ignoredByGo says whether the go command leaves out a folder below others.
func ignoredByGo(folder string) bool {
	for _, part := range strings.Split(folder, "/") {
		if part == "testdata" || part == "vendor" || len(part) > 1 && (part[0] == '_' || part[0] == '.') {
			return true
		}
	}
	return false
}

// Exact implements resolve.Code.
func (w *Workspace) Exact() *gocheck.Book { return w.checked }

// goFiles are the contents of the Go files of each folder, and a digest of what
// else checking them depends on.
type goFiles struct {
	environment string
	folders     map[string]map[string][16]byte
}

// goFilesNow collects the Go files as they are.
func (w *Workspace) goFilesNow() *goFiles {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.goFiles != nil {
		return w.goFiles
	}
	g := &goFiles{folders: map[string]map[string][16]byte{}}
	var settings []string
	for p := range w.files {
		switch base := path.Base(p); {
		case path.Ext(base) == ".go":
			dir := path.Dir(p)
			if g.folders[dir] == nil {
				g.folders[dir] = map[string][16]byte{}
			}
			g.folders[dir][base] = w.texts[p]
		case base == "go.mod" || base == "go.work" || base == "go.sum" || base == "go.work.sum" || base == "modules.txt":
			settings = append(settings, p)
		}
	}
	slices.Sort(settings)
	var b strings.Builder
	for _, p := range settings {
		text, _ := door.ReadWithin(w.root, p, door.LargestSettings) // what cannot be read counts as empty
		fmt.Fprintf(&b, "%s %x\n", p, index.ContentOf("", text))
	}
	for _, name := range []string{"GOFLAGS", "GOOS", "GOARCH", "CGO_ENABLED", "GOWORK"} {
		b.WriteString(os.Getenv(name) + "\n")
	}
	g.environment = b.String() + runtime.GOOS + "/" + runtime.GOARCH
	w.goFiles = g
	return g
}

// codeChanged tells that files have changed, so that what was worked out from
// them is worked out anew.
func (w *Workspace) codeChanged() {
	w.mu.Lock()
	w.goFiles, w.byBase = nil, nil
	w.generation.Add(1)
	w.mu.Unlock()
	w.checked.Changed()
}

// ownDigest stands for the Go files of a folder as they are now.
func (w *Workspace) ownDigest(folder string) gocheck.Digest {
	g := w.goFilesNow()
	return gocheck.Folder(g.environment, g.folders[folder])
}

// goFolders are the folders with Go files.
func (w *Workspace) goFolders() (folders []string) {
	for f := range w.goFilesNow().folders {
		folders = append(folders, f)
	}
	slices.Sort(folders)
	return folders
}

// shelf keeps what was checked with the index, if that is kept.
type shelf struct{ *Workspace }

func (s shelf) Records(folder string) ([][]byte, error) {
	if m := s.index(); m != nil {
		return m.store.Records(folder)
	}
	return nil, nil
}

func (s shelf) Keep(folder, name string, own gocheck.Digest, data []byte) error {
	if m := s.index(); m != nil {
		if err := m.store.Keep(folder, name, own, data); err != nil {
			s.note(fmt.Sprintf("exact answers are not kept on disk: %v", err))
		}
	}
	return nil
}
