package report

import (
	"bufio"
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"
)

// Coverage is which lines tests have run.
type Coverage struct {
	// Form is the format of the report.
	Form string
	// Files are the lines of files, from 1, with how often each was run; lines with no code are not among them. The paths are as they
	// were written: for Go, that of the package with the name of the file.
	Files map[string]map[int]int
	// Broken says why it could not be read to its end; "" if it was.
	Broken string
}

// mostCovered is how many lines are read of a report of coverage at the most.
const mostCovered = 20_000_000

// ReadCoverage reads which lines tests have run: a cover profile of Go, LCOV, or Cobertura XML. The error says why nothing of it could be
// read.
func ReadCoverage(r io.Reader) (*Coverage, error) {
	in := bufio.NewReaderSize(r, mostOfLine)
	head, err := in.Peek(512)
	if err != nil && err != io.EOF && err != bufio.ErrBufferFull {
		return nil, fmt.Errorf("reading the coverage: %w", err)
	}
	c := &covering{Coverage: Coverage{Files: map[string]map[int]int{}}}
	head = bytes.TrimLeft(bytes.TrimPrefix(head, []byte("\xef\xbb\xbf")), " \t\r\n")
	switch {
	case bytes.HasPrefix(head, []byte("mode: ")):
		c.Form = "a cover profile of Go"
		err = eachLine(in, c.goLine)
	case bytes.HasPrefix(head, []byte("TN:")) || bytes.HasPrefix(head, []byte("SF:")):
		c.Form = "LCOV"
		err = eachLine(in, c.lcovLine)
	case bytes.HasPrefix(head, []byte("<")):
		c.Form = "Cobertura XML"
		err = c.cobertura(in)
	default:
		return nil, fmt.Errorf("it is no report of coverage that is known: a cover profile of Go, LCOV, or Cobertura XML")
	}
	if err != nil {
		c.Broken = err.Error()
	}
	if len(c.Files) == 0 {
		if c.Broken == "" {
			c.Broken = "no line is in it"
		}
		return nil, fmt.Errorf("nothing could be read of it, as %s: %s", c.Form, c.Broken)
	}
	return &c.Coverage, nil
}

// covering is coverage that is being read.
type covering struct {
	Coverage
	lines int
	file  string
	bases []string
}

// hit notes how often a line was run; of several reports of one line the highest counts.
func (c *covering) hit(file string, line, count int) {
	if line < 1 || c.lines >= mostCovered {
		return
	}
	of := c.Files[file]
	if of == nil {
		of = map[int]int{}
		c.Files[file] = of
	}
	if was, known := of[line]; !known || count > was {
		if !known {
			c.lines++
		}
		of[line] = count
	}
}

// goLine takes in a line such as tarnwell/dispatch/roster.go:42.50,44.2 1 3: a piece of code, how many statements it has, and how
// often it was run.
func (c *covering) goLine(line string) {
	i := strings.LastIndexByte(line, ':')
	fields := strings.Fields(line[i+1:])
	if i < 0 || len(fields) != 3 || strings.HasPrefix(line, "mode: ") {
		return
	}
	from, to, ok := strings.Cut(fields[0], ",")
	first, _, okFrom := strings.Cut(from, ".")
	last, col, okTo := strings.Cut(to, ".")
	start, err1 := strconv.Atoi(first)
	end, err2 := strconv.Atoi(last)
	count, err3 := strconv.Atoi(fields[2])
	if !ok || !okFrom || !okTo || err1 != nil || err2 != nil || err3 != nil || end < start || end-start > 1_000_000 {
		return
	}
	if col == "2" && end > start { // nothing but the bracket at its end
		end--
	}
	for n := start; n <= end; n++ {
		c.hit(line[:i], n, count)
	}
}

// lcovLine takes in a line such as DA:12,3: line 12 was run three times.
func (c *covering) lcovLine(line string) {
	kind, rest, _ := strings.Cut(line, ":")
	switch kind {
	case "SF":
		c.file = strings.TrimSpace(rest)
	case "DA":
		parts := strings.Split(rest, ",")
		if len(parts) < 2 || c.file == "" {
			return
		}
		n, err := strconv.Atoi(parts[0])
		count, err2 := strconv.ParseFloat(parts[1], 64)
		if err == nil && err2 == nil {
			c.hit(c.file, n, int(count))
		}
	case "end_of_record":
		c.file = ""
	}
}

// cobertura reads classes with their lines.
func (c *covering) cobertura(in io.Reader) error {
	d := xml.NewDecoder(limited(in))
	begun, inSource := false, false
	for {
		t, err := d.Token()
		if err == io.EOF && begun {
			return nil
		}
		if err != nil {
			if strings.Contains(err.Error(), "unexpected EOF") || err == io.EOF {
				return fmt.Errorf("it ends in the middle")
			}
			return err
		}
		switch t := t.(type) {
		case xml.StartElement:
			if !begun && t.Name.Local != "coverage" {
				return fmt.Errorf("it is XML of <%s>, not of <coverage>", t.Name.Local)
			}
			begun = true
			inSource = t.Name.Local == "source"
			switch t.Name.Local {
			case "class":
				c.file = attribute(t, "filename")
				if len(c.bases) == 1 && !path.IsAbs(c.file) && c.bases[0] != "" {
					c.file = path.Join(c.bases[0], c.file)
				}
			case "line":
				n, err := strconv.Atoi(attribute(t, "number"))
				count, err2 := strconv.Atoi(attribute(t, "hits"))
				if err == nil && err2 == nil && c.file != "" {
					c.hit(c.file, n, count)
				}
			}
		case xml.CharData:
			if inSource {
				c.bases = append(c.bases, strings.TrimSpace(string(t)))
				inSource = false
			}
		}
	}
}
