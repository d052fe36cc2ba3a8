package check

import (
	"cmp"
	"path"
	"slices"
)

// Unit is what a compiler says of a file that is compiled by itself, and of those that are read for it.
type Unit struct {
	// Version is that of the compiler.
	Version string
	// Failure says why nothing is known of names: the first error in the text, or what went wrong; "" if it is.
	Failure string
	// Files are all that were read, Uses and Definitions those of names in the project.
	Files       []UnitFile
	Uses        []UnitUse
	Definitions []UnitDefinition
	// Faults are what the compiler does not take in files of the project; none if it could not read all of the text.
	Faults []UnitFault
}

// UnitFault is something that the compiler does not take, at an offset in bytes of a file, by its number in Unit.Files.
type UnitFault struct {
	File   int
	Offset uint32
	Text   string
}

// UnitFile is a file that was read.
type UnitFile struct {
	Path   string // absolute
	Inside bool   // it is in the project
}

// Nowhere is the file of what is written nowhere, as what a macro writes.
const Nowhere = -1

// UnitUse is where a name is used, at an offset in bytes of a file, by its number in Unit.Files; and what it means.
type UnitUse struct {
	File           int
	Offset, Length uint32
	Target         int // a file, or Nowhere
	TargetOffset   uint32
	Symbol         uint64 // the same in all files for what is the same; 0 for what only one can name
	Declared       bool   // it is but declared there
}

// UnitDefinition is where a name is declared; Symbol stands for what is written out there if other files can name it, else it is 0.
type UnitDefinition struct {
	File   int
	Offset uint32
	Symbol uint64
}

// UnitPlace is where a file of a unit is kept: its path as records have it, and its text; nil where nothing of it is to be told.
type UnitPlace struct {
	Path string
	Text []byte
}

// Records are what a unit says of each of its files that has a text, in the order of their places. What is meant in several
// ways, as in a file that is read twice, is left out, and so is what a header means by something in the file that is compiled, whose path is
// main: other files that read that header may mean something else.
func (u *Unit) Records(main string, places []UnitPlace) []*Record {
	records := make([]*Record, len(places))
	recorders := make([]unitRecorder, len(places))
	for i, p := range places {
		if p.Text != nil {
			records[i] = &Record{Head: Head{Folder: p.Path}, Files: []File{{Base: path.Base(p.Path)}}}
			recorders[i] = unitRecorder{record: records[i], numbers: map[Target]int32{}}
		}
	}
	uses := slices.Clone(u.Uses)
	slices.SortFunc(uses, func(a, b UnitUse) int {
		return cmp.Or(cmp.Compare(a.File, b.File), cmp.Compare(a.Offset, b.Offset), cmp.Compare(a.Target, b.Target), cmp.Compare(a.TargetOffset, b.TargetOffset))
	})
	for i := 0; i < len(uses); {
		j := i + 1
		for j < len(uses) && uses[j].File == uses[i].File && uses[j].Offset == uses[i].Offset {
			j++
		}
		first, last := uses[i], uses[j-1]
		if first.Target != Nowhere && (places[first.Target].Path != main || places[first.File].Path == main) && first.Target == last.Target && first.TargetOffset == last.TargetOffset && records[first.File] != nil {
			recorders[first.File].use(first, places)
		}
		i = j
	}
	for _, d := range u.Definitions {
		if r := records[d.File]; r != nil {
			r.Files[0].Defined = append(r.Files[0].Defined, Defined{d.Offset, d.Symbol})
		}
	}
	for _, r := range records {
		if r != nil {
			f := &r.Files[0]
			slices.SortFunc(f.Defined, func(a, b Defined) int {
				return cmp.Or(cmp.Compare(a.Offset, b.Offset), cmp.Compare(a.Symbol, b.Symbol))
			})
			f.Defined = slices.Compact(f.Defined)
		}
	}
	return slices.DeleteFunc(records, func(r *Record) bool { return r == nil })
}

// unitRecorder writes what is known of one file.
type unitRecorder struct {
	record  *Record
	numbers map[Target]int32
}

func (r *unitRecorder) use(u UnitUse, places []UnitPlace) {
	text := places[u.File].Text
	end := int(u.Offset) + int(u.Length)
	if end > len(text) {
		return
	}
	at := places[u.Target].Path
	t := Target{Folder: path.Dir(at), File: path.Base(at), Name: string(text[u.Offset:end]), Offset: u.TargetOffset, Nested: true, Symbol: u.Symbol, Declared: u.Declared}
	n, known := r.numbers[t]
	if !known {
		n = int32(len(r.record.Targets))
		r.numbers[t] = n
		r.record.Targets = append(r.record.Targets, t)
	}
	f := &r.record.Files[0]
	f.Uses = append(f.Uses, Use{u.Offset, n})
}
