package text_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

// whole is a text that says of itself how long it is.
func whole(n int) string { return strings.Repeat(fmt.Sprintf("line of %d\n", n), 500+n%700) }

// A program that saves is killed, hundreds of times: the file is always one text or another,
// never a part of one, and never older than what was said to be saved.
func TestKilledWhileSaving(t *testing.T) {
	if file := os.Getenv("ROOKTRAIL_TEST_SAVING"); file != "" {
		stamp := text.StampOf(text.System{}, file)
		for n := 1; ; n++ {
			var err error
			if stamp, err = text.Save(text.System{}, file, text.NewDocument([]byte(whole(n))), stamp); err != nil {
				panic(err)
			}
			fmt.Println(n)
		}
	}
	for round := range 200 {
		file := filepath.Join(t.TempDir(), "a.txt")
		require.NoError(t, os.WriteFile(file, []byte(whole(0)), 0o600))
		cmd := exec.Command(os.Args[0], "-test.run=TestKilledWhileSaving")
		cmd.Env = append(os.Environ(), "ROOKTRAIL_TEST_SAVING="+file)
		out, err := cmd.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, cmd.Start())
		said := 0
		for lines := bufio.NewScanner(out); lines.Scan(); {
			_, err := fmt.Sscan(lines.Text(), &said)
			require.NoError(t, err)
			if said == 1+round%4 {
				time.Sleep(time.Duration(round*7919%1500) * time.Microsecond)
				require.NoError(t, cmd.Process.Kill())
			}
		}
		_ = cmd.Wait() // killed
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		var n int
		_, err = fmt.Sscanf(string(data), "line of %d\n", &n)
		require.NoError(t, err)
		require.Equal(t, whole(n), string(data))
		require.GreaterOrEqual(t, n, said)
	}
}
