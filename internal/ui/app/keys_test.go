package app

import (
	"flag"
	"os"
	"strings"
	"testing"

	"charm.land/bubbles/v2/key"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/uitest"
)

var update = flag.Bool("update", false, "write the keys of all surfaces into docs/keys.md")

const keysDoc = "../../../docs/keys.md"

// docsOfKeys is what docs/keys.md says of the keys of surfaces.
func docsOfKeys(m *Model) string {
	var b strings.Builder
	write := func(name string, all []key.Binding) {
		b.WriteString("### " + name + "\n\n| key | does |\n|---|---|\n")
		for _, k := range all {
			var labels []string
			for _, one := range k.Keys() {
				labels = append(labels, keymap.Label(one))
			}
			b.WriteString("| " + strings.Join(labels, ", ") + " | " + k.Help().Desc + " |\n")
		}
		b.WriteString("\n")
	}
	common := keymap.Of(keymap.Moves, keymap.Ends)
	write(keymap.Sheet, common)
	for _, s := range m.keyed() {
		name, all := s.Keys()
		var own []key.Binding
		for _, k := range all {
			if !isOneOf(k, common) {
				own = append(own, k)
			}
		}
		if len(own) > 0 {
			write(name, own)
		}
	}
	return strings.TrimSpace(b.String()) + "\n"
}

// lettersMark stands in docs/keys.md in front of the letters of the lists.
const lettersMark = "| letter | in every list |\n|---|---|\n"

func docsOfLetters() string {
	var rows []string
	for _, l := range keymap.AllLetters() {
		rows = append(rows, "| "+strings.ToUpper(l.Key)+" | "+l.Means+" |")
	}
	return strings.Join(rows, "\n")
}

func isOneOf(k key.Binding, all []key.Binding) bool {
	for _, o := range all {
		if o.Help() == k.Help() {
			return true
		}
	}
	return false
}

// The page of keys and the docs name every key of every surface.
func TestEveryKeyIsOnThePageAndInTheDocs(t *testing.T) {
	p := begin(t, place.Place{})
	all := p.model.allKeys()
	rows, _ := all.Page(140, 400, 0, &palette.Plain)
	page := uitest.Text(rows)
	for _, b := range all {
		if len(b.Keys) > 0 {
			assert.Contains(t, page, ink40(b.Title), b.Group)
			assert.Contains(t, page, b.Group)
		}
	}
	for _, s := range p.model.sheets() {
		name, keys := s.Keys()
		assert.NotEmpty(t, keys)
		if !assert.Contains(t, page, name) {
			continue
		}
		if k := keys[0]; !isOneOf(k, keymap.Of(keymap.Moves, keymap.Ends)) {
			assert.Contains(t, page, ink40(k.Help().Desc), name)
		}
	}

	docs, err := os.ReadFile(keysDoc)
	require.NoError(t, err)
	head, _, found := strings.Cut(string(docs), "<!-- the rest is written by the test of the keys -->\n")
	require.True(t, found)
	before, _, found := strings.Cut(head, lettersMark)
	require.True(t, found)
	_, after, found := strings.Cut(head, "\n\nTab shows another part")
	require.True(t, found)
	head = before + lettersMark + docsOfLetters() + "\n\nTab shows another part" + after
	want := head + "<!-- the rest is written by the test of the keys -->\n\n" + docsOfKeys(p.model)
	if *update {
		require.NoError(t, os.WriteFile(keysDoc, []byte(want), 0o644))
		return
	}
	assert.Equal(t, want, string(docs), "go test ./internal/ui/app -run EveryKey -update writes it")
}

// A letter means the same in all lists: what it is about is said once, and no list has a letter of its
// own.
func TestLettersMeanTheSameInAllLists(t *testing.T) {
	means := map[string]string{}
	for _, l := range keymap.AllLetters() {
		assert.Empty(t, means["alt+"+l.Key], "%s has two meanings", l.Key)
		means["alt+"+l.Key] = l.Means
	}
	p := begin(t, place.Place{})
	for _, s := range p.model.sheets() {
		name, all := s.Keys()
		does := map[string]string{}
		for _, b := range all {
			for _, k := range b.Keys() {
				assert.Empty(t, does[k], "%s of %s does two things", k, name)
				does[k] = b.Help().Desc
				if len(k) == len("alt+x") && strings.HasPrefix(k, "alt+") {
					assert.NotEmpty(t, means[k], "%s of %s is no letter of the lists", k, name)
				}
			}
		}
	}
}

// ink40 is the beginning of words that may be cut off.
func ink40(s string) string { return s[:min(len(s), 36)] }

// Where no file is shown, nothing is said of "this file" or of one without a name.
func TestNoWordsOfAFileThatIsNotThere(t *testing.T) {
	p := open(t, t.TempDir(), place.Place{}, "")
	p.quiet(nil)
	for _, b := range p.model.keys {
		if b.Action == keymap.Quit || b.Action == keymap.Next || b.Action == keymap.Previous || b.Action == keymap.Shell || b.Action == keymap.RunOutput {
			continue
		}
		p.model.line.message = ""
		p.run(p.model.do(b.Action, ""))
		for p.model.going() {
			p.send(<-p.messages)
		}
		said := p.model.line.message
		assert.NotRegexp(t, `this file|^\. |^0 | 0 | in \.$`, said, b.Action)
		for tries := 0; p.model.over != nil && tries < 3; tries++ {
			p.press("esc")
		}
	}
}

// Whatever the key map has, somebody does, and nobody else does it, too.
func TestEveryActionHasOneWhoDoesIt(t *testing.T) {
	p := begin(t, place.Place{})
	m := p.model
	for _, b := range m.keys {
		if b.Action != "" {
			assert.True(t, m.commands[b.Action] != nil || m.leaves.Within()[b.Action] != nil, "%s: %s", b.Action, b.Title)
		}
	}
	of := map[keymap.Action]any{}
	for _, s := range m.sheets() {
		if c, ok := s.(commander); ok {
			for a := range c.Commands() {
				assert.Nil(t, of[a], "%s is done twice", a)
				of[a] = s
			}
		}
	}
}

// Over a list lies what can be done in it; a key of it is pressed there, and Esc leads back to the list.
func TestTheKeysOfAListByName(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 4, Col: 6})
	p.see("line 4")
	p.press("r")
	p.see("references of Team")
	p.press("f1")
	p.see("to do here", "without tests, only tests")
	p.press("esc")
	p.see("references of Team")
	p.press("alt+?", "=sweep", "enter")
	p.see("kept as the sweep")
	p.press("f1")
	p.see("lessons: a few minutes each")
}
