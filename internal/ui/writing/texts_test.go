package writing

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// act does what is bound to keys of write, one after the other.
func (w *writer) act(keys ...string) (last surface.Intent) {
	for _, k := range keys {
		a, ok := w.keys.OfWrite(k)
		if !ok {
			panic(k + " is bound to nothing in write")
		}
		last = last.And(uitest.Last(uitest.Carry(w.Model.do(a))))
	}
	return last
}

func TestNamesAreChosenAmong(t *testing.T) {
	t.Parallel()
	w := began("\n")
	w.disk.names = []string{"Roster", "roster", "rosterOf"}
	w.types("r")
	assert.False(t, w.Offering(), "one letter is not enough")
	w.types("o")
	require.True(t, w.Offering())
	row := func() string { return uitest.Text([]string{w.NameRow(80, uitest.Plain)}) }
	assert.Contains(t, row(), "1 of 3")
	w.types("ctrl+n", "ctrl+n")
	assert.Contains(t, row(), "3 of 3")
	w.types("ctrl+n")
	assert.Contains(t, row(), "1 of 3", "round and round")
	w.types("ctrl+p", "ctrl+p")
	assert.Contains(t, row(), "2 of 3")
	w.types("ctrl+p", "tab")
	assert.Equal(t, "Roster\n", w.text(), "the name as it is written, not as it was typed")
	w.types("enter", "ro")
	require.True(t, w.Offering())
	w.types("esc")
	assert.False(t, w.Offering())
	assert.True(t, w.Writing(), "Esc has sent away the names, no more")
	w.types("x")
	assert.Equal(t, "Roster\nrox\n", w.text())
}

func TestNamesAreNarrowWhereTheScreenIs(t *testing.T) {
	t.Parallel()
	w := began("\n")
	w.disk.names = []string{"alertTeamsOfTheValley", "alertTeamsOfTheRidge"}
	w.types("al")
	for _, width := range []int{30, 50, 80, 200} {
		row := uitest.Text([]string{w.NameRow(width, uitest.Plain)})
		assert.LessOrEqual(t, len([]rune(row)), width)
	}
	assert.Contains(t, uitest.Text([]string{w.NameRow(200, uitest.Plain)}), "alertTeamsOfTheRidge")
}

func TestNamesAreAskedFor(t *testing.T) {
	t.Parallel()
	w := began("\n")
	assert.Equal(t, "type the beginning of a name; then its rest can be found", w.act("ctrl+n").Say)
	w.types("q")
	assert.Equal(t, "no name is known that begins so", w.act("ctrl+n").Say)
	w.disk.names = []string{"query"}
	w.act("ctrl+n")
	require.True(t, w.Offering())
	w.types("left")
	assert.False(t, w.Offering(), "they are for where one was")
}

func TestTheSecondOfTwoKeys(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("ctrl+e")
	assert.Equal(t, "ctrl+e", w.Prefix())
	w.types("esc")
	assert.Equal(t, "", w.Prefix())
	assert.True(t, w.Writing(), "Esc has taken the first key back, no more")
	w.types("ctrl+e")
	assert.Contains(t, w.types("#").Say, "does nothing here")
	assert.Equal(t, "ring\n", w.text(), "nor is it typed")
	assert.Contains(t, uitest.Last(uitest.Carry(w.Key(tea.KeyPressMsg{Code: tea.KeyF9}))).Say, "does nothing in write")
}

func TestWhatWasCopiedIsChosenAmong(t *testing.T) {
	t.Parallel()
	w := began("one\ntwo\n")
	assert.Equal(t, "nothing was cut or copied yet", uitest.Last(uitest.Carry(w.chooseCopy(w.pen()))).Say)
	w.types("ctrl+c", "down", "ctrl+c", "up", "ctrl+c")
	assert.Equal(t, []string{"one\n", "two\n"}, w.disk.copies, "each once, the latest first")
	todo := w.chooseCopy(w.pen())
	require.NotNil(t, todo.Open)
	assert.Contains(t, uitest.Of(todo.Open, 80, 10), "two")
	uitest.Press(todo.Open, "down", "enter")
	assert.Equal(t, "two\none\ntwo\n", w.text())
	assert.Equal(t, []string{"two\n", "one\n"}, w.disk.copies)
	for i := range 2 * mostCopies {
		w.pasteCopy(strconv.Itoa(i))
	}
	assert.Len(t, w.copies.all, mostCopies)
}

// What was copied in earlier programs comes behind what was copied while it was read.
func TestCopiesOfEarlier(t *testing.T) {
	t.Parallel()
	w := began("one\n")
	w.copies = copies{}
	w.disk.copies = []string{"of earlier", "one\n"}
	load := w.loadCopies()
	w.types("ctrl+c")
	assert.Equal(t, []string{"of earlier", "one\n"}, w.disk.copies, "not written over before it is read")
	uitest.Carry(surface.Begin(load))
	assert.Equal(t, []string{"one\n", "of earlier"}, w.disk.copies)
}

func TestCaretsThatFindNothing(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	assert.Contains(t, uitest.Last(uitest.Carry(w.caretsAtFound(w.pen()))).Say, "nothing is being looked for")
	doc := w.pen().Editor.Document()
	assert.Equal(t, "none is", w.caretsAt(w.pen(), doc, uses{none: "none is"}).Say)
	assert.Contains(t, w.caretsAt(w.pen(), doc, uses{err: errors.New("no such pattern")}).Say, "no such pattern")
	w.types("x")
	assert.Empty(t, w.caretsAt(w.pen(), doc, uses{at: [][2]int{{0, 4}}}).Say, "the text is another one by now")
	todo := w.caretsAt(w.pen(), w.pen().Editor.Document(), uses{at: [][2]int{{0, 1}, {2, 3}}})
	assert.Equal(t, "2 carets; Esc leaves one", todo.Say)
	w.types("esc")
	assert.True(t, w.Writing())
	assert.True(t, w.pen().Editor.Single())
}

func TestWhereNobodyCanWrite(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		content string
		foreign bool
		words   string
	}{
		"binary":  {"a\x00b", false, "there is no text here"},
		"broken":  {"\xff\xfea\x00b", false, "which writing would lose"},
		"foreign": {"a", true, "Ctrl+E k unlocks it"},
	} {
		w := shown(c.content, c.foreign)
		todo := w.Commands()["write"]()
		assert.Contains(t, uitest.Said(todo), c.words, name)
		assert.True(t, todo.Unkey, name)
		assert.False(t, w.Writing(), name)
		said, not := w.NotTyped(uitest.Keys("d")[0])
		assert.True(t, not, name)
		assert.Contains(t, said.Say, "nothing is typed here", name)
		_, not = w.NotTyped(uitest.Keys("down")[0])
		assert.False(t, not, "a key that types nothing does what it does")
		_, not = w.NotTyped(uitest.Keys("d")[0])
		assert.False(t, not, "and so do letters from then on")
	}
}

func TestUnlocking(t *testing.T) {
	t.Parallel()
	assert.Equal(t, "hut.txt is not locked", shown("ring\n", false).askUnlock().Say)
	w := shown("ring\n", true)
	answer := func(words string) string {
		todo := w.askUnlock()
		require.NotNil(t, todo.Open)
		return uitest.Last(uitest.Press(todo.Open, words, "enter")).Say
	}
	assert.Equal(t, "hut.txt stays locked", answer("y"))
	assert.Equal(t, "hut.txt can be written in now, until you leave the program", answer(" Yes "))
	assert.Equal(t, "", w.start())
}

// leftBehind is a writer with a text that was not saved when a program ended.
func leftBehind(content string) *writer {
	w := began(content)
	w.types("esc")
	w.left.texts = []recovery.Text{{Path: file, Body: []byte("of then\n"), At: time.Date(2026, 2, 3, 4, 5, 6, 0, time.UTC), Line: 1, Col: 3}}
	w.left.due = true
	return w
}

func TestATextThatWasNotSavedIsOffered(t *testing.T) {
	t.Parallel()
	w := leftBehind("ring\n")
	todo := w.OfferInTime()
	assert.Equal(t, "1 text was not saved when the program ended; Ctrl+E x shows what was in it", uitest.Said(todo), "a key was pressed by now")
	assert.Nil(t, w.OfferInTime().Open, "once")
	todo = w.offer()
	require.NotNil(t, todo.Open)
	assert.Contains(t, uitest.Of(todo.Open, 80, 12), "hut.txt")
	last := uitest.Last(uitest.Press(todo.Open, "esc"))
	assert.Equal(t, "Ctrl+E x shows them again", last.Say)
	assert.Len(t, w.left.texts, 1)
}

func TestTextsAreForgottenWhenThatIsSaid(t *testing.T) {
	t.Parallel()
	w := leftBehind("ring\n")
	uitest.Press(w.offer().Open, "down", "enter")
	require.Len(t, w.left.texts, 1, "it is asked for first")
	todo := w.askForget()
	uitest.Press(todo.Open, "enter")
	assert.Len(t, w.left.texts, 1, "no comes first")
	todo = w.askForget()
	assert.Equal(t, "they are forgotten", uitest.Last(uitest.Press(todo.Open, "down", "enter")).Say)
	assert.Contains(t, w.offer().Say, "no text is there")
}

func TestATextThatCannotBeKeptIsNotLostByLeaving(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("x")
	w.disk.fails = fs.ErrPermission
	todo := w.offerLeaving(errors.New("the disk is full"))
	require.NotNil(t, todo.Open)
	shown := uitest.Of(todo.Open, 100, 20)
	for _, words := range []string{"leaving now would LOSE what is not saved", "the disk is full", "stay", "under another path", "to the clipboard", "in another folder", "lose"} {
		assert.Contains(t, shown, words)
	}
	assert.False(t, uitest.Last(uitest.Press(todo.Open, "enter")).Quit, "to stay comes first")
	todo = w.offerLeaving(fs.ErrPermission)
	assert.Equal(t, "xring\n", uitest.Last(uitest.Press(todo.Open, "down", "down", "enter")).Copy.Text)
	todo = w.offerLeaving(fs.ErrPermission)
	assert.True(t, uitest.Last(uitest.Press(todo.Open, "end", "enter")).Quit, "as one has said")
}

func TestWhatIsKeptElsewhere(t *testing.T) {
	folder := t.TempDir()
	t.Setenv("TMPDIR", folder)
	w := began("ring\n")
	w.types("x")
	for range 2 { // the second time nothing is written over
		todo := w.askElsewhere(w.Desk().Unsaved())
		assert.Contains(t, uitest.Last(uitest.Press(todo.Open, "enter")).Say, "now; the file itself is as it was")
	}
	written, err := filepath.Glob(filepath.Join(folder, "hut-*.txt"))
	require.NoError(t, err)
	require.Len(t, written, 2)
	data, err := os.ReadFile(written[1])
	require.NoError(t, err)
	assert.Equal(t, "xring\n", string(data))
	t.Setenv("TMPDIR", filepath.Join(folder, "nowhere"))
	todo := w.askElsewhere(w.Desk().Unsaved())
	assert.Contains(t, uitest.Last(uitest.Press(todo.Open, "enter")).Say, "hut.txt is not written: there is no folder "+folder)
}

func TestWhyItIsNotSaved(t *testing.T) {
	t.Parallel()
	for err, words := range map[error]string{
		text.ErrReadOnly:                      "it is read-only",
		text.ErrNotLatin1:                     "saves it as UTF-8",
		errors.New("no space left on device"): "what you wrote stays here, and is kept",
	} {
		w := began("ring\n")
		w.types("x")
		w.disk.fails = err
		assert.Contains(t, w.types("ctrl+s").Say, words)
		assert.True(t, w.Unsaved()[file])
		assert.Equal(t, "xring\n", w.text())
	}
}

// A way with Alt waits until the answers are about what was written last.
func TestAWayWaitsForWhatIsWritten(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	assert.True(t, w.Known())
	p := w.pen()
	before := p.Editor.Document()
	p.Editor.Type("x")
	w.wrote(p, before)
	assert.False(t, w.Known())
	todo := w.Key(tea.KeyPressMsg{Code: 'd', Mod: tea.ModAlt})
	assert.True(t, w.Waits())
	assert.Empty(t, todo.Do)
	all := uitest.Last(uitest.Carry(todo))
	assert.Equal(t, "definition", string(all.Do))
	assert.False(t, w.Waits())
	assert.Equal(t, "definition", string(uitest.Last(uitest.Carry(w.Key(tea.KeyPressMsg{Code: 'd', Mod: tea.ModAlt}))).Do), "at once")
	p.Editor.Type("y")
	w.Key(tea.KeyPressMsg{Code: 'r', Mod: tea.ModAlt})
	w.GiveUp()
	assert.False(t, w.Waits())
}

func TestWhatOthersWriteIsTakenIn(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("x", "ctrl+s")
	pen, epoch := w.Epoch(file)
	version := w.Version(file)
	w.disk.others("theirs\n")
	f := *w.host.Code().File()
	f.Text, f.Stamp = text.NewDocument([]byte("theirs\n")), w.disk.Stamp(file)
	w.Renewed(&f)
	assert.Equal(t, "theirs\n", w.text())
	same, now := w.Epoch(file)
	assert.Same(t, pen, same)
	assert.Equal(t, epoch+1, now)
	assert.NotEqual(t, version, w.Version(file))
	assert.False(t, w.Changed(file))
	assert.True(t, w.Known())
	w.types("ctrl+z")
	assert.Equal(t, "xring\n", w.text(), "what others have written is undone like one's own")
	none, _ := w.Epoch("nowhere.txt")
	assert.Nil(t, none)
}

func TestCheckingWhatIsOnDisk(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("x")
	assert.Empty(t, uitest.Last(uitest.Carry(surface.Begin(w.Check()))).Say)
	w.disk.others("theirs\n")
	assert.Equal(t, "hut.txt has changed on disk while you write in it; yours is kept, and Ctrl+S lets you choose", uitest.Last(uitest.Carry(surface.Begin(w.Check()))).Say)
	assert.Empty(t, uitest.Last(uitest.Carry(surface.Begin(w.Check()))).Say, "said once")
	assert.Equal(t, "xring\n", w.text())
}
