package java

import (
	"strings"

	"rooktrail/internal/core/file/lang"
)

var mending = &lang.Mending{Inside: true, Stub: func(s lang.Stub) string {
	head := strings.TrimRight(strings.TrimSpace(s.Head), ";{ \t\r\n")
	for _, word := range []string{"abstract ", "default "} {
		head = strings.Replace(head, word, "", 1)
	}
	if !strings.HasPrefix(head, "public ") && !strings.HasPrefix(head, "protected ") {
		head = "public " + head
	}
	in := s.Indent
	return "\n" + in + "@Override\n" + in + head + " {\n" + in + in + "throw new UnsupportedOperationException(\"" + s.Name + " is not written yet\");\n" + in + "}\n"
}}
