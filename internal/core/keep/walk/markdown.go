package walk

import (
	"bufio"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"
)

// WriteMarkdown writes the walk for people to read: the stops in order, how and why one
// comes there, and the code around each, with links of the form path#Lline.
func (w *Walk) WriteMarkdown(out io.Writer) error {
	b := bufio.NewWriter(out)
	title := w.Name
	if title == "" {
		title = "A walk"
	}
	if w.Project != "" {
		title += " (" + w.Project + ")"
	}
	fmt.Fprintf(b, "# %s\n", inline(title))
	for i := range w.Stops {
		w.Stops[i].markdown(b, i, w.Stops)
	}
	if err := b.Flush(); err != nil {
		return fmt.Errorf("writing the walk: %w", err)
	}
	return nil
}

func (s *Stop) markdown(b io.Writer, i int, all []Stop) {
	mark := ""
	if s.Starred {
		mark = " ★"
	}
	fmt.Fprintf(b, "\n## %d. %s%s\n\n", i+1, inline(s.Name()), mark)
	where, link := s.Path, target(s.Path)
	if s.Kind == "" {
		where += ":" + strconv.Itoa(s.Line)
		link += "#L" + strconv.Itoa(s.Line)
	}
	fmt.Fprintf(b, "[%s](%s)", inline(where), link)
	var words []string
	if s.How != "" {
		words = append(words, inline(s.How))
	}
	if s.From != nil && *s.From >= 0 && *s.From < len(all) {
		words = append(words, "from "+strconv.Itoa(*s.From+1)+", "+inline(all[*s.From].Name()))
	}
	if s.Edited {
		words = append(words, "changed here")
	}
	if len(words) > 0 {
		fmt.Fprintf(b, " · %s", strings.Join(words, " · "))
	}
	fmt.Fprintln(b)
	if s.Note != "" {
		fmt.Fprintf(b, "\n> %s\n", strings.ReplaceAll(inline(s.Note), "\n", "\n> "))
	}
	if len(s.Code) > 0 {
		fence := fenceFor(s.Code)
		fmt.Fprintf(b, "\n%s%s\n%s\n%s\n", fence, strings.TrimPrefix(path.Ext(s.Path), "."), strings.Join(s.Code, "\n"), fence)
	}
}

// fenceFor is longer than any row of backticks in the code.
func fenceFor(code []string) string {
	longest := 2
	for _, l := range code {
		run := 0
		for _, r := range l {
			if r != '`' {
				run = 0
				continue
			}
			run++
			longest = max(longest, run)
		}
	}
	return strings.Repeat("`", longest+1)
}

// escaped are the characters that mean something in a line of Markdown.
var escaped = strings.NewReplacer("\\", "\\\\", "`", "\\`", "*", "\\*", "_", "\\_", "[", "\\[", "]", "\\]", "<", "&lt;", ">", "&gt;", "#", "\\#", "|", "\\|", "\r", "")

func inline(s string) string { return escaped.Replace(s) }

// target is a path as the target of a link.
func target(p string) string {
	var b strings.Builder
	for _, c := range []byte(p) {
		if c > ' ' && c < 0x7f && !strings.ContainsRune("()<>#?%\"\\`", rune(c)) {
			b.WriteByte(c)
		} else {
			fmt.Fprintf(&b, "%%%02X", c)
		}
	}
	return b.String()
}
