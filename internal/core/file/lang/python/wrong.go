package python

import (
	"bytes"
	"regexp"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// byName finds what makes names known by texts, so that nobody can say what is defined.
var byName = regexp.MustCompile(`\b(globals|vars|locals)\(\)(\[|\.update|\.setdefault)|= *(globals|vars)\(\)\s|\b(exec|execfile)\(|\._convert_?\(|\bbuiltins\.\w+ *=`)

// bareIsWrong says whether a name is wrong that nothing defines.
func bareIsWrong(u facts.Use, text []byte) bool {
	switch u.Name {
	case "print_function", "unicode_literals", "absolute_import", "with_statement", "nested_scopes", "generators", "division", // by which a file asks for what later versions do
		"__class__", "__path__", "__annotations__", "__builtins__", "__dict__", "__module__", "__qualname__", "__cached__", "WindowsError", "get_ipython", "reveal_type", "reveal_locals", "_", "__":
		return false
	}
	return !older[u.Name] && !byName.Match(text) && !guarded(text, u.At.Start, "NameError") &&
		!regexp.MustCompile(`\b(global|nonlocal)\b[^\n]*\b`+regexp.QuoteMeta(u.Name)+`\b`).Match(text)
}

// older are names that only older versions define.
var older = lang.WordsOf("unicode basestring long xrange unichr raw_input reduce file cmp apply buffer intern reload execfile coerce")

// hasToLead says whether an import has to lead to a file of the project: one that says from where by dots, unless it is tried.
func hasToLead(i facts.Imported, text []byte) bool {
	return i.Level > 0 && i.Path != "" && !bytes.Contains(text, []byte("ImportError")) && !guarded(text, i.At.Start, "ImportError") && !guarded(text, i.At.Start, "ModuleNotFoundError") && !guarded(text, i.At.Start, "Exception") && !guarded(text, i.At.Start, ":")
}

// guarded says whether an offset lies in a block that is tried, for fear of some error.
func guarded(text []byte, at uint32, fear string) bool {
	begin := bytes.LastIndexByte(text[:at], '\n') + 1
	indent := leading(text[begin:])
	for begin > 0 {
		end := begin - 1
		begin = bytes.LastIndexByte(text[:end], '\n') + 1
		line := text[begin:end]
		if len(bytes.TrimSpace(line)) == 0 || leading(line) >= indent {
			continue
		}
		indent = leading(line)
		if bytes.HasPrefix(bytes.TrimSpace(line), []byte("try")) {
			rest := text[at:]
			rest = rest[:min(len(rest), 4000)]
			return bytes.Contains(rest, []byte("except")) && bytes.Contains(rest, []byte(fear))
		}
	}
	return false
}

// leading is how far a line is moved in, in bytes.
func leading(line []byte) int { return len(line) - len(bytes.TrimLeft(line, " \t")) }
