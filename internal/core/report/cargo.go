package report

import (
	"regexp"
	"strings"
)

var (
	cargoLine = regexp.MustCompile(`^test (.+?)(?: - should panic)? \.\.\. (ok|FAILED|ignored.*)$`)
	cargoPart = regexp.MustCompile(`^---- (.+?) stdout ----$`)
)

// cargo takes in the lines of the tests of Rust.
type cargo struct {
	out  *Report
	part int
	said []string
}

func newCargo(out *Report) *cargo { return &cargo{out: out, part: -1} }

func (c *cargo) line(line string) {
	line = Plain(line)
	if m := cargoLine.FindStringSubmatch(line); m != nil {
		r := Result{Name: strings.Split(m[1], "::"), Outcome: Passed}
		if m[2] == "FAILED" {
			r.Outcome = Failed
		} else if m[2] != "ok" {
			r.Outcome, r.Text = Skipped, strings.TrimLeft(strings.TrimPrefix(m[2], "ignored"), ", ")
		}
		c.out.tested(r)
		return
	}
	if m := cargoPart.FindStringSubmatch(line); m != nil {
		c.end()
		for i := range c.out.Results {
			if strings.Join(c.out.Results[i].Name, "::") == m[1] {
				c.part = i
			}
		}
		return
	}
	switch {
	case c.part >= 0 && (line == "failures:" || strings.HasPrefix(line, "test result:")):
		c.end()
	case c.part >= 0:
		c.said = append(c.said, line)
	default:
		c.out.line(line)
	}
}

// end takes in the failure that was read.
func (c *cargo) end() {
	if c.part >= 0 {
		r := &c.out.Results[c.part]
		r.Text = cut(strings.TrimSpace(strings.Join(c.said, "\n")))
		if _, after, ok := strings.Cut(r.Text, " panicked at "); ok { // and where, on that line
			_, words, _ := strings.Cut(after, "\n")
			r.Short, _, _ = strings.Cut(words, "\nnote: ")
		}
		r.Places = placesIn(r.Text, "")
	}
	c.part, c.said = -1, nil
}
