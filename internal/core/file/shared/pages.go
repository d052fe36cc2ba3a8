package shared

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
)

// where says in what an attribute stands.
type where uint8

const (
	page where = iota // in a page
	code              // in code that may hold elements
)

// attribute reads the value of one of an element; it is false if its name says nothing about the value.
func (s *scanner) attribute(name string, start, end int, in where) bool {
	if in == code && !s.markup {
		return false
	}
	value := s.text[start:end]
	switch strings.TrimLeft(strings.ToLower(name), ":") {
	case "class", "classname", "ngclass":
		s.classes(start, value)
	case "id":
		s.ids(start, value, true)
	case "for", "htmlfor", "aria-labelledby", "aria-describedby", "aria-controls", "list":
		s.ids(start, value, false)
	case "href", "src", "action", "to", "formaction":
		if bytes.HasPrefix(value, []byte("#")) {
			s.ids(start+1, value[1:], false)
		} else {
			s.route(place.Range{Start: uint32(start), End: uint32(end)}, false, false)
		}
	default:
		return false
	}
	return true
}

// data notes an attribute that begins with data-, whose name stands at an offset.
func (s *scanner) data(start, end int) {
	s.add(facts.Data, strings.ToLower(string(s.text[start:end])), start, end, true)
}

// InMarkup is InCode of a language whose code may hold elements with attributes, and import style sheets, whose files have
// certain endings.
func InMarkup(signs *lexical.Signs, sheets ...string) Reader {
	return func(text []byte, f *facts.File) []facts.Shared {
		s := &scanner{text: text, markup: true, sheets: sheets}
		s.program(signs, f)
		return s.found
	}
}

// dataName is an attribute of an element that begins with data-.
var dataName = regexp.MustCompile(`[\s"'}]data-[\w-]+`)

// elementNames notes the attributes of elements in code that begin with data-, between two strings.
func (s *scanner) elementNames(from, to int) {
	for at := from; at < to; {
		i := bytes.Index(s.text[at:to], []byte("data-"))
		if i < 0 {
			return
		}
		start := at + i
		end := start
		for end < to && (isName(s.text[end]) || s.text[end] == '-') {
			end++
		}
		if start > 0 && strings.IndexByte(" \t\n\r", s.text[start-1]) >= 0 && end > start+len("data-") {
			s.data(start, end)
		}
		at = end
	}
}

// pageAttribute is one of an element on a page, with its value.
var pageAttribute = regexp.MustCompile(`([\w:@-]+)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s"'>]+))`)

// within are the parts of a page in other languages.
var within = regexp.MustCompile(`(?is)<(style|script)\b[^>]*>(.*?)</(?:style|script)\s*>`)

// InPages is the Reader of pages and of templates of pages. The scripts in them are read as some code is.
func InPages(signs *lexical.Signs) Reader {
	return func(text []byte, f *facts.File) []facts.Shared {
		s := &scanner{text: text, markup: true}
		own := blanked(text, commented)
		for _, at := range within.FindAllSubmatchIndex(text, -1) {
			if part := text[at[4]:at[5]]; text[at[2]]|0x20 == 's' && text[at[2]+1]|0x20 == 't' {
				s.sheet(at[4], part)
			} else {
				inner := &scanner{text: part, markup: true}
				inner.program(signs, &facts.File{})
				s.take(inner, at[4])
			}
			own = blankedAt(own, at[4], at[5])
		}
		s.text = own
		for _, at := range pageAttribute.FindAllSubmatchIndex(own, -1) {
			for _, value := range [][2]int{{at[4], at[5]}, {at[6], at[7]}, {at[8], at[9]}} {
				if value[0] >= 0 {
					s.attribute(string(own[at[2]:at[3]]), value[0], value[1], page)
				}
			}
		}
		for _, at := range dataName.FindAllIndex(own, -1) {
			s.data(at[0]+1, at[1])
		}
		s.templates()
		s.members(f)
		return s.found
	}
}

// take takes what was found in a part that begins at an offset.
func (s *scanner) take(of *scanner, offset int) {
	for _, f := range of.found {
		f.At.Start, f.At.End = f.At.Start+uint32(offset), f.At.End+uint32(offset)
		s.found = append(s.found, f)
	}
}

var commented = regexp.MustCompile(`(?s)<!--.*?-->|\{#.*?#\}|\{\{/\*.*?\*/-?\}\}`)

// blanked is a text in which blanks stand for what matches.
func blanked(text []byte, what *regexp.Regexp) []byte {
	for _, at := range what.FindAllIndex(text, -1) {
		text = blankedAt(text, at[0], at[1])
	}
	return text
}

func blankedAt(text []byte, start, end int) []byte {
	text = bytes.Clone(text)
	for i := start; i < end; i++ {
		text[i] = ' '
	}
	return text
}

// templateStatement is a statement of a template that names one, or a part of one.
var templateStatement = regexp.MustCompile(`\{[{%]-?\s*(define|block|template|extends|include|import|from|embed|partial)\s+(?:"([^"\n]+)"|'([^'\n]+)'|([\w.-]+))`)

// templates notes the templates that a page defines and uses.
func (s *scanner) templates() {
	for _, at := range templateStatement.FindAllSubmatchIndex(s.text, -1) {
		start, end := max(at[4], at[6], at[8]), max(at[5], at[7], at[9])
		name, quoted, goes := string(s.text[start:end]), at[8] < 0, s.text[at[0]+1] == '{'
		switch does := string(s.text[at[2]:at[3]]); {
		case does == "block" && !goes:
			s.add(facts.Slot, name, start, end, true)
		case !quoted:
		case does == "define" || does == "block":
			s.add(facts.Template, name, start, end, true)
		default:
			s.add(facts.Template, name, start, end, false)
		}
	}
}
