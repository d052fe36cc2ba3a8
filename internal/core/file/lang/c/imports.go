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
	system  *system
}

// system are the headers of the system, as they were found.
type system struct {
	mu         sync.Mutex
	generation int // of the code; what was found holds as long as that is the same
	folders    []string
	found      map[string]string // by how they are included
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
	for dir := range lang.FoldersUp(file) {
		for _, sub := range []string{"", "include", "src", "inc"} {
			if p := path.Join(dir, sub, included); !path.IsAbs(p) && !strings.HasPrefix(p, "..") && i.project.Has(p) {
				return p
			}
		}
	}
	if isOfLibrary(included) {
		if at := i.onMachine(included); at != "" {
			return at
		}
	}
	best := ""
	for _, p := range i.project.FilesNamed(path.Base(included)) {
		if !strings.HasSuffix("/"+p, "/"+strings.TrimLeft(path.Clean(included), "./")) {
			continue
		}
		if best == "" || place.Distance(file, p) < place.Distance(file, best) {
			best = p
		}
	}
	if best != "" {
		return best
	}
	return i.onMachine(included)
}

// onMachine is a header of the system; "" if it is not there.
func (i imports) onMachine(included string) string {
	if i.project.Machine() == nil {
		return ""
	}
	return i.system.of(i.project, included)
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

// of is the file of a header of the system; "" if it is not there. What was found is not looked for again until the code changes.
func (s *system) of(p lang.Project, included string) string {
	m, generation := p.Machine(), p.Generation()
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.found == nil || s.generation != generation {
		s.generation, s.found = generation, map[string]string{}
		s.folders = library.Matching(append(append(m.Of("C"), m.Of("C++")...), headerFolders...)...)
	}
	found, known := s.found[included]
	if known {
		return found
	}
	for _, dir := range s.folders {
		if at := path.Join(dir, included); m.HasFile(at) {
			found = at
			break
		}
	}
	s.found[included] = found
	return found
}
