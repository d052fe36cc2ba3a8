package desk_test

import (
	"errors"
	"fmt"
	"io/fs"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/text"
)

func TestWhyAFileIsNotSaved(t *testing.T) {
	for want, err := range map[string]error{
		"the disk is full": &fs.PathError{Op: "write", Path: "/x", Err: syscall.ENOSPC},
		"the file may be cut off now, and all of it is in /x/y, since the disk is full": &text.CutOffError{Whole: "/x/y", Err: syscall.ENOSPC},
		"the disk can only be read":                     fmt.Errorf("saving: %w", syscall.EROFS),
		"its folder is not there any more":              fs.ErrNotExist,
		"input/output error":                            &fs.PathError{Op: "write", Path: "/x", Err: syscall.EIO},
		"you have no permission to write in its folder": fs.ErrPermission,
		"it is a folder now":                            text.ErrFolder,
		"odd":                                           errors.New("odd"),
	} {
		assert.Equal(t, want, desk.Why(err))
	}
}
