package index

import (
	"fmt"
	"maps"
	"math/rand"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/project"
)

func summary(symbols ...Symbol) *Summary {
	s := &Summary{Lines: 9, Defs: len(symbols), Uses: 1}
	f := &facts.File{Package: "hut", Imports: []facts.Imported{{Path: "fmt", Name: "Println"}}}
	for i := range symbols {
		s.add(&symbols[i])
		f.Defs = append(f.Defs, facts.Def{Name: symbols[i].Name})
	}
	s.names, s.imports = namesOf(f), encodeImports(f)
	return s
}

var words = strings.Fields("ring bell Ring hut Hut assign Assign roster team slope snow risk gateway frame é _ x")

// made is a file of some content, which is the same for the same number.
func made(n int) Known {
	r := rand.New(rand.NewSource(int64(n)))
	word := func() string { return words[r.Intn(len(words))] }
	var symbols []Symbol
	for i := range r.Intn(12) {
		s := Symbol{Name: word() + word(), Kind: facts.Method, Line: i + 1, Offset: 10 * i, Aside: r.Intn(5) == 0}
		if r.Intn(2) == 0 {
			s.Container = word()
		}
		symbols = append(symbols, s)
	}
	if r.Intn(30) == 0 {
		symbols = append(symbols, Symbol{Name: strings.Repeat("long", 200), Container: "Hut", Kind: facts.Function, Line: 90, Offset: 900})
	}
	sum := summary(symbols...)
	switch r.Intn(8) {
	case 0:
		sum = &Summary{GivenUp: "nested too deeply", Again: int64(n), names: []byte{}, imports: []byte{}}
	case 1, 2, 3:
		sum.imports = encodeImports(&facts.File{Package: word(), Imports: []facts.Imported{{Path: word(), Name: "*"}, {Path: word(), Name: word(), Alias: word(), Level: n}}})
	}
	return Known{Size: int64(n), Modified: int64(1000 + n), Content: Content{byte(n), byte(n >> 8), 1}, Summary: sum}
}

func openSome(t testing.TB, folder string) (*Segments, []*Segment) {
	s, open, repaired, err := OpenSegments(folder)
	require.NoError(t, err)
	require.False(t, repaired)
	return s, open
}

// sameAnswers says that one index answers as another one.
func sameAnswers(t *testing.T, want, got *Index, paths []string) {
	t.Helper()
	for _, name := range []string{"ringbell", "RingBell", "hut", "assignAssign", "x_", "nothing", "Println"} {
		require.Equal(t, want.Named(name), got.Named(name), name)
		require.Equal(t, want.Mentioning(name), got.Mentioning(name), name)
	}
	for _, p := range paths {
		require.Equal(t, want.Summary(p), got.Summary(p), p)
		require.Equal(t, want.In(p), got.In(p), p)
		imports, known := want.Imports(p)
		imports2, known2 := got.Imports(p)
		require.Equal(t, known, known2)
		require.Equal(t, imports, imports2)
		if h := want.Head(p); h != nil {
			require.Equal(t, h.GivenUp == "", known)
			require.Equal(t, h.GivenUp, got.Head(p).GivenUp)
			pkg, imports := h.Imports()
			pkg2, imports2 := got.Head(p).Imports()
			require.Equal(t, pkg, pkg2)
			require.Equal(t, imports, imports2)
			require.Equal(t, h.Defs, got.Head(p).Defs)
		}
	}
	for _, query := range []string{"r", "ring", "hu.as", "ri be", "rnig", "assgin", "xyz", "Hut", "_"} {
		q := fuzzy.Parse(query)
		names := func(hits []Hit) (all []string) {
			for _, h := range hits {
				all = append(all, fmt.Sprint(h.Qualified(), " ", h.Match.Score, h.Match.At))
			}
			return all
		}
		require.Equal(t, names(want.Search(t.Context(), q, 25)), names(got.Search(t.Context(), q, 25)), query)
		where := func(path string) (int, bool) { return len(path), strings.Contains(path, "1") }
		require.ElementsMatch(t, names(want.SearchIn(t.Context(), q, 1000, where)), names(got.SearchIn(t.Context(), q, 1000, where)), query)
	}
	require.ElementsMatch(t, want.Names(), got.Names())
	require.False(t, got.Damaged())
}

// Whatever was put in, taken away, written, merged and opened again, an index with segments answers as one
// that has all in memory.
func TestAnIndexWithSegmentsAnswersAsOneInMemory(t *testing.T) {
	for seed := range 12 {
		r := rand.New(rand.NewSource(int64(seed)))
		folder := filepath.Join(t.TempDir(), "in", "here")
		segments, _ := openSome(t, folder)
		var x Index
		now, news := map[string]Known{}, map[string]Known{}
		reopen := func() {
			x.Close()
			var open []*Segment
			segments, open = openSome(t, folder)
			x.Open(open)
			var files []project.File
			for _, p := range slices.Sorted(maps.Keys(now)) {
				files = append(files, project.File{Path: p, Size: now[p].Size, Modified: now[p].Modified})
			}
			for i, c := range x.Confirm(files) {
				if p := files[i].Path; c.OK {
					require.Equal(t, now[p].Content, c.Content)
					require.Equal(t, now[p].Summary.GivenUp, c.GivenUp)
				} else {
					require.NoError(t, x.Put(p, now[p].Summary))
					news[p] = now[p]
				}
			}
			x.Retain()
		}
		for step := range 60 {
			for range 1 + r.Intn(8) {
				p := fmt.Sprintf("in/%02d.go", r.Intn(40))
				if r.Intn(6) == 0 {
					x.Remove(p)
					delete(now, p)
					delete(news, p)
					continue
				}
				now[p] = made(r.Intn(200))
				news[p] = now[p]
				require.NoError(t, x.Put(p, now[p].Summary))
			}
			switch r.Intn(5) {
			case 0, 1, 2:
				s, err := segments.Add(t.Context(), news)
				require.NoError(t, err)
				x.Settle(s, news)
				news = map[string]Known{}
			case 3:
				for done := false; !done; {
					var err error
					done, err = x.Merge(t.Context(), segments, step%2 == 0)
					require.NoError(t, err)
				}
			case 4:
				news = map[string]Known{}
				reopen()
			}
		}
		var want Index
		for p, k := range now {
			require.NoError(t, want.Put(p, k.Summary))
		}
		paths := append(slices.Sorted(maps.Keys(now)), "nothing.go")
		sameAnswers(t, &want, &x, paths)
		reopen()
		sameAnswers(t, &want, &x, paths)
		for _, k := range now {
			if _, kept := news["none"]; !kept && x.WithContent(k.Content) != nil {
				assert.Equal(t, k.Summary, x.WithContent(k.Content), "what was read once is known by its content")
			}
		}
		x.Close()
	}
}

// What one was on another branch is known when it comes back.
func TestEarlierVersionsAreKept(t *testing.T) {
	folder := t.TempDir()
	segments, _ := openSome(t, folder)
	day := time.Now()
	segments.now = func() time.Time { return day }
	var x Index
	write := func(n int) {
		known := map[string]Known{"a.go": made(n)}
		require.NoError(t, x.Put("a.go", known["a.go"].Summary))
		s, err := segments.Add(t.Context(), known)
		require.NoError(t, err)
		x.Settle(s, known)
	}
	for n := range 10 {
		write(n)
	}
	merge := func() {
		for done := false; !done; {
			var err error
			done, err = x.Merge(t.Context(), segments, true)
			require.NoError(t, err)
		}
	}
	merge()
	assert.Equal(t, made(9).Summary, x.Summary("a.go"))
	assert.Equal(t, made(7).Summary, x.WithContent(made(7).Content), "it was two versions ago")
	assert.Nil(t, x.WithContent(made(1).Content), "it was too many versions ago")
	confirmed := x.Confirm([]project.File{{Path: "a.go", Size: made(7).Size, Modified: made(7).Modified}})
	assert.Equal(t, []Confirmed{{OK: true, Content: made(7).Content}}, confirmed)
	assert.Equal(t, made(7).Summary, x.Summary("a.go"))
	day = day.Add((keptDays + 1) * 24 * time.Hour)
	write(3)
	write(4)
	merge()
	assert.Nil(t, x.WithContent(made(9).Content), "nobody had it for a month")
}

func TestTwoProgramsOnOneFolder(t *testing.T) {
	folder := t.TempDir()
	var wg sync.WaitGroup
	for n := range 3 {
		wg.Go(func() {
			segments, open := openSome(t, folder)
			var x Index
			x.Open(open)
			defer x.Close()
			for i := range 30 {
				p := fmt.Sprintf("%d/%d.go", n, i)
				known := map[string]Known{p: made(100*n + i)}
				assert.NoError(t, x.Put(p, known[p].Summary))
				s, err := segments.Add(t.Context(), known)
				if !assert.NoError(t, err) {
					return
				}
				x.Settle(s, known)
				_, err = x.Merge(t.Context(), segments, i%7 == 0)
				assert.NoError(t, err)
				assert.Equal(t, known[p].Summary, x.Summary(p))
			}
		})
	}
	wg.Wait()
	_, open := openSome(t, folder)
	var x Index
	x.Open(open)
	defer x.Close()
	for n := range 3 {
		for i := range 30 {
			assert.Equal(t, made(100*n+i).Summary, x.Summary(fmt.Sprintf("%d/%d.go", n, i)))
		}
	}
	assert.Less(t, len(open), 30, "what there is of one size was made one")
	entries, err := os.ReadDir(folder)
	require.NoError(t, err)
	assert.Len(t, entries, len(open)+2, "what nobody needs is gone")
}

// writeSample writes a folder with one segment of many files.
func writeSample(t testing.TB, folder string) (file string, all map[string]Known) {
	segments, _ := openSome(t, folder)
	all = map[string]Known{}
	for n := range 60 {
		all[fmt.Sprintf("%02d.go", n)] = made(n)
	}
	s, err := segments.Add(ctx, all)
	require.NoError(t, err)
	require.NoError(t, s.close())
	return filepath.Join(folder, s.name), all
}

// Whatever byte of a segment is another one: it is not opened, or what is asked gives what was written, or the index says that it is damaged.
func TestADamagedSegmentGivesNoWrongAnswer(t *testing.T) {
	folder := t.TempDir()
	file, all := writeSample(t, folder)
	sound, err := os.ReadFile(file)
	require.NoError(t, err)
	var want Index
	for p, k := range all {
		require.NoError(t, want.Put(p, k.Summary))
	}
	q := fuzzy.Parse("ring")
	hits := want.Search(ctx, q, 10)
	found := 0
	for at := 0; at < len(sound); at += 37 {
		broken := slices.Clone(sound)
		broken[at] ^= 1 << (at % 8)
		require.NoError(t, os.WriteFile(file, broken, 0o600))
		s, err := openSegment(folder, filepath.Base(file))
		if err != nil {
			found++
			continue
		}
		var x Index
		x.Open([]*Segment{s})
		named, mentioning, searched, one := x.Named("ringbell"), x.Mentioning("Println"), x.Search(ctx, q, 10), x.Summary("33.go")
		if x.Damaged() {
			found++
		} else {
			require.Equal(t, want.Named("ringbell"), named)
			require.Equal(t, want.Mentioning("Println"), mentioning)
			require.Equal(t, len(hits), len(searched))
			require.Equal(t, want.Summary("33.go"), one)
		}
		x.Close()
	}
	assert.Positive(t, found)
}

func TestASegmentThatIsCutShort(t *testing.T) {
	folder := t.TempDir()
	file, _ := writeSample(t, folder)
	sound, err := os.ReadFile(file)
	require.NoError(t, err)
	for _, size := range []int{0, 1, pageSize - 1, pageSize, len(sound) / 2, len(sound) - 1} {
		require.NoError(t, os.WriteFile(file, sound[:size], 0o600))
		_, err := openSegment(folder, filepath.Base(file))
		assert.ErrorIs(t, err, errDamaged, "at %d", size)
		_, open, repaired, err := OpenSegments(folder)
		require.NoError(t, err)
		assert.True(t, repaired)
		assert.Empty(t, open)
		file, _ = writeSample(t, folder)
	}
}

// A file that is cut short while it is asked makes no crash.
func TestASegmentThatIsCutShortWhileItIsOpen(t *testing.T) {
	folder := t.TempDir()
	file, all := writeSample(t, folder)
	for _, ask := range []func(x *Index){
		func(x *Index) { x.Named("ringbell") },
		func(x *Index) { x.Mentioning("Println") },
		func(x *Index) { x.Search(ctx, fuzzy.Parse("ring"), 10) },
		func(x *Index) { x.Search(ctx, fuzzy.Parse("rnigbell"), 10) },
		func(x *Index) { x.Summary("33.go") },
		func(x *Index) { x.Confirm([]project.File{{Path: "33.go"}}) },
		func(x *Index) { x.Names() },
		func(x *Index) { assert.NoError(t, x.Put("33.go", all["33.go"].Summary)) },
		func(x *Index) { _ = x.WithContent(made(3).Content) },
	} {
		s, err := openSegment(folder, filepath.Base(file))
		require.NoError(t, err)
		var x Index
		x.Open([]*Segment{s})
		require.NoError(t, os.Truncate(file, pageSize))
		ask(&x)
		assert.True(t, x.Damaged())
		x.Close()
		folder = t.TempDir()
		file, _ = writeSample(t, folder)
	}
}

func TestWhatKilledProgramsLeft(t *testing.T) {
	folder := t.TempDir()
	file, _ := writeSample(t, folder)
	long := time.Now().Add(-time.Hour)
	for _, name := range []string{"1" + newEnd, "2" + segmentEnd} {
		p := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(p, []byte("half"), 0o600))
		require.NoError(t, os.Chtimes(p, long, long))
	}
	recent := filepath.Join(folder, "3"+newEnd)
	require.NoError(t, os.WriteFile(recent, nil, 0o600))
	s, open := openSome(t, folder)
	assert.Len(t, open, 1)
	s.Clear()
	assert.NoFileExists(t, filepath.Join(folder, "1"+newEnd))
	assert.NoFileExists(t, filepath.Join(folder, "2"+segmentEnd))
	assert.FileExists(t, recent, "it may be just begun")
	assert.FileExists(t, file)
}

func TestADamagedListOfSegments(t *testing.T) {
	folder := t.TempDir()
	writeSample(t, folder)
	for _, text := range []string{"", "nothing\n", listedFirst + " " + listSum([]string{"../x.segment"}) + "\n../x.segment\n", listedFirst + " " + listSum([]string{"1.segment"}) + "\n1.segment\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(folder, listName), []byte(text), 0o600))
		_, open, repaired, err := OpenSegments(folder)
		require.NoError(t, err)
		assert.True(t, repaired, "%q", text)
		assert.Empty(t, open)
	}
}

// How many segments there are grows with the logarithm of what is written, and so does how often a symbol is written anew.
func TestSegmentsAreMadeOneNowAndThen(t *testing.T) {
	var sizes []int
	written := 0
	for range 1000 {
		sizes = append(sizes, 1)
		for {
			from, ok := toMerge(sizes, false)
			if !ok {
				break
			}
			sum := 0
			for _, s := range sizes[from:] {
				sum += s
			}
			written += sum
			sizes = append(sizes[:from], sum)
		}
		assert.LessOrEqual(t, len(sizes), 24)
	}
	assert.Less(t, written, 8*1000)
	from, ok := toMerge([]int{100, 30, 1}, true)
	assert.False(t, ok, from)
	from, ok = toMerge([]int{100, 30, 20}, true)
	assert.True(t, ok)
	assert.Equal(t, 0, from)
}

func FuzzSegment(f *testing.F) {
	folder := f.TempDir()
	file, _ := writeSample(f, folder)
	sound, err := os.ReadFile(file)
	require.NoError(f, err)
	f.Add(sound)
	f.Add([]byte(pagesWord))
	f.Fuzz(func(t *testing.T, data []byte) {
		dir := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(dir, "a.segment"), data, 0o600))
		s, err := openSegment(dir, "a.segment")
		if err != nil {
			return
		}
		var x Index
		x.Open([]*Segment{s})
		defer x.Close()
		x.Named("ringbell")
		x.Mentioning("hut")
		x.Search(ctx, fuzzy.Parse("ring"), 10)
		x.Summary("33.go")
		x.Names()
	})
}

// A filter that few files get through has their symbols gathered first, and finds what one finds that looks at all.
func TestAFilterThatFewGetThrough(t *testing.T) {
	r := rand.New(rand.NewSource(5))
	segments, _ := openSome(t, filepath.Join(t.TempDir(), "here"))
	var x, want Index
	known := map[string]Known{}
	for i := range 200 {
		p := fmt.Sprintf("in/%03d.go", i)
		known[p] = made(r.Intn(5000))
		require.NoError(t, x.Put(p, known[p].Summary))
		require.NoError(t, want.Put(p, known[p].Summary))
	}
	s, err := segments.Add(t.Context(), known)
	require.NoError(t, err)
	x.Settle(s, known)
	for _, gone := range []string{"in/003.go", "in/013.go"} {
		x.Remove(gone)
		want.Remove(gone)
	}
	for _, part := range []string{"3.go", "in/", "in/01", "nothing"} {
		where := func(path string) (int, bool) { return len(part), strings.Contains(path, part) }
		for _, query := range []string{"r", "ring", "hu.as", "ri be", "Hut", "_"} {
			q := fuzzy.Parse(query)
			all := want.SearchIn(t.Context(), q, 5000, where)
			require.ElementsMatch(t, all, x.SearchIn(t.Context(), q, 5000, where), part+" "+query)
			for _, h := range all {
				require.Contains(t, h.Path, part)
			}
		}
	}
	x.Close()
}
