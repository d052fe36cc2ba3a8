package report

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"regexp"
	"strings"
	"time"
)

// Form is the format of a report.
type Form string

// The forms.
const (
	Lines  Form = "lines" // output with places in it
	SARIF  Form = "SARIF"
	JUnit  Form = "JUnit XML"
	TAP    Form = "TAP"
	GoTest Form = "go test -json"
	// Unittest and Cargo are what the tests of Python and Rust print, which are known by who printed it alone.
	Unittest Form = "unittest"
	Cargo    Form = "cargo test"
)

// Finding is something that a report says of a place.
type Finding struct {
	// Path is as it was written: relative to some folder, absolute, or no more than a name. In names what the path may be meant
	// from, such as a package of Go; it may be "".
	Path, In string
	// Line counts from 1, and so does Col, which is 0 if it was not said; EndLine and EndCol are 0 if they were not said.
	Line, Col, EndLine, EndCol int
	// Text is what was said about it; By is the tool, Rule what the tool calls it; both may be "".
	Text, By, Rule string
	// Fixes are what would mend it.
	Fixes []Fix
}

// Fix is what would mend something.
type Fix struct {
	// Title says what it does.
	Title string
	Edits []Edit
}

// Edit puts a text in the place of another one.
type Edit struct {
	Path                       string
	Line, Col, EndLine, EndCol int
	Text                       string
}

// Columns is what the columns of a report count.
type Columns uint8

// What columns count.
const (
	Bytes Columns = iota
	UTF16
	CodePoints
)

// Outcome is what became of a test.
type Outcome string

// The outcomes.
const (
	Passed  Outcome = "passed"
	Failed  Outcome = "failed"
	Skipped Outcome = "skipped"
)

// Result is what became of a test.
type Result struct {
	// Suite is what the test belongs to, such as a package, a class or the file; Name is its own, with those of the tests around
	// it in front.
	Suite string
	Name  []string
	// File and Line are where it stands, as they were written; "" and 0 if they were not said.
	File    string
	Line    int
	Outcome Outcome
	Took    time.Duration
	// Text says why it failed or was skipped; Short the same in a line, if that is known.
	Text, Short string
	// Places are those that its failure names, the nearest first.
	Places []Finding
}

// Why says in a line why it failed.
func (r *Result) Why() string {
	words := r.Short
	if words == "" {
		words = itsPlace.ReplaceAllString(r.Text, "")
	}
	return strings.Join(strings.Fields(words), " ")
}

// itsPlace is what stands in front of a message about where that is, which is shown anyway.
var itsPlace = regexp.MustCompile(`^\s*[\w./-]+\.\w+:\d+(?::\d+)?: `)

// Title is the name of the test as one would say it.
func (r *Result) Title() string { return strings.Join(r.Name, " › ") }

// Report is what was read.
type Report struct {
	Form     Form
	Columns  Columns
	Findings []Finding
	Results  []Result
	// More is how many findings and results were left out, as there were more than Most; Others how many lines named no place.
	More, Others int
	// Broken says why it could not be read to its end; "" if it was.
	Broken string
}

// Most is how many findings, and how many results, are read of a report: more than anybody works through, and not so many that
// keeping them takes all of the memory.
const Most = 100_000

// mostBytes is how much of a report of one document is read.
const mostBytes = 1 << 30

// Read reads a report of whatever form. The error is that of the reader; what is wrong with the report itself is in it.
func Read(r io.Reader) (*Report, error) {
	guard := &guarded{in: r}
	in := bufio.NewReaderSize(guard, mostOfLine)
	head, err := in.Peek(4096)
	if err != nil && err != io.EOF && err != bufio.ErrBufferFull {
		return nil, fmt.Errorf("reading the report: %w", err)
	}
	out := &Report{Form: formOf(head)}
	switch out.Form {
	case SARIF:
		err = readSARIF(in, out)
	case JUnit:
		err = readJUnit(in, out)
	default:
		l := NewLive(out.Form)
		err = eachLine(in, l.Line)
		out = l.End()
	}
	if guard.err != nil {
		return out, fmt.Errorf("reading the report: %w", guard.err)
	}
	if err != nil {
		out.Broken = err.Error()
	}
	return out, nil
}

// guarded tells what went wrong with reading from what is wrong with the report.
type guarded struct {
	in  io.Reader
	err error
}

func (g *guarded) Read(p []byte) (int, error) {
	n, err := g.in.Read(p)
	if err != nil && err != io.EOF {
		g.err = err
	}
	return n, err
}

// limited ends the reading of a document that is too large.
func limited(in io.Reader) io.Reader { return &limit{in, mostBytes} }

type limit struct {
	in   io.Reader
	left int64
}

func (l *limit) Read(p []byte) (int, error) {
	if l.left <= 0 {
		return 0, fmt.Errorf("it is larger than %d MB", mostBytes>>20)
	}
	n, err := l.in.Read(p[:min(int64(len(p)), l.left)])
	l.left -= int64(n)
	return n, err
}

// formOf tells the form of a report by how it begins.
func formOf(head []byte) Form {
	head = bytes.TrimLeft(bytes.TrimPrefix(head, []byte("\xef\xbb\xbf")), " \t\r\n")
	switch {
	case len(head) == 0:
		return Lines
	case head[0] == '<':
		return JUnit
	}
	for line := range bytes.Lines(head) {
		line = bytes.TrimSpace(line)
		switch {
		case isGoTest(line):
			return GoTest
		case bytes.HasPrefix(line, []byte("TAP version")) || isTAP(line):
			return TAP
		}
	}
	if head[0] == '{' && (bytes.Contains(head, []byte(`"runs"`)) || bytes.Contains(head, []byte(`"$schema"`)) || bytes.Contains(head, []byte(`"version"`))) {
		return SARIF
	}
	return Lines
}

// eachLine hands over the lines of a text, without their ends; of lines that are too long, the beginning.
func eachLine(in *bufio.Reader, take func(line string)) error {
	for {
		line, err := in.ReadSlice('\n')
		if len(line) > 0 {
			take(strings.TrimRight(string(line), "\r\n"))
		}
		for err == bufio.ErrBufferFull { // the rest of a line that is too long
			_, err = in.ReadSlice('\n')
		}
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
	}
}

// add keeps a finding, if there is room.
func (r *Report) add(f Finding) {
	if len(r.Findings) >= Most {
		r.More++
		return
	}
	r.Findings = append(r.Findings, f)
}

// tested keeps a result, if there is room.
func (r *Report) tested(t Result) {
	if len(r.Results) >= Most {
		r.More++
		return
	}
	r.Results = append(r.Results, t)
}

// mostText is how much of the words about one test are kept, in bytes; the beginning says most.
const mostText = 16 << 10

// mostPlaces is how many places of one failure are kept.
const mostPlaces = 30

// placesIn are the places that a text names, in order.
func placesIn(text, in string) (all []Finding) {
	for line := range strings.Lines(text) {
		if f, ok := Line(strings.TrimRight(line, "\r\n")); ok && len(all) < mostPlaces {
			f.In = in
			all = append(all, f)
		}
	}
	return all
}

// cut is no more of a text than is kept.
func cut(s string) string {
	if len(s) > mostText {
		return strings.ToValidUTF8(s[:mostText], "") + "…"
	}
	return s
}
