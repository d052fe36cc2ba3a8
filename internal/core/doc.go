// Package core groups the computation, which knows nothing of terminals. Its rooms stand
// one above the other: what lies on the disk, what one file says, what is known of a
// project, what keeps places and what changes texts, and above all the workspace, the one
// door through which the screen and the commands come in. Work beside the screen is begun
// with package work.
package core
