package shared

import (
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

var (
	// verb stands before an address where a server is told what it answers.
	verb = regexp.MustCompile(`^(?:GET|POST|PUT|DELETE|PATCH|HEAD|OPTIONS) +`)
	// host is what stands before the path of an address.
	host = regexp.MustCompile(`^(?:\w+:)?//[^/]*|^[\w.-]+\.[a-z]{2,}(?::\d+)?/`)
	// server is one in a variable, before the path.
	server = regexp.MustCompile(`^[$#]?\{[^{}]*\}/|^%s/`)
	// addressed are the characters of a path.
	addressed = regexp.MustCompile(`^[\w\-./{}:<>*$%#()@~+\[\]]*$`)
)

const longestAddress = 200

// route notes an address, without what is known only when the program runs; goesOn says that more is put behind it.
func (s *scanner) route(at place.Range, goesOn, given bool) {
	if at.Len() > longestAddress {
		return
	}
	value := string(at.In(s.text))
	if n := len(verb.FindString(value)); n > 0 {
		value, at.Start = value[n:], at.Start+uint32(n)
	}
	value = server.ReplaceAllString(value, "/")
	if h := host.FindString(value); h != "" && strings.Contains(h, "//") {
		value = strings.TrimPrefix(value, h)
	}
	s.address(value, at, goesOn, given)
}

// address notes the path of an address.
func (s *scanner) address(value string, at place.Range, goesOn, given bool) {
	value, _, _ = strings.Cut(value, "?")
	if !strings.HasPrefix(value, "/") || strings.HasPrefix(value, "//") || !addressed.MatchString(value) {
		return
	}
	parts := strings.Split(strings.Trim(value, "/$"), "/")
	for i, p := range parts {
		if strings.HasPrefix(p, ":") || strings.ContainsAny(p, "{<$%*(") {
			parts[i] = facts.Built
		}
	}
	name, open := "/"+strings.Join(parts, "/"), strings.HasSuffix(value, "/") && len(value) > 1
	if goesOn && open {
		name, open = name+"/"+facts.Built, false
	}
	s.add(facts.Route, name, int(at.Start), int(at.End), given)
	if given && open { // which answers at all that is below
		s.add(facts.Route, name+"/"+facts.Built, int(at.Start), int(at.End), true)
	}
}
