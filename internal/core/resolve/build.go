package resolve

import (
	"cmp"
	"go/build/constraint"
	"path"
	"runtime"
	"slices"
	"strings"
)

// forBuild orders definitions of one name that stand in files for different
// systems: those first that belong to a build together with the file from
// which the name is used, and of these those for the system this runs on.
func forBuild(refs []ref, from *source) []ref {
	if len(refs) < 2 {
		return refs
	}
	rank := func(r ref) int {
		switch {
		case r.src == from:
			return 0
		case from != nil && condition(r.src) == condition(from) && !builds(from):
			return 1
		case builds(r.src):
			return 2
		}
		return 3
	}
	slices.SortStableFunc(refs, func(a, b ref) int { return cmp.Compare(rank(a), rank(b)) })
	return refs
}

// condition says under which condition a file belongs to a build, by its name
// and its first lines.
func condition(src *source) string {
	system, machine := nameTags(src.path)
	return system + " " + machine + " " + src.Build
}

// builds says whether a file belongs to a build for the system this runs on.
func builds(src *source) bool {
	system, machine := nameTags(src.path)
	if system != "" && system != runtime.GOOS || machine != "" && machine != runtime.GOARCH {
		return false
	}
	if src.Build == "" {
		return true
	}
	expr, err := constraint.Parse(src.Build)
	return err != nil || expr.Eval(hasTag)
}

func hasTag(tag string) bool {
	switch tag {
	case runtime.GOOS, runtime.GOARCH, "gc", "cgo":
		return true
	case "unix":
		return unixSystems[runtime.GOOS]
	}
	return strings.HasPrefix(tag, "go1.")
}

// nameTags are the system and the machine that the name of a Go file is for.
func nameTags(file string) (system, machine string) {
	stem := strings.TrimSuffix(strings.TrimSuffix(path.Base(file), ".go"), "_test")
	parts := strings.Split(stem, "_")
	if len(parts) < 2 {
		return "", ""
	}
	last := parts[len(parts)-1]
	if machines[last] {
		machine = last
		if len(parts) > 2 && systems[parts[len(parts)-2]] {
			system = parts[len(parts)-2]
		}
		return system, machine
	}
	if systems[last] {
		system = last
	}
	return system, ""
}

var (
	systems = words(`aix android darwin dragonfly freebsd hurd illumos ios js linux nacl netbsd openbsd plan9
		solaris wasip1 windows zos`)
	unixSystems = words(`aix android darwin dragonfly freebsd hurd illumos ios linux netbsd openbsd solaris`)
	machines    = words(`386 amd64 arm arm64 loong64 mips mips64 mips64le mipsle ppc64 ppc64le riscv64 s390x wasm`)
)
