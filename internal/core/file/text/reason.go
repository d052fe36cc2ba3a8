package text

import (
	"errors"
	"io/fs"
)

// Reason says in a few words why a file could not be read.
func Reason(err error) string {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return "it is not there any more"
	case errors.Is(err, fs.ErrPermission):
		return "you have no permission to read it"
	case errors.Is(err, ErrFolder):
		return "it is a folder"
	case errors.Is(err, ErrNotRegular):
		return "it is a pipe, a socket or a device"
	}
	return err.Error()
}
