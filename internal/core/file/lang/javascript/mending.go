package javascript

import (
	"strings"

	"rooktrail/internal/core/file/lang"
)

var mending = &lang.Mending{Inside: true, Stub: func(s lang.Stub) string {
	head := strings.TrimRight(strings.TrimSpace(s.Head), ";,{ \t\r\n")
	head = strings.TrimPrefix(head, "abstract ")
	in := s.Indent
	return "\n" + in + head + " {\n" + in + in + "throw new Error('" + s.Name + " is not written yet');\n" + in + "}\n"
}}
