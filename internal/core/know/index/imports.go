package index

import (
	"encoding/binary"

	"rooktrail/internal/core/file/facts"
)

// encodeImports writes the package of a file and what it imports, without the places.
func encodeImports(f *facts.File) []byte {
	if f.Package == "" && len(f.Imports) == 0 {
		return nil
	}
	b := appendText(nil, f.Package)
	for i := range f.Imports {
		imp := &f.Imports[i]
		b = binary.AppendUvarint(b, uint64(imp.Level))
		for _, s := range []string{imp.Path, imp.Name, imp.Alias} {
			b = appendText(b, s)
		}
	}
	return b
}

// Imports are the package that the file says it belongs to, "" for none, and what it imports, without the places where that
// stands.
func (s *Summary) Imports() (pkg string, all []facts.Imported) {
	r := byteReader{left: s.imports}
	if len(s.imports) == 0 {
		return "", nil
	}
	pkg = string(r.text())
	for len(r.left) > 0 && !r.failed {
		imp := facts.Imported{Level: int(r.count())}
		imp.Path, imp.Name, imp.Alias = string(r.text()), string(r.text()), string(r.text())
		if !r.failed {
			all = append(all, imp)
		}
	}
	return pkg, all
}
