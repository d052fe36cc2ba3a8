package publish

import (
	"cmp"
	"context"
	"io"
	"maps"
	"path/filepath"
	"slices"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// LSIFVersion is that of the Language Server Index Format that is written.
const LSIFVersion = "0.6.0"

// LSIF writes a dump in the Language Server Index Format, as one JSON object a line: documents, the ranges of symbols and of uses in them,
// and for each symbol that is used where it is defined and where it is used. Positions count from 0, in UTF-16. tool and version are
// those of the program.
func LSIF(ctx context.Context, s *Source, to io.Writer, tool, version string) error {
	d := &dump{s: s, to: to, documents: map[string]*document{}, symbols: map[symbolKey]*lsifSymbol{}}
	root := place.URI(s.Code.Root())
	d.vertex("metaData", fields{"version": LSIFVersion, "projectRoot": root, "positionEncoding": "utf-16", "toolInfo": fields{"name": tool, "version": version}})
	d.project = d.vertex("project", fields{"kind": "mixed", "name": filepath.Base(s.Code.Root()), "resource": root})
	d.event("begin", "project", d.project)
	if err := s.files(ctx, d.declare); err != nil {
		return err
	}
	if err := s.files(ctx, func(f *file) error { return d.use(ctx, f) }); err != nil {
		return err
	}
	d.end()
	return written(d.err)
}

type fields map[string]any

// dump is what was written so far.
type dump struct {
	s         *Source
	to        io.Writer
	err       error
	ids       int
	project   int
	documents map[string]*document
	order     []*document
	symbols   map[symbolKey]*lsifSymbol
}

// document is a file, with its ranges.
type document struct {
	id     int
	ranges map[place.Range]int
}

type symbolKey struct {
	path  string
	start uint32
}

// lsifSymbol is a symbol, with where it is used, as ranges by document.
type lsifSymbol struct {
	document, definition, result int
	uses                         map[int][]int
}

func (d *dump) write(kind, label string, more fields) int {
	d.ids++
	more["id"], more["type"], more["label"] = d.ids, kind, label
	if d.err == nil {
		var data []byte
		if data, d.err = text.JSON(more, ""); d.err == nil {
			_, d.err = d.to.Write(data)
		}
	}
	return d.ids
}

func (d *dump) vertex(label string, more fields) int { return d.write("vertex", label, more) }

func (d *dump) edge(label string, from int, more fields) {
	more["outV"] = from
	d.write("edge", label, more)
}

// event says that a project or a document begins, or has come to its end.
func (d *dump) event(kind, scope string, of int) {
	d.vertex("$event", fields{"kind": kind, "scope": scope, "data": of})
}

// declare writes a document, and the ranges of its symbols.
func (d *dump) declare(f *file) error {
	doc := &document{ranges: map[place.Range]int{}}
	doc.id = d.vertex("document", fields{"uri": place.URI(d.s.Code.Absolute(f.Path)), "languageId": f.language.ID()})
	d.documents[f.Path] = doc
	d.order = append(d.order, doc)
	d.event("begin", "document", doc.id)
	for _, sym := range f.symbols {
		d.symbol(f, doc, sym)
	}
	return d.err
}

// symbol is what stands for a symbol, which is written if it was not yet.
func (d *dump) symbol(f *file, doc *document, sym Symbol) *lsifSymbol {
	key := symbolKey{sym.Path, sym.At.Start}
	if known := d.symbols[key]; known != nil {
		return known
	}
	one := &lsifSymbol{document: doc.id, uses: map[int][]int{}}
	one.definition = d.span(f.Text, doc, sym.At)
	one.result = d.vertex("resultSet", fields{})
	d.edge("next", one.definition, fields{"inV": one.result})
	d.symbols[key] = one
	return one
}

// span is the range of some bytes of a document, which is written if it was not yet.
func (d *dump) span(t *text.Document, doc *document, at place.Range) int {
	if id, ok := doc.ranges[at]; ok {
		return id
	}
	id := d.vertex("range", fields{"start": utf16At(t, at.Start), "end": utf16At(t, at.End)})
	doc.ranges[at] = id
	return id
}

// use writes the uses of a document, but for those of what lies outside the project.
func (d *dump) use(ctx context.Context, f *file) error {
	doc := d.documents[f.Path]
	if doc == nil {
		return nil // it has come since
	}
	for _, u := range d.s.uses(ctx, f) {
		there := d.documents[u.Means.Path]
		if there == nil {
			continue
		}
		means := d.symbols[symbolKey{u.Means.Path, u.Means.At.Start}]
		if means == nil { // one that people do not look for, such as a parameter
			of := f
			if u.Means.Path != f.Path {
				loaded, err := d.s.Code.Load(ctx, u.Means.Path)
				if err != nil {
					continue // it has gone meanwhile
				}
				of = &file{File: loaded}
			}
			means = d.symbol(of, there, u.Means)
		}
		_, known := doc.ranges[u.At]
		at := d.span(f.Text, doc, u.At)
		if !known { // else it defines something itself
			d.edge("next", at, fields{"inV": means.result})
			means.uses[doc.id] = append(means.uses[doc.id], at)
		}
	}
	return d.err
}

// utf16At is a place as the format counts: line and column from 0, the column in units of UTF-16.
func utf16At(t *text.Document, offset uint32) fields {
	line, col := t.Position(int(offset))
	units := 0
	for _, r := range string(t.Line(line)[:col-1]) {
		if units++; r > 0xffff {
			units++
		}
	}
	return fields{"line": line - 1, "character": units}
}

// end writes for each symbol where it is defined and used, and what belongs to each document.
func (d *dump) end() {
	all := make([]*lsifSymbol, 0, len(d.symbols))
	for _, s := range d.symbols {
		all = append(all, s)
	}
	slices.SortFunc(all, func(a, b *lsifSymbol) int { return cmp.Compare(a.result, b.result) })
	for _, s := range all {
		defined := d.vertex("definitionResult", fields{})
		d.edge("textDocument/definition", s.result, fields{"inV": defined})
		d.edge("item", defined, fields{"inVs": []int{s.definition}, "shard": s.document})
		used := d.vertex("referenceResult", fields{})
		d.edge("textDocument/references", s.result, fields{"inV": used})
		d.edge("item", used, fields{"inVs": []int{s.definition}, "shard": s.document, "property": "definitions"})
		for _, doc := range slices.Sorted(maps.Keys(s.uses)) {
			d.edge("item", used, fields{"inVs": s.uses[doc], "shard": doc, "property": "references"})
		}
	}
	var documents []int
	for _, doc := range d.order {
		ids := make([]int, 0, len(doc.ranges))
		for _, id := range doc.ranges {
			ids = append(ids, id)
		}
		slices.Sort(ids)
		if len(ids) > 0 {
			d.edge("contains", doc.id, fields{"inVs": ids})
		}
		d.event("end", "document", doc.id)
		documents = append(documents, doc.id)
	}
	if len(documents) > 0 {
		d.edge("contains", d.project, fields{"inVs": documents})
	}
	d.event("end", "project", d.project)
}
