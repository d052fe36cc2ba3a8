package project

import (
	"fmt"

	"golang.org/x/sys/unix"
)

// folderIdentity is that of a folder on its disk: its number there and when it was made,
// since numbers are given anew.
func folderIdentity(root string) string {
	var s unix.Statx_t
	if err := unix.Statx(unix.AT_FDCWD, root, 0, unix.STATX_INO|unix.STATX_BTIME, &s); err != nil || s.Mask&unix.STATX_BTIME == 0 {
		return ""
	}
	return fmt.Sprintf("folder:%d:%d:%d:%d.%d", s.Dev_major, s.Dev_minor, s.Ino, s.Btime.Sec, s.Btime.Nsec)
}
