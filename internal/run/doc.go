// Package run carries out commands of the user's, each in a pseudo-terminal of its own: what it prints is drawn as a terminal would,
// kept, and looked through for places. Between the program and a command stands a keeper, which is this program begun anew: all that
// the command starts stays below it, and is ended with it, also if the program itself is killed.
package run
