package markup

import (
	"regexp"
	"strings"
)

// What the comments of Java, JavaScript, C, C#, PHP and Python have in place of
// Markdown.
var (
	inlineTag = regexp.MustCompile(`\{@(\w+)\s+([^{}]*)\}`)
	htmlCode  = regexp.MustCompile(`(?i)</?(code|tt|c|kbd)>`)
	htmlBold  = regexp.MustCompile(`(?i)</?(b|strong)>`)
	htmlSlope = regexp.MustCompile(`(?i)</?(i|em)>`)
	htmlBreak = regexp.MustCompile(`(?i)<(/?p|/?para|br\s*/?|/?ul|/?ol|/li|/?summary|/?remarks)\s*>`)
	htmlItem  = regexp.MustCompile(`(?i)<li>\s*`)
	htmlPre   = regexp.MustCompile(`(?is)<pre>(.*?)</pre>`)
	htmlLink  = regexp.MustCompile(`(?is)<a\s[^>]*>(.*?)</a>`)
	seeTag    = regexp.MustCompile(`<(?:see|paramref|typeparamref)\s+\w+="([^"]*)"\s*/>`)
	xmlParam  = regexp.MustCompile(`(?s)<(param|typeparam|exception)\s+\w+="([^"]*)">(.*?)</(?:param|typeparam|exception)>`)
	xmlOther  = regexp.MustCompile(`(?s)<(returns|value)>(.*?)</(?:returns|value)>`)
	// A tag at the beginning of a line, with the name that some of them have.
	blockTag = regexp.MustCompile(`^\s*[@\\](\w+)(?:\[[^\]]*\])?\s*(.*)$`)
	jsType   = regexp.MustCompile(`^\{[^}]*\}\s*`)
	nameIn   = regexp.MustCompile(`^(\[?[\w.$*&]+\]?)\s*-?\s*(.*)$`)
	restTag  = regexp.MustCompile(`^\s*:(parameter|param|argument|arg|type|raises|raise|returns|return|rtype)\s*([^:]*):\s*(.*)$`)
	restRole = regexp.MustCompile(":\\w+:`~?([^`]+)`")
	// A heading of a part of a Python comment, such as "Args:".
	partTitle = regexp.MustCompile(`^(Args|Arguments|Parameters|Returns|Return|Yields|Raises|Throws|Note|Notes|Example|Examples|Attributes|See Also|Warning)\s*:\s*$`)
	partItem  = regexp.MustCompile(`^\s+(\*{0,2}\w[\w.]*)(\s*\([^)]*\))?\s*:\s+(.*)$`)
)

// named are the tags that are followed by a name.
var named = map[string]string{
	"param": "", "parameter": "", "arg": "", "argument": "", "property": "", "prop": "", "tparam": "", "template": "",
	"throws": "throws ", "exception": "throws ", "raises": "raises ", "raise": "raises ",
}

// told are the tags that are told by a word.
var told = map[string]string{
	"return": "Returns", "returns": "Returns", "rtype": "Returns", "since": "Since", "see": "See", "deprecated": "Deprecated", "version": "Version",
	"author": "By", "type": "Type", "example": "Example", "todo": "To do", "note": "Note", "warning": "Warning", "default": "Default",
}

// normalise turns the habits of comments into Markdown. What is Markdown already
// stays.
func normalise(words string) string {
	s := htmlPre.ReplaceAllStringFunc(words, func(m string) string {
		inner := strings.TrimSpace(htmlPre.FindStringSubmatch(m)[1])
		if code, ok := strings.CutPrefix(inner, "{@code"); ok {
			inner = strings.TrimSuffix(code, "}")
		}
		return "\n\n```\n" + strings.Trim(unescape(htmlCode.ReplaceAllString(inner, "")), "\n") + "\n```\n\n"
	})
	fenced := false
	var out []string
	part := false // inside a part whose items are indented
	for _, line := range strings.Split(s, "\n") {
		if strings.HasPrefix(strings.TrimSpace(line), "```") {
			fenced = !fenced
		}
		if fenced {
			out = append(out, line)
			continue
		}
		if partTitle.MatchString(line) {
			out, part = append(out, "", "**"+strings.TrimSuffix(strings.TrimSpace(line), ":")+"**", ""), true
			continue
		}
		if part {
			if m := partItem.FindStringSubmatch(line); m != nil {
				out = append(out, "- `"+m[1]+m[2]+"`: "+m[3])
				continue
			}
			if line != strings.TrimLeft(line, " \t") {
				out = append(out, "  "+strings.TrimSpace(line))
				continue
			}
			part = strings.TrimSpace(line) == ""
		}
		out = append(out, tagged(line)...)
	}
	return strings.Join(out, "\n")
}

// tagged turns the tags of one line into Markdown.
func tagged(line string) []string {
	line = inlineTag.ReplaceAllStringFunc(line, func(m string) string {
		inner := inlineTag.FindStringSubmatch(m)
		target, label, ok := strings.Cut(strings.TrimSpace(inner[2]), " ")
		if strings.HasPrefix(inner[1], "link") {
			if ok {
				return strings.TrimSpace(label)
			}
			return "`" + strings.ReplaceAll(strings.TrimPrefix(target, "#"), "#", ".") + "`"
		}
		return "`" + strings.TrimSpace(inner[2]) + "`"
	})
	line = seeTag.ReplaceAllString(line, "`$1`")
	line = xmlParam.ReplaceAllString(line, "\n- `$2`: $3")
	line = xmlOther.ReplaceAllString(line, "\n\n**Returns** $2")
	line = htmlLink.ReplaceAllString(line, "$1")
	line = restRole.ReplaceAllString(line, "`$1`")
	line = htmlCode.ReplaceAllString(line, "`")
	line = htmlBold.ReplaceAllString(line, "**")
	line = htmlSlope.ReplaceAllString(line, "*")
	line = htmlItem.ReplaceAllString(line, "\n- ")
	line = htmlBreak.ReplaceAllString(line, "\n\n")
	line = unescape(line)
	if m := restTag.FindStringSubmatch(line); m != nil {
		return []string{blockTagged(m[1], strings.TrimSpace(m[2]+" "+m[3]))}
	}
	if m := blockTag.FindStringSubmatch(line); m != nil {
		if m[1] == "brief" || m[1] == "summary" || m[1] == "remarks" || m[1] == "details" {
			return []string{m[2]}
		}
		if words := blockTagged(m[1], m[2]); words != "" {
			return []string{words}
		}
	}
	return strings.Split(line, "\n")
}

// blockTagged is the Markdown of a tag with what follows it; "" if the tag is
// not known.
func blockTagged(tag, rest string) string {
	if before, ok := named[tag]; ok {
		rest = jsType.ReplaceAllString(rest, "")
		if m := nameIn.FindStringSubmatch(rest); m != nil {
			return "- " + before + "`" + m[1] + "`: " + m[2]
		}
		return "- " + before + rest
	}
	if word, ok := told[tag]; ok {
		return "\n**" + word + "** " + jsType.ReplaceAllString(rest, "")
	}
	return ""
}

func unescape(s string) string {
	return strings.NewReplacer("&lt;", "<", "&gt;", ">", "&quot;", `"`, "&#64;", "@", "&nbsp;", " ", "&amp;", "&").Replace(s)
}
