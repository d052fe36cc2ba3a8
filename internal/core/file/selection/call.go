package selection

import (
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Call finds the call in whose brackets an offset stands: the name that is
// called and which of its arguments it is, counted from 0. ok is false outside
// of any call.
func (g *Ground) Call(offset int) (name place.Range, argument int, ok bool) {
	src := g.Doc.Bytes()
	from, to := min(offset, len(src)), min(offset, len(src))
	for range 8 {
		open, shut, ok := g.around(from, to)
		if !ok {
			return place.Range{}, 0, false
		}
		if src[open] == '(' {
			if name, ok = g.called(open); ok {
				return name, g.commas(open+1, offset), true
			}
		}
		from, to = open, min(shut+1, len(src))
	}
	return place.Range{}, 0, false
}

// around is the pair around an offset; a bracket that is not closed, as while
// one is writing, reaches to the end of the text.
func (g *Ground) around(from, to int) (open, shut int, ok bool) {
	if open, shut, ok = g.pair(from, to); ok {
		return open, shut, true
	}
	open, ok = g.opening(from)
	return open, len(g.Doc.Bytes()), ok
}

// called is the name in front of a bracket, with type arguments between them
// left out.
func (g *Ground) called(open int) (name place.Range, ok bool) {
	src := g.Doc.Bytes()
	end := open
	for end > 0 && (src[end-1] == ' ' || src[end-1] == '!') {
		end--
	}
	if end > 0 && (src[end-1] == ']' || src[end-1] == '>') {
		depth := 0
		for i := end - 1; i >= max(0, end-400) && src[i] != '\n'; i-- {
			if src[i] == ']' || src[i] == '>' {
				depth++
			} else if src[i] == '[' || src[i] == '<' {
				if depth--; depth == 0 {
					end = i
					break
				}
			}
		}
	}
	start := end
	for start > 0 && (text.InWord(rune(src[start-1])) || src[start-1] >= 0x80 || src[start-1] == '$') {
		start--
	}
	word := string(src[start:end])
	return place.Range{Start: uint32(start), End: uint32(end)}, start < end && !g.Keywords[word] && (word[0] < '0' || word[0] > '9')
}

// commas counts those between two offsets that are in no inner brackets.
func (g *Ground) commas(from, to int) (n int) {
	src, depth := g.Doc.Bytes(), 0
	for i := from; i < to; i++ {
		b := src[i]
		if !bracket(b) && b != ',' || g.skipped(i, to) {
			continue
		}
		switch {
		case closing(b):
			depth--
		case bracket(b):
			depth++
		case depth == 0:
			n++
		}
	}
	return n
}

// Arguments finds what is between the commas in the round brackets behind a
// name, of which end is the end; type arguments may stand between. ok is false
// where nothing is called.
func (g *Ground) Arguments(end int) (all []place.Range, ok bool) {
	src := g.Doc.Bytes()
	open := end
	if open < len(src) && (src[open] == '[' || src[open] == '<') {
		if at, found := g.partner(open); found {
			open = at + 1
		}
	}
	for open < len(src) && (src[open] == ' ' || src[open] == '!') {
		open++
	}
	if open >= len(src) || src[open] != '(' {
		return nil, false
	}
	shut, ok := g.partner(open)
	if !ok {
		return nil, false
	}
	start, depth := open+1, 0
	for i := open + 1; i <= shut; i++ {
		b := src[i]
		if !bracket(b) && b != ',' || i < shut && g.skipped(i, shut) {
			continue
		}
		switch {
		case i == shut || depth == 0 && b == ',':
			if r := trim(src, start, i); r.Len() > 0 {
				all = append(all, r)
			}
			start = i + 1
		case closing(b):
			depth--
		case bracket(b):
			depth++
		}
	}
	return all, true
}
