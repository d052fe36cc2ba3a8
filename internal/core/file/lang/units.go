package lang

import (
	"context"
	"io"

	"rooktrail/internal/core/file/check"
)

// Units asks a compiler about files that are compiled each by itself, in a process of its own.
type Units interface {
	// Compiler finds one that can be asked on this machine: where the user says, or else in the usual places; "" if there is
	// none.
	Compiler(said string) string
	// Compiled says whether a file of that name is compiled by itself.
	Compiled(base string) bool
	// Ask asks a compiler about a file below a folder, both absolute and with links followed; how it is compiled, the
	// arguments say, in which paths are absolute or from that folder on. program is begun anew for that, with Command.
	Ask(ctx context.Context, program, compiler, root, file string, arguments []string) (*check.Unit, error)
	// Command is the argument with which the program is begun to Serve one question.
	Command() string
	Serve(in io.Reader, out io.Writer) error
}

// NoUnits is for languages no such compiler of which is asked.
var NoUnits Units = noUnits{}

type noUnits struct{}

func (noUnits) Compiler(string) string { return "" }
func (noUnits) Compiled(string) bool   { return false }
func (noUnits) Ask(context.Context, string, string, string, string, []string) (*check.Unit, error) {
	return &check.Unit{}, nil
}
func (noUnits) Command() string                  { return "" }
func (noUnits) Serve(io.Reader, io.Writer) error { return nil }
