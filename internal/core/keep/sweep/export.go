package sweep

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// WriteText writes the places one a line, as path:line:col: text. Those set aside or
// gone are left out.
func (s *Sweep) WriteText(w io.Writer) error {
	for i := range s.Items {
		it := &s.Items[i]
		if s.MarkOf(i) == Aside || it.IsGone() {
			continue
		}
		if _, err := fmt.Fprintf(w, "%s:%d:%d: %s\n", it.Path, it.Line, it.Col, it.Text); err != nil {
			return fmt.Errorf("writing the sweep %q: %w", s.Name, err)
		}
	}
	return nil
}

// WriteMarkdown writes a checklist, in which what is done is ticked and what was set
// aside or is gone is struck out.
func (s *Sweep) WriteMarkdown(w io.Writer) error {
	c := s.Count()
	var b strings.Builder
	fmt.Fprintf(&b, "# %s\n\n%d of %d to do", s.Name, c.Left, c.All)
	for _, part := range []struct {
		n    int
		what string
	}{{c.Done, "done"}, {c.Aside, "set aside"}, {c.Gone, "gone"}} {
		if part.n > 0 {
			fmt.Fprintf(&b, ", %d %s", part.n, part.what)
		}
	}
	b.WriteString(".\n")
	file := ""
	for i := range s.Items {
		it := &s.Items[i]
		if it.Path != file {
			file = it.Path
			fmt.Fprintf(&b, "\n## %s\n\n", file)
		}
		s.writeTick(&b, i)
	}
	if _, err := io.WriteString(w, b.String()); err != nil {
		return fmt.Errorf("writing the sweep %q: %w", s.Name, err)
	}
	return nil
}

// writeTick writes one line of the checklist.
func (s *Sweep) writeTick(b *strings.Builder, i int) {
	it := &s.Items[i]
	tick, mark := " ", s.MarkOf(i)
	if mark == Done {
		tick = "x"
	}
	line := fmt.Sprintf("[line %d](%s#L%d)", it.Line, strings.ReplaceAll(it.Path, " ", "%20"), it.Line)
	if it.Text != "" {
		line += " " + codeSpan(it.Text)
	}
	if it.In != "" {
		line += " in " + codeSpan(it.In)
	}
	switch {
	case mark == Aside:
		line = "~~" + line + "~~ (set aside)"
	case it.IsGone():
		line = "~~" + line + "~~ (gone)"
	}
	fmt.Fprintf(b, "- [%s] %s\n", tick, line)
	if it.Note != "" {
		fmt.Fprintf(b, "  %s\n", strings.ReplaceAll(it.Note, "\n", " "))
	}
}

// codeSpan writes text as code, within as many backquotes as it takes.
func codeSpan(s string) string {
	fence := "`"
	for strings.Contains(s, fence) {
		fence += "`"
	}
	if fence != "`" {
		return fence + " " + s + " " + fence
	}
	return fence + s + fence
}

// exportedItem is a place as it is written for others.
type exportedItem struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Col  int    `json:"col"`
	Text string `json:"text"`
	Mark Mark   `json:"mark"`
	Role string `json:"role,omitempty"`
	In   string `json:"in,omitempty"`
	Note string `json:"note,omitempty"`
	Fate string `json:"fate"`
}

// WriteJSON writes all places with their marks, as one object, a place a line.
func (s *Sweep) WriteJSON(w io.Writer) error {
	out := bufio.NewWriter(w)
	name, err := text.JSON(s.Name, "")
	if err == nil {
		_, err = fmt.Fprintf(out, "{\"name\": %s, \"left\": %d, \"places\": [", bytes.TrimSpace(name), s.Count().Left)
	}
	for i := 0; i < len(s.Items) && err == nil; i++ {
		var data []byte
		if data, err = text.JSON(s.exported(i), ""); err != nil {
			break
		}
		separator := ",\n  "
		if i == 0 {
			separator = "\n  "
		}
		_, err = out.WriteString(separator + string(bytes.TrimSpace(data)))
	}
	if err == nil {
		_, err = out.WriteString("\n]}\n")
	}
	if err == nil {
		err = out.Flush()
	}
	if err != nil {
		return fmt.Errorf("writing the sweep %q: %w", s.Name, err)
	}
	return nil
}

func (s *Sweep) exported(i int) exportedItem {
	it := &s.Items[i]
	mark, fate := s.MarkOf(i), it.Fate.String()
	if mark == Left {
		mark = "left"
	}
	if it.Settled {
		fate = place.Gone.String()
	}
	return exportedItem{it.Path, it.Line, it.Col, it.Text, mark, it.Role, it.In, it.Note, fate}
}
