package golang

import (
	"go/build/constraint"
	"path"
	"runtime"
	"strings"

	"rooktrail/internal/core/file/lang"
)

// builds tells which files belong to a build, by their names and their first
// lines.
type builds struct{}

// Condition implements lang.Builds.
func (builds) Condition(file, said string) string {
	system, machine := nameTags(file)
	return system + " " + machine + " " + said
}

// Here implements lang.Builds.
func (builds) Here(file, said string) bool {
	system, machine := nameTags(file)
	if system != "" && system != runtime.GOOS || machine != "" && machine != runtime.GOARCH {
		return false
	}
	if said == "" {
		return true
	}
	expr, err := constraint.Parse(said)
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
	systems = lang.WordsOf(`aix android darwin dragonfly freebsd hurd illumos ios js linux nacl netbsd openbsd plan9
		solaris wasip1 windows zos`)
	unixSystems = lang.WordsOf(`aix android darwin dragonfly freebsd hurd illumos ios linux netbsd openbsd solaris`)
	machines    = lang.WordsOf(`386 amd64 arm arm64 loong64 mips mips64 mips64le mipsle ppc64 ppc64le riscv64 s390x wasm`)
)
