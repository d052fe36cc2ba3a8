package trail

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func reread(t *testing.T, d Delta) *Trail {
	var b bytes.Buffer
	require.NoError(t, d.write(&b))
	k, err := Read(b.Bytes())
	require.NoError(t, err)
	return &k.Trail
}

// sameTrail compares what there is to see of two trails.
func sameTrail(t *testing.T, want, got *Trail) {
	check(t, got)
	require.Equal(t, want.Here().Number(), got.Here().Number())
	require.Equal(t, len(want.All()), len(got.All()))
	for _, s := range want.All() {
		o := got.Stop(s.Number())
		require.Equal(t, numbers(s.Branches()), numbers(o.Branches()))
		require.Equal(t, s.View, o.View)
		require.True(t, s.At.Equal(o.At))
		require.True(t, s.Edited.Equal(o.Edited))
	}
	require.Equal(t, names(want), names(got))
}

func saved(t *testing.T, st *Store, tr *Trail) {
	require.NoError(t, st.Save(tr.News(), nil))
}

func TestTwoProgramsHaveATrailEach(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "trails")
	one, two := NewStore(folder), NewStore(folder)
	k, err := one.Open()
	require.NoError(t, err)
	assert.Zero(t, k.Trail.Count())
	_, err = two.Open()
	require.NoError(t, err)
	saved(t, one, walked("a"))
	saved(t, two, walked("b"))
	one.Close()
	again := NewStore(folder)
	k, err = again.Open()
	require.NoError(t, err)
	require.Equal(t, 1, k.Trail.Count())
	assert.Equal(t, "a", k.Trail.Here().Title(), "the other one is being walked")
	list, err := again.List()
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.True(t, list[0].Present)
	assert.True(t, list[1].Taken)
	_, err = again.Switch(list[1].ID)
	assert.ErrorIs(t, err, ErrTaken)
	assert.ErrorIs(t, again.Remove(list[1].ID), ErrTaken)
	assert.ErrorContains(t, again.Remove(list[0].ID), "one is on it")
	two.Close()
	k, err = again.Switch(list[1].ID)
	require.NoError(t, err)
	assert.Equal(t, "b", k.Trail.Here().Title())
	require.NoError(t, again.Rename(list[0].ID, "snow"))
	list, err = again.List()
	require.NoError(t, err)
	assert.Equal(t, "snow", list[1].Name)
	require.NoError(t, again.Remove(list[1].ID))
	require.NoError(t, again.Begin(walked("c").Whole(), nil))
	list, err = again.List()
	require.NoError(t, err)
	assert.Len(t, list, 2)
	again.Close()
	k, err = NewStore(folder).Open()
	require.NoError(t, err)
	assert.Equal(t, "c", k.Trail.Here().Title(), "the one walked last")
}

func TestAJournalIsTidiedUp(t *testing.T) {
	folder := t.TempDir()
	st := NewStore(folder)
	_, err := st.Open()
	require.NoError(t, err)
	tr := walked("a", "b")
	for i := range 300 {
		tr.Rest(at("b", 1+i%20))
		require.NoError(t, st.Save(tr.News(), []Visit{{Path: "b"}}))
	}
	st.Close()
	files, _ := filepath.Glob(filepath.Join(folder, "*"+ending))
	before, _ := os.ReadFile(files[0])
	k, err := st.Open()
	require.NoError(t, err)
	sameTrail(t, tr, &k.Trail)
	assert.Equal(t, []Visit{{Path: "b"}}, k.Recent)
	after, _ := os.ReadFile(files[0])
	assert.Less(t, len(after), len(before)/10)
	k, err = st.Look(strings.TrimSuffix(filepath.Base(files[0]), ending))
	require.NoError(t, err)
	sameTrail(t, tr, &k.Trail)
}

// Wherever a journal is cut off, what stands before is there.
func TestAJournalThatIsCutOff(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 4), "", "")
	var b bytes.Buffer
	whole := tr.Whole()
	require.NoError(t, whole.write(&b))
	for n := bytes.IndexByte(b.Bytes(), '\n') + 1; n < b.Len(); n++ {
		k, err := Read(b.Bytes()[:n])
		require.NoError(t, err, "%d bytes", n)
		if k.Trail.Here() != nil {
			check(t, &k.Trail)
		}
	}
	folder := t.TempDir()
	file := filepath.Join(folder, "x"+ending)
	require.NoError(t, os.WriteFile(file, b.Bytes()[:b.Len()-10], 0o600))
	st := NewStore(folder)
	k, err := st.Open()
	require.NoError(t, err)
	assert.True(t, k.CutOff)
	assert.Equal(t, 4, k.Trail.Count())
	k.Trail.Go(at("e", 1), "", "")
	saved(t, st, &k.Trail)
	st.Close()
	k, err = NewStore(folder).Open()
	require.NoError(t, err)
	assert.False(t, k.CutOff)
	assert.Equal(t, "e", k.Trail.Here().Title())
}

func TestTrailsThatAreWrong(t *testing.T) {
	for words, text := range map[string]string{
		"line 2 is not well formed": "{\"version\":1}\n{\"stop\": [\n{}\n",
		"later version":             `{"version": 99}`,
		"line 1: stop 0 comes from": `{"stop": {"number": 0, "parent": 7}}` + "\n",
		"the present one":           `{"walk": {"here": 3}}` + "\n",
		"to which a way leads":      `{"stop": {"number": 0, "parent": -1}}` + "\n" + `{"ways": {"of": 0, "to": [4]}}` + "\n",
		"cannot have the number":    `{"stop": {"number": -5, "parent": -1}}` + "\n",
	} {
		folder := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(folder, "x"+ending), []byte(text), 0o600))
		st := NewStore(folder)
		k, err := st.Open()
		assert.ErrorContains(t, err, words)
		assert.Zero(t, k.Trail.Count())
		saved(t, st, walked("a"))
		left, err := os.ReadFile(filepath.Join(folder, "x"+ending))
		require.NoError(t, err)
		assert.Equal(t, text, string(left), "left alone")
		st.Close()
	}
	st := NewStore("/dev/null/trails")
	_, err := st.Open()
	assert.ErrorContains(t, err, "the trail is not kept on disk")
	news := walked("a").News()
	assert.NoError(t, st.Save(news, nil), "it goes on in memory")
}

// What cannot be written is written the next time.
func TestADiskThatIsFullForAWhile(t *testing.T) {
	folder := t.TempDir()
	st := NewStore(folder)
	_, err := st.Open()
	require.NoError(t, err)
	tr := walked("a")
	saved(t, st, tr)
	moved := folder + ".moved"
	require.NoError(t, os.Rename(folder, moved))
	tr.Go(at("b", 1), "", "")
	assert.ErrorContains(t, st.Save(tr.News(), nil), "goes on in memory")
	require.NoError(t, os.Rename(moved, folder))
	tr.Go(at("c", 1), "", "")
	saved(t, st, tr)
	st.Close()
	k, err := NewStore(folder).Open()
	require.NoError(t, err)
	sameTrail(t, tr, &k.Trail)
}

func FuzzRead(f *testing.F) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 4), "", "")
	tr.Cut(tr.Stop(2))
	var b bytes.Buffer
	whole := tr.Whole()
	whole.write(&b)
	f.Add(b.Bytes())
	f.Add([]byte(`{"stop":{"number":0,"parent":-1}}` + "\n" + `{"cut":0}` + "\n" + `{"walk":{"here":0}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		k, err := Read(data)
		if err != nil {
			return
		}
		if k.Trail.Here() == nil {
			return
		}
		check(t, &k.Trail)
		k.Trail.Back()
		k.Trail.Go(at("new", 1), "", "")
		var b bytes.Buffer
		whole := k.Trail.Whole()
		if whole.write(&b) == nil {
			_, err = Read(b.Bytes())
			if err != nil {
				t.Fatal(fmt.Errorf("what was written cannot be read: %w", err))
			}
		}
	})
}
