// Package serve is a language server: it answers the requests of the Language Server Protocol 3.17 that come over a pipe, for all
// languages that are read, over the same door as the screen and the commands. An editor that speaks the protocol gets the answers that
// these give. It writes to no file of a project: what is to be changed, the client is told.
package serve
