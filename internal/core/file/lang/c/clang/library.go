package clang

// #cgo linux LDFLAGS: -ldl
// #include <stdlib.h>
// #include "libclang.h"
import "C"

import (
	"errors"
	"unsafe"

	"rooktrail/internal/core/file/check"
)

// load loads the library for good and gives its version. A process can load one.
func load(library string) (version string, err error) {
	name := C.CString(library)
	defer C.free(unsafe.Pointer(name))
	var failure *C.char
	v := C.asked_load(name, &failure)
	if v == nil {
		defer C.free(unsafe.Pointer(failure))
		return "", errors.New("loading " + library + ": " + C.GoString(failure))
	}
	defer C.free(unsafe.Pointer(v))
	return C.GoString(v), nil
}

// parse reads a file with the library that is loaded.
func parse(r *Request) *check.Unit {
	words := make([]*C.char, len(r.Arguments)+1) // with one more, so that there is a first
	for i, a := range r.Arguments {
		words[i] = C.CString(a)
		defer C.free(unsafe.Pointer(words[i]))
	}
	root, file := C.CString(r.Root+"/"), C.CString(r.File)
	defer C.free(unsafe.Pointer(root))
	defer C.free(unsafe.Pointer(file))
	unit := C.asked_parse(root, file, &words[0], C.int(len(r.Arguments)))
	defer C.asked_free(unit)
	said := &check.Unit{}
	if unit.failure != nil {
		said.Failure = C.GoString(unit.failure)
	}
	for _, f := range unsafe.Slice(unit.files, unit.file_count) {
		said.Files = append(said.Files, check.UnitFile{Path: C.GoString(f.path), Inside: f.inside != 0})
	}
	for _, f := range unsafe.Slice(unit.faults, unit.fault_count) {
		said.Faults = append(said.Faults, check.UnitFault{File: int(f.file), Offset: uint32(f.offset), Text: C.GoString(f.words)})
	}
	for _, u := range unsafe.Slice(unit.uses, unit.use_count) {
		target := int(u.target)
		if u.target >= C.uint32_t(len(said.Files)) {
			target = check.Nowhere
		}
		said.Uses = append(said.Uses, check.UnitUse{File: int(u.file), Offset: uint32(u.offset), Length: uint32(u.length), Target: target, TargetOffset: uint32(u.target_offset),
			Symbol: uint64(u.symbol), Declared: u.flags&C.asked_declared != 0})
	}
	for _, d := range unsafe.Slice(unit.definitions, unit.definition_count) {
		said.Definitions = append(said.Definitions, check.UnitDefinition{File: int(d.file), Offset: uint32(d.offset), Symbol: uint64(d.symbol)})
	}
	return said
}
