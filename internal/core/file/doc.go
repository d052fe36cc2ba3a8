// Package file groups what one file says, without any other: its text and places in it,
// its syntax, the facts of it in the many languages, its outline, what can be folded,
// comments and strings, colours, and how selections grow. A language is one value, in a
// folder of its own.
package file
