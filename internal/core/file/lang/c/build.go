package c

import (
	"encoding/json"
	"fmt"
	"hash/fnv"
	"io"
	"io/fs"
	"path"
	"slices"
	"strconv"
	"strings"
	"sync"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/c/clang"
	"rooktrail/internal/core/file/lang/c/preprocess"
)

// buildWords are what a build tells the compiler about a file, as far as its preprocessor asks. Nothing else of a command is
// looked at, and nothing is run.
type buildWords struct {
	folders []string // of headers, in the order in which they are looked through
	include []string // headers that come before all
	defined map[string]*preprocess.Macro
	removed map[string]bool
	digest  uint64
	// arguments are those for a compiler; paths in the project are from its root on.
	arguments []string
}

// build is what the build of a project says: for each file that it makes, or for all below a folder.
type build struct {
	project lang.Project
	once    sync.Once
	files   map[string]*buildWords
	folders map[string]*buildWords // for files of which nothing is said: what is said of others there
	any     *buildWords
}

// databases are where compilation databases lie, from the root of a project: in it, or in the usual folders of builds.
var databases = func() (all []string) {
	for _, folder := range []string{"", "build", "out", "builddir", "_build", ".build", "bld", "obj", "cmake-build-debug", "cmake-build-release", "build/debug", "build/release",
		"build/Debug", "build/Release", "out/Debug", "out/Release", "out/build"} {
		all = append(all, path.Join(folder, databaseName))
	}
	return all
}()

const (
	databaseName = "compile_commands.json"
	flagsName    = "compile_flags.txt"
)

// meant are the words in the command of the entry that the user means, where there are several for a file.
func (b *build) meant() []string {
	if m := b.project.Machine(); m != nil {
		_, words := m.Build("C")
		return words
	}
	return nil
}

// databases are where compilation databases may lie: in the folder that the user means, or in the usual ones.
func (b *build) databases() []string {
	if m := b.project.Machine(); m != nil {
		if folder, _ := m.Build("C"); folder != "" {
			return append([]string{path.Join(path.Clean(folder), databaseName)}, databases...)
		}
	}
	return databases
}

// of are the words for a file, or nil if there are none: its own, those of a file in its folder or in one above, or those of any.
func (b *build) of(file string) *buildWords {
	b.once.Do(b.read)
	if w := b.files[file]; w != nil {
		return w
	}
	for dir := range lang.FoldersUp(file) {
		if w := b.folders[dir]; w != nil {
			return w
		}
	}
	return b.any
}

func (b *build) read() {
	b.files, b.folders = map[string]*buildWords{}, map[string]*buildWords{}
	for _, at := range b.databases() {
		if f, err := b.project.Disk().Open(at); err == nil {
			read := b.readDatabase(io.LimitReader(f, largestDatabase))
			_ = f.Close() // it was only read
			if read {
				return // which says more
			}
		}
	}
	if b.readReplies() {
		return
	}
	if text := b.project.Text(flagsName); text != nil {
		var arguments []string
		for line := range strings.Lines(string(text)) {
			if line = strings.TrimSpace(line); line != "" {
				arguments = append(arguments, line)
			}
		}
		b.any = wordsOf(arguments, func(folder string) string { return path.Clean(folder) })
	}
}

// entry is one of a compilation database.
type entry struct {
	Directory string
	File      string
	Command   string
	Arguments []string
}

// largestDatabase is how much of a compilation database is read, in bytes; of one that is larger than digested, the size and the
// time stand for it.
const (
	largestDatabase = 2 << 30
	digested        = 8 << 20
)

// readDatabase reads a compilation database as far as it is sound, and says whether it says anything of files of the project. Of
// several entries for one file, the first counts.
func (b *build) readDatabase(text io.Reader) bool {
	d := json.NewDecoder(text)
	if open, err := d.Token(); err != nil || open != json.Delim('[') {
		return false
	}
	t := b.taker()
	for d.More() {
		var e entry
		if err := d.Decode(&e); err != nil {
			break
		}
		t.take(e)
	}
	return len(b.files) > 0
}

// taker takes in the entries of a database, one after the other.
type taker struct {
	*build
	at    string                 // the folder that the project lay in where the database was made
	known bool                   // it was found
	same  map[string]*buildWords // by the command without the names of files
	words []string               // that the user means
	has   map[string]int         // how many of them the entry of a file has
}

func (b *build) taker() *taker {
	return &taker{build: b, same: map[string]*buildWords{}, words: b.meant(), has: map[string]int{}}
}

func (t *taker) take(e entry) {
	file := path.Clean(slashed(e.File))
	if !path.IsAbs(file) {
		file = path.Join(slashed(e.Directory), file)
	}
	rel, ok := within(file, t.at)
	if !t.known || !ok || !t.project.Has(rel) {
		if rel, ok = t.inProject(file); !ok {
			return
		}
		t.at, t.known = strings.TrimSuffix(file, "/"+rel), true
	}
	if t.files[rel] != nil && len(t.words) == 0 {
		return
	}
	arguments := e.Arguments
	if len(arguments) == 0 {
		arguments = split(e.Command)
	}
	has := 0
	for _, w := range t.words {
		if slices.Contains(arguments, w) {
			has++
		}
	}
	if t.files[rel] != nil && has <= t.has[rel] {
		return
	}
	t.has[rel] = has
	key := e.Directory + "\x00" + strings.Join(told(arguments), "\x00")
	w := t.same[key]
	if w == nil {
		w = wordsOf(arguments, func(folder string) string {
			if folder = path.Clean(slashed(folder)); !path.IsAbs(folder) {
				folder = path.Join(slashed(e.Directory), folder)
			}
			if in, ok := within(folder, t.at); ok {
				return in
			}
			return folder
		})
		t.same[key] = w
	}
	t.files[rel] = w
	if dir := path.Dir(rel); t.folders[dir] == nil {
		t.folders[dir] = w
	}
	if t.any == nil {
		t.any = w
	}
}

func slashed(p string) string { return strings.ReplaceAll(p, `\`, "/") }

// within is a path from a folder on, if it lies in it.
func within(p, folder string) (rel string, ok bool) {
	if p == folder {
		return ".", true
	}
	return strings.CutPrefix(p, strings.TrimSuffix(folder, "/")+"/")
}

// inProject is the file of the project that a path of this or of another machine means, by how it ends.
func (b *build) inProject(file string) (rel string, ok bool) {
	for rest := strings.TrimLeft(file, "/"); rest != ""; {
		if b.project.Has(rest) {
			return rest, true
		}
		if _, rest, ok = strings.Cut(rest, "/"); !ok {
			return "", false
		}
	}
	return "", false
}

// told are those of the arguments of a compiler that its preprocessor goes by, each as one word.
func told(arguments []string) (all []string) {
	for i := 0; i < len(arguments); i++ {
		a := arguments[i]
		for _, option := range []string{"-isystem", "-iquote", "-idirafter", "-include", "-I", "-D", "-U", "-std=", "--std="} {
			rest, ok := strings.CutPrefix(a, option)
			if !ok {
				continue
			}
			if rest == "" && i+1 < len(arguments) && !strings.HasSuffix(option, "=") {
				i++
				rest = arguments[i]
			}
			all = append(all, strings.TrimPrefix(strings.TrimSuffix(option, "="), "-")+" "+rest)
			break
		}
		if a == "-m32" {
			all = append(all, "m32 ")
		}
	}
	return all
}

// standards are the values by which a standard of C or C++ is known.
var standards = map[string][2]string{
	"89": {"__STDC_VERSION__", ""}, "90": {"__STDC_VERSION__", ""}, "99": {"__STDC_VERSION__", "199901"}, "11": {"__STDC_VERSION__", "201112"},
	"17": {"__STDC_VERSION__", "201710"}, "18": {"__STDC_VERSION__", "201710"}, "2x": {"__STDC_VERSION__", "202311"}, "23": {"__STDC_VERSION__", "202311"},
	"++98": {"__cplusplus", "199711"}, "++03": {"__cplusplus", "199711"}, "++11": {"__cplusplus", "201103"}, "++0x": {"__cplusplus", "201103"},
	"++14": {"__cplusplus", "201402"}, "++1y": {"__cplusplus", "201402"}, "++17": {"__cplusplus", "201703"}, "++1z": {"__cplusplus", "201703"},
	"++20": {"__cplusplus", "202002"}, "++2a": {"__cplusplus", "202002"}, "++23": {"__cplusplus", "202302"}, "++2b": {"__cplusplus", "202302"},
}

// wordsOf reads the arguments of a compiler; place says where in the project a folder lies.
func wordsOf(arguments []string, place func(folder string) string) *buildWords {
	w := &buildWords{defined: map[string]*preprocess.Macro{}, removed: map[string]bool{}}
	define := func(name, value string) {
		w.defined[name] = preprocess.Defined(name, value)
		delete(w.removed, name)
	}
	h := fnv.New64a()
	for _, t := range told(arguments) {
		option, value, _ := strings.Cut(t, " ")
		h.Write([]byte(t + "\x00"))
		switch option {
		case "I", "isystem", "iquote", "idirafter":
			w.folders = append(w.folders, place(value))
		case "include":
			w.include = append(w.include, place(value))
		case "D":
			name, is, ok := strings.Cut(value, "=")
			if !ok {
				is = "1"
			}
			define(name, is)
		case "U":
			delete(w.defined, value)
			w.removed[value] = true
		case "m32":
			for _, name := range []string{"__x86_64__", "__x86_64", "__amd64__", "__LP64__", "_LP64", "__SIZEOF_INT128__"} {
				w.removed[name] = true
			}
			define("__i386__", "1")
			define("__SIZEOF_POINTER__", "4")
			define("__SIZEOF_LONG__", "4")
			define("__LONG_MAX__", "2147483647")
		case "std", "-std":
			if is, ok := standards[strings.TrimLeft(strings.TrimPrefix(value, "gnu"), "c")]; ok && is[1] != "" {
				define(is[0], is[1])
			}
		}
	}
	w.arguments = clang.Arguments(arguments, place)
	for _, a := range w.arguments {
		h.Write([]byte(a + "\x00"))
	}
	w.digest = h.Sum64()
	return w
}

// split takes the line of a shell apart into words, as far as quotes and backslashes go.
func split(line string) (all []string) {
	var b strings.Builder
	in, quote := false, byte(0)
	for i := 0; i < len(line); i++ {
		switch c := line[i]; {
		case c == '\\' && quote != '\'' && i+1 < len(line):
			i++
			b.WriteByte(line[i])
			in = true
		case quote != 0 && c == quote:
			quote = 0
		case quote == 0 && (c == '"' || c == '\''):
			quote, in = c, true
		case quote == 0 && (c == ' ' || c == '\t' || c == '\n' || c == '\r'):
			if in {
				all = append(all, b.String())
				b.Reset()
			}
			in = false
		default:
			b.WriteByte(c)
			in = true
		}
	}
	if in {
		all = append(all, b.String())
	}
	return all
}

// header finds an included file in the folders that a build names; "" if it is in none of them.
func (w *buildWords) header(p lang.Project, included string) string {
	if w == nil {
		return ""
	}
	for _, folder := range w.folders {
		if at := path.Join(folder, included); !path.IsAbs(at) && !strings.HasPrefix(at, "..") && p.Has(at) {
			return at
		}
	}
	return ""
}

// before are the headers that come before all, as far as they lie in the project.
func (w *buildWords) before() (all []string) {
	if w == nil {
		return nil
	}
	for _, at := range w.include {
		if !path.IsAbs(at) && !strings.HasPrefix(at, "..") {
			all = append(all, at)
		}
	}
	return all
}

// digest stands for all that a build says.
func (b *build) digest() string {
	h := fnv.New64a()
	said := false
	fmt.Fprint(h, b.meant())
	for _, at := range slices.Concat(b.databases(), []string{flagsName}, b.replies()) {
		info, err := fs.Stat(b.project.Disk(), at)
		if err != nil {
			continue
		}
		said = true
		h.Write([]byte(at))
		if info.Size() <= digested {
			h.Write(b.project.Text(at))
		} else {
			fmt.Fprint(h, info.Size(), info.ModTime().UnixNano())
		}
	}
	if !said {
		return ""
	}
	return strconv.FormatUint(h.Sum64(), 36)
}
