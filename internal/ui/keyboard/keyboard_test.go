package keyboard

import (
	"fmt"
	"io"
	"math/rand"
	"os"
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each case is bytes with the milliseconds before them.
func TestSorting(t *testing.T) {
	type came struct {
		after int
		bytes string
	}
	for name, c := range map[string]struct {
		came []came
		want string
	}{
		"letters":                         {[]came{{0, "ab"}, {1, "c"}}, "abc"},
		"Esc alone":                       {[]came{{0, "\x1b"}, {100, ""}}, escape},
		"Esc, then a letter by hand":      {[]came{{0, "\x1b"}, {30, "j"}}, escape + "j"},
		"Esc, then a letter much later":   {[]came{{0, "\x1b"}, {90, "j"}}, escape + "j"},
		"Alt and a letter":                {[]came{{0, "\x1bj"}}, "\x1bj"},
		"the same in two packets":         {[]came{{0, "\x1b"}, {4, "j"}}, "\x1bj"},
		"an arrow":                        {[]came{{0, "\x1b[A"}}, "\x1b[A"},
		"an arrow in pieces":              {[]came{{0, "\x1b"}, {20, "["}, {50, "1;5"}, {60, "A"}}, "\x1b[1;5A"},
		"Esc twice":                       {[]came{{0, "\x1b"}, {5, "\x1b"}, {50, ""}}, escape + escape},
		"Esc, then an arrow":              {[]came{{0, "\x1b"}, {5, "\x1b[A"}}, escape + "\x1b[A"},
		"letters, then Esc":               {[]came{{0, "ab\x1b"}, {60, ""}}, "ab" + escape},
		"a paste that holds escapes":      {[]came{{0, "\x1b[200~a\x1b"}, {80, "b\x1b[201"}, {80, "~\x1b"}, {80, "c"}}, "\x1b[200~a\x1bb\x1b[201~" + escape + "c"},
		"a bracket that begins nothing":   {[]came{{0, "\x1b["}, {200, ""}}, "\x1b["},
		"an answer of the terminal":       {[]came{{0, "\x1b]11;rgb:0/0/0\x07"}}, "\x1b]11;rgb:0/0/0\x07"},
		"Esc, then a bracket by hand":     {[]came{{0, "\x1b"}, {60, "["}}, escape + "["},
		"a letter after a finished arrow": {[]came{{0, "\x1b[Ax"}}, "\x1b[Ax"},
	} {
		var s sorter
		now, out := time.Unix(0, 0), ""
		for _, p := range c.came {
			now = now.Add(time.Duration(p.after) * time.Millisecond)
			if p.bytes == "" {
				out += string(s.expire(now))
				continue
			}
			out += string(s.sort([]byte(p.bytes), now))
		}
		assert.Equal(t, c.want, out, name)
		assert.Empty(t, s.held, name)
	}
}

// Nothing is lost or put in another order, however it is cut into pieces.
func TestNothingIsLost(t *testing.T) {
	random := rand.New(rand.NewSource(1))
	parts := []string{"\x1b", "[", "A", "O", "x", "\x1b[A", "\x1b[200~", "\x1b[201~", "1", ";", "ü", "\r"}
	for range 3000 {
		var s sorter
		now, in, out := time.Unix(0, 0), "", ""
		for range 1 + random.Intn(20) {
			p := parts[random.Intn(len(parts))]
			now = now.Add(time.Duration(random.Intn(60)) * time.Millisecond)
			in += p
			out += string(s.expire(now)) + string(s.sort([]byte(p), now))
		}
		out += string(s.flush())
		require.Equal(t, in, strings.ReplaceAll(out, escape, "\x1b"))
	}
}

// busy is a program that takes long for each key.
type busy struct{ keys []string }

func (b *busy) Init() tea.Cmd  { return nil }
func (b *busy) View() tea.View { return tea.NewView("") }
func (b *busy) Update(msg tea.Msg) (tea.Model, tea.Cmd) {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return b, nil
	}
	b.keys = append(b.keys, k.String())
	if k.String() == "q" {
		return b, tea.Quit
	}
	time.Sleep(150 * time.Millisecond)
	return b, nil
}

// Esc and a letter are two keys for a program that is busy with the one before, and Alt and a
// letter one.
func TestABusyProgram(t *testing.T) {
	in, hand, err := os.Pipe()
	require.NoError(t, err)
	b := &busy{}
	p := tea.NewProgram(b, tea.WithInput(New(in)), tea.WithOutput(io.Discard), tea.WithoutSignals())
	go func() {
		for _, s := range []string{"a", "\x1b", "j", "\x1bk", "\x1b", "\x1b[B", "q"} {
			fmt.Fprint(hand, s)
			time.Sleep(50 * time.Millisecond)
		}
	}()
	_, err = p.Run()
	require.NoError(t, err)
	assert.Equal(t, []string{"a", "esc", "j", "alt+k", "esc", "down", "q"}, b.keys)
}

// Another program has the keys while this one pauses.
func TestPausing(t *testing.T) {
	in, hand, err := os.Pipe()
	require.NoError(t, err)
	r := New(in)
	read := func() string {
		buf := make([]byte, 10)
		for {
			n, err := r.Read(buf)
			require.NoError(t, err)
			if n > 0 {
				return string(buf[:n])
			}
		}
	}
	fmt.Fprint(hand, "a")
	assert.Equal(t, "a", read())
	r.Pause()
	fmt.Fprint(hand, "b")
	buf := make([]byte, 10)
	n, err := in.Read(buf)
	require.NoError(t, err)
	assert.Equal(t, "b", string(buf[:n]))
	fmt.Fprint(hand, "c")
	assert.Equal(t, "c", read())
	hand.Close()
	for err == nil {
		_, err = r.Read(buf)
	}
	assert.ErrorIs(t, err, io.EOF)
}

// What was held for longer than it has to be, since the machine was busy, is not held until the next
// key is pressed.
func TestWhatWaitedTooLongWaitsNoLonger(t *testing.T) {
	for _, held := range []string{"\x1b", "\x1b[1"} {
		var s sorter
		assert.Negative(t, s.waits(), "there is nothing to wait for")
		long := time.Now().Add(-time.Minute)
		assert.Empty(t, s.sort([]byte(held), long))
		assert.Zero(t, s.waits())
		assert.NotEmpty(t, s.expire(time.Now()))
	}
}
