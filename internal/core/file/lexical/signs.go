package lexical

import "bytes"

// Signs are those with which a language writes comments and strings, and what
// else of its writing can be told without a grammar.
type Signs struct {
	// Line are the signs that begin a comment up to the end of the line. The first
	// is the one to write.
	Line []string
	// Block are those around a longer comment. The first pair is the one to write.
	Block [][2]string
	// Quotes are those around a string, the longest first. Where there are none,
	// the text is no code, and nothing in it is told apart from code.
	Quotes [][2]string
	// Raw are the quotes in which a backslash is nothing special.
	Raw string
	// Char is the sign around a single character, where it stands alone elsewhere,
	// as in the lifetimes of Rust; "" where it is a quote like any other.
	Char string
	// Code are words that begin like a comment and are none.
	Code []string
	// Directives begins a line that belongs to no indentation where it stands at
	// the very left; "" for none.
	Directives string
	// Closing are the words that close the part above them, beside brackets.
	Closing []string
	// Tabs says that lines are indented by tabs unless the text shows otherwise,
	// Tags that parts of the text lie between tags.
	Tabs, Tags bool
}

// Marks are what comments begin with.
func (s *Signs) Marks() (marks []string) {
	marks = append(marks, s.Line...)
	for _, b := range s.Block {
		marks = append(marks, b[0])
	}
	return marks
}

// IsCode says whether the text is code, in which comments and strings are told
// apart; it is false for no signs at all.
func (s *Signs) IsCode() bool { return s != nil && len(s.Quotes) > 0 }

// first are the bytes with which a comment or a string begins.
func (s *Signs) first() (first [256]bool) {
	for _, l := range s.Marks() {
		first[l[0]] = true
	}
	for _, q := range s.Quotes {
		first[q[0][0]] = true
	}
	if s.Char != "" {
		first[s.Char[0]] = true
	}
	return first
}

// char is the length of a single character between its signs that begins a
// text; 0 if none does.
func (s *Signs) char(text []byte) int {
	if s.Char == "" || !bytes.HasPrefix(text, []byte(s.Char)) {
		return 0
	}
	const longest = 14 // '\u{10ffff}' and its like
	for i := 1; i < min(len(text), longest) && text[i] != '\n'; i++ {
		switch {
		case text[i] == '\\':
			i++
		case text[i] == s.Char[0]:
			return i + 1
		case text[1] != '\\' && i > 1 && text[i]&0xC0 != 0x80: // a second character
			return 0
		}
	}
	return 0
}
