package cli

import (
	"fmt"
	"io"
	"time"

	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
)

// progressAfter is for how long reading says nothing: most is done by then.
const progressAfter = time.Second

// showProgress draws how far the reading is, if it takes long and what is said goes to a terminal,
// until the function it returns is called.
func showProgress(says io.Writer, ws *workspace.Workspace) (stop func()) {
	out := terminal(says)
	if out == nil {
		return func() {}
	}
	done := make(chan struct{})
	var drawing work.Group
	drawing.Go(func() {
		select {
		case <-done:
			return
		case <-time.After(progressAfter):
		}
		for {
			pr := ws.Code.Progress()
			left := ""
			if rest := pr.Rest(time.Now()); rest > 0 && pr.Listed {
				left = ", " + rest.Round(time.Second).String() + " left"
			}
			fmt.Fprintf(out, "\r\x1b[K%s %d of %d files%s", bar(pr.Read, pr.Readable), pr.Read, pr.Readable, left)
			select {
			case <-done:
				fmt.Fprint(out, "\r\x1b[K")
				return
			case <-time.After(100 * time.Millisecond):
			}
		}
	})
	return func() {
		close(done)
		drawing.Wait()
	}
}

// bar draws a share of twenty.
func bar(part, whole int) string {
	const width = 20
	filled := 0
	if whole > 0 {
		filled = part * width / whole
	}
	b := make([]rune, width)
	for i := range b {
		b[i] = '·'
		if i < filled {
			b[i] = '■'
		}
	}
	return string(b)
}
