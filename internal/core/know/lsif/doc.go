// Package lsif takes in what a compiler's own tool said of a project: a dump in the Language Server Index Format, which says of the places
// of names where what they mean is defined. It is kept with the texts that it was said of, so that it can be told whether a text is still
// the same, and where a place of it is now if not. (How a dump is written is in publish.)
package lsif
