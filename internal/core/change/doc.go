// Package change groups what changes texts and files: writing with any number of carets,
// the desk that knows what became of each text, what is kept for after a crash and for
// undoing, and files made, moved and deleted.
package change
