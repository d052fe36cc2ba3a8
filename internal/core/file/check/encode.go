package check

import (
	"encoding/binary"
	"errors"
)

// format is the first byte of an encoded record. It changes with the layout,
// and whenever checking would come out differently.
const format = 4

// errRecord says that a record cannot be read.
var errRecord = errors.New("malformed: what was checked of a package is cut off or of another version")

// Encode writes a head as bytes.
func (h *Head) Encode() []byte {
	w := &writer{words: map[string]uint64{}}
	w.head(h)
	return w.bytes
}

// Encode writes a record as bytes, which begin with those of its head.
func (r *Record) Encode() []byte {
	w := &writer{words: map[string]uint64{}}
	w.head(&r.Head)
	w.number(uint64(len(r.Targets)))
	for i := range r.Targets {
		w.target(&r.Targets[i])
	}
	w.number(uint64(len(r.Files)))
	for _, f := range r.Files {
		w.text(f.Base)
		w.number(uint64(len(f.Uses)))
		last := uint32(0)
		for _, u := range f.Uses {
			w.number(uint64(u.Offset - last))
			w.number(uint64(u.Target))
			last = u.Offset
		}
		w.number(uint64(len(f.Defined)))
		for _, d := range f.Defined {
			w.number(uint64(d.Offset))
			w.number(d.Symbol)
		}
		w.number(uint64(len(f.Faults)))
		for _, x := range f.Faults {
			w.number(uint64(x.Start))
			w.number(uint64(x.End))
			w.text(x.By)
			w.text(x.Text)
			w.flags(x.Import)
			w.number(uint64(len(x.Fixes)))
			for _, fix := range x.Fixes {
				w.text(fix.Title)
				w.number(uint64(len(fix.Edits)))
				for _, e := range fix.Edits {
					w.number(uint64(e.Start))
					w.number(uint64(e.End))
					w.text(e.New)
				}
			}
		}
	}
	w.number(uint64(len(r.Types)))
	for _, t := range r.Types {
		w.number(uint64(t.Target))
		w.flags(t.Interface, t.Generic)
		w.number(uint64(len(t.Methods)))
		for _, m := range t.Methods {
			w.text(m.ID)
			w.text(m.Signature)
			w.number(uint64(m.Target))
		}
	}
	return w.bytes
}

func (w *writer) head(h *Head) {
	w.bytes = append(w.bytes, format)
	w.text(h.Folder)
	w.text(h.Name)
	w.bytes = append(w.bytes, h.Own[:]...)
	w.bytes = append(w.bytes, h.View[:]...)
	w.seen(h.Imports)
	w.seen(h.Basis)
}

func (w *writer) seen(list []Seen) {
	w.number(uint64(len(list)))
	for _, s := range list {
		w.text(s.Folder)
		w.bytes = append(w.bytes, s.View[:]...)
	}
}

func (w *writer) target(t *Target) {
	w.text(t.Folder)
	w.text(t.File)
	w.text(t.Container)
	w.text(t.Name)
	w.number(uint64(t.Offset))
	w.flags(t.Local, t.Nested, t.Declared, t.Symbol != 0)
	if t.Symbol != 0 {
		w.number(t.Symbol)
	}
}

// writer writes each text once, and its number after that.
type writer struct {
	bytes []byte
	words map[string]uint64
}

func (w *writer) number(n uint64) { w.bytes = binary.AppendUvarint(w.bytes, n) }

func (w *writer) flags(all ...bool) {
	n := byte(0)
	for i, is := range all {
		if is {
			n |= 1 << i
		}
	}
	w.bytes = append(w.bytes, n)
}

func (w *writer) text(s string) {
	if n, ok := w.words[s]; ok {
		w.number(n + 1)
		return
	}
	w.words[s] = uint64(len(w.words))
	w.number(0)
	w.number(uint64(len(s)))
	w.bytes = append(w.bytes, s...)
}

// DecodeHead reads the head of what Encode wrote of a record or a head.
func DecodeHead(data []byte) (*Head, error) {
	d, h, err := decodeHead(data)
	if err != nil || d.failed {
		return nil, errRecord
	}
	return h, nil
}

func decodeHead(data []byte) (*decoder, *Head, error) {
	if len(data) == 0 || data[0] != format {
		return nil, nil, errRecord
	}
	d := &decoder{bytes: data[1:], all: string(data)}
	h := &Head{Folder: d.text(), Name: d.text(), Own: d.digest(), View: d.digest()}
	h.Imports, h.Basis = d.seen(), d.seen()
	return d, h, nil
}

// Decode reads what Encode wrote of a record.
func Decode(data []byte) (*Record, error) {
	d, h, err := decodeHead(data)
	if err != nil {
		return nil, err
	}
	r := &Record{Head: *h}
	targets := d.count()
	r.Targets = make([]Target, 0, targets)
	for range targets {
		t := Target{Folder: d.text(), File: d.text(), Container: d.text(), Name: d.text(), Offset: uint32(d.number())}
		flags := d.flags()
		t.Local, t.Nested, t.Declared = flags[0], flags[1], flags[2]
		if flags[3] {
			t.Symbol = d.number()
		}
		r.Targets = append(r.Targets, t)
	}
	for range d.count() {
		f := File{Base: d.text()}
		uses, last := d.count(), uint32(0)
		f.Uses = make([]Use, 0, uses)
		for range uses {
			last += uint32(d.number())
			f.Uses = append(f.Uses, Use{last, d.index(targets)})
		}
		for range d.count() {
			f.Defined = append(f.Defined, Defined{uint32(d.number()), d.number()})
		}
		for range d.count() {
			f.Faults = append(f.Faults, d.fault())
		}
		r.Files = append(r.Files, f)
	}
	for range d.count() {
		t := Type{Target: d.index(targets)}
		flags := d.flags()
		t.Interface, t.Generic = flags[0], flags[1]
		for range d.count() {
			t.Methods = append(t.Methods, Method{d.text(), d.text(), d.index(targets)})
		}
		r.Types = append(r.Types, t)
	}
	if d.failed {
		return nil, errRecord
	}
	return r, nil
}

// decoder reads what writer wrote; after a failure it reads nothing.
type decoder struct {
	bytes  []byte
	all    string // all that was given, for the texts to be parts of
	words  []string
	failed bool
}

func (d *decoder) number() uint64 {
	if len(d.bytes) > 0 && d.bytes[0] < 0x80 { // as most are
		n := d.bytes[0]
		d.bytes = d.bytes[1:]
		return uint64(n)
	}
	n, size := binary.Uvarint(d.bytes)
	if size <= 0 {
		d.fail()
		return 0
	}
	d.bytes = d.bytes[size:]
	return n
}

func (d *decoder) fail() { d.failed, d.bytes = true, nil }

// count reads how many things follow, each of which takes a byte or more.
func (d *decoder) count() int {
	n := d.number()
	if n > uint64(len(d.bytes)) {
		d.fail()
		return 0
	}
	return int(n)
}

// index reads the number of one of so many things.
func (d *decoder) index(of int) int32 {
	n := d.number()
	if n >= uint64(of) {
		d.fail()
		return 0
	}
	return int32(n)
}

func (d *decoder) take(n int) []byte {
	if n > len(d.bytes) {
		d.fail()
		return make([]byte, n)
	}
	b := d.bytes[:n]
	d.bytes = d.bytes[n:]
	return b
}

func (d *decoder) digest() (out Digest) {
	copy(out[:], d.take(len(out)))
	return out
}

func (d *decoder) seen() (list []Seen) {
	for range d.count() {
		list = append(list, Seen{d.text(), d.digest()})
	}
	return list
}

func (d *decoder) flags() (all [4]bool) {
	n := d.take(1)[0]
	for i := range all {
		all[i] = n&(1<<i) != 0
	}
	return all
}

func (d *decoder) text() string {
	n := d.number()
	if n > 0 {
		if n > uint64(len(d.words)) {
			d.fail()
			return ""
		}
		return d.words[n-1]
	}
	n = uint64(d.count())
	at := len(d.all) - len(d.bytes)
	if d.take(int(n)); d.failed {
		return ""
	}
	s := d.all[at : at+int(n)] // which costs less than a text of its own
	d.words = append(d.words, s)
	return s
}

func (d *decoder) fault() Fault {
	f := Fault{Start: uint32(d.number()), End: uint32(d.number()), By: d.text(), Text: d.text()}
	f.Import = d.flags()[0]
	for range d.count() {
		fix := Fix{Title: d.text()}
		for range d.count() {
			fix.Edits = append(fix.Edits, FixEdit{uint32(d.number()), uint32(d.number()), d.text()})
		}
		f.Fixes = append(f.Fixes, fix)
	}
	return f
}
