package python

import (
	"bytes"
	"regexp"
	"strings"
	"unicode"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// Where no types are declared, the text that describes a function may say them, in one of the ways that are usual:
//
//	:type bell: Bell          :param Bell bell:        :rtype: Bell
//	bell (Bell): which        Returns:  Bell: the one
//	bell : Bell               Returns   Bell

// saidType is a type as it is written there.
const saidType = `(~?[A-Za-z_][\w.]*(?:\[[\w., \[\]]*\])?(?: or None| \| None)?)`

// saying is a way to say types, and a word without which it is not there.
type saying struct {
	needs string
	*regexp.Regexp
}

var (
	parameterSaid = []saying{
		{":type", regexp.MustCompile(`(?m):type\s+(?P<name>\w+):[ \t]*` + saidType + `[ \t]*$`)},
		{":param", regexp.MustCompile(`(?m):param\s+` + saidType + `\s+(?P<name>\w+):`)},
		{"rgs:", regexp.MustCompile(`(?m)^\s+\*{0,2}(?P<name>\w+)[ \t]*\(` + saidType + `(?:,[ \t]*optional)?\):`)},
		{"Parameters", regexp.MustCompile(`(?m)^\s*(?P<name>\w+) : ` + saidType + `(?:,[ \t]*optional)?[ \t]*$`)},
	}
	resultSaid = []saying{
		{":rtype", regexp.MustCompile(`(?m):rtype:[ \t]*` + saidType + `[ \t]*$`)},
		{"s:\n", regexp.MustCompile(`(?m)^\s*(?:Returns|Yields):[ \t]*\n\s+` + saidType + `:`)},
		{"---", regexp.MustCompile(`(?m)^\s*Returns[ \t]*\n\s*-{3,}[ \t]*\n\s*` + saidType + `[ \t]*$`)},
	}
	valueSaid = regexp.MustCompile(`#[ \t]*type:[ \t]*` + saidType + `[ \t]*$`)
)

// inText is how types are written there.
var inText = reader.Said{Between: ".", Arguments: []string{"[]"}, Nothing: lang.WordsOf("None Any any object Optional optional Union callable function"),
	Basic: lang.WordsOf("str int float bool bytes list dict set tuple frozenset")}

// documented are the types that the text of a function says.
type documented struct {
	r *reader.Reader
	// parameters are where the types of parameters stand, by their names; result is that of what it gives.
	parameters map[string]place.Range
	result     place.Range
}

// documentedBy reads the text of a function.
func documentedBy(r *reader.Reader, doc place.Range) documented {
	d := documented{r: r, parameters: map[string]place.Range{}}
	text := doc.In(r.Text)
	for _, said := range parameterSaid {
		if !bytes.Contains(text, []byte(said.needs)) {
			continue
		}
		name := said.SubexpIndex("name")
		of := 3 - name // the other group
		for _, m := range said.FindAllSubmatchIndex(text, -1) {
			at := place.Range{Start: doc.Start + uint32(m[2*of]), End: doc.Start + uint32(m[2*of+1])}
			if n := string(text[m[2*name]:m[2*name+1]]); namesType(at.In(r.Text)) && d.parameters[n].Len() == 0 {
				d.parameters[n] = at
			}
		}
	}
	for _, said := range resultSaid {
		if !bytes.Contains(text, []byte(said.needs)) {
			continue
		}
		if m := said.FindSubmatchIndex(text); m != nil && d.result.Len() == 0 {
			if at := (place.Range{Start: doc.Start + uint32(m[2]), End: doc.Start + uint32(m[3])}); namesType(at.In(r.Text)) {
				d.result = at
			}
		}
	}
	return d
}

// namesType says whether a word in a text is more likely the name of a type than another word.
func namesType(text []byte) bool {
	last := 0
	for i, c := range text {
		if c == '[' || c == ' ' {
			break
		}
		if c == '.' || c == '~' {
			last = i + 1
		}
	}
	if last >= len(text) || text[last] == '[' || text[last] == ' ' {
		return false
	}
	word, _, _ := strings.Cut(string(text[last:]), "[")
	word, _, _ = strings.Cut(word, " ")
	return unicode.IsUpper(rune(word[0])) || inText.Basic[word]
}

// parameter is the type that the text says of a parameter.
func (d documented) parameter(name string) facts.ExprID {
	if at, ok := d.parameters[name]; ok {
		return inText.Type(d.r, at, false)
	}
	return facts.NoExpr
}

// gives is the type that the text says of the result.
func (d documented) gives() facts.ExprID {
	if d.result.Len() == 0 {
		return facts.NoExpr
	}
	return inText.Type(d.r, d.result, false)
}

// typeBehind is the type that a comment behind an assignment says.
func typeBehind(r *reader.Reader, n syntax.Node) facts.ExprID {
	end := n.Range().End
	line := int(end)
	for line < len(r.Text) && r.Text[line] != '\n' {
		line++
	}
	m := valueSaid.FindSubmatchIndex(r.Text[end:line])
	if m == nil {
		return facts.NoExpr
	}
	return inText.Type(r, place.Range{Start: end + uint32(m[2]), End: end + uint32(m[3])}, false)
}
