package bookmark_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/bookmark"
)

// Two programs put bookmarks into one list and are killed in the middle, over and over:
// whatever they had said was kept is there.
func TestTwoProgramsThatAreKilled(t *testing.T) {
	if folder := os.Getenv("ROOKTRAIL_TEST_BOOKMARKS"); folder != "" {
		writeBookmarks(folder, os.Getenv("ROOKTRAIL_TEST_LIST"))
		return
	}
	folder := t.TempDir()
	l := bookmark.NewList("both")
	st := bookmark.NewStore(folder)
	require.NoError(t, st.Save(l))
	said := map[string]bool{}
	for round := range 12 {
		var running []*exec.Cmd
		var outputs []*bufio.Scanner
		for range 2 {
			cmd := exec.Command(os.Args[0], "-test.run=TestTwoProgramsThatAreKilled")
			cmd.Env = append(os.Environ(), "ROOKTRAIL_TEST_BOOKMARKS="+folder, "ROOKTRAIL_TEST_LIST="+l.ID)
			out, err := cmd.StdoutPipe()
			require.NoError(t, err)
			require.NoError(t, cmd.Start())
			running, outputs = append(running, cmd), append(outputs, bufio.NewScanner(out))
		}
		for _, o := range outputs { // both are at it
			for n := 0; n < 3 && o.Scan(); n++ {
				said[o.Text()] = true
			}
		}
		time.Sleep(time.Duration(round) * 3 * time.Millisecond)
		for i, cmd := range running {
			require.NoError(t, cmd.Process.Kill())
			for outputs[i].Scan() {
				said[outputs[i].Text()] = true
			}
			_ = cmd.Wait() // killed
		}
		lists, err := st.Load()
		require.NoError(t, err, "the file is whole")
		require.Len(t, lists, 1)
		kept := map[string]bool{}
		for _, i := range lists[0].Shown() {
			kept[lists[0].Marks[i].Note] = true
		}
		for words := range said {
			assert.True(t, kept[words], "%q was said to be kept", words)
		}
	}
	assert.Greater(t, len(said), 50)
}

// writeBookmarks adds bookmarks to a list until it is killed, and says each that is kept.
func writeBookmarks(folder, id string) {
	st := bookmark.NewStore(folder)
	lists, err := st.Load()
	if err != nil || len(lists) != 1 || lists[0].ID != id {
		panic(fmt.Sprint(err, lists))
	}
	l := lists[0]
	for n := 0; ; n++ {
		k := mark("a.go", n+1)
		k.Note = fmt.Sprintf("%d of %d", n, os.Getpid())
		l.Add(k)
		if err := st.Save(l); err != nil {
			panic(err)
		}
		fmt.Println(k.Note)
	}
}
