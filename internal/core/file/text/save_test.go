package text_test

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

var errBroken = errors.New("the disk is broken")

// broken is the disk of the system, of which the step of a number fails, and those behind it
// as well if it is dead.
type broken struct {
	text.System
	steps, fails int
	dead         bool
}

func (b *broken) step() error {
	b.steps++
	if b.steps == b.fails || b.dead && b.steps > b.fails {
		return errBroken
	}
	return nil
}

func (b *broken) Stat(p string) (fs.FileInfo, error) {
	if err := b.step(); err != nil {
		return nil, err
	}
	return b.System.Stat(p)
}

func (b *broken) Resolve(p string) (string, error) {
	if err := b.step(); err != nil {
		return "", err
	}
	return b.System.Resolve(p)
}

func (b *broken) Rename(from, to string) error {
	if err := b.step(); err != nil {
		return err
	}
	return b.System.Rename(from, to)
}

func (b *broken) Remove(p string) error {
	if err := b.step(); err != nil {
		return err
	}
	return b.System.Remove(p)
}

func (b *broken) SyncFolder(p string) error {
	if err := b.step(); err != nil {
		return err
	}
	return b.System.SyncFolder(p)
}

func (b *broken) Create(dir string, mode fs.FileMode) (text.Temporary, error) {
	if err := b.step(); err != nil {
		return nil, err
	}
	f, err := b.System.Create(dir, mode)
	return &brokenFile{f, b}, err
}

func (b *broken) Open(p string) (text.Temporary, error) {
	if err := b.step(); err != nil {
		return nil, err
	}
	f, err := b.System.Open(p)
	return &brokenFile{f, b}, err
}

type brokenFile struct {
	text.Temporary
	b *broken
}

func (f *brokenFile) Write(p []byte) (int, error) {
	if err := f.b.step(); err != nil {
		n, _ := f.Temporary.Write(p[:len(p)/2]) // the disk is full in the middle
		return n, err
	}
	return f.Temporary.Write(p)
}

func (f *brokenFile) Take(as fs.FileInfo) error {
	if err := f.b.step(); err != nil {
		return err
	}
	return f.Temporary.Take(as)
}

func (f *brokenFile) Sync() error {
	if err := f.b.step(); err != nil {
		return err
	}
	return f.Temporary.Sync()
}

func (f *brokenFile) Close() error {
	err := f.Temporary.Close()
	return errors.Join(f.b.step(), err)
}

// Whatever step of saving fails, the file is either as it was or all of the new; and if it
// has other names, all of the new lies beside it at least.
func TestSavingThatFailsAtEachStep(t *testing.T) {
	const was, now = "the old text\n", "the new text, which is longer\n"
	for _, links := range []bool{false, true} {
		for _, dead := range []bool{false, true} {
			for fails := 1; ; fails++ {
				dir := t.TempDir()
				file := filepath.Join(dir, "a.txt")
				require.NoError(t, os.WriteFile(file, []byte(was), 0o640))
				if links {
					require.NoError(t, os.Link(file, filepath.Join(dir, "b.txt")))
				}
				stamp := text.StampOf(text.System{}, file)
				disk := &broken{fails: fails, dead: dead}
				_, err := text.Save(disk, file, text.NewDocument([]byte(now)), stamp)
				data, readErr := os.ReadFile(file)
				require.NoError(t, readErr)
				what := fmt.Sprintf("links %v, dead %v, step %d: %v", links, dead, fails, err)
				if err == nil {
					require.Equal(t, now, string(data), what)
				} else if s := string(data); s != was && s != now {
					require.Contains(t, err.Error(), "is whole in", what)
					_, saved, _ := strings.Cut(err.Error(), "is whole in ")
					saved, _, _ = strings.Cut(saved, ":")
					data, readErr = os.ReadFile(saved)
					require.NoError(t, readErr, what)
					require.Equal(t, now, string(data), what)
				}
				if disk.steps < fails {
					break
				}
			}
		}
	}
}

func TestSavingKeepsWhatTheFileIs(t *testing.T) {
	dir := t.TempDir()
	file, link, hard := filepath.Join(dir, "a.sh"), filepath.Join(dir, "link"), filepath.Join(dir, "hard")
	for n, raw := range []string{"one\r\ntwo", "\xEF\xBB\xBFone\n", "\xFF\xFEo\x00n\x00\n\x00", "\xFE\xFF\x00o\x00n\x00\n", "caf\xe9 \xe0 la\n", "a\xff\x80\n", "", "a\r\nb\nc"} {
		require.NoError(t, os.WriteFile(file, []byte(raw), 0o751))
		require.NoError(t, os.Chmod(file, 0o751))
		d, err := text.Load(file)
		require.NoError(t, err)
		stamp, err := text.Save(text.System{}, file, d, text.StampOf(text.System{}, file))
		require.NoError(t, err)
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, raw, string(data), "%d: nothing was changed, so it is the same to the byte", n)
		next := d.Apply([]text.Edit{{Start: 0, End: 0, New: append([]byte("é"), d.LineEnd()...)}})
		_, err = text.Save(text.System{}, file, next, stamp)
		require.NoError(t, err)
		again, err := text.Load(file)
		require.NoError(t, err)
		assert.Equal(t, string(next.Bytes()), string(again.Bytes()))
		assert.Equal(t, d.Encoding(), again.Encoding())
	}
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, fs.FileMode(0o751), info.Mode().Perm())

	require.NoError(t, os.Symlink("a.sh", link))
	_, err = text.Save(text.System{}, link, text.NewDocument([]byte("through\n")), text.StampOf(text.System{}, link))
	require.NoError(t, err)
	data, _ := os.ReadFile(file)
	assert.Equal(t, "through\n", string(data))
	info, err = os.Lstat(link)
	require.NoError(t, err)
	assert.NotZero(t, info.Mode()&fs.ModeSymlink, "the link is one still")

	require.NoError(t, os.Link(file, hard))
	_, err = text.Save(text.System{}, file, text.NewDocument([]byte("both\n")), text.StampOf(text.System{}, file))
	require.NoError(t, err)
	data, _ = os.ReadFile(hard)
	assert.Equal(t, "both\n", string(data), "the same file under its other name")
	left, err := filepath.Glob(filepath.Join(dir, ".rooktrail*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestLatin1(t *testing.T) {
	d := text.NewDocument([]byte("caf\xe9\nna\xefve\n"))
	assert.Equal(t, text.Latin1, d.Encoding())
	assert.Equal(t, "café\nnaïve\n", string(d.Bytes()))
	next := d.Apply([]text.Edit{{Start: 0, End: 0, New: []byte("ž")}})
	_, err := next.Encode()
	assert.ErrorContains(t, err, "lacks a character: 'ž' in line 1")
	for _, other := range []string{"a\xffb \xc3\xa9", "x \xff", "a\x80b\xe9"} {
		assert.Equal(t, text.UTF8, text.NewDocument([]byte(other)).Encoding(), "%q", other)
	}
}

func TestWhatIsNotSaved(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "a.txt")
	d := text.NewDocument([]byte("mine\n"))
	_, err := text.Save(text.System{}, file, d, text.Stamp{})
	require.NoError(t, err, "a new file")
	any, err := os.Create(filepath.Join(dir, "any"))
	require.NoError(t, err)
	require.NoError(t, any.Close())
	usual, err := os.Stat(any.Name())
	require.NoError(t, err)
	saved, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, usual.Mode(), saved.Mode(), "as any new file")
	stamp := text.StampOf(text.System{}, file)
	require.NoError(t, os.WriteFile(file, []byte("somebody else's\n"), 0o600))
	_, err = text.Save(text.System{}, file, d, stamp)
	assert.ErrorIs(t, err, text.ErrChanged)
	data, _ := os.ReadFile(file)
	assert.Equal(t, "somebody else's\n", string(data))
	require.NoError(t, os.Chmod(file, 0o444))
	_, err = text.Save(text.System{}, file, d, text.StampOf(text.System{}, file))
	assert.ErrorIs(t, err, text.ErrReadOnly)
	_, err = text.Save(text.System{}, dir, d, text.Stamp{})
	assert.ErrorIs(t, err, text.ErrFolder)
	_, err = text.Save(text.System{}, "/dev/null", d, text.Stamp{})
	assert.ErrorIs(t, err, text.ErrNotRegular)
	require.NoError(t, os.Symlink("nowhere/x", filepath.Join(dir, "link")))
	_, err = text.Save(text.System{}, filepath.Join(dir, "link"), d, text.Stamp{})
	assert.ErrorIs(t, err, text.ErrNowhere)
	_, err = text.Save(text.System{}, filepath.Join(dir, "no", "x"), d, text.Stamp{})
	assert.ErrorIs(t, err, fs.ErrNotExist)
}

// shut is a disk on which nothing new can be put into folders.
type shut struct {
	text.System
	err error
}

func (s *shut) Create(string, fs.FileMode) (text.Temporary, error) { return nil, s.err }

func TestAFileInAFolderThatCannotBeWrittenIn(t *testing.T) {
	file := filepath.Join(t.TempDir(), "hut.txt")
	require.NoError(t, os.WriteFile(file, []byte("as it was, and longer\n"), 0o640))
	d := text.NewDocument([]byte("as it is\n"))
	stamp := text.StampOf(text.System{}, file)
	for _, err := range []error{fs.ErrPermission, &fs.PathError{Op: "open", Path: file, Err: syscall.EROFS}} {
		_, got := text.Save(&shut{err: err}, file, d, stamp)
		assert.ErrorIs(t, got, text.ErrFolderLocked)
		_, got = text.Save(&shut{err: err}, file+".new", d, text.Stamp{})
		assert.Error(t, got)
		assert.NotErrorIs(t, got, text.ErrFolderLocked, "there is nothing to write over")
	}
	_, err := text.SaveInPlace(&shut{err: fs.ErrPermission}, file, d, text.Stamp{Size: 1})
	assert.ErrorIs(t, err, text.ErrChanged)
	_, err = text.SaveInPlace(&shut{err: fs.ErrPermission}, file, d, stamp)
	require.NoError(t, err)
	data, _ := os.ReadFile(file)
	assert.Equal(t, "as it is\n", string(data))
	info, _ := os.Stat(file)
	assert.Equal(t, fs.FileMode(0o640), info.Mode())
}
