// Package vcs asks the installed git about a repository without letting the
// repository run anything: a project that one merely looks at may carry hooks,
// monitor programs and filters in its configuration.
package vcs

import (
	"context"
	"os"
	"os/exec"
)

// harmless switches off what a repository's own configuration could make git
// run or fetch. Settings on the command line win over those in any file.
var harmless = []string{
	"--no-pager", "--no-replace-objects",
	"-c", "core.fsmonitor=false",
	"-c", "core.hooksPath=/dev/null",
	"-c", "core.untrackedCache=false",
	"-c", "core.sshCommand=false",
	"-c", "core.editor=false",
	"-c", "credential.helper=",
	"-c", "diff.external=",
	"-c", "protocol.allow=never",
	"-c", "submodule.recurse=false",
}

// Git prepares a git command in the folder dir that runs nothing the
// repository configures, writes no lock, asks no question and fetches nothing.
func Git(ctx context.Context, dir string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, "git", append(append([]string{}, harmless...), args...)...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(),
		"GIT_OPTIONAL_LOCKS=0", "GIT_TERMINAL_PROMPT=0", "GIT_NO_LAZY_FETCH=1",
		"GIT_EXTERNAL_DIFF=", "GIT_PAGER=cat", "LC_ALL=C")
	return cmd
}
