package recovery_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/file/text"
)

func TestWhatIsLeftBehind(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "recovery")
	one, two := recovery.NewStore(folder), recovery.NewStore(folder)
	kept := recovery.Text{Path: "a/b.go", Stamp: text.Stamp{Size: 3, Modified: 4}, At: time.Now(), Line: 5, Col: 6, Body: []byte("one\n\ntwo\xff")}
	require.NoError(t, one.Keep(recovery.Text{Path: "a/b.go", Body: []byte("older")}))
	require.NoError(t, one.Keep(kept))
	require.NoError(t, one.Keep(recovery.Text{Path: "a/b.go", At: kept.At.Add(-time.Second), Body: []byte("slower")}), "which comes too late")
	late := recovery.Text{Path: "c.go", At: time.Now()}
	require.NoError(t, one.Keep(late))
	require.NoError(t, one.Forget("c.go"))
	require.NoError(t, one.Keep(late), "which comes too late")
	left, err := two.Left()
	require.NoError(t, err)
	assert.Empty(t, left, "the program still runs")
	one.Close()
	left, err = two.Left()
	require.NoError(t, err)
	require.Len(t, left, 1)
	assert.Equal(t, []any{"a/b.go", string(kept.Body), kept.Stamp, 5, 6}, []any{left[0].Path, string(left[0].Body), left[0].Stamp, left[0].Line, left[0].Col})

	require.NoError(t, os.WriteFile(filepath.Join(folder, "9-9.x.text"), []byte("{\"version\""), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "9-9.y.text"), []byte("{\"version\": 9}\nx"), 0o600))
	left, err = two.Left()
	assert.Len(t, left, 1)
	assert.ErrorContains(t, err, "not well formed")
	assert.ErrorContains(t, err, "later version")
	require.NoError(t, two.Drop(left[0]))
	left, _ = two.Left()
	assert.Empty(t, left)
	assert.ErrorContains(t, recovery.NewStore("/dev/null/x").Keep(kept), "save it soon")
}

// A program that types is killed over and over: of what it had said was kept, nothing is lost,
// and nothing is ever half there.
func TestKilledWhileTyping(t *testing.T) {
	if folder := os.Getenv("ROOKTRAIL_TEST_RECOVERY"); folder != "" {
		st := recovery.NewStore(folder)
		for n := 1; ; n++ {
			if err := st.Keep(recovery.Text{Path: "a.txt", Line: n, At: time.Now(), Body: []byte(strings.Repeat("typed "+strconv.Itoa(n)+"\n", 2000))}); err != nil {
				panic(err)
			}
			fmt.Println(n)
		}
	}
	for round := range 25 {
		folder := t.TempDir()
		cmd := exec.Command(os.Args[0], "-test.run=TestKilledWhileTyping")
		cmd.Env = append(os.Environ(), "ROOKTRAIL_TEST_RECOVERY="+folder)
		out, err := cmd.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, cmd.Start())
		said := 0
		lines := bufio.NewScanner(out)
		for lines.Scan() {
			said, err = strconv.Atoi(lines.Text())
			require.NoError(t, err)
			if said == 1+round {
				time.Sleep(time.Duration(round*137%900) * time.Microsecond)
				require.NoError(t, cmd.Process.Kill())
			}
		}
		require.NoError(t, lines.Err())
		_ = cmd.Wait() // killed
		left, err := recovery.NewStore(folder).Left()
		require.NoError(t, err)
		require.Len(t, left, 1)
		assert.GreaterOrEqual(t, left[0].Line, said)
		assert.Equal(t, strings.Repeat("typed "+strconv.Itoa(left[0].Line)+"\n", 2000), string(left[0].Body))
	}
}
