package c

import (
	"path"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/c/preprocess"
	"rooktrail/internal/core/file/place"
)

// imports finds headers: beside the file that includes them, in a folder above,
// in one of the folders where headers are kept, or else the nearest of that path
// anywhere in the project; then among those of the system. What every C library has is
// not looked for anywhere in the project but where it is not on the machine, and headers of the system find each other first.
type imports struct {
	lang.Flat
	project lang.Project
	build   *build
	found   *found
}

// found are the headers that were looked for, as they were found.
type found struct {
	mu         sync.Mutex
	generation int // of the code; what was found holds as long as that is the same
	folders    []string
	system     map[string]string // by how they are included
	above      map[lead]string   // in the folder of a lead and those above it, or where headers are kept in these
	nearest    map[lead]string   // anywhere in the project
	there      map[string]bool   // folders of the project, which are or are not
}

// lead is how a file of a folder names a header.
type lead struct{ folder, path string }

// now is what was found of the code as it is. The lock must be held.
func (f *found) now(p lang.Project) *found {
	if generation := p.Generation(); f.system == nil || f.generation != generation {
		f.generation, f.folders = generation, nil
		f.system, f.above, f.nearest, f.there = map[string]string{}, map[lead]string{}, map[lead]string{}, map[string]bool{}
	}
	return f
}

// Module implements lang.Imports.
func (i imports) Module(file string, imp facts.Imported) string {
	included := imp.Path
	if path.IsAbs(file) {
		if at := i.outside(file, included); at != "" {
			return at
		}
	}
	if at := path.Join(path.Dir(file), included); !path.IsAbs(file) && !strings.HasPrefix(at, "..") && i.project.Has(at) {
		return at
	}
	if !path.IsAbs(file) {
		if at := i.build.of(file).header(i.project, included); at != "" {
			return at
		}
	}
	if at := i.found.up(i.project, file, included); at != "" {
		return at
	}
	if isOfLibrary(included) {
		if at := i.onMachine(included); at != "" {
			return at
		}
	}
	if at := i.found.anywhere(i.project, file, included); at != "" {
		return at
	}
	return i.onMachine(included)
}

// onMachine is a header of the system; "" if it is not there.
func (i imports) onMachine(included string) string {
	if i.project.Machine() == nil {
		return ""
	}
	return i.found.onSystem(i.project, included)
}

// libraryHeaders are those that C libraries have, in order: the standard, POSIX and what is customary beside.
var libraryHeaders = strings.Fields(`aio.h alloca.h ar.h argp.h argz.h assert.h byteswap.h complex.h cpio.h crypt.h ctype.h dirent.h dlfcn.h
	elf.h endian.h envz.h err.h errno.h error.h execinfo.h fcntl.h features.h fenv.h fmtmsg.h fnmatch.h fstab.h fts.h ftw.h getopt.h glob.h
	grp.h iconv.h ifaddrs.h inttypes.h iso646.h langinfo.h libgen.h libintl.h limits.h link.h locale.h malloc.h math.h mcheck.h memory.h
	mntent.h monetary.h mqueue.h ndbm.h netdb.h nl_types.h obstack.h paths.h poll.h printf.h pthread.h pty.h pwd.h regex.h resolv.h sched.h
	search.h semaphore.h setjmp.h shadow.h signal.h spawn.h stdalign.h stdarg.h stdatomic.h stdbool.h stddef.h stdint.h stdio.h stdlib.h
	stdnoreturn.h string.h strings.h stropts.h syscall.h sysexits.h syslog.h tar.h termios.h tgmath.h threads.h time.h uchar.h ucontext.h
	ulimit.h unistd.h utime.h utmp.h utmpx.h wait.h wchar.h wctype.h wordexp.h`)

// isOfLibrary says whether a header is one that C libraries have.
func isOfLibrary(included string) bool {
	dir, _, deeper := strings.Cut(included, "/")
	if deeper {
		return dir == "sys" || dir == "arpa" || dir == "netinet"
	}
	_, found := slices.BinarySearch(libraryHeaders, included)
	return found
}

// outside is the header that one outside of the project includes, if that lies beside it or is one of the system.
func (i imports) outside(file, included string) string {
	if at := path.Join(path.Dir(file), included); i.project.Has(at) {
		return at
	}
	return i.onMachine(included)
}

// Includes implements lang.Headers.
func (i imports) Includes(text []byte) (all []facts.Imported) {
	for _, at := range preprocess.Includes(text) {
		all = append(all, facts.Imported{Path: at, Name: "*"})
	}
	return all
}

// headerFolders are where the headers of the system lie.
var headerFolders = []string{"/usr/local/include", "/usr/include", "/usr/include/*-linux-*", "/usr/lib/gcc/*/*/include", "/usr/include/c++/*",
	"/opt/homebrew/include", "/Library/Developer/CommandLineTools/SDKs/MacOSX.sdk/usr/include"}

// onSystem is the file of a header of the system; "" if it is not there.
func (f *found) onSystem(p lang.Project, included string) string {
	m := p.Machine()
	f.mu.Lock()
	defer f.mu.Unlock()
	f.now(p)
	if f.folders == nil {
		f.folders = append([]string{}, library.Matching(append(append(m.Of("C"), m.Of("C++")...), headerFolders...)...)...)
	}
	at, known := f.system[included]
	if known {
		return at
	}
	for _, dir := range f.folders {
		if p := path.Join(dir, included); m.HasFile(p) {
			at = p
			break
		}
	}
	f.system[included] = at
	return at
}

// headersKept are the folders in which headers are kept.
var headersKept = []string{"include", "src", "inc"}

// up is the header that lies in the folder of a file, or one above it, or where headers are kept in these; "" for none.
func (f *found) up(p lang.Project, file, included string) (at string) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.now(p)
	var asked []lead
	for dir := range lang.FoldersUp(file) {
		l := lead{dir, included}
		known := false
		if at, known = f.above[l]; known {
			break
		}
		asked = append(asked, l)
		if at = f.in(p, dir, included); at != "" {
			break
		}
	}
	for _, l := range asked {
		l.path = strings.Clone(included) // or the text that it stands in would be kept
		f.above[l] = at
	}
	return at
}

// in is the header that lies in a folder, or where headers are kept in it; "" for none. The lock must be held.
func (f *found) in(p lang.Project, dir, included string) string {
	if at := path.Join(dir, included); isInside(at) && p.Has(at) {
		return at
	}
	for _, sub := range headersKept {
		folder := path.Join(dir, sub)
		there, known := f.there[folder]
		if !known {
			there = isInside(folder) && p.Has(folder)
			f.there[folder] = there
		}
		if !there {
			continue
		}
		if at := path.Join(folder, included); isInside(at) && p.Has(at) {
			return at
		}
	}
	return ""
}

// anywhere is the header of a path that lies nearest to a file, wherever it lies in the project; "" for none.
func (f *found) anywhere(p lang.Project, file, included string) string {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.now(p)
	l := lead{path.Dir(file), included}
	best, known := f.nearest[l]
	if known {
		return best
	}
	ending := "/" + strings.TrimLeft(path.Clean(included), "./")
	for _, at := range p.FilesNamed(path.Base(included)) {
		if strings.HasSuffix("/"+at, ending) && (best == "" || place.Distance(file, at) < place.Distance(file, best)) {
			best = at
		}
	}
	l.path = strings.Clone(included) // or the text that it stands in would be kept
	f.nearest[l] = best
	return best
}

// isInside says whether a path leads to something within the project.
func isInside(p string) bool { return !path.IsAbs(p) && !strings.HasPrefix(p, "..") }
