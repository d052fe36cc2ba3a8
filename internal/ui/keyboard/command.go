package keyboard

import (
	"io"
	"os/exec"
	"time"
)

// Command is a program that has the terminal for as long as it runs. It takes at least a moment. One that ends at once, such
// as an editor that cannot be found, may be over before the drawing of the screen
// has stopped for it, and the screen would stay dark.
type Command struct{ *exec.Cmd }

// moment is long enough for that.
const moment = 150 * time.Millisecond

// Run implements tea.ExecCommand.
func (c *Command) Run() error {
	over := time.After(moment)
	err := c.Cmd.Run()
	<-over
	return err
}

// SetStdin implements tea.ExecCommand.
func (c *Command) SetStdin(r io.Reader) {
	if l, ok := r.(*Reader); ok {
		r = l.Lend()
	}
	c.Stdin = r
}

// SetStdout and SetStderr implement tea.ExecCommand.
func (c *Command) SetStdout(w io.Writer) { c.Stdout = w }
func (c *Command) SetStderr(w io.Writer) { c.Stderr = w }
