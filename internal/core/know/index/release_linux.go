package index

import "golang.org/x/sys/unix"

// release gives back the memory of the pages that were looked at; they come again when they are.
func (p *pages) release() {
	if p.mapped != nil {
		_ = unix.Madvise(p.mapped, unix.MADV_DONTNEED) // it only takes more memory otherwise
	}
}
