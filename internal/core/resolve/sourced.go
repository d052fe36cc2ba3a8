package resolve

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"rooktrail/internal/core/facts"
)

// luaModule is the file of a module of Lua, which is looked for in the folder of
// the file that needs it and all above it.
func (q *question) luaModule(src *source, name string) string {
	rel := strings.ReplaceAll(name, ".", "/")
	for dir := path.Dir(src.path); ; dir = path.Dir(dir) {
		for _, below := range []string{"", "lua", "src", "lib"} {
			for _, end := range []string{".lua", "/init.lua"} {
				if p := path.Join(dir, below, rel+end); q.has(p) {
					return p
				}
			}
		}
		if dir == "." || dir == "/" {
			return ""
		}
	}
}

// returned is what a module of Lua gives to those who need it.
var returned = regexp.MustCompile(`return[ \t]+([A-Za-z_]\w*)[ \t;]*$`)

// ofLuaModule finds a member of the table that a module of Lua gives.
func (q *question) ofLuaModule(src *source, name string, depth int) found {
	m := returned.FindSubmatch(lastLine(src.text))
	if m == nil {
		return found{}
	}
	table := q.inScope(src, string(m[1]), 0, true, len(src.text))
	if !table.ok() {
		return found{}
	}
	return q.members(table, name, map[*facts.Def]bool{}, depth+1)
}

// lastLine is the last line of a text that says something.
func lastLine(text []byte) []byte {
	text = bytes.TrimSpace(text)
	return text[bytes.LastIndexByte(text, '\n')+1:]
}

// shellFile is the script that another one reads. Its path may begin with what the
// shell alone knows, as in "$here/lib.sh"; what is behind that is looked for beside
// the script and in the folders above it.
func (q *question) shellFile(src *source, written string) string {
	if i := strings.LastIndexAny(written, "$`)}"); i >= 0 {
		_, rest, ok := strings.Cut(written[i:], "/")
		if !ok {
			return ""
		}
		written = rest
	}
	for dir := path.Dir(src.path); ; dir = path.Dir(dir) {
		if p := path.Join(dir, written); p != src.path && q.has(p) {
			return p
		}
		if dir == "." || dir == "/" {
			return ""
		}
	}
}
