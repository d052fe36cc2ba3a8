// Package calling lets other programs of the same user reach the full-screen program: each that runs has a socket in the user's
// runtime folder, on which a request and a reply are one JSON object each, on a line of its own.
package calling

import (
	"bufio"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"rooktrail/internal/core/work"
)

// Version is that of requests and replies; whoever does not know it says so.
const Version = 1

// Request is what is asked of a program. With neither Go nor Here set, only its project is.
type Request struct {
	Version int    `json:"version"`
	Go      *Place `json:"go,omitempty"`
	Here    bool   `json:"here,omitempty"`
}

// Place is a place in a project: its path from the root, with slashes; line and column count from 1, the column in bytes; 0 for the beginning.
type Place struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Col  int    `json:"col"`
}

// Reply is what a program answers.
type Reply struct {
	Version int `json:"version"`
	// Root is that of its project.
	Root string `json:"root"`
	// Here is where one is, if that was asked for.
	Here *Here `json:"here,omitempty"`
	// Later says that it goes there once nobody types in it.
	Later bool `json:"later,omitempty"`
	// Error says why what was asked was not done; "" if it was.
	Error string `json:"error,omitempty"`
}

// Here is where one is in a program.
type Here struct {
	Place
	// Selected is what is selected, from the first place up to the second, which does not belong to it; nil for nothing.
	Selected *[2]Place `json:"selected,omitempty"`
	// Symbol is the innermost around the caret; "" for none.
	Symbol string `json:"symbol,omitempty"`
	// Stop is the number of the present stop of the trail, counted from 1; 0 for none.
	Stop int `json:"stop,omitempty"`
	// Unsaved says that the text is not saved.
	Unsaved bool `json:"unsaved,omitempty"`
}

// What bounds a call: how long it takes, and how long a line of it is.
const (
	patience    = 5 * time.Second
	longestLine = 64 << 10
)

// Folder is where the sockets are: below the user's runtime folder, or where there is none, below that for what is temporary.
func Folder() string {
	if dir := os.Getenv("XDG_RUNTIME_DIR"); filepath.IsAbs(dir) {
		return filepath.Join(dir, "rooktrail")
	}
	return filepath.Join(os.TempDir(), "rooktrail-"+strconv.Itoa(os.Getuid()))
}

// checked says what is wrong with a folder of sockets: only the user may reach into it.
func checked(folder string) error {
	info, err := os.Lstat(folder)
	if err != nil {
		return err
	}
	owner, ok := info.Sys().(*syscall.Stat_t)
	if !info.IsDir() || !ok || int(owner.Uid) != os.Getuid() || info.Mode().Perm()&0o077 != 0 {
		return fmt.Errorf("%s is not a folder that only you can reach; remove it", folder)
	}
	return nil
}

// ending is that of the names of sockets.
const ending = ".socket"

// Listen answers calls until ctx is cancelled; answer is called by several goroutines. Sockets that killed programs have left behind
// are removed.
func Listen(ctx context.Context, folder, root string, answer func(ctx context.Context, r Request) Reply) error {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return fmt.Errorf("making the folder for calls: %w", err)
	}
	if err := checked(folder); err != nil {
		return fmt.Errorf("listening for calls: %w", err)
	}
	_ = sockets(ctx, folder, func(string, net.Conn) {}) // which removes those that nobody listens on
	own := filepath.Join(folder, strconv.Itoa(os.Getpid())+"-"+strconv.FormatInt(time.Now().UnixNano(), 36)+ending)
	l, err := listenOn(ctx, own)
	if err != nil {
		return fmt.Errorf("listening for calls: %w", err)
	}
	defer os.Remove(own)
	var calls work.Group
	calls.Go(func() {
		<-ctx.Done()
		l.Close()
	})
	for {
		conn, err := l.Accept()
		if err != nil {
			break
		}
		calls.Go(func() { serve(ctx, conn, root, answer) })
	}
	if ctx.Err() == nil {
		return errors.New("listening for calls: the socket was closed")
	}
	calls.Wait()
	return nil
}

// listenOn makes a socket. It has its name only once it is listened on: till then, it would be taken for one that was left behind.
func listenOn(ctx context.Context, own string) (net.Listener, error) {
	half := strings.TrimSuffix(own, ending)
	l, err := (&net.ListenConfig{}).Listen(ctx, "unix", half)
	if err != nil {
		return nil, err
	}
	if u, ok := l.(*net.UnixListener); ok {
		u.SetUnlinkOnClose(false) // it has another name then
	}
	if err = os.Chmod(half, 0o600); err == nil { // nobody else can reach into the folder meanwhile
		err = os.Rename(half, own)
	}
	if err != nil {
		l.Close()
		return nil, errors.Join(err, os.Remove(half))
	}
	return l, nil
}

// serve answers one call.
func serve(ctx context.Context, conn net.Conn, root string, answer func(ctx context.Context, r Request) Reply) {
	defer conn.Close()
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	_ = conn.SetDeadline(time.Now().Add(patience)) // it is a socket of the system
	var r Request
	reply := Reply{}
	switch err := receive(conn, &r); {
	case err != nil:
		reply.Error = "the request cannot be read: " + err.Error()
	case r.Version != Version:
		reply.Error = fmt.Sprintf("requests of version %d are not known, only of %d", r.Version, Version)
	case r.Go != nil || r.Here:
		reply = answer(ctx, r)
	}
	reply.Version, reply.Root = Version, root
	_ = send(conn, &reply) // whoever called may have gone
}

func send(to io.Writer, v any) error {
	data, err := json.Marshal(v)
	if err == nil {
		_, err = to.Write(append(data, '\n'))
	}
	return err
}

func receive(from io.Reader, v any) error {
	line, err := bufio.NewReader(io.LimitReader(from, longestLine)).ReadBytes('\n')
	if err != nil {
		return err
	}
	return json.Unmarshal(line, v)
}

// ErrNobody says that no program has the project open.
var ErrNobody = errors.New("no program has it open")

// Call asks the program that has a project open; of several the one whose root is nearest, and was begun last. inside says how near a
// root is, the higher the nearer; ok is false if it is none of those that are meant. r is made for its root.
func Call(ctx context.Context, folder string, inside func(root string) (near int, ok bool), r func(root string) Request) (Reply, error) {
	if err := checked(folder); err != nil {
		if errors.Is(err, fs.ErrNotExist) {
			return Reply{}, ErrNobody
		}
		return Reply{}, fmt.Errorf("calling: %w", err)
	}
	best, nearest, root := "", -1, ""
	err := sockets(ctx, folder, func(socket string, conn net.Conn) {
		reply, err := over(conn, Request{})
		if err != nil {
			return
		}
		if near, ok := inside(reply.Root); ok && near > nearest {
			best, nearest, root = socket, near, reply.Root
		}
	})
	switch {
	case err != nil:
		return Reply{}, fmt.Errorf("calling: %w", err)
	case best == "":
		return Reply{}, ErrNobody
	}
	conn, err := (&net.Dialer{Timeout: patience}).DialContext(ctx, "unix", best)
	if err != nil {
		return Reply{}, fmt.Errorf("calling: %w", err)
	}
	defer conn.Close()
	reply, err := over(conn, r(root))
	if err != nil {
		return Reply{}, fmt.Errorf("calling the program on %s: %w", root, err)
	}
	if reply.Error != "" {
		return reply, errors.New(reply.Error)
	}
	return reply, nil
}

// over sends a request, and receives the reply.
func over(conn net.Conn, r Request) (reply Reply, err error) {
	_ = conn.SetDeadline(time.Now().Add(patience)) // it is a socket of the system
	r.Version = Version
	if err := send(conn, &r); err != nil {
		return reply, err
	}
	err = receive(conn, &reply)
	return reply, err
}

// sockets connects to each socket of a folder, the latest first, and removes those that nobody listens on.
func sockets(ctx context.Context, folder string, visit func(socket string, conn net.Conn)) error {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return err
	}
	type one struct {
		file  string
		since time.Time
	}
	var all []one
	for _, e := range entries {
		if info, err := e.Info(); err == nil && strings.HasSuffix(e.Name(), ending) {
			all = append(all, one{filepath.Join(folder, e.Name()), info.ModTime()})
		}
	}
	slices.SortFunc(all, func(a, b one) int { return cmp.Or(b.since.Compare(a.since), cmp.Compare(a.file, b.file)) })
	for _, o := range all {
		conn, err := (&net.Dialer{Timeout: patience}).DialContext(ctx, "unix", o.file)
		switch {
		case errors.Is(err, syscall.ECONNREFUSED):
			_ = os.Remove(o.file) // what is left behind does no harm
		case err == nil:
			visit(o.file, conn)
			conn.Close()
		}
	}
	return ctx.Err()
}
