// Package keep groups what keeps places: trails, bookmarks, sweeps and guided walks, how
// the program was left, and the lists of a project, whose places are found again when the
// code has changed.
package keep
