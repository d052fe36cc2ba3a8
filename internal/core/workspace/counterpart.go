package workspace

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/place"
)

// halves are groups of extensions; files that share a name and have extensions
// of different groups of one row are halves of one thing.
var halves = [][][]string{
	{{".h", ".hh", ".hpp", ".hxx"}, {".c", ".cc", ".cpp", ".cxx", ".m", ".mm"}},
	{{".ts", ".tsx", ".js", ".jsx", ".mjs"}, {".css", ".scss", ".less"}, {".html", ".htm"}},
	{{".proto"}, {".pb.go"}},
}

// Counterparts are the other halves of a file: the source of a header, the style
// or the page of a component. The nearest comes first; there may be none.
func (w *Workspace) Counterparts(file string) (found []string) {
	stem, wanted := otherHalves(path.Base(file))
	if len(wanted) == 0 {
		return nil
	}
	w.mu.RLock()
	for p := range w.files {
		base := path.Base(p)
		other, _ := otherHalves(base)
		if other == stem && p != file && slices.Contains(wanted, strings.ToLower(strings.TrimPrefix(base, base[:min(len(stem), len(base))]))) {
			found = append(found, p)
		}
	}
	w.mu.RUnlock()
	slices.SortFunc(found, func(a, b string) int {
		return cmp.Or(cmp.Compare(place.Distance(file, a), place.Distance(file, b)), strings.Compare(a, b))
	})
	return found
}

// otherHalves are the name of a file without its ending, and the endings that
// its other halves have.
func otherHalves(base string) (stem string, wanted []string) {
	lower := strings.ToLower(base)
	for _, row := range halves {
		for i, group := range row {
			for _, ext := range group {
				if !strings.HasSuffix(lower, ext) || len(base) == len(ext) {
					continue
				}
				stem = strings.TrimSuffix(base[:len(base)-len(ext)], ".module")
				for j, others := range row {
					if j != i {
						wanted = append(wanted, others...)
						for _, o := range others {
							wanted = append(wanted, ".module"+o)
						}
					}
				}
				return stem, wanted
			}
		}
	}
	return base, nil
}
