package index

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/project"
)

// packed is a pack of many files, and what is known of them.
func packed(t testing.TB) (pack []byte, all map[string]Known) {
	folder := t.TempDir()
	_, all = writeSample(t, folder)
	segments, open := openSome(t, folder)
	var x Index
	x.Open(open)
	defer x.Close()
	to := filepath.Join(t.TempDir(), "index.pack")
	h, err := x.Pack(ctx, segments, "c0ffee", func(p string) bool { return p != "07.go" }, to)
	require.NoError(t, err)
	assert.Equal(t, len(all)-1, h.Files)
	delete(all, "07.go")
	pack, err = os.ReadFile(to)
	require.NoError(t, err)
	return pack, all
}

func TestAPackIsTakenIn(t *testing.T) {
	pack, all := packed(t)
	segments, _ := openSome(t, t.TempDir())
	h, err := segments.TakePack(ctx, bytes.NewReader(pack), func(h PackHead) Stamp {
		assert.Equal(t, "c0ffee", h.Commit)
		return func(p string) (project.File, bool) { return project.File{Path: p, Size: 5, Modified: 6}, p < "30" }
	})
	require.NoError(t, err)
	assert.Equal(t, len(all), h.Files)
	_, open := openSome(t, segments.folder)
	var x, want Index
	x.Open(open)
	defer x.Close()
	for p, k := range all {
		require.NoError(t, want.Put(p, k.Summary))
		confirmed := x.Confirm([]project.File{{Path: p, Size: 5, Modified: 6}})[0]
		assert.Equal(t, p < "30", confirmed.OK, p)
		assert.Equal(t, k.Summary, x.WithContent(k.Content), "it is known by its content")
		if !confirmed.OK {
			require.NoError(t, x.Put(p, k.Summary))
		}
	}
	sameAnswers(t, &want, &x, []string{"03.go", "55.go", "07.go"})
	entries, err := os.ReadDir(segments.folder)
	require.NoError(t, err)
	assert.Len(t, entries, 3, "nothing is left of unpacking")
}

// repacked is a pack with something else in it that says what its digest is.
func repacked(t testing.TB, raw []byte, change func(h *PackHead)) []byte {
	file := filepath.Join(t.TempDir(), "raw")
	require.NoError(t, os.WriteFile(file, raw, 0o600))
	f, err := os.Open(file)
	require.NoError(t, err)
	defer f.Close()
	h := PackHead{Made: mark()}
	require.NoError(t, h.of(f))
	change(&h)
	line, err := json.Marshal(h)
	require.NoError(t, err)
	var b bytes.Buffer
	b.WriteString(packWord + string(line) + "\n")
	z := gzip.NewWriter(&b)
	_, err = z.Write(raw)
	require.NoError(t, err)
	require.NoError(t, z.Close())
	return b.Bytes()
}

// Whatever is in a pack, it is taken in as it was written, or refused, and leaves nothing behind.
func TestAPackIsNotTrusted(t *testing.T) {
	pack, _ := packed(t)
	take := func(pack []byte) error {
		folder := t.TempDir()
		segments, _ := openSome(t, folder)
		_, err := segments.TakePack(ctx, bytes.NewReader(pack), func(PackHead) Stamp {
			return func(string) (project.File, bool) { return project.File{}, false }
		})
		entries, dirErr := os.ReadDir(folder)
		require.NoError(t, dirErr)
		if err != nil {
			assert.LessOrEqual(t, len(entries), 1)
		}
		return err
	}
	require.NoError(t, take(pack))
	for size := 0; size < len(pack); size += 1 + len(pack)/60 {
		assert.Error(t, take(pack[:size]), size)
	}
	for at := 0; at < len(pack); at += 1 + len(pack)/200 {
		flipped := slices.Clone(pack)
		flipped[at] ^= 0x10
		_ = take(flipped) // what is in the name of the commit may be anything
	}
	assert.ErrorIs(t, take([]byte(strings.Replace(string(pack), mark(), ".v0-none", 1))), ErrPackVersion)

	folder := t.TempDir()
	file, _ := writeSample(t, folder)
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	same := func(*PackHead) {}
	require.NoError(t, take(repacked(t, raw, same)))
	assert.Error(t, take(repacked(t, raw, func(h *PackHead) { h.Size-- })))
	assert.Error(t, take(repacked(t, raw, func(h *PackHead) { h.Size++ })))
	assert.Error(t, take(repacked(t, raw, func(h *PackHead) { h.Digest = strings.Repeat("0", 64) })))
	assert.Error(t, take(repacked(t, raw[:len(raw)-1], same)))

	for _, path := range []string{"../outside.go", "/etc/passwd", "a/../../b"} {
		folder := t.TempDir()
		segments, _ := openSome(t, folder)
		s, err := segments.Add(ctx, map[string]Known{path: made(3)})
		require.NoError(t, err)
		raw, err := os.ReadFile(filepath.Join(folder, s.name))
		require.NoError(t, err)
		assert.Error(t, take(repacked(t, raw, same)), path)
	}
}

func FuzzPack(f *testing.F) {
	pack, _ := packed(f)
	f.Add(pack)
	f.Add([]byte(packWord + fmt.Sprintf(`{"made":%q,"size":5}`, mark()) + "\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		segments, _ := openSome(t, t.TempDir())
		_, _ = segments.TakePack(ctx, bytes.NewReader(data), func(PackHead) Stamp {
			return func(string) (project.File, bool) { return project.File{}, false }
		})
	})
}
