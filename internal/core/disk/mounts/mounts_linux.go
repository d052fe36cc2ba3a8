package mounts

import "golang.org/x/sys/unix"

// remote are the kinds of file systems whose files lie on other machines, or are given by programs.
var remote = map[int64]bool{
	unix.NFS_SUPER_MAGIC:  true,
	unix.SMB_SUPER_MAGIC:  true,
	unix.SMB2_SUPER_MAGIC: true,
	unix.CIFS_SUPER_MAGIC: true,
	unix.AFS_SUPER_MAGIC:  true,
	unix.CODA_SUPER_MAGIC: true,
	unix.V9FS_MAGIC:       true,
	unix.FUSE_SUPER_MAGIC: true,
	unix.CEPH_SUPER_MAGIC: true,
}

// Remote says whether a file lies on another machine, or is given by a program: it may go away, or become
// unreadable, while it is open. What cannot be found out is taken to be here.
func Remote(file string) bool {
	var s unix.Statfs_t
	return unix.Statfs(file, &s) == nil && remote[int64(s.Type)]
}
