package clang

import (
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

// options are those of a compiler that are let through, since all they do is to say what is read and in which language: with how
// many dashes they begin, and whether their value may stand by itself. What else stands in a command is left out: it could name
// plugins, wrappers, files of more arguments, or where to write.
var options = []struct {
	name  string
	place bool // its value is a path
	apart bool // its value may stand by itself
}{
	{"-isystem", true, true}, {"-iquote", true, true}, {"-idirafter", true, true}, {"-include", true, true}, {"-I", true, true},
	{"-D", false, true}, {"-U", false, true}, {"-std=", false, false}, {"--std=", false, false}, {"--target=", false, false}, {"-target", false, true},
}

// plainly are options without a value that are let through.
var plainly = map[string]bool{"-m32": true, "-m64": true, "-ansi": true, "-fno-exceptions": true, "-fexceptions": true, "-fno-rtti": true, "-frtti": true, "-fms-extensions": true,
	"-funsigned-char": true, "-fsigned-char": true, "-fshort-wchar": true, "-fshort-enums": true, "-fgnu89-inline": true, "-ffreestanding": true, "-fno-builtin": true, "-nostdinc": true, "-nostdinc++": true, "-pthread": true}

// Arguments lets through those of the arguments of a compiler that say what is read. Paths are taken from a folder, unless they are
// absolute; place says where a path is that was meant on the machine where the arguments come from.
func Arguments(all []string, place func(path string) string) (let []string) {
	for i := 0; i < len(all); i++ {
		a := all[i]
		if plainly[a] {
			let = append(let, a)
			continue
		}
		for _, o := range options {
			value, ok := strings.CutPrefix(a, o.name)
			if !ok {
				continue
			}
			if value == "" {
				if !o.apart || i+1 == len(all) {
					break
				}
				i++
				value = all[i]
			} else if o.name == "-target" || o.name == "-include" && strings.HasPrefix(value, "-") {
				break // the beginning of another option, such as -include-pch
			}
			if o.place {
				value = place(value)
			}
			if strings.HasSuffix(o.name, "=") {
				let = append(let, o.name+value)
			} else {
				let = append(let, o.name, value)
			}
			break
		}
	}
	return let
}

// Find finds libclang on this machine: where the user says, if that is not "", else the newest in the usual places; "" if there is none.
func Find(said string) string {
	if said != "" {
		return said
	}
	best, newest := "", -1
	for _, pattern := range usual {
		found, _ := filepath.Glob(pattern) // the patterns are well formed
		for _, p := range found {
			if v := version(p); v > newest {
				best, newest = p, v
			}
		}
	}
	return best
}

// usual is where libclang lies, with its version in the path where there may be several.
var usual = []string{
	"/usr/lib/llvm-*/lib/libclang.so.1", "/usr/lib/llvm-*/lib/libclang-*.so.*", "/usr/lib/llvm*/lib/libclang.so", "/usr/lib/*/libclang-*.so.*", "/usr/lib/*/libclang.so.*",
	"/usr/lib64/libclang.so.*", "/usr/lib64/llvm*/lib/libclang.so*", "/usr/lib/libclang.so*", "/usr/local/lib/libclang.so*", "/usr/local/llvm*/lib/libclang.so*", "/opt/llvm*/lib/libclang.so*",
	"/opt/homebrew/opt/llvm/lib/libclang.dylib", "/usr/local/opt/llvm/lib/libclang.dylib", "/Library/Developer/CommandLineTools/usr/lib/libclang.dylib",
}

// versions are the numbers in the names of libclang and of the folders it lies in.
var versions = regexp.MustCompile(`(?:llvm-?|libclang-|\.so\.)(\d+)`)

// version is the highest of those in a path; 0 if there is none.
func version(p string) (best int) {
	for _, m := range versions.FindAllStringSubmatch(p, -1) {
		n, _ := strconv.Atoi(m[1]) // digits that are too many count as none
		best = max(best, n)
	}
	return best
}
