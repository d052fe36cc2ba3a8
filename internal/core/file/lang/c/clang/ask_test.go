package clang

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"rooktrail/internal/core/file/check"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The tests are begun anew, as the program is.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == Command {
		if err := Serve(os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		os.Exit(0)
	}
	os.Exit(m.Run())
}

// asked writes files into a folder and asks about one of them; it skips the test where there is no libclang.
func asked(t *testing.T, files map[string]string, file string, arguments ...string) (*check.Unit, map[string]string) {
	library := Find("")
	if library == "" {
		t.Skip("there is no libclang on this machine")
	}
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(root, name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o600))
	}
	program, err := os.Executable()
	require.NoError(t, err)
	unit, err := Ask(context.Background(), program, &Request{Library: library, Root: root, File: filepath.Join(root, file), Arguments: arguments})
	require.NoError(t, err)
	return unit, files
}

// meant is what the name at an offset of a file means, as "file:offset"; "" if nothing is said, and "nowhere" for what a macro writes.
func meant(u *check.Unit, file string, offset int) string {
	for _, use := range u.Uses {
		if filepath.Base(u.Files[use.File].Path) == file && int(use.Offset) == offset {
			if use.Target == check.Nowhere {
				return "nowhere"
			}
			return fmt.Sprintf("%s:%d", filepath.Base(u.Files[use.Target].Path), use.TargetOffset)
		}
	}
	return ""
}

func TestWhatNamesMean(t *testing.T) {
	unit, files := asked(t, map[string]string{
		"hut.h": "struct hut { int snow; };\n#define DEEP 40\nint closed(const struct hut *h);\n",
		"hut.c": "#include \"hut.h\"\n#define ASK(x) closed(x)\n#define MAKE(n) int n##_made;\nMAKE(near)\nint open(struct hut *h) { return h->snow < DEEP && !ASK(h) && near_made; }\n",
	}, "hut.c", "-x", "c")
	require.Empty(t, unit.Failure)
	code, header := files["hut.c"], files["hut.h"]
	in := func(of string) int { return strings.LastIndex(code, of) }
	assert.Equal(t, fmt.Sprintf("hut.h:%d", strings.Index(header, "snow")), meant(unit, "hut.c", in("snow")))
	assert.Equal(t, fmt.Sprintf("hut.h:%d", strings.Index(header, "DEEP")), meant(unit, "hut.c", in("DEEP")))
	assert.Equal(t, fmt.Sprintf("hut.c:%d", strings.Index(code, "ASK")), meant(unit, "hut.c", in("ASK")))
	assert.Equal(t, fmt.Sprintf("hut.c:%d", strings.Index(code, "h) {")), meant(unit, "hut.c", in("h) && near")), "within what a macro is given")
	assert.Equal(t, "nowhere", meant(unit, "hut.c", in("near_made")), "what a macro writes")
	declared := map[string]bool{}
	for _, d := range unit.Definitions {
		declared[fmt.Sprintf("%s:%d %t", filepath.Base(unit.Files[d.File].Path), d.Offset, d.Symbol != 0)] = true
	}
	assert.True(t, declared[fmt.Sprintf("hut.c:%d true", in("open"))])
	assert.True(t, declared[fmt.Sprintf("hut.h:%d false", strings.Index(header, "closed"))], "it is written out elsewhere")
}

func TestWhatCannotBeRead(t *testing.T) {
	for name, c := range map[string]struct{ text, says string }{
		"a header that is not there": {"#include \"gone.h\"\n", "gone.h"},
		"an error":                   {"int f(void) { return unknown; }\n", "unknown"},
		"a macro without an end":     {"#define A B\n#define B A A\nint x = A;\n", "A"},
		"headers in a circle":        {"#include \"a.c\"\n", "nested too deeply"},
	} {
		t.Run(name, func(t *testing.T) {
			unit, _ := asked(t, map[string]string{"a.c": c.text}, "a.c", "-x", "c")
			assert.Contains(t, unit.Failure, c.says)
			assert.Empty(t, unit.Uses)
			assert.NotEmpty(t, unit.Files, "what it was read with, so that it is read again when that changes")
		})
	}
}

// What fails in the other process is an error here.
func TestALibraryThatFails(t *testing.T) {
	program, err := os.Executable()
	require.NoError(t, err)
	none := filepath.Join(t.TempDir(), "libclang.so")
	require.NoError(t, os.WriteFile(none, []byte("no library"), 0o600))
	for library, says := range map[string]string{none: none, "/nowhere/libclang.so": "/nowhere/libclang.so"} {
		unit, err := Ask(context.Background(), program, &Request{Library: library, Root: "/tmp", File: "/tmp/a.c"})
		require.NoError(t, err)
		assert.Contains(t, unit.Failure, says)
	}
	old := filepath.Join("/lib", "x86_64-linux-gnu", "libm.so.6")
	if _, err := os.Stat(old); err == nil {
		unit, err := Ask(context.Background(), program, &Request{Library: old, Root: "/tmp", File: "/tmp/a.c"})
		require.NoError(t, err)
		assert.Contains(t, unit.Failure, "lacks clang_")
	}
	_, err = Ask(context.Background(), "/bin/false", &Request{Library: none, File: "/tmp/a.c"})
	assert.ErrorContains(t, err, "libclang failed on /tmp/a.c")
	_, err = Ask(context.Background(), "/bin/echo", &Request{Library: none, File: "/tmp/a.c"})
	assert.ErrorContains(t, err, "its answer is cut off")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err = Ask(ctx, program, &Request{Library: none, File: "/tmp/a.c"})
	assert.ErrorIs(t, err, context.Canceled)
}

// What could run something, read more arguments or write is not let through.
func TestArguments(t *testing.T) {
	place := func(p string) string { return "at/" + p }
	for given, want := range map[string]string{
		"cc -Iinclude -I lib -DA=1 -D B -UC -O2 -Wall -c a.c -o a.o":                   "-I at/include -I at/lib -D A=1 -D B -U C",
		"cc -std=c11 --std=gnu99 -m32 -target arm-none-eabi --target=x86_64-linux-gnu": "-std=c11 --std=gnu99 -m32 -target arm-none-eabi --target=x86_64-linux-gnu",
		"cc -include auto.h -isystem sys -iquote q -idirafter after":                   "-include at/auto.h -isystem at/sys -iquote at/q -idirafter at/after",
		"cc -fplugin=evil.so -Xclang -load -Xclang evil.so -wrapper evil @more":        "",
		"cc -include-pch evil.pch -fmodules -fmodule-file=evil -specs=evil -B evil":    "",
		"cc -x c++ -E -save-temps -MF out -MD -serialize-diagnostics out -o out":       "",
		"cc -targetted -D":                          "",
		"cc -ivfsoverlay evil -working-directory=/": "",
	} {
		assert.Equal(t, strings.Fields(want), append([]string{}, Arguments(strings.Fields(given), place)...), given)
	}
}

func TestWhichLibraryIsTheNewest(t *testing.T) {
	assert.Equal(t, "/opt/mine.so", Find("/opt/mine.so"))
	assert.Equal(t, 14, version("/usr/lib/x86_64-linux-gnu/libclang-14.so.14.0.6"))
	assert.Equal(t, 18, version("/usr/lib/llvm-18/lib/libclang.so.1"))
	assert.Equal(t, 0, version("/usr/lib/libclang.so"))
}

// A library that crashes or hangs costs one answer.
func TestALibraryThatCrashesOrHangs(t *testing.T) {
	compiler, err := exec.LookPath("cc")
	if err != nil {
		t.Skip("there is no compiler for a library that fails")
	}
	program, err := os.Executable()
	require.NoError(t, err)
	source, err := os.ReadFile("libclang.c")
	require.NoError(t, err)
	make := func(does string) string {
		code := "#include <stdlib.h>\n"
		for _, m := range regexp.MustCompile(`F\([^,]+, (\w+), `).FindAllStringSubmatch(string(source), -1) {
			code += "void *clang_" + m[1] + "(void) { " + does + " }\n"
		}
		at := filepath.Join(t.TempDir(), "libclang.c")
		require.NoError(t, os.WriteFile(at, []byte(code), 0o600))
		out, err := exec.Command(compiler, "-shared", "-fPIC", "-o", at+".so", at).CombinedOutput()
		require.NoError(t, err, string(out))
		return at + ".so"
	}
	_, err = Ask(context.Background(), program, &Request{Library: make("abort();"), Root: "/tmp", File: "/tmp/a.c"})
	assert.ErrorContains(t, err, "libclang failed on /tmp/a.c")
	ctx, cancel := context.WithTimeout(context.Background(), time.Second)
	defer cancel()
	_, err = Ask(ctx, program, &Request{Library: make("for (;;) {}"), Root: "/tmp", File: "/tmp/a.c"})
	assert.Error(t, err)
}

// What the compiler does not take is told where it stands; nothing is, where a header is missing, as the rest may come of that.
func TestWhatIsNotTaken(t *testing.T) {
	code := "struct hut { int snow; };\nint open(struct hut *h) { return h->snou; }\nint shut(void) { return 1 }\n"
	unit, _ := asked(t, map[string]string{"hut.c": code}, "hut.c", "-x", "c")
	assert.NotEmpty(t, unit.Failure)
	require.Len(t, unit.Faults, 2)
	assert.Equal(t, uint32(strings.Index(code, "snou")), unit.Faults[0].Offset)
	assert.Contains(t, unit.Faults[0].Text, "snou")
	assert.Equal(t, "hut.c", filepath.Base(unit.Files[unit.Faults[1].File].Path))
	assert.Contains(t, unit.Faults[1].Text, "expected ';'")
	unit, _ = asked(t, map[string]string{"hut.c": "#include \"made.h\"\nint open(void) { return DEEP; }\n"}, "hut.c", "-x", "c")
	assert.Contains(t, unit.Failure, "made.h")
	assert.Empty(t, unit.Faults)
}
