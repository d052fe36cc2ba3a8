package text

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"path/filepath"
	"syscall"
	"unicode/utf8"

	"golang.org/x/text/encoding/unicode"
)

// Encode writes the text as the bytes of a file, in the encoding and with the byte order
// mark that it had.
func (d *Document) Encode() ([]byte, error) {
	var order unicode.Endianness
	switch d.enc {
	case UTF8WithMark:
		return append([]byte{0xEF, 0xBB, 0xBF}, d.Bytes()...), nil
	case UTF16LittleEndian:
		order = unicode.LittleEndian
	case UTF16BigEndian:
		order = unicode.BigEndian
	case Latin1:
		return d.latin1()
	default:
		return d.Bytes(), nil
	}
	out, err := unicode.UTF16(order, unicode.UseBOM).NewEncoder().Bytes(d.Bytes())
	if err != nil {
		return nil, fmt.Errorf("writing it as %s: %w", d.enc, err)
	}
	return out, nil
}

// Lossy says that the file holds bytes that mean nothing in its encoding and would not be the
// same after saving.
func (d *Document) Lossy() bool {
	return (d.enc == UTF16LittleEndian || d.enc == UTF16BigEndian) && bytes.Contains(d.Bytes(), []byte("\uFFFD"))
}

// latin1 writes the text in Latin-1; the error says which character that does not have.
func (d *Document) latin1() ([]byte, error) {
	data := d.Bytes()
	out := make([]byte, 0, len(data))
	for i := 0; i < len(data); {
		r, size := utf8.DecodeRune(data[i:])
		if r > 0xFF {
			line, _ := d.Position(i)
			return nil, fmt.Errorf("%w: %q in line %d", ErrNotLatin1, r, line)
		}
		out = append(out, byte(r))
		i += size
	}
	return out, nil
}

// Disk is what saving asks of the system, so that each of its steps can be made to fail.
type Disk interface {
	Stat(path string) (fs.FileInfo, error)
	Resolve(path string) (string, error)                    // where links lead
	Create(dir string, mode fs.FileMode) (Temporary, error) // a file of a name that is not taken
	Rename(from, to string) error
	Remove(path string) error
	SyncFolder(dir string) error
	Open(path string) (Temporary, error) // to be written over
}

// Temporary is a file that is being written.
type Temporary interface {
	Name() string
	Write(p []byte) (int, error)
	Take(as fs.FileInfo) error // the mode and the owner of another file
	Sync() error
	Close() error
}

// ErrNotLatin1 says that a character cannot be kept in the encoding of its file.
var ErrNotLatin1 = errors.New("the file is in Latin-1, which lacks a character")

// CutOffError says that a file which was written over, since it has other names, may be cut off.
type CutOffError struct {
	Whole string // the file that holds all of what was to be saved
	Err   error
}

// Error implements error.
func (e *CutOffError) Error() string {
	return fmt.Sprintf("the file may be cut off now; what was to be saved is whole in %s: %s", e.Whole, e.Err)
}

// Unwrap is why writing failed.
func (e *CutOffError) Unwrap() error { return e.Err }

// ErrChanged says that a file is not any more as it was when it was read.
var ErrChanged = errors.New("it has changed on disk since it was read")

// ErrReadOnly says that a file must not be written.
var ErrReadOnly = errors.New("it is read-only")

// ErrFolderLocked says that the folder of a file cannot be written in, while the file itself
// perhaps can.
var ErrFolderLocked = errors.New("its folder cannot be written in")

// ErrNowhere says that a file is a link to one that is not there.
var ErrNowhere = errors.New("it is a link that leads nowhere")

// Stamp tells whether a file is still as it was read. The zero Stamp is that of a file that
// is not there.
type Stamp struct {
	Size     int64
	Modified int64 // in nanoseconds since 1970
}

// StampOf is the stamp of a file as it is on disk now.
func StampOf(disk Disk, path string) Stamp {
	info, err := disk.Stat(path)
	if err != nil {
		return Stamp{}
	}
	return Stamp{info.Size(), info.ModTime().UnixNano()}
}

// Save writes a document to a file, so that at any moment the file is either as it was or all
// of the new: it is written beside it and put in its place. Mode, owner and links stay. If the
// file is not as the stamp says, nothing is written and the error wraps ErrChanged. The stamp
// of the new file is returned.
func Save(disk Disk, path string, d *Document, was Stamp) (Stamp, error) {
	data, err := d.Encode()
	if err != nil {
		return was, fmt.Errorf("saving %s: %w", path, err)
	}
	now, err := save(disk, path, data, was, false)
	if err != nil {
		return was, fmt.Errorf("saving %s: %w", path, err)
	}
	return now, nil
}

// SaveInPlace is Save for a file whose folder cannot be written in: the file itself is written
// over. If that is interrupted, the file is cut off, so the text has to be kept elsewhere until
// it is done.
func SaveInPlace(disk Disk, path string, d *Document, was Stamp) (Stamp, error) {
	data, err := d.Encode()
	if err == nil {
		was, err = save(disk, path, data, was, true)
	}
	if err != nil {
		return was, fmt.Errorf("saving %s: %w", path, err)
	}
	return was, nil
}

func save(disk Disk, path string, data []byte, was Stamp, inPlace bool) (Stamp, error) {
	p, err := prepare(disk, path, data, was, inPlace)
	if err != nil {
		return was, err
	}
	return p.Commit()
}

// Prepared is what is to be saved in a file, checked and, where that can be, lying ready beside it: putting it
// in its place then takes no more room on the disk.
type Prepared struct {
	disk   Disk
	target string
	info   fs.FileInfo // nil for a file that is not there
	was    Stamp
	ready  string // the file that lies ready; "" if it is written over
	write  func() error
}

// Prepare gets ready to save bytes in a file. If the file is not as the stamp says, the error wraps ErrChanged.
func Prepare(disk Disk, path string, data []byte, was Stamp) (*Prepared, error) {
	p, err := prepare(disk, path, data, was, false)
	if err != nil {
		return nil, fmt.Errorf("saving %s: %w", path, err)
	}
	return p, nil
}

func prepare(disk Disk, path string, data []byte, was Stamp, inPlace bool) (*Prepared, error) {
	target, err := disk.Resolve(path)
	if errors.Is(err, fs.ErrNotExist) && was == (Stamp{}) {
		target, err = path, nil
	}
	if errors.Is(err, fs.ErrNotExist) {
		return nil, ErrChanged // it was there
	}
	if err != nil {
		return nil, err
	}
	p := &Prepared{disk: disk, target: target, was: was}
	p.info, err = disk.Stat(target)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		p.info = nil
	case err != nil:
		return nil, err
	case p.info.IsDir():
		return nil, ErrFolder
	case !p.info.Mode().IsRegular():
		return nil, ErrNotRegular
	case p.info.Mode().Perm()&0o222 == 0:
		return nil, ErrReadOnly
	}
	if StampOf(disk, target) != was {
		return nil, ErrChanged
	}
	switch {
	case p.info != nil && inPlace:
		p.write = func() error { return itself(disk, target, data) }
	case p.info != nil && linked(p.info):
		p.write = func() error { return over(disk, target, data) }
	default:
		p.ready, err = beside(disk, target, data, p.info)
	}
	if err != nil {
		return nil, err
	}
	return p, nil
}

// Commit puts what is prepared in the place of the file, and gives the stamp of that. Since Prepare the file must
// not have changed either.
func (p *Prepared) Commit() (Stamp, error) {
	if p.ready == "" {
		if err := p.write(); err != nil {
			return p.was, err
		}
		return StampOf(p.disk, p.target), nil
	}
	err := error(nil)
	if StampOf(p.disk, p.target) != p.was {
		err = ErrChanged
	}
	if err == nil {
		err = locked(p.disk.Rename(p.ready, p.target), p.info)
	}
	if err != nil {
		return p.was, errors.Join(err, p.Drop())
	}
	_ = p.disk.SyncFolder(filepath.Dir(p.target)) // the file is whole either way; this only makes it last sooner
	return StampOf(p.disk, p.target), nil
}

// Drop gives up what was prepared; the file is as it was.
func (p *Prepared) Drop() error {
	if p.ready == "" {
		return nil
	}
	return ignoreGone(p.disk.Remove(p.ready))
}

// private is how a copy is made of a file that perhaps not everybody may read.
const private = 0o600

// beside writes a file of another name, which is to take the place of the target.
func beside(disk Disk, target string, data []byte, info fs.FileInfo) (ready string, err error) {
	mode := fs.FileMode(private)
	if info == nil {
		mode = 0o666 // less what the user masks, as for any new file
	}
	f, err := disk.Create(filepath.Dir(target), mode)
	if err != nil {
		return "", locked(err, info)
	}
	if err := fill(f, data, info); err != nil {
		return "", errors.Join(err, ignoreGone(disk.Remove(f.Name())))
	}
	return f.Name(), nil
}

// locked tells an error of a folder that cannot be written in, which matters for a file that is
// there, from others. What is mounted on a file keeps another from taking its place, too.
func locked(err error, info fs.FileInfo) error {
	if info != nil && (errors.Is(err, fs.ErrPermission) || errors.Is(err, syscall.EROFS) || errors.Is(err, syscall.EBUSY)) {
		return fmt.Errorf("%w: %w", ErrFolderLocked, err)
	}
	return err
}

// itself writes over a file.
func itself(disk Disk, target string, data []byte) error {
	f, err := disk.Open(target)
	if err != nil {
		return err
	}
	return fill(f, data, nil)
}

func ignoreGone(err error) error {
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return err
}

func fill(f Temporary, data []byte, info fs.FileInfo) error {
	_, err := f.Write(data)
	if err == nil && info != nil {
		err = f.Take(info)
	}
	if err == nil {
		err = f.Sync()
	}
	return errors.Join(err, f.Close())
}

// over writes a file that has other names, too, in its place, so that they stay the same
// file. What was there goes into a file beside it first, which is left if writing fails.
func over(disk Disk, target string, data []byte) error {
	copied, err := disk.Create(filepath.Dir(target), private)
	if errors.Is(err, fs.ErrPermission) {
		return fmt.Errorf("%w: %w", ErrFolderLocked, err)
	}
	if err != nil {
		return err
	}
	if err := fill(copied, data, nil); err != nil {
		return errors.Join(err, ignoreGone(disk.Remove(copied.Name())))
	}
	f, err := disk.Open(target)
	if err != nil {
		return errors.Join(err, ignoreGone(disk.Remove(copied.Name())))
	}
	if err := fill(f, data, nil); err != nil {
		return &CutOffError{copied.Name(), err}
	}
	return disk.Remove(copied.Name())
}

// System is the disk of the system.
type System struct{}

// Stat implements Disk.
func (System) Stat(path string) (fs.FileInfo, error) { return os.Stat(path) }

// Resolve implements Disk.
func (System) Resolve(path string) (string, error) {
	target, err := filepath.EvalSymlinks(path)
	if info, lerr := os.Lstat(path); err != nil && lerr == nil && info.Mode()&fs.ModeSymlink != 0 {
		return "", ErrNowhere
	}
	return target, err
}

// Rename implements Disk.
func (System) Rename(from, to string) error { return os.Rename(from, to) }

// Remove implements Disk.
func (System) Remove(path string) error { return os.Remove(path) }

// Create implements Disk.
func (d System) Create(dir string, mode fs.FileMode) (Temporary, error) {
	for {
		name := filepath.Join(dir, fmt.Sprintf(".rooktrail-saving-%08x", rand.Uint32()))
		f, err := d.CreateAs(name, mode)
		if !errors.Is(err, fs.ErrExist) {
			return f, err
		}
	}
}

// CreateAs makes a file of a name that must not be taken, to be written.
func (System) CreateAs(path string, mode fs.FileMode) (Temporary, error) {
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, mode)
	if err != nil {
		return nil, err
	}
	return &systemFile{f}, nil
}

// Open implements Disk.
func (System) Open(path string) (Temporary, error) {
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_TRUNC, 0)
	if err != nil {
		return nil, err
	}
	return &systemFile{f}, nil
}

// SyncFolder implements Disk.
func (System) SyncFolder(dir string) error {
	f, err := os.Open(dir)
	if err != nil {
		return err
	}
	defer f.Close()
	return f.Sync()
}

type systemFile struct{ *os.File }

// Take implements Temporary. Only root may give a file to another owner; a file that one may
// write but does not own becomes one's own.
func (f *systemFile) Take(as fs.FileInfo) error {
	takeOwner(f.File, as)
	return f.Chmod(as.Mode().Perm() | as.Mode()&(fs.ModeSetuid|fs.ModeSetgid|fs.ModeSticky))
}
