package keymap

import (
	"reflect"
	"slices"
	"strings"

	"charm.land/bubbles/v2/key"
)

// Letter is a letter that does something in lists, with Alt where letters are typed. It means the same
// in all of them.
type Letter struct {
	// Key is the letter.
	Key string
	// Means is what it is about, in a few words.
	Means string
}

// Letters are those of the lists. The families of two keys that belong to a list have the same second
// letters: N is a note in the list of bookmarks, and B n writes one on the bookmark of the line.
var Letters = struct {
	Again, Begin, Case, Away, Edited, File, Guide, Hand, It, Join, Keep, Letter, Mentions, Note, Folder, Copy, Possible, Rename, Shelf, Share, Tests, Undo, Tick, Words, Pattern, Order Letter
}{
	Again:    Letter{"a", "ask again"},
	Begin:    Letter{"b", "begin a new one"},
	Case:     Letter{"c", "the same case"},
	Away:     Letter{"d", "take it away, or set it aside"},
	Edited:   Letter{"e", "only what was changed"},
	File:     Letter{"f", "the file it is in"},
	Guide:    Letter{"g", "walk through it"},
	Hand:     Letter{"h", "hand it on: to a file, to a program"},
	It:       Letter{"i", "it: the name or symbol at the caret"},
	Join:     Letter{"j", "join it to another list"},
	Keep:     Letter{"k", "keep it as a sweep"},
	Letter:   Letter{"l", "a letter or key of its own"},
	Mentions: Letter{"m", "mentions in comments and strings, too"},
	Note:     Letter{"n", "a note on it"},
	Folder:   Letter{"o", "where it is: the folder, the project"},
	Copy:     Letter{"p", "copy it"},
	Possible: Letter{"q", "what is possible but not proven, too"},
	Rename:   Letter{"r", "another name"},
	Shelf:    Letter{"s", "the other lists"},
	Share:    Letter{"y", "share it with the others of the project"},
	Tests:    Letter{"t", "tests: left out, or alone"},
	Undo:     Letter{"u", "undo, bring back"},
	Tick:     Letter{"v", "a tick, a star"},
	Words:    Letter{"w", "whole words"},
	Pattern:  Letter{"x", "a regular expression"},
	Order:    Letter{"z", "in another order"},
}

// On is what the letter does in a list; words say it for that list.
func (l Letter) On(words string) key.Binding { return On(words, "alt+"+l.Key) }

// AllLetters are the letters of the lists, in the order of the alphabet.
func AllLetters() (all []Letter) {
	v := reflect.ValueOf(Letters)
	for i := range v.NumField() {
		all = append(all, v.Field(i).Interface().(Letter))
	}
	slices.SortFunc(all, func(a, b Letter) int { return strings.Compare(a.Key, b.Key) })
	return all
}
