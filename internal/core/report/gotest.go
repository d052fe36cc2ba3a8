package report

import (
	"bytes"
	"encoding/json"
	"strings"
	"time"
)

// goEvent is a line of what go test -json prints; see go doc test2json.
type goEvent struct {
	Action, Package, ImportPath, Test, Output string
	Elapsed                                   float64
}

// isGoTest says whether a line is one of go test -json.
func isGoTest(line []byte) bool {
	return len(line) > 0 && line[0] == '{' && bytes.Contains(line, []byte(`"Action":"`)) &&
		(bytes.Contains(line, []byte(`"Package":"`)) || bytes.Contains(line, []byte(`"ImportPath":"`)))
}

// goTest takes in the lines of go test -json.
type goTest struct {
	out    *Report
	said   map[[2]string]*strings.Builder // by package and test
	failed map[string]bool                // packages of which a test failed
}

func newGoTest(out *Report) *goTest {
	return &goTest{out: out, said: map[[2]string]*strings.Builder{}, failed: map[string]bool{}}
}

// Shown is what a line of go test -json has a person read; ok is false if it is none.
func Shown(line string) (text string, ok bool) {
	if !isGoTest([]byte(line)) {
		return "", false
	}
	var e goEvent
	if json.Unmarshal([]byte(line), &e) != nil {
		return "", false
	}
	return e.Output, true
}

func (g *goTest) line(line string) {
	if !isGoTest([]byte(line)) {
		g.out.line(line)
		return
	}
	var e goEvent
	if json.Unmarshal([]byte(line), &e) != nil {
		g.out.Others++
		return
	}
	key := [2]string{e.Package, e.Test}
	switch e.Action {
	case "output":
		said := g.said[key]
		if said == nil {
			said = &strings.Builder{}
			g.said[key] = said
		}
		if said.Len() < mostText && !isFraming(e.Output) {
			said.WriteString(e.Output)
		}
	case "build-output":
		if f, ok := Line(e.Output); ok {
			f.By, f.In = "go", e.ImportPath
			g.out.add(f)
		}
	case "pass", "fail", "skip":
		g.ended(e, key)
	}
}

// isFraming says whether a line of output only says which test runs.
func isFraming(line string) bool {
	line = strings.TrimLeft(line, " ")
	for _, with := range []string{"=== ", "--- PASS", "--- FAIL", "--- SKIP", "PASS\n", "FAIL\n", "ok  \t"} {
		if strings.HasPrefix(line, with) {
			return true
		}
	}
	return false
}

func (g *goTest) ended(e goEvent, key [2]string) {
	text := ""
	if said := g.said[key]; said != nil {
		text = cut(strings.TrimRight(said.String(), "\n"))
	}
	delete(g.said, key)
	outcome := map[string]Outcome{"pass": Passed, "fail": Failed, "skip": Skipped}[e.Action]
	if e.Test == "" {
		if outcome == Failed && !g.failed[e.Package] && text != "" { // it did not come to its tests, or ended among them
			for _, f := range placesIn(text, e.Package) {
				g.out.add(f)
			}
		}
		return
	}
	r := Result{Suite: e.Package, Name: strings.Split(e.Test, "/"), Outcome: outcome, Took: time.Duration(e.Elapsed * float64(time.Second))}
	if outcome != Passed {
		r.Text = strings.TrimSpace(dedent(strings.Split(text, "\n")))
	}
	if outcome == Failed {
		g.failed[e.Package] = true
		r.Places = placesIn(text, e.Package)
	}
	g.out.tested(r)
}

// end takes in the tests that did not end: those that a panic or a limit of time ended.
func (g *goTest) end() {
	for key, said := range g.said {
		if key[1] == "" {
			continue
		}
		text := said.String()
		if places := placesIn(text, key[0]); len(places) > 0 {
			g.out.tested(Result{Suite: key[0], Name: strings.Split(key[1], "/"), Outcome: Failed, Text: cut(strings.TrimSpace(text)), Places: places})
		}
	}
}
