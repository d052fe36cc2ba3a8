package lang

import (
	"context"

	"rooktrail/internal/core/file/check"
)

// Checker asks a compiler what names mean.
type Checker interface {
	// Check checks the packages in some folders below root, which hold the tops of
	// modules, and writes what it finds out into a book.
	Check(ctx context.Context, root string, tops []string, book *check.Book, pace check.Pace) error
	// CheckFolder is Check for the package in one folder, of the module in a folder
	// above it, both relative to root.
	CheckFolder(ctx context.Context, root, top, folder string, book *check.Book) error
	// Errors are what is wrong with the packages in some folders, and with all that see them if importers, of the
	// modules at tops; read gives the text of a file by its absolute path.
	Errors(ctx context.Context, root string, tops, folders []string, importers bool, read func(name string) ([]byte, error)) ([]check.Error, error)
	// Values tells of values in a file of the package in a folder, of the module in a folder above it, both relative to
	// root.
	Values(ctx context.Context, root, top, folder string, read func(name string) ([]byte, error), asked check.Asked) (check.Values, error)
	// Top is the name of the file at the top of a module.
	Top() string
	// Reads says whether the result for the files of a folder depends on their text,
	// and Settings whether that for all files depends on the text of a file.
	Reads(base string) bool
	Settings(base string) bool
	// Environment is what else the result depends on.
	Environment() string
	// Ignores says whether a folder below the root is left out.
	Ignores(folder string) bool
}

// NoChecker is for languages no compiler of which is asked.
var NoChecker Checker = noChecker{}

type noChecker struct{}

func (noChecker) Check(context.Context, string, []string, *check.Book, check.Pace) error { return nil }
func (noChecker) CheckFolder(context.Context, string, string, string, *check.Book) error {
	return nil
}
func (noChecker) Errors(context.Context, string, []string, []string, bool, func(string) ([]byte, error)) ([]check.Error, error) {
	return nil, nil
}
func (noChecker) Values(context.Context, string, string, string, func(string) ([]byte, error), check.Asked) (check.Values, error) {
	return check.Values{}, nil
}
func (noChecker) Top() string          { return "" }
func (noChecker) Reads(string) bool    { return false }
func (noChecker) Settings(string) bool { return false }
func (noChecker) Environment() string  { return "" }
func (noChecker) Ignores(string) bool  { return true }
