package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/cli"
)

// failWhen names the variable with the path of a file; as soon as that is there, work beside the
// screen fails. With it set, this binary is the program.
const failWhen = "ROOKTRAIL_TEST_FAIL_WHEN"

func runToFail() int {
	fail := func(ctx context.Context) {
		for ctx.Err() == nil {
			if _, err := os.Stat(os.Getenv(failWhen)); err == nil {
				panic("the winch is stuck")
			}
			time.Sleep(10 * time.Millisecond)
		}
	}
	return cli.RunBeside(fail, os.Args[1:], os.Stdin, os.Stdout, os.Stderr)
}

// Work beside the screen fails while one types: the terminal is given back, the report is there, and
// the text is offered the next time.
func TestWorkFailsWhileOneTypes(t *testing.T) {
	t.Parallel()
	dir, signal := unpacked(t), filepath.Join(t.TempDir(), "now")
	self, err := os.Executable()
	require.NoError(t, err)
	term := startShell(t, 142, 42, failWhen+"="+quote(signal)+" "+quote(self)+" "+quote(filepath.Join(dir, "dispatch/roster.go")+":62"))
	term.see("line 62").press("w").see("WRITE").press("End").write(" // the last word").see("// the last word", "1 not saved")
	require.NoError(t, os.WriteFile(signal, nil, 0o600))
	term.see("the program failed: the winch is stuck; the report is in ", "[ended with 2]")
	assert.NotContains(t, term.screen(), "WRITE", "the other screen is gone")
	term.write("echo $((20 + 22))").press("Enter") // into the sleeping shell, which echoes what is typed
	term.see("echo $((20 + 22))")

	reports, err := filepath.Glob(filepath.Join(os.Getenv("XDG_DATA_HOME"), "rooktrail", "failures", "failure-*.txt"))
	require.NoError(t, err)
	var all string
	for _, r := range reports {
		data, err := os.ReadFile(r)
		require.NoError(t, err)
		all += string(data)
	}
	assert.Contains(t, all, "the winch is stuck")
	assert.Contains(t, all, "failure_test.go", "it says where")

	start(t, 142, 42, dir).see("text was not saved when the program ended", "dispatch/roster.go").press("Enter").see("// the last word").
		press("Enter").see("1 not saved", "// the last word")
	assert.NotContains(t, read(t, dir, "dispatch/roster.go"), "the last word")
}
