// Package vcs asks the installed git about a repository without letting the
// repository run anything: a project that one merely looks at may carry hooks,
// monitor programs and filters in its configuration.
package vcs

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"slices"
	"strings"
	"time"
)

// harmless switches off what a repository's own configuration could make git
// run or fetch. Settings on the command line win over those in any file. It is
// the second line: the commands that are used here are those which read none of
// these settings.
var harmless = []string{
	"--no-pager", "--no-replace-objects",
	"-c", "safe.bareRepository=explicit",
	"-c", "core.fsmonitor=false",
	"-c", "core.hooksPath=/dev/null",
	"-c", "core.untrackedCache=false",
	"-c", "core.sshCommand=false",
	"-c", "core.gitProxy=",
	"-c", "core.editor=false",
	"-c", "core.pager=cat",
	"-c", "core.askPass=false",
	"-c", "core.alternateRefsCommand=false",
	"-c", "credential.helper=",
	"-c", "diff.external=",
	"-c", "diff.ignoreSubmodules=all",
	"-c", "log.showSignature=false",
	"-c", "gpg.program=false",
	"-c", "gpg.openpgp.program=false",
	"-c", "gpg.x509.program=false",
	"-c", "gpg.ssh.program=false",
	"-c", "gpg.ssh.defaultKeyCommand=false",
	"-c", "protocol.allow=never",
	"-c", "submodule.recurse=false",
}

// within bounds how long one command of git may take: long enough for the
// listing of a very large project on a slow disk.
const within = 2 * time.Minute

// mostMemory bounds in bytes what git may take for itself, without the files that
// it maps.
const mostMemory = 1 << 30

// Git prepares a git command in the folder dir that runs nothing the
// repository configures, writes no lock, asks no question and fetches nothing.
// It ends with the program and with the context.
func Git(ctx context.Context, dir string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, "git", slices.Concat(harmless, args)...)
	cmd.Dir = dir
	cmd.Env = environment()
	alone(cmd)
	return cmd
}

// environment is that of the program without what says to git where the repository
// is and how to treat it, as hooks of git find it: it is the one of the folder.
func environment() []string {
	env := slices.DeleteFunc(os.Environ(), func(v string) bool { return strings.HasPrefix(v, "GIT_") })
	return append(env,
		"GIT_OPTIONAL_LOCKS=0", "GIT_TERMINAL_PROMPT=0", "GIT_NO_LAZY_FETCH=1", "GIT_ALLOW_PROTOCOL=none",
		"GIT_EXTERNAL_DIFF=", "GIT_PAGER=cat", "LC_ALL=C")
}

// mostOutput bounds in bytes what is taken from git at once.
const mostOutput = 256 << 20

// errMuch says that git had more to say than is taken.
var errMuch = errors.New("its answer is too large")

// output is what git prints; input is what it is given to read, nil for nothing.
func output(ctx context.Context, dir string, args ...string) ([]byte, error) {
	return told(ctx, dir, nil, args...)
}

func told(ctx context.Context, dir string, input io.Reader, args ...string) ([]byte, error) {
	ctx, cancel := context.WithTimeout(ctx, within)
	defer cancel()
	var out bounded
	cmd := Git(ctx, dir, args...)
	cmd.Stdin, cmd.Stdout = input, &out
	err := Start(cmd)
	if err == nil {
		err = cmd.Wait()
	}
	if out.full {
		err = errMuch
	}
	if err != nil {
		return nil, fmt.Errorf("asking git (git %s): %w", args[0], err)
	}
	return out.Bytes(), nil
}

// Start starts a command that Git has prepared, within the bounds of memory.
func Start(cmd *exec.Cmd) error {
	if err := cmd.Start(); err != nil {
		return err
	}
	limit(cmd.Process.Pid, mostMemory)
	return nil
}

// bounded keeps what is written until it is too much.
type bounded struct {
	bytes.Buffer
	full bool
}

// Write implements io.Writer.
func (b *bounded) Write(p []byte) (int, error) {
	if b.full = b.full || b.Len()+len(p) > mostOutput; b.full {
		return 0, errMuch
	}
	return b.Buffer.Write(p)
}
