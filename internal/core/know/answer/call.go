package answer

import (
	"context"
	"strings"
	"unicode/utf8"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
)

// Call is what is to be told about the call in whose brackets one stands.
type Call struct {
	Description
	// Parameter is the one that is to be given here, as it is written in the
	// signature, and At where it stands in that, in bytes. It is empty where the
	// signature has no such parameter.
	Parameter string
	At        place.Range
	// Number is which parameter it is, counted from 1, and Of how many there are.
	Number, Of int
	// Parameters are where all of them stand in the signature, in bytes.
	Parameters []place.Range
}

// CallAround tells about the call in whose brackets an offset of a file stands;
// ok is false if it is in none, or nothing is known of what is called.
func (g *Guide) CallAround(ctx context.Context, f *codebase.File, offset int) (c Call, ok bool) {
	name, argument, ok := g.code.Ground(ctx, f).Call(offset)
	if !ok || f.Facts == nil {
		return c, false
	}
	c.Description = g.Describe(ctx, f.Path, int(name.Start))
	if c.Signature == "" || !c.Best.Kind.IsCallable() {
		return c, false
	}
	all := parameters(c.Signature, c.Best.Name)
	if len(all) > 0 {
		if first := string(all[0].In([]byte(c.Signature))); c.Best.Container != "" && (first == "self" || first == "cls" || first == "&self" || first == "&mut self") {
			all = all[1:] // it stands in front of the dot
		}
	}
	c.Parameters, c.Of, c.Number = all, len(all), argument+1
	if argument >= len(all) && len(all) > 0 && variadic(string(all[len(all)-1].In([]byte(c.Signature)))) {
		argument = len(all) - 1
		c.Number = len(all)
	}
	if argument < len(all) {
		c.At = all[argument]
		c.Parameter = string(c.At.In([]byte(c.Signature)))
	}
	return c, true
}

func variadic(parameter string) bool {
	return strings.Contains(parameter, "...") || strings.HasPrefix(parameter, "*") || strings.HasPrefix(parameter, "params ") || strings.HasPrefix(parameter, "vararg ")
}

// parameters finds the parameters in a signature: what is between the commas of
// the first round brackets behind the name.
func parameters(signature, name string) (all []place.Range) {
	at := nameIn(signature, name)
	if at < 0 {
		return nil
	}
	depth, start := 0, -1
	for i := at; i < len(signature); i++ {
		switch b := signature[i]; {
		case b == '(' && depth == 0 && start < 0:
			start = i + 1
			depth = 1
		case b == '(' || b == '[' || b == '{' || b == '<' && start >= 0:
			depth++
		case b == ')' || b == ']' || b == '}' || b == '>' && start >= 0 && signature[i-1] != '-' && signature[i-1] != '=':
			if depth--; depth == 0 && start >= 0 {
				return appendTrimmed(all, signature, start, i)
			}
		case b == ',' && depth == 1 && start >= 0:
			all = appendTrimmed(all, signature, start, i)
			start = i + 1
		}
	}
	return all
}

// nameIn is where a name ends that stands in a signature as a word, in front of
// its parameters; -1 if it does not.
func nameIn(signature, name string) int {
	for from := 0; ; {
		i := strings.Index(signature[from:], name)
		if i < 0 || name == "" {
			return -1
		}
		start, end := from+i, from+i+len(name)
		before, _ := utf8.DecodeLastRuneInString(signature[:start])
		rest := strings.TrimLeft(signature[end:], " ")
		if !text.InWord(before) && rest != "" && strings.IndexByte("([<=:", rest[0]) >= 0 {
			return end
		}
		from = end
	}
}

func appendTrimmed(all []place.Range, s string, start, end int) []place.Range {
	for start < end && strings.IndexByte(" \t\n", s[start]) >= 0 {
		start++
	}
	for end > start && strings.IndexByte(" \t\n", s[end-1]) >= 0 {
		end--
	}
	if start == end {
		return all
	}
	return append(all, place.Range{Start: uint32(start), End: uint32(end)})
}
