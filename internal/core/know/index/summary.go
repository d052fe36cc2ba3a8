package index

import (
	"bytes"
	"encoding/binary"
	"errors"
	"hash/fnv"
	"slices"
	"sort"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
)

// Summary is what the index keeps of one file, in the form in which it lies on
// disk, so that opening a project copies rather than computes.
type Summary struct {
	// Lines, Defs and Uses are how many lines the file has, and how many
	// definitions and uses of names.
	Lines, Defs, Uses int
	// GivenUp says why the file could not be read, and has no symbols; "" if it could.
	GivenUp string
	// Again is from when on it is worth another try, in seconds since 1970; 0 if it
	// never is, unless the file changes.
	Again int64
	// symbols are the symbols, see appendSymbol; count is their number.
	symbols []byte
	count   int
	// names are the hashes of all names that the file defines or uses, sorted,
	// four bytes each.
	names []byte
	// imports are what the file imports, see encodeImports.
	imports []byte
}

// deepestKey and mostKeys limit how much of a file of data is looked for by
// name; its outline has all of it.
const (
	deepestKey = 3
	mostKeys   = 500
)

// Summarise makes the summary of a file from its text and facts.
func Summarise(text []byte, f *facts.File) *Summary {
	s := &Summary{Lines: bytes.Count(text, []byte{'\n'}), Defs: len(f.Defs), Uses: len(f.Uses)}
	if n := len(text); n > 0 && text[n-1] != '\n' {
		s.Lines++
	}
	line, at, keys := 1, 0, 0
	for _, id := range f.Symbols() {
		d := &f.Defs[id]
		if d.Kind == facts.Key {
			if keys++; keys > mostKeys || depth(f, id) > deepestKey {
				continue
			}
		}
		if start := int(d.At.Start); start > at && start <= len(text) {
			line += bytes.Count(text[at:start], []byte{'\n'})
			at = start
		}
		s.add(&Symbol{Name: d.Name, Container: d.Container, Kind: d.Kind, Aside: d.Inactive || onlyDeclared(text, d), Line: line, Offset: int(d.At.Start)})
	}
	s.names, s.imports = namesOf(f), encodeImports(f)
	return s
}

// onlyDeclared says whether what a function does stands elsewhere: nothing that could be a body is behind its head.
func onlyDeclared(text []byte, d *facts.Def) bool {
	switch d.Kind {
	case facts.Function, facts.Method, facts.Constructor:
		if d.Head.End > d.Full.End || int(d.Full.End) > len(text) {
			return false
		}
		behind := bytes.TrimSpace(text[d.Head.End:d.Full.End])
		return len(behind) == 0 || behind[len(behind)-1] == ';' && !bytes.ContainsRune(behind, '{') && !bytes.Contains(behind, []byte("=>"))
	}
	return false
}

// depth is how many definitions stand around one, itself included.
func depth(f *facts.File, id facts.DefID) int {
	n := 0
	for ; id != facts.NoDef && n <= deepestKey; id = f.Defs[id].Parent {
		n++
	}
	return n
}

func namesOf(f *facts.File) []byte {
	hashes := make([]uint32, 0, len(f.Uses)/2+len(f.Defs))
	seen := make(map[string]bool, len(f.Uses)/2)
	add := func(name string) {
		if !seen[name] {
			seen[name] = true
			hashes = append(hashes, hashOf(name))
		}
	}
	for _, imp := range f.Imports { // under another name, it is no use of its own here
		if imp.Name != "" && imp.Name != "*" {
			add(imp.Name)
		}
	}
	for i := range f.Uses {
		add(f.Uses[i].Name)
	}
	for i := range f.Defs {
		add(f.Defs[i].Name)
	}
	for i := range f.Imports { // which may go by another name here
		file, last := f.Imports[i].ModuleNames()
		add(file)
		add(last)
	}
	for i := range f.Shared {
		for _, key := range f.Shared[i].Keys(f.Shared[i].Given) {
			add(key)
		}
	}
	return appendHashes(hashes)
}

// appendHashes writes hashes in their order, each once.
func appendHashes(hashes []uint32) []byte {
	slices.Sort(hashes)
	hashes = slices.Compact(hashes)
	b := make([]byte, 0, 4*len(hashes))
	for _, h := range hashes {
		b = binary.LittleEndian.AppendUint32(b, h)
	}
	return b
}

// Add takes in the summary of a part of the same text that follows those before it and begins at an offset. front is how many lines it
// has that are not of the text.
func (s *Summary) Add(part *Summary, offset, front int) {
	_ = part.each(func(r rawSymbol) { // it was made just now, so it is sound
		s.add(&Symbol{Name: string(r.name), Container: string(r.container), Kind: r.kind, Aside: r.aside, Line: int(r.line) + s.Lines - front, Offset: int(r.offset) + offset})
	})
	s.Lines, s.Defs, s.Uses = s.Lines+part.Lines-front, s.Defs+part.Defs, s.Uses+part.Uses
	s.names, s.imports = union(s.names, part.names), joined(s.imports, part.imports)
}

// Skip passes over a part of the same text of which nothing is known.
func (s *Summary) Skip(part []byte) { s.Lines += bytes.Count(part, []byte{'\n'}) }

// union are the hashes of two summaries.
func union(a, b []byte) []byte {
	var all []uint32
	for _, names := range [][]byte{a, b} {
		for ; len(names) >= 4; names = names[4:] {
			all = append(all, binary.LittleEndian.Uint32(names))
		}
	}
	return appendHashes(all)
}

// joined are the imports of two summaries of one file.
func joined(a, b []byte) []byte {
	if len(a) == 0 || len(b) == 0 {
		return append(a, b...)
	}
	r := byteReader{left: b}
	r.text() // the package
	return append(a, r.left...)
}

func hashOf[T string | []byte](name T) uint32 {
	h := fnv.New32a()
	_, _ = h.Write([]byte(name)) // a hash cannot fail
	return h.Sum32()
}

// Mentions says whether the file may define or use the name. It is wrong only
// for names that share a hash with one that is there, and then says yes.
func (s *Summary) Mentions(name string) bool { return s.mentions(hashOf(name)) }

func (s *Summary) mentions(hash uint32) bool {
	n := len(s.names) / 4
	i := sort.Search(n, func(i int) bool { return binary.LittleEndian.Uint32(s.names[4*i:]) >= hash })
	return i < n && binary.LittleEndian.Uint32(s.names[4*i:]) == hash
}

// aside is the bit beside the kind of a symbol that says that it stands aside.
const aside = 0x80

// longestName is how many bytes at the end of a name are kept, so that a symbol with its container is looked through as a whole.
const longestName = fuzzy.LongestText/2 - 1

// add appends a symbol: its kind, container, name, line and offset.
func (s *Summary) add(sym *Symbol) {
	kind := byte(sym.Kind)
	if sym.Aside {
		kind |= aside
	}
	b := append(s.symbols, kind)
	for _, text := range []string{sym.Container, sym.Name} {
		text = text[max(0, len(text)-longestName):]
		b = binary.AppendUvarint(b, uint64(len(text)))
		b = append(b, text...)
	}
	b = binary.AppendUvarint(b, uint64(sym.Line))
	s.symbols = binary.AppendUvarint(b, uint64(sym.Offset))
	s.count++
}

// errCutOff says that what was kept ends too early.
var errCutOff = errors.New("malformed: the symbols of a file are cut off")

// rawSymbol is a symbol whose words lie in the summary.
type rawSymbol struct {
	container, name []byte
	kind            facts.Kind
	aside           bool
	line, offset    uint32
}

// symbol is the symbol as one of the file of the path.
func (r *rawSymbol) symbol(path string) Symbol {
	return Symbol{Name: string(r.name), Container: string(r.container), Kind: r.kind, Aside: r.aside, Path: path, Line: int(r.line), Offset: int(r.offset)}
}

// each calls with all symbols in turn.
func (s *Summary) each(visit func(rawSymbol)) error {
	b := s.symbols
	number := func() (uint64, bool) {
		n, size := binary.Uvarint(b)
		if size <= 0 {
			return 0, false
		}
		b = b[size:]
		return n, true
	}
	text := func() ([]byte, bool) {
		n, ok := number()
		if !ok || n > uint64(len(b)) {
			return nil, false
		}
		t := b[:n]
		b = b[n:]
		return t, true
	}
	for range s.count {
		if len(b) == 0 || !facts.Kind(b[0]&^aside).Valid() {
			return errCutOff
		}
		sym := rawSymbol{kind: facts.Kind(b[0] &^ aside), aside: b[0]&aside != 0}
		b = b[1:]
		var ok [4]bool
		var line, offset uint64
		sym.container, ok[0] = text()
		sym.name, ok[1] = text()
		line, ok[2] = number()
		offset, ok[3] = number()
		if ok != [4]bool{true, true, true, true} {
			return errCutOff
		}
		sym.line, sym.offset = uint32(line), uint32(offset)
		visit(sym)
	}
	return nil
}

// Len is how many symbols there are.
func (s *Summary) Len() int { return s.count }

// Symbols are the symbols as those of the file of the path.
func (s *Summary) Symbols(path string) ([]Symbol, error) {
	symbols := make([]Symbol, 0, min(s.count, len(s.symbols)))
	err := s.each(func(r rawSymbol) {
		symbols = append(symbols, r.symbol(path))
	})
	return symbols, err
}
