package calling

import (
	"context"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/work"
)

// folder is a short one, as the paths of sockets have to be.
func folder(t *testing.T) string {
	dir, err := os.MkdirTemp("", "rt")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(dir) })
	return filepath.Join(dir, "s")
}

// listening is a program on a root; it says what it was asked.
func listening(t *testing.T, in, root string) (asked chan Request) {
	ctx, cancel := context.WithCancel(context.Background())
	var wg work.Group
	asked = make(chan Request, 100)
	wg.Go(func() {
		assert.NoError(t, Listen(ctx, in, root, func(_ context.Context, r Request) Reply {
			asked <- r
			if r.Go != nil && r.Go.Path == "gone.go" {
				return Reply{Error: "gone.go is no file of this project"}
			}
			return Reply{Here: &Here{Place: Place{"hut.go", 3, 5}, Stop: 2}}
		}))
	})
	t.Cleanup(func() { cancel(); wg.Wait() })
	require.Eventually(t, func() bool {
		_, err := Call(ctx, in, func(r string) (int, bool) { return 0, r == root }, func(string) Request { return Request{} })
		return err == nil
	}, 10*time.Second, time.Millisecond)
	return asked
}

// below says how near a root is to a file in it.
func below(file string) func(root string) (int, bool) {
	return func(root string) (int, bool) { return len(root), strings.HasPrefix(file, root+"/") }
}

func TestTheNearestProgramIsCalled(t *testing.T) {
	in := folder(t)
	ctx := context.Background()
	_, err := Call(ctx, in, below("/tarn/hut.go"), func(string) Request { return Request{Here: true} })
	assert.ErrorIs(t, err, ErrNobody)
	wide, near := listening(t, in, "/tarn"), listening(t, in, "/tarn/hut")
	go1 := func(root string) Request {
		return Request{Go: &Place{strings.TrimPrefix("/tarn/hut/a.go", root+"/"), 7, 1}}
	}
	_, err = Call(ctx, in, below("/tarn/hut/a.go"), go1)
	require.NoError(t, err)
	assert.Equal(t, Place{"a.go", 7, 1}, *(<-near).Go)
	reply, err := Call(ctx, in, below("/tarn/board/b.go"), func(string) Request { return Request{Here: true} })
	require.NoError(t, err)
	assert.Equal(t, Reply{Version: Version, Root: "/tarn", Here: &Here{Place: Place{"hut.go", 3, 5}, Stop: 2}}, reply)
	assert.True(t, (<-wide).Here)
	_, err = Call(ctx, in, below("/slope/b.go"), go1)
	assert.ErrorIs(t, err, ErrNobody)
	_, err = Call(ctx, in, below("/tarn/b.go"), func(string) Request { return Request{Go: &Place{Path: "gone.go"}} })
	assert.EqualError(t, err, "gone.go is no file of this project")
	assert.Empty(t, near)
}

func TestSocketsAreTheUsersAlone(t *testing.T) {
	in := folder(t)
	listening(t, in, "/tarn")
	info, err := os.Stat(in)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o700), info.Mode().Perm())
	all, err := filepath.Glob(filepath.Join(in, "*"+ending))
	require.NoError(t, err)
	require.Len(t, all, 1)
	info, err = os.Stat(all[0])
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())

	require.NoError(t, os.Chmod(in, 0o755))
	_, err = Call(context.Background(), in, below("/tarn/a.go"), func(string) Request { return Request{} })
	assert.ErrorContains(t, err, "only you can reach")
	assert.ErrorContains(t, Listen(context.Background(), in, "/tarn", nil), "only you can reach")
}

// A socket that a killed program has left behind is removed, and one that gives no sense is passed over.
func TestSocketsThatAreLeftBehind(t *testing.T) {
	in := folder(t)
	require.NoError(t, os.Mkdir(in, 0o700))
	left := filepath.Join(in, "1"+ending)
	l, err := net.Listen("unix", left)
	require.NoError(t, err)
	l.(*net.UnixListener).SetUnlinkOnClose(false)
	require.NoError(t, l.Close())
	odd, err := net.Listen("unix", filepath.Join(in, "2"+ending))
	require.NoError(t, err)
	t.Cleanup(func() { odd.Close() })
	var wg work.Group
	wg.Go(func() {
		for conn, err := odd.Accept(); err == nil; conn, err = odd.Accept() {
			_, _ = conn.Write([]byte("{\n"))
			conn.Close()
		}
	})
	listening(t, in, "/tarn")
	assert.NoFileExists(t, left)
	_, err = Call(context.Background(), in, below("/tarn/a.go"), func(string) Request { return Request{Here: true} })
	assert.NoError(t, err)
	odd.Close()
	wg.Wait()
}

func TestWhatIsNoRequest(t *testing.T) {
	in := folder(t)
	asked := listening(t, in, "/tarn")
	all, err := filepath.Glob(filepath.Join(in, "*"+ending))
	require.NoError(t, err)
	for sent, says := range map[string]string{
		"garbage\n":             "cannot be read",
		`{"version":99}` + "\n": "version 99",
		strings.Repeat("x", longestLine+10) + "\n": "cannot be read",
	} {
		conn, err := net.Dial("unix", all[0])
		require.NoError(t, err)
		_, _ = conn.Write([]byte(sent)) // it may be read no further
		var reply Reply
		if err := receive(conn, &reply); err == nil {
			assert.Contains(t, reply.Error, says)
		} else {
			assert.Len(t, sent, longestLine+11, "what is too long may be cut off")
		}
		conn.Close()
	}
	conn, err := net.Dial("unix", all[0])
	require.NoError(t, err)
	conn.Close() // in the middle
	_, err = Call(context.Background(), in, below("/tarn/a.go"), func(string) Request { return Request{Here: true} })
	assert.NoError(t, err)
	assert.Len(t, asked, 1)
}
