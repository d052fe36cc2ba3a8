package desk

import (
	"errors"
	"io/fs"
	"syscall"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/file/text"
)

// Kept is a text that is not saved, as it is kept.
type Kept = recovery.Text

// ErrNoPlace says that there is no place where texts that are not saved are kept.
var ErrNoPlace = errors.New("there is no folder for it")

// What is what a report tells of.
type What uint8

// What reports tell of.
const (
	NothingToSave  What = iota // Text is as it was saved; without a Text, everything is
	SavedNow                   // Text is saved; Err is why its formatter failed, if it did
	NotSaved                   // Text is not, since Err
	AllSaved                   // what became of texts that were saved Together
	SavedAs                    // Text was written to the file To, or not, since Err
	ChangedOnDisk              // the file of Text was changed by others while one writes in it
	Unreadable                 // the file of Text on disk cannot be read; saving once more writes it there
	TheSame                    // others have written the same
	Merged                     // what was chosen stands there now; of Both, as many regions
	TookTheirs                 // what is on disk stands there now
	NotKept                    // Text could not be kept beside, since Err
	KeptAgain                  // and now it is
	IsRecovered                // Text is one that was not saved when a program ended
	WrittenAlready             // and this cannot be recovered, since Text is being written
	Forgotten                  // texts that were not saved are forgotten
	AskedToLeave               // there are texts that are not saved; they are kept
	WouldLose                  // there are, and they cannot be kept, since Err
	Failed                     // something else went wrong: Err
)

// Report is what there is to say.
type Report struct {
	What     What
	Text     *Text
	Err      error
	To       string
	Both     int
	Together *Together
	Left     *recovery.Text
	// AskedOver says that saving once more writes over the file itself, since its folder is locked.
	AskedOver bool
}

// Why says in a few words why a file could not be written.
func Why(err error) string {
	var wrong *fs.PathError
	var cut *text.CutOffError
	switch {
	case errors.As(err, &cut):
		return "the file may be cut off now, and all of it is in " + cut.Whole + ", since " + Why(cut.Err)
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return "the disk is full"
	case errors.Is(err, syscall.EROFS):
		return "the disk can only be read"
	case errors.Is(err, fs.ErrPermission):
		return "you have no permission to write in its folder"
	case errors.Is(err, fs.ErrNotExist):
		return "its folder is not there any more"
	case errors.Is(err, text.ErrFolder):
		return "it is a folder now"
	case errors.Is(err, text.ErrNotRegular):
		return "it is a pipe, a socket or a device now"
	case errors.Is(err, syscall.ENOTDIR):
		return "where its folder should be is a file"
	case errors.As(err, &wrong):
		return wrong.Err.Error()
	case errors.Unwrap(err) != nil:
		return errors.Unwrap(err).Error() // without the path
	}
	return err.Error()
}
