package report

import (
	"regexp"
	"strings"
)

// What Python's unittest prints with -v: a line for each test, and behind them a part for each that failed.
var (
	unitLine  = regexp.MustCompile(`^(\w+) \(([\w.]+)\)(?:.*?)? \.\.\. (ok|FAIL|ERROR|skipped.*|expected failure|unexpected success)$`)
	unitBegin = regexp.MustCompile(`^(\w+) \(([\w.]+)\)`)
	unitEnd   = regexp.MustCompile(`\.\.\. (ok|FAIL|ERROR|skipped.*|expected failure|unexpected success)$`)
	unitPart  = regexp.MustCompile(`^(?:FAIL|ERROR): (\w+) \(([\w.]+)\)`)
)

// unittest takes in the lines of Python's unittest.
type unittest struct {
	out *Report
	// begun is the test whose outcome is still to come, as what it prints or its documentation comes first.
	begun []string
	// part is the result whose failure is being read; said is what was read of it.
	part int
	said []string
}

func newUnittest(out *Report) *unittest { return &unittest{out: out, part: -1} }

func (u *unittest) line(line string) {
	line = Plain(line)
	if m := unitPart.FindStringSubmatch(line); m != nil {
		u.end()
		u.part = u.find(m[1], m[2])
		return
	}
	if u.part >= 0 {
		if strings.HasPrefix(line, "======") || strings.HasPrefix(line, "Ran ") {
			u.end()
			return
		}
		if !strings.HasPrefix(line, "-----") {
			u.said = append(u.said, line)
		}
		return
	}
	if m := unitLine.FindStringSubmatch(line); m != nil {
		u.result(m[1], m[2], m[3])
		return
	}
	if m := unitEnd.FindStringSubmatch(line); m != nil && u.begun != nil {
		u.result(u.begun[1], u.begun[2], m[1])
		return
	}
	if m := unitBegin.FindStringSubmatch(line); m != nil {
		u.begun = m
	}
}

func (u *unittest) result(name, of, outcome string) {
	r := resultOf(name, of)
	switch {
	case outcome == "FAIL" || outcome == "ERROR" || outcome == "unexpected success":
		r.Outcome = Failed
	case strings.HasPrefix(outcome, "skipped"):
		r.Outcome, r.Text = Skipped, strings.Trim(strings.TrimPrefix(outcome, "skipped"), " '\"")
	}
	u.begun = nil
	u.out.tested(r)
}

// resultOf is the result of a test of a class, whose full name may end with that of the test.
func resultOf(name, of string) Result {
	return Result{Suite: strings.TrimSuffix(of, "."+name), Name: []string{name}, Outcome: Passed}
}

// find is the number of the result of a test; one that ended without a line of its own, as when its module cannot be read, is added.
func (u *unittest) find(name, of string) int {
	want := resultOf(name, of)
	for i := len(u.out.Results) - 1; i >= 0; i-- {
		if r := &u.out.Results[i]; r.Suite == want.Suite && r.Name[0] == name {
			r.Outcome = Failed
			return i
		}
	}
	want.Outcome = Failed
	u.out.tested(want)
	return len(u.out.Results) - 1
}

// end takes in the failure that was read. The last place of a traceback is where it failed.
func (u *unittest) end() {
	if u.part >= 0 && u.part < len(u.out.Results) {
		r := &u.out.Results[u.part]
		r.Text = cut(strings.TrimSpace(strings.Join(u.said, "\n")))
		r.Short = r.Text[strings.LastIndexByte(r.Text, '\n')+1:]
		r.Places = placesIn(r.Text, "")
		for i, j := 0, len(r.Places)-1; i < j; i, j = i+1, j-1 {
			r.Places[i], r.Places[j] = r.Places[j], r.Places[i]
		}
	}
	u.part, u.said = -1, nil
}
