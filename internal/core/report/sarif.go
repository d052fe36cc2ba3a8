package report

import (
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"strings"

	"github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif"
)

// readSARIF reads a report piece by piece, so that a large one takes no more memory than what is kept of it.
func readSARIF(in io.Reader, out *Report) error {
	d := json.NewDecoder(limited(in))
	err := object(d, func(key string) error {
		if key != "runs" {
			return skip(d)
		}
		return list(d, func() error { return readRun(d, out) })
	})
	if err == io.ErrUnexpectedEOF || err == io.EOF {
		return fmt.Errorf("it ends in the middle")
	}
	return err
}

// run is what one tool found.
type run struct {
	Tool struct {
		Driver struct {
			Name string `json:"name"`
		} `json:"driver"`
	}
	bases map[string]*sarif.ArtifactLocation
}

func readRun(d *json.Decoder, out *Report) error {
	r, first := run{}, len(out.Findings)
	out.Columns = UTF16
	err := object(d, func(key string) error {
		switch key {
		case "tool":
			return d.Decode(&r.Tool)
		case "originalUriBaseIds":
			return d.Decode(&r.bases)
		case "columnKind":
			var kind string
			err := d.Decode(&kind)
			if kind == "unicodeCodePoints" {
				out.Columns = CodePoints
			}
			return err
		case "results":
			return list(d, func() error {
				var x sarif.Result
				if err := d.Decode(&x); err != nil {
					return err
				}
				r.take(&x, out)
				return nil
			})
		}
		return skip(d)
	})
	for i := first; i < len(out.Findings); i++ { // the tool may stand behind its results, and so may the bases
		f := &out.Findings[i]
		f.By, f.Path = r.Tool.Driver.Name, r.based(f.Path)
		for j := range f.Fixes {
			for k := range f.Fixes[j].Edits {
				e := &f.Fixes[j].Edits[k]
				e.Path = r.based(e.Path)
			}
		}
	}
	return err
}

// take takes in a result, once for each of its places.
func (r *run) take(x *sarif.Result, out *Report) {
	if len(x.Suppressions) > 0 || x.Kind != "" && x.Kind != "fail" && x.Kind != "open" && x.Kind != "review" {
		return // it was let be, or is no finding
	}
	f := Finding{Text: words(x.Message)}
	if x.RuleID != nil {
		f.Rule = *x.RuleID
	}
	for _, fix := range x.Fixes {
		if mended := fixOf(fix); len(mended.Edits) > 0 {
			f.Fixes = append(f.Fixes, mended)
		}
	}
	for _, l := range x.Locations {
		if l == nil || l.PhysicalLocation == nil || uriOf(l.PhysicalLocation.ArtifactLocation) == "" {
			continue
		}
		at := f
		at.Path = uriOf(l.PhysicalLocation.ArtifactLocation)
		at.Line, at.Col, at.EndLine, at.EndCol = regionOf(l.PhysicalLocation.Region)
		out.add(at)
	}
}

func fixOf(x *sarif.Fix) (f Fix) {
	if x == nil {
		return f
	}
	f.Title = words(x.Description)
	for _, c := range x.ArtifactChanges {
		if c == nil {
			continue
		}
		for _, change := range c.Replacements {
			if change == nil || change.DeletedRegion == nil || change.DeletedRegion.StartLine == nil {
				return Fix{} // it says by offsets where, or not at all
			}
			e := Edit{Path: uriOf(c.ArtifactLocation)}
			e.Line, e.Col, e.EndLine, e.EndCol = regionOf(change.DeletedRegion)
			if change.InsertedContent != nil && change.InsertedContent.Text != nil {
				e.Text = *change.InsertedContent.Text
			}
			f.Edits = append(f.Edits, e)
		}
	}
	return f
}

// baseMark stands between the name of what a path is relative to, and the path.
const baseMark = "\x00"

func uriOf(l *sarif.ArtifactLocation) string {
	if l == nil || l.URI == nil {
		return ""
	}
	if l.URIBaseID != nil {
		return *l.URIBaseID + baseMark + *l.URI
	}
	return *l.URI
}

// based is the path of an address, from the root of the project or absolute.
func (r *run) based(uri string) string {
	base, rel, ok := strings.Cut(uri, baseMark)
	if !ok {
		return pathOf(uri)
	}
	for range 8 { // bases may stand on others
		at := r.bases[base]
		if at == nil || at.URI == nil {
			break
		}
		rel = strings.TrimSuffix(*at.URI, "/") + "/" + rel
		if at.URIBaseID == nil {
			break
		}
		base = *at.URIBaseID
	}
	return pathOf(rel)
}

// pathOf is the path that an address leads to.
func pathOf(uri string) string {
	u, err := url.Parse(uri)
	if err != nil || u.Scheme != "" && u.Scheme != "file" {
		return uri
	}
	return u.Path
}

func words(m *sarif.Message) string {
	if m == nil {
		return ""
	}
	if m.Text != nil {
		return *m.Text
	}
	if m.Markdown != nil {
		return *m.Markdown
	}
	return ""
}

// regionOf says where a region is; a file as a whole begins at its first line.
func regionOf(r *sarif.Region) (line, col, endLine, endCol int) {
	if r == nil || r.StartLine == nil {
		return 1, 1, 0, 0
	}
	line, col = max(*r.StartLine, 1), 1
	if r.StartColumn != nil {
		col = max(*r.StartColumn, 1)
	}
	endLine = line
	if r.EndLine != nil {
		endLine = max(*r.EndLine, line)
	}
	if r.EndColumn != nil {
		endCol = *r.EndColumn
	}
	return line, col, endLine, endCol
}

// object goes through what an object has; take reads the value of each key.
func object(d *json.Decoder, take func(key string) error) error {
	if err := opens(d, '{'); err != nil {
		return err
	}
	for d.More() {
		key, err := d.Token()
		if err != nil {
			return err
		}
		name, _ := key.(string)
		if err := take(name); err != nil {
			return err
		}
	}
	_, err := d.Token()
	return err
}

// list goes through what a list has; take reads each.
func list(d *json.Decoder, take func() error) error {
	if err := opens(d, '['); err != nil {
		return err
	}
	for d.More() {
		if err := take(); err != nil {
			return err
		}
	}
	_, err := d.Token()
	return err
}

func opens(d *json.Decoder, with json.Delim) error {
	t, err := d.Token()
	if err == nil && t != with {
		err = fmt.Errorf("%v stands where %v should, at byte %d", t, with, d.InputOffset())
	}
	return err
}

// skip reads over a value, however large.
func skip(d *json.Decoder) error {
	depth := 0
	for {
		t, err := d.Token()
		if err != nil {
			return err
		}
		switch t {
		case json.Delim('{'), json.Delim('['):
			depth++
		case json.Delim('}'), json.Delim(']'):
			depth--
		}
		if depth == 0 {
			return nil
		}
	}
}
