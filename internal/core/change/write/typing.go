package write

import (
	"bytes"
	"strings"
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/text"
)

// Type types some text at every caret, in place of what is selected.
func (e *Editor) Type(s string) {
	kind := text.Other
	switch {
	case strings.TrimSpace(s) == "":
		kind = text.Blank
	case utf8.RuneCountInString(s) == 1:
		kind = text.Typing
	}
	if e.anySelected() {
		e.history.Break() // what goes with the first letter comes back with the word
	}
	if s == ")" || s == "]" || s == "}" {
		e.closing(s)
		return
	}
	e.insert(s, kind)
}

func (e *Editor) insert(s string, kind text.Kind) {
	e.each(kind, func(c Caret) (text.Edit, int) {
		start, end := c.Selected()
		return text.Edit{Start: start, End: end, New: []byte(s)}, len(s)
	})
}

// Paste puts a text in as one step. As many lines as there are carets are shared out among
// them. Its line ends become those of the file.
func (e *Editor) Paste(s string) {
	s = strings.ReplaceAll(strings.ReplaceAll(s, "\r\n", "\n"), "\r", "\n")
	parts := strings.Split(strings.TrimSuffix(s, "\n"), "\n")
	end := string(e.doc.LineEnd())
	e.history.Break()
	if len(e.carets) > 1 && len(parts) == len(e.carets) {
		n := 0
		e.each(text.Other, func(c Caret) (text.Edit, int) {
			start, stop := c.Selected()
			n++
			return text.Edit{Start: start, End: stop, New: []byte(parts[n-1])}, len(parts[n-1])
		})
		return
	}
	e.insert(strings.ReplaceAll(s, "\n", end), text.Other)
}

func (e *Editor) anySelected() bool {
	for _, c := range e.carets {
		if c.At != c.From {
			return true
		}
	}
	return false
}

// Newline begins a line that is indented as the one the caret is in; after an opening bracket
// one step further.
func (e *Editor) Newline() {
	end := string(e.doc.LineEnd())
	e.history.Break()
	e.each(text.Other, func(c Caret) (text.Edit, int) {
		start, stop := c.Selected()
		line, col := e.doc.Position(start)
		before := e.doc.Line(line)
		before = before[:min(col-1, len(before))]
		rest := e.restOfLine(stop)
		stop += len(rest) - len(bytes.TrimLeft(rest, " \t"))
		rest = bytes.TrimLeft(rest, " \t")
		indent := string(before[:len(before)-len(bytes.TrimLeft(before, " \t"))])
		head := bytes.TrimRight(before, " \t")
		if len(bytes.TrimSpace(before)) > 0 {
			start -= len(before) - len(head)
		}
		opens := len(head) > 0 && strings.IndexByte("([{:", head[len(head)-1]) >= 0
		closes := len(rest) > 0 && strings.IndexByte(")]}", rest[0]) >= 0
		new := end + indent
		if opens && (head[len(head)-1] != ':' || e.style.Line == "#") {
			new += e.style.Indent
		}
		at := len(new)
		if opens && closes {
			new += end + indent
		}
		return text.Edit{Start: start, End: stop, New: []byte(new)}, at
	})
	e.history.Break()
}

// restOfLine is what stands behind an offset in its line.
func (e *Editor) restOfLine(at int) []byte {
	line, col := e.doc.Position(at)
	l := e.doc.Line(line)
	return l[min(col-1, len(l)):]
}

// Backspace deletes what is selected, or the character before each caret; within the blanks
// at the beginning of a line, one step of indentation.
func (e *Editor) Backspace() {
	e.erase(func(at int) int {
		line, col := e.doc.Position(at)
		before := e.doc.Line(line)
		before = before[:min(col-1, len(before))]
		if n := len(e.style.Indent); n > 1 && len(before) > 0 && len(bytes.Trim(before, " ")) == 0 {
			return at - ((len(before)-1)%n + 1)
		}
		return e.before(at)
	})
}

// Delete deletes what is selected, or the character behind each caret.
func (e *Editor) Delete() { e.erase(e.after) }

// BackspaceWord deletes what is selected, or back to the beginning of a word.
func (e *Editor) BackspaceWord() { e.erase(e.wordBefore) }

// DeleteWord deletes what is selected, or up to the next beginning of a word.
func (e *Editor) DeleteWord() { e.erase(e.wordAfter) }

// DeleteToEnd deletes up to the end of the line, or the line end if one is there.
func (e *Editor) DeleteToEnd() {
	e.erase(func(at int) int {
		line, _ := e.doc.Position(at)
		if end := e.lineEnd(line); end > at {
			return end
		}
		return e.after(at)
	})
}

// erase deletes what is selected, or from each caret to where the function says.
func (e *Editor) erase(to func(at int) int) {
	kind := text.Erasing
	if e.anySelected() {
		kind = text.Other
	}
	e.each(kind, func(c Caret) (text.Edit, int) {
		start, end := c.Selected()
		if start == end {
			other := to(c.At)
			start, end = min(c.At, other), max(c.At, other)
		}
		return text.Edit{Start: start, End: end}, 0
	})
}

// before is where the character begins that ends at an offset; over a line end, that.
func (e *Editor) before(at int) int {
	line, col := e.doc.Position(at)
	if col == 1 {
		if line == 1 {
			return 0
		}
		return e.lineEnd(line - 1)
	}
	l := e.doc.Line(line)
	if col-1 > len(l) { // between the bytes of a line end
		return e.lineEnd(line)
	}
	start := e.doc.Offset(line, 1)
	return start + text.CellAt(l, col-2).Offset
}

// after is where the character ends that begins at an offset.
func (e *Editor) after(at int) int {
	line, col := e.doc.Position(at)
	l := e.doc.Line(line)
	if col-1 >= len(l) {
		if line >= e.lastLine() {
			return e.doc.Len()
		}
		return e.doc.Offset(line+1, 1)
	}
	c := text.CellAt(l, col-1)
	return e.doc.Offset(line, 1) + c.Offset + max(c.Size, 1)
}

// lastLine counts the empty line behind a line end at the end, too, as a caret can be there.
func (e *Editor) lastLine() int {
	line, _ := e.doc.Position(e.doc.Len())
	return line
}

func (e *Editor) lineEnd(line int) int { return e.doc.Offset(line, 1) + len(e.doc.Line(line)) }

func (e *Editor) wordBefore(at int) int {
	line, col := e.doc.Position(at)
	l := e.doc.Line(line)
	if col == 1 || col-1 > len(l) {
		return e.before(at)
	}
	i := col - 1
	for i > 0 && !inWord(l[:i]) {
		i = back(l, i)
	}
	return e.doc.Offset(line, 1) + wordStart(l, i)
}

func (e *Editor) wordAfter(at int) int {
	rest := e.restOfLine(at)
	if len(rest) == 0 {
		return e.after(at)
	}
	i := wordEnd(rest, 0)
	for i < len(rest) && !startsWord(rest[i:]) {
		_, n := utf8.DecodeRune(rest[i:])
		i += n
	}
	return at + i
}

// wordStart is where the word begins that ends at a byte of a line.
func wordStart(line []byte, at int) int {
	for at > 0 && inWord(line[:at]) {
		at = back(line, at)
	}
	return at
}

// wordEnd is where the word ends that a byte of a line is in.
func wordEnd(line []byte, at int) int {
	for at < len(line) && startsWord(line[at:]) {
		_, n := utf8.DecodeRune(line[at:])
		at += n
	}
	return at
}

func back(data []byte, at int) int {
	_, n := utf8.DecodeLastRune(data[:at])
	return at - max(n, 1)
}

func inWord(before []byte) bool {
	r, _ := utf8.DecodeLastRune(before)
	return text.InWord(r)
}

func startsWord(data []byte) bool {
	r, _ := utf8.DecodeRune(data)
	return text.InWord(r)
}

// Upper and Lower write what is selected, or the word at each caret, in large or small
// letters.
func (e *Editor) Upper() { e.rewrite(bytes.ToUpper) }

// Lower is the reverse of Upper.
func (e *Editor) Lower() { e.rewrite(bytes.ToLower) }

func (e *Editor) rewrite(how func([]byte) []byte) {
	e.history.Break()
	e.reselect(func(start, end int) []byte { return how(e.doc.Slice(start, end)) })
}

// Surround puts brackets or quotes around what is selected, or around the word at each caret.
func (e *Editor) Surround(open, close string) {
	e.history.Break()
	e.reselect(func(start, end int) []byte {
		return append([]byte(open), append(bytes.Clone(e.doc.Slice(start, end)), close...)...)
	})
}

// reselect changes what is selected, or the word at each caret, and leaves it selected if it
// was.
func (e *Editor) reselect(how func(start, end int) []byte) {
	var edits []text.Edit
	var after []Caret
	by, last := 0, -1
	for _, c := range e.carets {
		start, end := c.Selected()
		selected := start != end
		if !selected {
			start, end = e.wordAt(c.At)
		}
		if start < last { // the same word again
			continue
		}
		new := how(start, end)
		edits = append(edits, text.Edit{Start: start, End: end, New: new})
		if selected {
			after = append(after, Caret{From: start + by, At: start + by + len(new)})
		} else {
			at := start + by + min(c.At-start+(len(new)-(end-start))/2, len(new))
			after = append(after, Caret{From: at, At: at})
		}
		by += len(new) - (end - start)
		last = end
	}
	e.apply(edits, text.Other, after, min(e.main, len(after)-1))
}

// wordAt is the word at an offset; empty if there is none.
func (e *Editor) wordAt(at int) (start, end int) {
	line, col := e.doc.Position(at)
	l := e.doc.Line(line)
	col = min(col-1, len(l))
	start = e.doc.Offset(line, 1)
	return start + wordStart(l, col), start + wordEnd(l, col)
}

// Selection is what is selected at all carets, a line each; where nothing is selected, the
// whole lines of the carets, which whole says.
func (e *Editor) Selection() (s string, whole bool) {
	var parts []string
	for _, c := range e.carets {
		if start, end := c.Selected(); start != end {
			parts = append(parts, string(e.doc.Slice(start, end)))
		}
	}
	if len(parts) > 0 {
		return strings.Join(parts, "\n"), false
	}
	for _, l := range e.lines() {
		for n := l.first; n <= l.last; n++ {
			parts = append(parts, string(e.doc.Line(n)))
		}
	}
	return strings.Join(parts, "\n") + "\n", true
}

// Cut deletes what Selection gives.
func (e *Editor) Cut() {
	e.history.Break()
	if e.anySelected() {
		e.Backspace()
		return
	}
	e.DeleteLines()
}

// blank says whether a line holds nothing but blanks.
func blank(line []byte) bool {
	return len(bytes.TrimFunc(line, unicode.IsSpace)) == 0
}

// WordBefore is the part of a word that stands before the main caret; "" where there is none
// or something is selected.
func (e *Editor) WordBefore() string {
	c := e.Main()
	if c.At != c.From {
		return ""
	}
	start, _ := e.partOfWord(c.At)
	return string(e.doc.Slice(start, c.At))
}

// partOfWord is the part of a word that ends at an offset.
func (e *Editor) partOfWord(at int) (start, end int) {
	line, col := e.doc.Position(at)
	l := e.doc.Line(line)
	col = min(col-1, len(l))
	return at - (col - wordStart(l, col)), at
}

// ReplaceWord puts a word in place of the part of one that stands before each caret.
func (e *Editor) ReplaceWord(word string) {
	e.each(text.Other, func(c Caret) (text.Edit, int) {
		start, end := e.partOfWord(c.At)
		return text.Edit{Start: start, End: end, New: []byte(word)}, len(word)
	})
}
