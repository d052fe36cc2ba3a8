package report

import (
	"regexp"
	"slices"
	"strings"
	"time"
)

var tapResult = regexp.MustCompile(`^(not )?ok\b\s*(\d+)?\s*(?:- )?(.*)$`)

var tapPlan = regexp.MustCompile(`^1\.\.\d+`)

// isTAP says whether a line is one of the Test Anything Protocol.
func isTAP(line []byte) bool {
	at := tapResult.FindSubmatchIndex(line)
	return tapPlan.Match(line) || at != nil && (at[4] >= 0 || at[3] >= 0)
}

// tap takes in the lines of the Test Anything Protocol, with subtests that are moved in by four columns.
type tap struct {
	out *Report
	// around are the names of the tests around the present line, from the outside in.
	around []string
	// last is the result whose diagnosis comes; inside says that one is in it, what is in it is in yaml.
	last   int
	inside bool
	yaml   []string
	depth  int
}

func newTAP(out *Report) *tap { return &tap{out: out, last: -1} }

func (t *tap) line(line string) {
	line = Plain(line)
	inner := strings.TrimLeft(line, " ")
	depth := (len(line) - len(inner)) / 4
	switch {
	case t.inside && inner == "...":
		t.inside = false
		t.diagnosed()
	case t.inside:
		t.yaml = append(t.yaml, line)
	case inner == "---":
		t.inside, t.yaml = true, nil
	case strings.HasPrefix(inner, "# Subtest: "):
		t.around = append(t.around[:min(depth, len(t.around))], strings.TrimPrefix(inner, "# Subtest: "))
	case strings.HasPrefix(inner, "Bail out!"):
		t.out.Broken = "the tests were given up: " + strings.TrimSpace(strings.TrimPrefix(inner, "Bail out!"))
	case tapResult.MatchString(inner):
		t.result(inner, depth)
	case strings.HasPrefix(inner, "#") && t.last >= 0 && t.out.Results[t.last].Outcome == Failed:
		r := &t.out.Results[t.last]
		r.Text = cut(strings.TrimSpace(r.Text + "\n" + strings.TrimSpace(strings.TrimPrefix(inner, "#"))))
		r.Places = placesIn(r.Text, "")
	}
}

func (t *tap) result(line string, depth int) {
	m := tapResult.FindStringSubmatch(line)
	name, directive, _ := strings.Cut(m[3], " # ")
	r := Result{Outcome: Passed}
	if m[1] != "" {
		r.Outcome = Failed
	}
	switch d := strings.ToUpper(directive); {
	case strings.HasPrefix(d, "SKIP"), strings.HasPrefix(d, "TODO"):
		r.Outcome, r.Text = Skipped, strings.TrimSpace(directive)
	case strings.HasPrefix(d, "TIME="):
		r.Took, _ = time.ParseDuration(strings.TrimPrefix(d, "TIME="))
	}
	t.around = t.around[:min(depth, len(t.around))]
	r.Name = append(append([]string{}, t.around...), strings.ReplaceAll(strings.TrimSpace(name), `\#`, "#"))
	t.last = len(t.out.Results)
	t.out.tested(r)
	if t.last == len(t.out.Results) {
		t.last = -1 // there was no room
	}
}

// diagnosed takes in what was said of the last result.
func (t *tap) diagnosed() {
	if t.last < 0 {
		return
	}
	r := &t.out.Results[t.last]
	for _, line := range t.yaml {
		key, value, ok := strings.Cut(strings.TrimSpace(line), ": ")
		value = strings.Trim(value, `'"`)
		switch {
		case ok && key == "location":
			if at, ok := Line(value + ":"); ok {
				r.File, r.Line = at.Path, at.Line
			}
		case ok && key == "duration_ms":
			if d, err := time.ParseDuration(value + "ms"); err == nil && d >= 0 {
				r.Took = d
			}
		case ok && key == "type" && value == "suite":
		}
	}
	if r.Outcome == Failed {
		r.Text = cut(dedent(slices.DeleteFunc(t.yaml, func(line string) bool { // which says where it stands, not where it failed
			return strings.HasPrefix(strings.TrimSpace(line), "location: ")
		})))
		r.Places, r.Short = placesIn(r.Text, ""), shortOf(r.Text)
	}
}

// shortOf is what a diagnosis says went wrong, with what was expected and what came, if it says that.
func shortOf(yaml string) string {
	said := map[string]string{}
	key := ""
	for line := range strings.Lines(yaml) {
		if line[0] != ' ' {
			name, value, _ := strings.Cut(strings.TrimRight(line, "\n"), ":")
			key = name
			if value = strings.TrimSpace(value); value != "|-" && value != "|" && value != ">-" {
				said[key] = strings.Trim(value, `'"`)
			}
			continue
		}
		said[key] = strings.TrimSpace(said[key] + " " + strings.TrimSpace(line))
	}
	words := said["error"]
	if words == "" {
		words = said["message"]
	}
	if said["expected"] != "" && said["actual"] != "" {
		words += " (expected " + said["expected"] + ", got " + said["actual"] + ")"
	}
	return strings.TrimSpace(words)
}

// dedent is lines without what all of them are moved in by.
func dedent(lines []string) string {
	least := -1
	for _, l := range lines {
		if in := len(l) - len(strings.TrimLeft(l, " ")); strings.TrimSpace(l) != "" && (least < 0 || in < least) {
			least = in
		}
	}
	var b strings.Builder
	for _, l := range lines {
		b.WriteString(l[min(max(least, 0), len(l)):] + "\n")
	}
	return strings.TrimRight(b.String(), "\n")
}
