package makefile

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/lang"
)

// words are what stands behind a target about it, as a comment.
var words = regexp.MustCompile(`\s##\s*(.*)$`)

// propose gives the targets of a makefile that have names of their own, with what is said of them behind, or in the comment above.
func propose(_ string, text []byte) (all []lang.Command) {
	seen := map[string]bool{}
	comment := ""
	for line := range bytes.Lines(text) {
		line = bytes.TrimRight(line, "\r\n")
		switch m := target.FindSubmatch(line); {
		case len(line) > 0 && line[0] == '#':
			if comment == "" {
				comment = strings.TrimSpace(strings.TrimLeft(string(line), "# "))
			}
			continue
		case m == nil || line[0] == '\t' || assignment.Match(line):
		default:
			what := comment
			if said := words.FindSubmatch(line); said != nil {
				what = string(said[1])
			}
			for name := range strings.FieldsSeq(string(m[1])) {
				if name[0] != '.' && !strings.ContainsAny(name, "%$/.(){}") && !seen[name] {
					seen[name] = true
					all = append(all, lang.Command{Line: "make " + name, What: what})
				}
			}
		}
		comment = ""
	}
	return all
}
