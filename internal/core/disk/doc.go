// Package disk groups what knows of the disk and the system: opening files that somebody
// else put where they are, git, what is installed on the machine, settings, and handing
// over to other programs. It knows nothing of what is in a file.
package disk
