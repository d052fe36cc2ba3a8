package lsif

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"io"
	"net/url"
	"path"
	"strconv"
	"strings"
	"unicode/utf16"
	"unicode/utf8"

	"rooktrail/internal/core/file/place"
)

// The bounds of a dump that is taken in: of a line, in bytes, and of places in all.
const (
	longestLine = 256 << 20
	mostRanges  = 40_000_000
)

// id is what an element is called in a dump: its number, or what stands for its name.
type id uint64

// UnmarshalJSON implements json.Unmarshaler.
func (i *id) UnmarshalJSON(data []byte) error {
	var name string
	if len(data) > 0 && data[0] == '"' {
		if err := json.Unmarshal(data, &name); err != nil {
			return err
		}
	} else {
		name = string(data)
	}
	if n, err := strconv.ParseUint(name, 10, 63); err == nil {
		*i = id(n)
		return nil
	}
	h := fnv.New64a()
	_, _ = io.WriteString(h, name) // it cannot fail
	*i = id(h.Sum64() | 1<<63)
	return nil
}

type position struct {
	Line      uint32 `json:"line"`
	Character uint32 `json:"character"`
}

// element is a vertex or an edge, with all that is asked of any.
type element struct {
	ID    id     `json:"id"`
	Type  string `json:"type"`
	Label string `json:"label"`

	ProjectRoot      string `json:"projectRoot"`
	PositionEncoding string `json:"positionEncoding"`
	ToolInfo         struct {
		Name string `json:"name"`
	} `json:"toolInfo"`
	URI      string `json:"uri"`
	Contents string `json:"contents"`

	Start *position `json:"start"`
	End   *position `json:"end"`

	OutV id   `json:"outV"`
	InV  id   `json:"inV"`
	InVs []id `json:"inVs"`
}

// span is a range of a dump.
type span struct {
	next       id    // what it leads to: a result set; 0 for none
	document   int32 // its number; -1 if no document holds it
	start, end position
}

// spanNumbers are the numbers of spans by their ids: of those that are counted on, as in most dumps, in a row.
type spanNumbers struct {
	row    []uint32 // the number and 1, by the id
	others map[id]uint32
}

// sparse is how many ids there may be in a row for each span.
const sparse = 16

func (n *spanNumbers) set(i id, number uint32) {
	if i >= id(len(n.row)) && i <= sparse*(id(number)+1000) {
		n.row = append(n.row, make([]uint32, int(i)+1-len(n.row))...)
	}
	if i < id(len(n.row)) {
		n.row[i] = number + 1
		return
	}
	if n.others == nil {
		n.others = map[id]uint32{}
	}
	n.others[i] = number
}

func (n *spanNumbers) get(i id) (number uint32, ok bool) {
	if i < id(len(n.row)) && n.row[i] > 0 {
		return n.row[i] - 1, true
	}
	number, ok = n.others[i]
	return number, ok
}

// document is a file of a dump.
type document struct {
	path     string // in the project; "" if it is outside
	contents []byte // nil if the dump does not hold them
	spans    []uint32
}

// dump is what was read of one.
type dump struct {
	root      string // a URI
	units     string
	tool      string
	documents []document
	numbers   map[id]int32 // of the documents
	spans     []span
	spanOf    spanNumbers
	next      map[id]id     // from result sets to others
	defined   map[id]id     // from result sets to definition results
	ofSpan    map[uint32]id // from ranges to these, by their numbers
	results   map[id][]id
	outside   int
}

// read reads a dump, which may be compressed with gzip. All of it has to be there.
func read(ctx context.Context, from io.Reader) (*dump, error) {
	in := bufio.NewReaderSize(from, 1<<16)
	if magic, _ := in.Peek(2); string(magic) == "\x1f\x8b" {
		unpacked, err := gzip.NewReader(in)
		if err != nil {
			return nil, fmt.Errorf("unpacking: %w", err)
		}
		in = bufio.NewReaderSize(unpacked, 1<<16)
	}
	d := &dump{numbers: map[id]int32{}, next: map[id]id{}, defined: map[id]id{}, ofSpan: map[uint32]id{}, results: map[id][]id{}}
	for n := 1; ; n++ {
		if n%1000 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		line, err := nextLine(in)
		if err == io.EOF {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", n, err)
		}
		if line = bytes.TrimSpace(line); len(line) == 0 {
			continue
		}
		var e element
		if err := json.Unmarshal(line, &e); err != nil {
			return nil, fmt.Errorf("line %d is no element of a dump, or is cut off: %w", n, err)
		}
		if err := d.take(&e); err != nil {
			return nil, fmt.Errorf("line %d: %w", n, err)
		}
	}
	if d.root == "" {
		return nil, errors.New("it does not say of which project it is: there is no metaData with a projectRoot")
	}
	return d, nil
}

var errLong = errors.New("it is longer than any that is read")

// nextLine reads a line; io.EOF behind the last.
func nextLine(in *bufio.Reader) ([]byte, error) {
	var all []byte
	for {
		part, err := in.ReadSlice('\n')
		if err == nil && all == nil {
			return part, nil // it is good until the next is read
		}
		if all = append(all, part...); len(all) > longestLine {
			return nil, errLong
		}
		switch {
		case err == bufio.ErrBufferFull:
		case err == io.EOF && len(all) > 0, err == nil:
			return all, nil
		default:
			return nil, err
		}
	}
}

// take takes an element in.
func (d *dump) take(e *element) error {
	switch {
	case e.Type == "vertex":
		return d.vertex(e)
	case e.Type == "edge":
		d.edge(e)
		return nil
	}
	return fmt.Errorf("it is neither a vertex nor an edge, but %q", e.Type)
}

func (d *dump) vertex(e *element) error {
	switch e.Label {
	case "metaData":
		d.root, d.units, d.tool = strings.TrimSuffix(e.ProjectRoot, "/"), e.PositionEncoding, e.ToolInfo.Name
	case "document":
		doc := document{path: d.inProject(e.URI)}
		if doc.path == "" {
			d.outside++
		}
		if e.Contents != "" {
			contents, err := base64.StdEncoding.DecodeString(e.Contents)
			if err != nil {
				return fmt.Errorf("reading the text of %s: %w", e.URI, err)
			}
			doc.contents = contents
		}
		d.numbers[e.ID] = int32(len(d.documents))
		d.documents = append(d.documents, doc)
	case "range":
		if e.Start == nil || e.End == nil {
			return errors.New("a range has no ends")
		}
		if len(d.spans) >= mostRanges {
			return fmt.Errorf("it holds more than %d ranges", mostRanges)
		}
		d.spanOf.set(e.ID, uint32(len(d.spans)))
		d.spans = append(d.spans, span{0, -1, *e.Start, *e.End})
	case "definitionResult":
		d.results[e.ID] = nil
	}
	return nil
}

func (d *dump) edge(e *element) {
	into := e.InVs
	if len(into) == 0 {
		into = []id{e.InV}
	}
	switch e.Label {
	case "contains":
		n, ok := d.numbers[e.OutV]
		if !ok {
			return // a project contains its documents
		}
		for _, i := range into {
			if s, ok := d.spanOf.get(i); ok {
				d.spans[s].document = n
				d.documents[n].spans = append(d.documents[n].spans, s)
			}
		}
	case "next":
		if s, ok := d.spanOf.get(e.OutV); ok {
			d.spans[s].next = into[0]
		} else {
			d.next[e.OutV] = into[0]
		}
	case "textDocument/definition":
		if s, ok := d.spanOf.get(e.OutV); ok {
			d.ofSpan[s] = into[0]
		} else {
			d.defined[e.OutV] = into[0]
		}
	case "item":
		if before, ok := d.results[e.OutV]; ok {
			d.results[e.OutV] = append(before, into...)
		}
	}
}

// inProject is what the project calls a file of the dump; "" if that is outside.
func (d *dump) inProject(uri string) string {
	below, ok := strings.CutPrefix(uri, d.root+"/")
	if !ok {
		return ""
	}
	p, err := url.PathUnescape(below)
	if err != nil || !place.IsInside(p) || path.Clean(p) != p || strings.ContainsRune(p, 0) {
		return ""
	}
	return p
}

// definition is the range in which what a range means is defined; ok is false if there is none, or several.
func (d *dump) definition(of uint32) (found uint32, ok bool) {
	if result, is := d.ofSpan[of]; is {
		return d.one(result)
	}
	const most = 16 // result sets; no dump has more behind each other
	for at, n := d.spans[of].next, 0; n < most; n++ {
		if result, is := d.defined[at]; is {
			return d.one(result)
		}
		next, is := d.next[at]
		if !is {
			return 0, false
		}
		at = next
	}
	return 0, false
}

// one is the range that a definition result holds; ok is false if it holds none, or several.
func (d *dump) one(result id) (found uint32, ok bool) {
	if all := d.results[result]; len(all) == 1 {
		return d.spanOf.get(all[0])
	}
	return 0, false
}

// lines are where the lines of a text begin.
func lines(text []byte) (starts []int) {
	starts = []int{0}
	for i, b := range text {
		if b == '\n' {
			starts = append(starts, i+1)
		}
	}
	return starts
}

// offset is the byte offset of a position; ok is false if the text has no such place.
func (d *dump) offset(text []byte, starts []int, p position) (at int, ok bool) {
	if int64(p.Line) >= int64(len(starts)) {
		return 0, false
	}
	at = starts[p.Line]
	end := len(text)
	if int(p.Line)+1 < len(starts) {
		end = starts[p.Line+1] - 1
	}
	for left := int64(p.Character); left > 0; {
		if at >= end {
			return 0, false
		}
		r, size := utf8.DecodeRune(text[at:])
		switch d.units {
		case "utf-8":
			left -= int64(size)
		case "utf-32":
			left--
		default:
			left -= int64(max(utf16.RuneLen(r), 1))
		}
		if left < 0 {
			return 0, false
		}
		at += size
	}
	return at, true
}
