// Package check keeps what compilers say about a workspace, package by package:
// for each use of a name what it means, for each type which methods it has. It
// answers from that, as long as it holds.
//
// A record does not hold places in other files but names: the folder of a
// package, the file, the type around, the name. So it stays good when code that
// it refers to moves; only when a package changes in what others see of it are
// those checked again.
package check

import (
	"cmp"
	"crypto/sha256"
	"encoding/binary"
	"hash"
	"slices"
	"sort"
)

// Digest stands for a text or a list of them.
type Digest [16]byte

// Record is what a compiler found out about one package: its files, with
// those of its tests that belong to the same package.
type Record struct {
	Head
	Files   []File
	Targets []Target
	Types   []Type
}

// Head is what a record says of itself: of which package it is, and whether it holds.
type Head struct {
	// Folder is where the package lies, relative to the root; Name tells apart
	// the tests of a folder that are a package of their own.
	Folder, Name string
	// Own stands for the files of the folder, View for what other packages see
	// of this one.
	Own, View Digest
	// Imports are the packages of the workspace that it imports, with what it
	// saw of them; Basis are those on which View depends, which its tests do not
	// add to.
	Imports, Basis []Seen
}

// Seen is a package as another one saw it.
type Seen struct {
	Folder string
	View   Digest
}

// File is a file of a package.
type File struct {
	Base string
	Uses []Use // by offset
	// Defined are the places where names are declared, if that is kept.
	Defined []Defined
	// Faults are what is wrong with it, by offset.
	Faults []Fault
}

// Defined is where a name is declared; Symbol stands for what is written out there if other files can name it, else it is 0.
type Defined struct {
	Offset uint32
	Symbol uint64
}

// Use is a use of a name.
type Use struct {
	Offset uint32
	Target int32 // in the record's Targets
}

// Target is what a name means.
type Target struct {
	// Folder is relative to the root, or absolute for a package outside it.
	Folder, File string
	// Container is the type that a method or field belongs to; "" for none.
	Container, Name string
	// Offset is where the name stood when it was checked.
	Offset uint32
	// Local says that only its own file can name it, so that Offset is good as
	// long as the file is the same. Nested is like it, for what has no name
	// that would find it again, such as a field of a type without a name.
	Local, Nested bool
	// Symbol stands for it in all files; 0 if only its own file can name it, or that is not kept. Declared
	// says that it is but declared there.
	Symbol   uint64
	Declared bool
}

// Type is a named type with its methods, those of what it embeds among them.
type Type struct {
	Target    int32
	Interface bool
	// Generic types are not compared by their methods.
	Generic bool
	Methods []Method
}

// Method is a method of a type. ID tells apart methods that are not exported
// by their package; Signature is written with full package paths.
type Method struct {
	ID, Signature string
	Target        int32
}

// use finds the use at an offset.
func (f *File) use(offset uint32) (Use, bool) {
	i := sort.Search(len(f.Uses), func(i int) bool { return f.Uses[i].Offset >= offset })
	if i < len(f.Uses) && f.Uses[i].Offset == offset {
		return f.Uses[i], true
	}
	return Use{}, false
}

// Sort puts the uses and the faults in order.
func (f *File) Sort() {
	slices.SortFunc(f.Faults, func(a, b Fault) int {
		return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.By, b.By), cmp.Compare(a.Text, b.Text))
	})
	f.Faults = slices.CompactFunc(f.Faults, func(a, b Fault) bool {
		return a.Start == b.Start && a.End == b.End && a.By == b.By && a.Text == b.Text && a.Import == b.Import
	})
	slices.SortFunc(f.Uses, func(a, b Use) int { return cmp.Compare(a.Offset, b.Offset) })
	f.Uses = slices.CompactFunc(f.Uses, func(a, b Use) bool { return a.Offset == b.Offset })
}

// Digester collects texts into a Digest.
type Digester struct{ hash.Hash }

// NewDigester begins one.
func NewDigester() Digester { return Digester{sha256.New()} }

// Add takes in some texts, each apart from the next.
func (d Digester) Add(texts ...string) {
	for _, t := range texts {
		_ = binary.Write(d, binary.LittleEndian, uint64(len(t))) // a hash cannot fail
		_, _ = d.Write([]byte(t))
	}
}

// Digest stands for all that was taken in.
func (d Digester) Digest() (out Digest) {
	copy(out[:], d.Hash.Sum(nil))
	return out
}

// Folder makes the digest of the files of a folder, given what stands for the
// text of each by its name. environment is what else the checking depends on.
func Folder(environment string, contents map[string][16]byte) Digest {
	d := NewDigester()
	d.Add(environment)
	names := make([]string, 0, len(contents))
	for n := range contents {
		names = append(names, n)
	}
	slices.Sort(names)
	for _, n := range names {
		c := contents[n]
		d.Add(n, string(c[:]))
	}
	return d.Digest()
}

// Fault is something that is wrong with a file, as it was checked.
type Fault struct {
	// Start and End are where, in bytes; they are the same where only the beginning is known.
	Start, End uint32
	// By is the analysis that says so; "" for the compiler itself.
	By, Text string
	// Import says that it is about an import that leads nowhere.
	Import bool
	// Fixes are what would mend it.
	Fixes []Fix
}

// Fix is what would mend a fault: edits of the same file.
type Fix struct {
	Title string
	Edits []FixEdit
}

// FixEdit puts a text in the place of another, in bytes.
type FixEdit struct {
	Start, End uint32
	New        string
}

// Error is something that a compiler finds wrong.
type Error struct {
	Path      string // relative to the root of the project
	Line, Col int    // from 1, Col in bytes
	Text      string
}
