package scout

import (
	"slices"
	"strings"
	"sync"
	"unicode"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/lexicon"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/listkeys"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// offers are the commands of the program, as they are found by what people call them.
type offers struct {
	keys     keymap.Map
	bindings []keymap.Binding
	// The lexicons of the commands, and of the keys of the scout itself, are made when they are first asked
	// for, beside the screen.
	lexicon, ownLexicon func() *lexicon.Lexicon
	standings           map[keymap.Action]surface.Standing
	recent              []keymap.Action
}

func newOffers(keys keymap.Map) offers {
	bindings := keys.Commands()
	return offers{keys: keys, bindings: bindings, lexicon: sync.OnceValue(func() *lexicon.Lexicon {
		var entries []lexicon.Entry
		for _, b := range bindings {
			n := b.Action.Naming()
			entries = append(entries, lexicon.Entry{Title: n.Name, Phrases: append(n.Phrases, b.Title)})
		}
		return lexicon.New(entries)
	}), ownLexicon: sync.OnceValue(func() *lexicon.Lexicon { return listkeys.Lexicon(ownKeys) })}
}

// all are the commands before anything is typed, those that were done lately first.
func (o offers) all() lane {
	l := lane{title: laneCommands}
	bindings := slices.Clone(o.bindings)
	slices.SortStableFunc(bindings, func(a, b keymap.Binding) int { return o.age(a.Action) - o.age(b.Action) })
	for _, b := range bindings {
		if b.Action == keymap.Scout {
			continue // one is in it
		}
		l.rows = append(l.rows, o.row(b, nil, ""))
	}
	return l
}

// age is how many others were done since a command was, or how many are remembered if it was not.
func (o offers) age(a keymap.Action) int {
	if i := slices.Index(o.recent, a); i >= 0 {
		return i
	}
	return len(o.recent)
}

// lane are the commands that one may mean.
func (o offers) lane(typed string) lane {
	l := lane{title: laneCommands}
	if !isWords(typed) {
		return l
	}
	q := fuzzy.Parse(typed)
	for _, h := range o.lexicon().Find(typed) {
		b := o.bindings[h.Index]
		if h.Phrase != "" && len([]rune(typed)) < shortestPhrase {
			continue
		}
		if len(l.rows) == 0 {
			l.liken(q, h, b.Action.Naming().Name)
		}
		l.rows = append(l.rows, o.row(b, h.At, h.Phrase))
	}
	o.own(&l, typed, q)
	return l
}

// ownKeys are the keys of the scout itself.
var ownKeys = keymap.Of(on)

// own puts the keys of the scout itself among the commands, if they are called what was typed.
func (o offers) own(l *lane, typed string, q fuzzy.Query) {
	for _, h := range o.ownLexicon().Find(typed) {
		if h.Grade < lexicon.Within || len([]rune(typed)) < shortestOwn {
			continue
		}
		b := ownKeys[h.Index]
		row := sheet.Row{What: "here", Name: b.Help().Desc, At: h.At, Where: "in this box", Reads: true, Key: b.Help().Key, Value: Choice{Press: b.Keys()[0]}}
		if h.Grade == lexicon.Names || len(l.rows) == 0 {
			l.liken(q, h, b.Help().Desc)
			l.rows = slices.Insert(l.rows, 0, row)
			continue
		}
		l.rows = append(l.rows, row)
	}
}

// shortestOwn is from how many letters on the keys of the scout are found.
const shortestOwn = 4

// isWords says that what was typed may be meant for people: words, and not a filter, a pattern or code.
func isWords(typed string) bool {
	return !strings.ContainsFunc(typed, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !strings.ContainsRune(" -'’?!,", r)
	})
}

// shortestPhrase is from how many letters on a command is found by what is not its name.
const shortestPhrase = 2

// liken says how well what has a name fits what was typed, to be held against what other lanes have.
func (l *lane) liken(q fuzzy.Query, h lexicon.Hit, name string) {
	called := h.Phrase
	if called == "" {
		called = name
	}
	l.best, _ = q.Match(called, 0)
	l.called = h.Grade == lexicon.Names
	l.sure = l.called && strings.Contains(called, " ")
	l.guess = h.Grade < lexicon.Within
}

// row says what a command is called, and what it would act on, or why it cannot be done just now, or
// else by what it was found, or what it does.
func (o offers) row(b keymap.Binding, at []int, phrase string) sheet.Row {
	row := sheet.Row{What: "command", Name: b.Action.Naming().Name, At: at, Where: b.Title, Reads: true, Key: o.keys.Key(b.Action), Value: Choice{Action: b.Action}}
	switch s := o.standings[b.Action]; {
	case s.Lack != "":
		row.Where, row.Faint = s.Lack, true
	case s.On != "":
		row.Where = s.On
	case phrase != "" && phrase != b.Title:
		row.Where = "“" + phrase + "”"
	case row.Where == row.Name:
		row.Where = ""
	}
	return row
}
