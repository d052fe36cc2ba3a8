package sweep

import (
	"bufio"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
)

// Listed is a place that a list names, as it is written there.
type Listed struct {
	// Path is as it was printed: relative to some folder, absolute, or no more than
	// a name. Line counts from 1, and so does Col, which is 0 if it was not said.
	Path      string
	Line, Col int
	// Text is what was said about it.
	Text string
}

// mostOfLine is how much of a line of a list is read, in bytes.
const mostOfLine = 64 << 10

// The forms in which programs write places, the most telling first. Each has the
// groups path, line and perhaps col; what stands behind is what was said.
var forms = []*regexp.Regexp{
	regexp.MustCompile(`^\s*File "(?P<path>[^"]+)", line (?P<line>\d+)`),
	regexp.MustCompile(`-->\s+(?P<path>[^\s:][^:]*):(?P<line>\d+)(?::(?P<col>\d+))?`),
	regexp.MustCompile(`^(?:\[[A-Z]+\]\s+)?(?P<path>[^\s:(][^:(]*):?[(\[](?P<line>\d+)(?:,\s*(?P<col>\d+))?[)\]]:?\s*`),
	regexp.MustCompile(`^(?:\[[A-Z]+\]\s+)?\s*(?P<path>(?:[A-Za-z]:[\\/])?[^\s:][^:\t]*):(?P<line>\d+)(?::(?P<col>\d+))?(?:[-.]\d+(?::\d+)?)?:?(?:\s+|$)`),
	regexp.MustCompile(`^(?P<path>[^\s:][^:\t]*):(?P<line>\d+):(?P<col>\d*):?`),
	regexp.MustCompile(`[\s(](?P<path>[^\s:()"']+\.[A-Za-z0-9]+):(?P<line>\d+)(?::(?P<col>\d+))?`),
}

// escapes are the sequences by which programs colour what they print.
var escapes = regexp.MustCompile("\x1b\\[[0-9;:?]*[ -/]*[@-~]|\x1b\\][^\x07\x1b]*(?:\x07|\x1b\\\\)")

// Most is how many places a sweep holds at the most: more than anybody works through, and not so
// many that keeping them takes all of the memory.
const Most = 100_000

// Read reads a list of places: what commands of this program print, and what compilers,
// linters and test runs do. Of more than Most, the rest are counted as more. Lines that name no
// place are left out; how many there were is counted.
func Read(r io.Reader) (places []Listed, more, others int, err error) {
	in := bufio.NewReaderSize(r, mostOfLine)
	for {
		line, err := in.ReadSlice('\n')
		full := err == bufio.ErrBufferFull
		if p, ok := readLine(string(line)); ok && len(places) == Most {
			more++
		} else if ok {
			places = append(places, p)
		} else if strings.TrimSpace(string(line)) != "" {
			others++
		}
		for err == bufio.ErrBufferFull { // the rest of a line that is too long
			_, err = in.ReadSlice('\n')
		}
		if err == io.EOF {
			return places, more, others, nil
		}
		if err != nil && !full {
			return places, more, others, fmt.Errorf("reading the list of places: %w", err)
		}
	}
}

// readLine finds the place that a line names.
func readLine(line string) (Listed, bool) {
	line = strings.TrimRight(escapes.ReplaceAllString(line, ""), " \r\n")
	for _, form := range forms {
		at := form.FindStringSubmatchIndex(line)
		if at == nil {
			continue
		}
		part := func(name string) string {
			i := form.SubexpIndex(name)
			if i < 0 || at[2*i] < 0 {
				return ""
			}
			return line[at[2*i]:at[2*i+1]]
		}
		n, err := strconv.Atoi(part("line"))
		if err != nil || n < 1 {
			continue
		}
		col, _ := strconv.Atoi(part("col"))
		text := strings.TrimSpace(strings.TrimLeft(line[at[1]:], ":,) "))
		if text == "" {
			text = strings.TrimSpace(line[:at[0]])
		}
		return Listed{Path: strings.TrimSpace(part("path")), Line: n, Col: col, Text: text}, true
	}
	return Listed{}, false
}
