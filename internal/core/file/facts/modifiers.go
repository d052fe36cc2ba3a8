package facts

import "strings"

// modifiers are the words that may stand in front of a name and say something
// about what is defined, in any of the languages.
var modifiers = words(`public private protected internal fileprivate pub export default static final abstract sealed open
	override virtual async suspend const constexpr readonly volatile extern inline explicit friend mutable mutating nonmutating
	unsafe unowned weak lazy lateinit required convenience partial transient synchronized native strictfp declare accessor
	tailrec operator infix external data inner companion crossinline noinline vararg get set local register mut dyn
	indirect isolated nonisolated`)

func words(list string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(list) {
		m[w] = true
	}
	return m
}

// Modifiers are the words in the head of a definition, before its name, that
// say how it may be seen and used, in their order. text is that of the file.
func (d *Def) Modifiers(text []byte) (found []string) {
	if d.Head.Start >= d.At.Start || int(d.At.Start) > len(text) {
		return nil
	}
	for _, w := range strings.FieldsFunc(string(text[d.Head.Start:d.At.Start]), func(r rune) bool {
		return !(r == '_' || 'a' <= r && r <= 'z' || 'A' <= r && r <= 'Z')
	}) {
		if modifiers[w] {
			found = append(found, w)
		}
	}
	return found
}
