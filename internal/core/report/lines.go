package report

import (
	"regexp"
	"strconv"
	"strings"
)

// mostOfLine is how much of a line is read, in bytes.
const mostOfLine = 64 << 10

// The forms in which programs write places, the most telling first. Each has the
// groups path, line and perhaps col; what stands behind is what was said.
var forms = []*regexp.Regexp{
	regexp.MustCompile(`^\s*File "(?P<path>[^"]+)", line (?P<line>\d+)`),
	regexp.MustCompile(`-->\s+(?P<path>[^\s:][^:]*):(?P<line>\d+)(?::(?P<col>\d+))?`),
	regexp.MustCompile(`^(?:\[[A-Z]+\]\s+)?(?P<path>[^\s:(][^:(]*):?[(\[](?P<line>\d+)(?:,\s*(?P<col>\d+))?[)\]]:?\s*`),
	regexp.MustCompile(`^(?:\[[A-Z]+\]\s+)?\s*(?P<path>(?:[A-Za-z]:[\\/])?[^\s:][^:\t]*):(?P<line>\d+)(?::(?P<col>\d+))?(?:[-.]\d+(?::\d+)?)?:?(?:\s+|$)`),
	regexp.MustCompile(`^(?P<path>[^\s:][^:\t]*):(?P<line>\d+):(?P<col>\d*):?`),
	regexp.MustCompile(`(?:[\s('"]|file://)(?P<path>[^\s:()"']+\.[A-Za-z0-9]+):(?P<line>\d+)(?::(?P<col>\d+))?`),
}

// escapes are the sequences by which programs colour what they print.
var escapes = regexp.MustCompile("\x1b\\[[0-9;:?]*[ -/]*[@-~]|\x1b\\][^\x07\x1b]*(?:\x07|\x1b\\\\)")

// Plain is a line of output without what colours it.
func Plain(line string) string {
	if !strings.Contains(line, "\x1b") {
		return line
	}
	return escapes.ReplaceAllString(line, "")
}

// line takes in a line of output.
func (r *Report) line(line string) {
	if f, ok := Line(line); ok {
		r.add(f)
	} else if strings.TrimSpace(line) != "" {
		r.Others++
	}
}

// Line finds the place that a line of output names.
func Line(line string) (Finding, bool) {
	if len(line) > mostOfLine {
		line = line[:mostOfLine]
	}
	line = strings.TrimRight(Plain(line), " \r\n")
	if !strings.ContainsAny(line, ":[(\"") { // which every form has
		return Finding{}, false
	}
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
		return Finding{Path: strings.TrimSpace(part("path")), Line: n, Col: col, Text: text}, true
	}
	return Finding{}, false
}
