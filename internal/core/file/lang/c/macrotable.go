package c

import (
	"hash/maphash"
	"slices"
	"strings"

	"rooktrail/internal/core/file/lang/c/preprocess"
)

// macroTable holds the macros of all headers, of which there may be millions: by hashes of their names, of 64 bits. Most names are
// defined once, and most macros stand for one of a few numbers. The zero table is empty.
type macroTable struct {
	seed    maphash.Seed
	names   map[uint64]macroOf
	further map[uint64][]macroOf // where a name is defined in several headers
	same    map[string]*preprocess.Macro
	words   map[string]string // that are kept
	headers []string
	numbers map[string]int32 // of the headers
}

// macroOf is a macro, and the number of the header that it is defined in.
type macroOf struct {
	header int32
	macro  *preprocess.Macro
}

// add takes in a macro of a header.
func (t *macroTable) add(name, header string, m *preprocess.Macro) {
	if t.names == nil {
		t.seed = maphash.MakeSeed()
		t.names, t.further, t.same, t.numbers, t.words = map[uint64]macroOf{}, map[uint64][]macroOf{}, map[string]*preprocess.Macro{}, map[string]int32{}, map[string]string{}
	}
	number, known := t.numbers[header]
	if !known {
		number = int32(len(t.headers))
		t.headers, t.numbers[header] = append(t.headers, header), number
	}
	key, of := t.key(name), macroOf{number, t.shared(m)}
	if _, again := t.names[key]; again {
		t.further[key] = append(t.further[key], of)
	} else {
		t.names[key] = of
	}
}

// key stands for a name. The table has been begun.
func (t *macroTable) key(name string) uint64 { return maphash.String(t.seed, name) }

// of is the first macro of a name.
func (t *macroTable) of(name string) (of macroOf, key uint64, ok bool) {
	if t.names == nil {
		return of, 0, false
	}
	key = t.key(name)
	of, ok = t.names[key]
	return of, key, ok
}

// shared is the macro, or one that stands for the same.
func (t *macroTable) shared(m *preprocess.Macro) *preprocess.Macro {
	spelled, ok := m.Plain()
	if !ok {
		return m.Kept(t.word)
	}
	if one := t.same[spelled]; one != nil {
		return one
	}
	t.same[strings.Clone(spelled)] = m.Kept(t.word)
	return m
}

// word is a word as it is kept: the same one for all macros.
func (t *macroTable) word(w string) string {
	kept, ok := t.words[w]
	if !ok {
		kept = strings.Clone(w)
		t.words[kept] = kept
	}
	return kept
}

// has says whether some header defines the name.
func (t *macroTable) has(name string) bool {
	_, _, ok := t.of(name)
	return ok
}

// among is the macro of a name in one of some headers; nil if none of them defines it.
func (t *macroTable) among(name string, headers map[string]bool) *preprocess.Macro {
	of, key, ok := t.of(name)
	if !ok {
		return nil
	}
	if headers[t.headers[of.header]] {
		return of.macro
	}
	for _, of := range t.further[key] {
		if headers[t.headers[of.header]] {
			return of.macro
		}
	}
	return nil
}

// in is the macro of a name in a header; nil if that does not define it.
func (t *macroTable) in(name, header string) *preprocess.Macro {
	return t.among(name, map[string]bool{header: true})
}

// remove forgets the macro of a name in a header, and gives it back.
func (t *macroTable) remove(name, header string) *preprocess.Macro {
	number := t.numbers[header]
	of, key, _ := t.of(name)
	further := t.further[key]
	if of.header != number || of.macro == nil {
		i := slices.IndexFunc(further, func(f macroOf) bool { return f.header == number })
		if i < 0 {
			return nil
		}
		of = further[i]
		t.further[key] = slices.Delete(slices.Clone(further), i, i+1)
		return of.macro
	}
	if len(further) > 0 {
		t.names[key], t.further[key] = further[0], further[1:]
	} else {
		delete(t.names, key)
	}
	return of.macro
}
