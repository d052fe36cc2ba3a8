// Package know groups what is known of a project as a whole: which files there are, the
// index of what they say, finding by letters and by text, and resolving a name to what it
// means. Its parts for others are the code (codebase), searching in it (search) and
// answers about it (answer).
package know
