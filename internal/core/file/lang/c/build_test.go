package c

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestCommandsAreTakenApart(t *testing.T) {
	for line, want := range map[string][]string{
		`cc -c  a.c`: {"cc", "-c", "a.c"}, `cc "-DNAME=\"two words\"" 'b c.c'`: {"cc", `-DNAME="two words"`, "b c.c"}, `a\ b c`: {"a b", "c"},
		``: nil, `""`: {""}, `"open`: {"open"}, `a"b"'c'd`: {"abcd"}, `\`: {`\`},
	} {
		assert.Equal(t, want, split(line), line)
	}
	assert.Equal(t, []string{"I a", "I b", "isystem c", "D X=1", "U Y", "include z.h", "std c++20", "m32 "},
		told(strings.Fields("cc -Ia -I b -isystem c -DX=1 -U Y -include z.h -std=c++20 -m32 -fplugin=evil.so @more -Xclang -load -wrapper sh,-c -o out a.c -I")[0:19]))
}

// What the preprocessor of a build would see of one file.
func built(t *testing.T, p *langtest.Project, file string) (names []string) {
	t.Helper()
	f, err := around(CPP, p).Facts(context.Background(), CPP, file, p.Text(file))
	require.NoError(t, err)
	for _, d := range f.Defs {
		if d.Kind == facts.Variable && !d.Inactive {
			names = append(names, d.Name)
		}
	}
	return names
}

const askingFile = "#include \"level.h\"\n#ifdef FROM_BUILD\nint built;\n#endif\n#if LEVEL > 2\nint high;\n#endif\n#if __cplusplus >= 202002L\nint modern;\n#endif\n#ifdef GENERATED\nint generated;\n#endif\n#ifdef __linux__\nint linux_;\n#endif\n"

func TestWhatABuildSays(t *testing.T) {
	for name, c := range map[string]struct {
		files map[string]string
		want  string
	}{
		"nothing":        {nil, "linux_"},
		"flags":          {map[string]string{"compile_flags.txt": "-DFROM_BUILD\n-std=c++20\n-Ihigh/up\n-U\n__linux__\n"}, "built high modern"},
		"by command":     {map[string]string{"compile_commands.json": `[{"directory": "/far/away/hut", "file": "src/a.cpp", "command": "c++ -DFROM_BUILD -I high/up -include gen/auto.h -c src/a.cpp"}]`}, "built high generated linux_"},
		"by arguments":   {map[string]string{"build/compile_commands.json": `[{"directory": "/far/hut/build", "file": "/far/hut/src/a.cpp", "arguments": ["c++", "-I/far/hut/high/up", "-std=gnu++2a"]}]`}, "high modern linux_"},
		"from windows":   {map[string]string{"compile_commands.json": `[{"directory": "C:\\hut", "file": "C:\\hut\\src\\a.cpp", "command": "cl -DFROM_BUILD"}]`}, "built linux_"},
		"two entries":    {map[string]string{"compile_commands.json": `[{"directory": "/h", "file": "src/a.cpp", "command": "c++ -DFROM_BUILD"}, {"directory": "/h", "file": "src/a.cpp", "command": "c++ -std=c++20"}]`}, "built linux_"},
		"of a neighbour": {map[string]string{"compile_commands.json": `[{"directory": "/h", "file": "src/b.cpp", "command": "c++ -DFROM_BUILD"}]`, "src/b.cpp": ""}, "built linux_"},
		"both":           {map[string]string{"compile_flags.txt": "-std=c++20\n", "compile_commands.json": `[{"directory": "/h", "file": "src/b.cpp", "command": "c++ -DFROM_BUILD"}]`, "src/b.cpp": ""}, "built linux_"},
		"broken":         {map[string]string{"compile_commands.json": `[{"directory": "/h", "file": "src/a.cpp", "command": "c++ -DFROM_BUILD"}, {"dir`}, "built linux_"},
		"no database":    {map[string]string{"compile_commands.json": `{"version": 1}`, "build/compile_commands.json": `[{"file": "/x/src/a.cpp", "command": "c++ -DFROM_BUILD"}]`}, "built linux_"},
		"of no file":     {map[string]string{"compile_commands.json": `[{"directory": "/h", "file": "gone.cpp", "command": "c++ -DFROM_BUILD"}]`}, "linux_"},
		"nowhere":        {map[string]string{"compile_commands.json": `[{"directory": "../..", "file": "../../src/a.cpp", "command": "c++ -I../../../etc -include ../../../etc/passwd -DFROM_BUILD"}]`}, "built linux_"},
	} {
		files := map[string]string{"src/a.cpp": askingFile, "high/up/level.h": "#define LEVEL 3\n", "other/level.h": "#define LEVEL 1\n", "gen/auto.h": "#define GENERATED 1\n"}
		for f, text := range c.files {
			files[f] = text
		}
		p := langtest.New(t, files)
		got := built(t, p, "src/a.cpp")
		assert.Equal(t, strings.Fields(c.want), got, name)
	}
}

func TestHeadersThatIncludeEachOther(t *testing.T) {
	p := langtest.New(t, map[string]string{
		"a.hpp": "#include \"b.hpp\"\n#define A namespace hut {\nB\nstruct Bell {};\n}\n",
		"b.hpp": "#include \"a.hpp\"\n#define B A\n",
	})
	f, err := around(CPP, p).Facts(context.Background(), HPP, "a.hpp", p.Text("a.hpp"))
	require.NoError(t, err)
	i := slices.IndexFunc(f.Defs, func(d facts.Def) bool { return d.Name == "Bell" })
	require.GreaterOrEqual(t, i, 0, fmt.Sprint(f.Defs))
	assert.Equal(t, "hut", f.Defs[i].Container)
}

// Of several builds, and of several entries for a file, the one counts that the user means.
func TestWhichBuildIsMeant(t *testing.T) {
	files := map[string]string{
		"src/a.c":                     "",
		"build/compile_commands.json": `[{"directory": "/p", "file": "src/a.c", "command": "cc -DFIRST -c src/a.c"}, {"directory": "/p", "file": "src/a.c", "command": "cc -DSECOND -fPIC -c src/a.c"}]`,
		"mine/compile_commands.json":  `[{"directory": "/p", "file": "src/a.c", "command": "cc -DMINE -c src/a.c"}]`,
	}
	for want, said := range map[string][]string{"FIRST": nil, "MINE": {"mine"}, "SECOND": {"build", "-fPIC"}} {
		p := langtest.New(t, files)
		p.Outside.Builds = map[string][]string{"c": said}
		b := &build{project: p}
		assert.Contains(t, b.of("src/a.c").defined, want)
	}
}

func FuzzDatabase(f *testing.F) {
	for _, seed := range []string{
		`[{"directory": "/h", "file": "src/a.cpp", "command": "c++ -DX=1 '-DY=\"z\"' -I a"}]`, `[{"file": "a", "arguments": ["-I", "-D", "-include"]}]`, `[`, `{}`, `[{}]`, `[[]]`, `[{"command": 3}]`,
	} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		p := langtest.New(t, map[string]string{"src/a.cpp": "", "compile_flags.txt": text})
		b := &build{project: p}
		b.of("src/a.cpp").header(p, "a.h")
		b.readDatabase(strings.NewReader(text))
		split(text)
	})
}
