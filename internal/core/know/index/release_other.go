//go:build !linux

package index

// release does nothing where it is not known how to.
func (p *pages) release() {}
