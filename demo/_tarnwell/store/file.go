package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"

	"tarnwell/dispatch"
)

// File is a Store that writes everything to one file after each change.
type File struct {
	Memory
	path string
}

// OpenFile reads the call-outs kept in a file; one that does not exist yet is
// empty.
func OpenFile(path string) (*File, error) {
	f := &File{path: path}
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		return f, nil
	}
	if err != nil {
		return nil, fmt.Errorf("opening the store: %w", err)
	}
	if err := json.Unmarshal(data, &f.callouts); err != nil {
		return nil, fmt.Errorf("%w: %s: %v", ErrCorrupt, path, err)
	}
	return f, nil
}

// Save implements Store. A call-out counts as saved when it is in the file.
func (f *File) Save(c dispatch.Callout) (dispatch.Callout, error) {
	c, err := f.Memory.Save(c)
	if err != nil {
		return c, err
	}
	return c, f.write()
}

// write replaces the file in one step, so that a failure leaves the old one.
func (f *File) write() error {
	all, err := f.All()
	if err != nil {
		return err
	}
	data, err := json.MarshalIndent(all, "", "  ")
	if err != nil {
		return fmt.Errorf("writing the store: %w", err)
	}
	next := f.path + ".next"
	if err := os.WriteFile(next, data, 0o600); err != nil {
		return fmt.Errorf("writing the store: %w", err)
	}
	return os.Rename(next, f.path)
}
