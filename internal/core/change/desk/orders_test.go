package desk_test

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
)

const file = "hut.txt"

// disk is a file in memory.
type disk struct {
	content *string // nil if there is none
	clock   int64
	fails   error // what the next saving fails with
}

func (d *disk) put(content string) {
	d.clock++
	d.content = &content
}

func (d *disk) Stamp(string) text.Stamp {
	if d.content == nil {
		return text.Stamp{}
	}
	return text.Stamp{Size: int64(len(*d.content)), Modified: d.clock}
}

func (d *disk) TextOnDisk(string) (*text.Document, error) {
	if d.content == nil {
		return nil, fs.ErrNotExist
	}
	return text.NewDocument([]byte(*d.content)), nil
}

func (d *disk) Save(_ context.Context, p string, doc *text.Document, how desk.Saving) (text.Stamp, error) {
	if err := d.fails; err != nil {
		d.fails = nil
		return how.Was, err
	}
	now, err := d.TextOnDisk(p)
	if d.Stamp(p) != how.Was && (err != nil || how.Base == nil || !text.Same(now, how.Base)) {
		return how.Was, text.ErrChanged
	}
	d.put(string(doc.Bytes()))
	return d.Stamp(p), nil
}

// beside is what is kept in memory: by the path, as one program does it, and what others left.
type beside struct {
	own  map[string]recovery.Text
	left []recovery.Text
}

func (b *beside) Keep(t recovery.Text) error     { b.own[t.Path] = t; return nil }
func (b *beside) Forget(path string) error       { delete(b.own, path); return nil }
func (b *beside) Left() ([]recovery.Text, error) { return b.left, nil }
func (b *beside) Drop(t recovery.Text) error {
	for i, l := range b.left {
		if l.Path == t.Path && l.At.Equal(t.At) {
			b.left = append(b.left[:i:i], b.left[i+1:]...)
			return nil
		}
	}
	return nil
}

// crash leaves behind what was kept.
func (b *beside) crash() {
	for _, t := range b.own {
		b.left = append(b.left, t)
	}
	b.own = map[string]recovery.Text{}
}

// table is a desk on which one writes, with all that may happen to it.
type table struct {
	*desk.Desk
	disk    *disk
	beside  *beside
	pending []desk.Work
	said    []desk.Report
	typed   []string // what was typed and is to be found somewhere
	others  []string // what others have written, and not taken away themselves
	number  int
}

func newTable() *table {
	t := &table{disk: &disk{}, beside: &beside{own: map[string]recovery.Text{}}}
	t.disk.put("first\n")
	t.begin()
	return t
}

// begin is the program as it begins: it goes on with what was left behind, of which it takes both
// versions where they meet.
func (t *table) begin() {
	t.Desk, t.pending = desk.New(t.disk, func() desk.Beside { return t.beside }, nil, func(string, *text.Document) write.Style { return write.Style{} }), nil
	left, _ := t.beside.Left()
	for _, l := range append([]recovery.Text(nil), left...) {
		t.take(desk.Result{Work: []desk.Work{t.CompareLeft(l)}})
		t.work()
	}
}

// take does what follows from a result; work is left to be done.
func (t *table) take(r desk.Result) {
	t.said = append(t.said, r.Said...)
	t.pending = append(t.pending, r.Work...)
	for _, c := range r.Rewritten {
		if t.Wrote(c.Text) {
			t.take(t.Keep(c.Text))
		}
	}
	if c := r.Compare; c != nil {
		for i := range c.Regions {
			if c.Regions[i].Meets() {
				c.Regions[i].Take = write.Both
			}
		}
		t.take(t.Choose(c, c.Regions))
	}
}

// work does what is pending, but for what waits for another time.
func (t *table) work() {
	for len(t.pending) > 0 {
		w := t.pending[0]
		t.pending = t.pending[1:]
		t.take(w(context.Background())())
	}
}

// one is the text that is written, begun if it was not.
func (t *table) one() *desk.Text {
	if one := t.Text(file); one != nil {
		return one
	}
	doc, err := t.disk.TextOnDisk(file)
	if err != nil {
		return nil
	}
	return t.Begin(file, doc, doc.Len(), t.disk.Stamp(file))
}

// ops are what may happen.
var ops map[string]func(t *table)

func init() {
	ops = map[string]func(t *table){
		"type": func(t *table) {
			one := t.one()
			if one == nil {
				return
			}
			t.number++
			word := fmt.Sprintf("mine%d", t.number)
			one.Editor.Put(one.Editor.Document().Len())
			one.Editor.Type(word + "\n")
			t.typed = append(t.typed, word)
			if t.Wrote(one) {
				t.take(t.Keep(one))
				t.work()
			}
		},
		"save": func(t *table) {
			if one := t.one(); one != nil {
				t.take(t.Save(one))
				t.work()
			}
		},
		// What is typed while a text is on its way to the disk is not saved with it.
		"save and type": func(t *table) {
			if one := t.one(); one != nil {
				t.take(t.Save(one))
				ops["type"](t)
			}
		},
		"fail to save": func(t *table) {
			t.disk.fails = errors.New("no space")
			ops["save"](t)
			t.disk.fails = nil
		},
		"change on disk": func(t *table) {
			t.number++
			word := fmt.Sprintf("theirs%d", t.number)
			now := ""
			if t.disk.content != nil {
				now = *t.disk.content
			}
			t.disk.put(word + "\n" + now)
			t.others = append(t.others, word)
			if w := t.Check(); w != nil {
				t.take(desk.Result{Work: []desk.Work{w}})
				t.work()
			}
		},
		"delete": func(t *table) {
			t.disk.content, t.others = nil, nil
			t.typed = t.unsaved() // what was saved is taken away with it
			if w := t.Check(); w != nil {
				t.take(desk.Result{Work: []desk.Work{w}})
				t.work()
			}
		},
		"crash": func(t *table) {
			t.beside.crash()
			t.begin()
		},
	}
}

// unsaved is what was typed and is in a text that is not saved.
func (t *table) unsaved() (words []string) {
	one := t.Text(file)
	if one == nil || one.State() == desk.AsSaved {
		return nil
	}
	for _, w := range t.typed {
		if strings.Contains(string(one.Editor.Document().Bytes()), w+"\n") {
			words = append(words, w)
		}
	}
	return words
}

// everything is all there is anywhere.
func (t *table) everything() string {
	all := ""
	if t.disk.content != nil {
		all += *t.disk.content
	}
	for _, one := range t.All() {
		all += string(one.Editor.Document().Bytes())
	}
	for _, l := range t.beside.left {
		all += string(l.Body)
	}
	return all
}

// In all orders of typing, saving, failing to save, changing the file from outside, deleting it and
// crashing: nothing is lost of what was typed or of what others wrote, and at last all of it can be
// saved.
func TestNothingIsLostInAnyOrder(t *testing.T) {
	var names []string
	for name := range ops {
		names = append(names, name)
	}
	const long = 6
	total := 1
	for range long {
		total *= len(names)
	}
	for n := range total {
		tab, order := newTable(), []string{}
		for rest, i := n, 0; i < long; i++ {
			name := names[rest%len(names)]
			rest /= len(names)
			order = append(order, name)
			ops[name](tab)
			all := tab.everything()
			for _, w := range append(tab.typed, tab.others...) {
				require.Contains(t, all, w+"\n", "after %v", order)
			}
			if one := tab.Text(file); one != nil && one.State() != desk.AsSaved {
				require.True(t, one.IsKept(), "kept for after a crash, after %v", order)
				require.Equal(t, string(one.Editor.Document().Bytes()), string(tab.beside.own[file].Body), "after %v", order)
			}
		}
		for tries := 0; tab.one() != nil && tab.one().State() != desk.AsSaved; tries++ {
			require.Less(t, tries, 4, "it can be saved after %v", order)
			ops["save"](tab)
		}
		if tab.disk.content == nil {
			continue
		}
		for _, w := range append(tab.typed, tab.others...) {
			require.Contains(t, *tab.disk.content, w+"\n", "saved after %v", order)
		}
		require.Empty(t, tab.beside.own, "nothing is kept of what is saved, after %v", order)
	}
}

func TestWhatIsSaid(t *testing.T) {
	tab := newTable()
	last := func() desk.Report { return tab.said[len(tab.said)-1] }
	ops["save"](tab)
	assert.Equal(t, desk.NothingToSave, last().What)
	ops["type"](tab)
	assert.Equal(t, desk.Unsaved, tab.one().State())
	tab.take(tab.Save(tab.one()))
	assert.Equal(t, desk.BeingSaved, tab.one().State())
	tab.work()
	assert.Equal(t, desk.SavedNow, last().What)
	assert.Equal(t, desk.AsSaved, tab.one().State())

	ops["type"](tab)
	ops["fail to save"](tab)
	assert.Equal(t, desk.NotSaved, last().What)
	assert.EqualError(t, last().Err, "no space")
	ops["change on disk"](tab)
	assert.Equal(t, desk.ChangedOnDisk, last().What)
	assert.Equal(t, desk.Differing, tab.one().State())
	ops["save"](tab)
	assert.Equal(t, desk.Merged, last().What)
	ops["save"](tab)
	assert.Equal(t, desk.SavedNow, last().What)
	assert.Contains(t, *tab.disk.content, "mine2\n")
	assert.Contains(t, *tab.disk.content, "theirs3\n")

	ops["type"](tab)
	ops["delete"](tab)
	ops["save"](tab)
	assert.Equal(t, desk.Unreadable, last().What, "a file that is gone is written again only when one says so once more")
	assert.Nil(t, tab.disk.content)
	ops["save"](tab)
	assert.Equal(t, desk.SavedNow, last().What)
	assert.NotNil(t, tab.disk.content)
}

// Leaving is asked for twice while something is not saved, and not at all where it cannot be kept.
func TestLeaving(t *testing.T) {
	tab := newTable()
	assert.True(t, tab.Leave(false).Left)
	ops["type"](tab)
	leave := func() (r desk.Result) {
		r = tab.Leave(false)
		return r.Work[0](context.Background())()
	}
	assert.Equal(t, desk.AskedToLeave, leave().Said[0].What)
	ops["type"](tab)
	assert.Equal(t, desk.AskedToLeave, leave().Said[0].What, "what was typed since is asked about again")
	assert.True(t, leave().Left)
	tab.Desk = desk.New(tab.disk, func() desk.Beside { return nil }, nil, func(string, *text.Document) write.Style { return write.Style{} })
	ops["type"](tab)
	assert.Equal(t, desk.WouldLose, leave().Said[0].What)
	assert.Equal(t, desk.WouldLose, leave().Said[0].What)
}

// A text that cannot be kept beside is tried again, and it is said when it is.
func TestKeepingThatFails(t *testing.T) {
	tab := newTable()
	broken := &failing{beside: tab.beside, err: errors.New("no space")}
	tab.Desk = desk.New(tab.disk, func() desk.Beside { return broken }, nil, func(string, *text.Document) write.Style { return write.Style{} })
	one := tab.one()
	one.Editor.Type("mine")
	require.True(t, tab.Wrote(one))
	r := tab.Keep(one).Work[0](context.Background())()
	assert.Equal(t, desk.NotKept, r.Said[0].What)
	assert.False(t, tab.Kept())
	require.Len(t, r.Work, 1, "it is tried again")
	broken.err = nil
	ctx, cancel := context.WithCancel(context.Background())
	cancel() // there is no need to wait for it here
	r = r.Work[0](ctx)().Work[0](ctx)()
	assert.Equal(t, desk.KeptAgain, r.Said[0].What)
	assert.True(t, tab.Kept())
	assert.WithinDuration(t, time.Now(), tab.beside.own[file].At, time.Minute)
}

type failing struct {
	*beside
	err error
}

func (f *failing) Keep(t recovery.Text) error {
	if f.err != nil {
		return f.err
	}
	return f.beside.Keep(t)
}

// What is saved together is told together, by name where it is not.
func TestSavingTogether(t *testing.T) {
	tab := newTable()
	ops["type"](tab)
	other := tab.Begin("other.txt", text.NewDocument([]byte("x")), 0, text.Stamp{})
	other.Editor.Type("mine")
	tab.disk.fails = text.ErrReadOnly
	tab.take(tab.SaveAll())
	tab.work()
	r := tab.said[len(tab.said)-1]
	require.Equal(t, desk.AllSaved, r.What)
	assert.Len(t, r.Together.Saved, 0)
	assert.Len(t, r.Together.Not, 2, "the one is read-only, the file of the other is another")
}
