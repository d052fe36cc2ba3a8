package report

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/encoding/ianaindex"
)

// testCase is a test of JUnit XML.
type testCase struct {
	Name      string      `xml:"name,attr"`
	ClassName string      `xml:"classname,attr"`
	File      string      `xml:"file,attr"`
	Line      string      `xml:"line,attr"`
	Time      string      `xml:"time,attr"`
	Status    string      `xml:"status,attr"`
	Failures  []testFault `xml:"failure"`
	Errors    []testFault `xml:"error"`
	Skipped   *testFault  `xml:"skipped"`
	Out       string      `xml:"system-out"`
}

type testFault struct {
	Message string `xml:"message,attr"`
	Text    string `xml:",chardata"`
}

// readJUnit reads test suites test by test.
func readJUnit(in io.Reader, out *Report) error {
	d := xml.NewDecoder(limited(in))
	d.CharsetReader = func(charset string, in io.Reader) (io.Reader, error) {
		e, err := ianaindex.IANA.Encoding(charset)
		if err != nil || e == nil {
			return nil, fmt.Errorf("it is written in %s, which is not known", charset)
		}
		return e.NewDecoder().Reader(in), nil
	}
	var suites []string
	begun := false
	for {
		t, err := d.Token()
		if err == io.EOF && begun {
			return nil
		}
		var wrong *xml.SyntaxError
		if errors.As(err, &wrong) && strings.Contains(wrong.Msg, "unexpected EOF") || err == io.EOF {
			return fmt.Errorf("it ends in the middle")
		}
		if err != nil {
			return err
		}
		switch t := t.(type) {
		case xml.StartElement:
			if !begun && t.Name.Local != "testsuites" && t.Name.Local != "testsuite" {
				return fmt.Errorf("it is XML of <%s>, not of <testsuites>", t.Name.Local)
			}
			begun = true
			switch t.Name.Local {
			case "testsuite":
				suites = append(suites, attribute(t, "name"))
			case "testcase":
				var c testCase
				if err := d.DecodeElement(&c, &t); err != nil {
					if errors.As(err, &wrong) && strings.Contains(wrong.Msg, "unexpected EOF") {
						return fmt.Errorf("it ends in the middle")
					}
					return err
				}
				out.tested(c.result(suites))
			}
		case xml.EndElement:
			if t.Name.Local == "testsuite" && len(suites) > 0 {
				suites = suites[:len(suites)-1]
			}
		}
	}
}

func attribute(e xml.StartElement, name string) string {
	for _, a := range e.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

func (c *testCase) result(suites []string) Result {
	r := Result{Suite: c.ClassName, Name: []string{c.Name}, File: c.File, Outcome: Passed}
	if r.Suite == "" && len(suites) > 0 {
		r.Suite = suites[len(suites)-1]
	}
	if r.Suite == c.Name {
		r.Suite = "" // it says nothing more
	}
	if r.Suite == "test" { // no class: what is around it are the suites
		r.Name = append(append([]string{}, suites...), c.Name)
		r.Suite = ""
	}
	r.Line, _ = strconv.Atoi(c.Line)
	if s, err := strconv.ParseFloat(c.Time, 64); err == nil && s >= 0 {
		r.Took = time.Duration(s * float64(time.Second))
	}
	faults := append(c.Failures, c.Errors...)
	switch {
	case len(faults) > 0:
		r.Outcome, r.Short = Failed, strings.TrimSpace(faults[0].Message)
		var all strings.Builder
		for _, f := range faults {
			if m := strings.TrimSpace(f.Message); m != "" && !strings.Contains(f.Text, m) {
				all.WriteString(m + "\n")
			}
			all.WriteString(strings.Trim(f.Text, "\n") + "\n")
		}
		if strings.TrimSpace(all.String()) == "" {
			all.WriteString(c.Out) // which is all that some say
		}
		r.Text = cut(strings.TrimSpace(all.String()))
		r.Places = placesIn(r.Text, "")
	case c.Skipped != nil:
		r.Outcome, r.Text = Skipped, strings.TrimSpace(c.Skipped.Message+" "+c.Skipped.Text)
	case c.Status == "fail" || c.Status == "failed":
		r.Outcome, r.Text = Failed, cut(strings.TrimSpace(c.Out))
		r.Places = placesIn(r.Text, "")
	case c.Status == "disabled" || c.Status == "notrun":
		r.Outcome = Skipped
	}
	return r
}
