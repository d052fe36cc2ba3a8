package codebase

import "rooktrail/internal/core/know/index"

// contents are what stands for the texts of files: as was found out since, upon what was noted when the project was last read. The zero
// value knows of none.
type contents struct {
	below *index.ListingOnDisk // nil for nothing
	since map[string]index.Content
}

// get is that of a file; none if it is not known.
func (c *contents) get(p string) index.Content {
	if content, ok := c.since[p]; ok || c.below == nil {
		return content
	}
	return c.below.Content(p)
}

// set notes that of a file, or none.
func (c *contents) set(p string, content index.Content) {
	if c.since == nil {
		c.since = map[string]index.Content{}
	}
	if content == (index.Content{}) && c.below == nil {
		delete(c.since, p)
		return
	}
	c.since[p] = content
}
