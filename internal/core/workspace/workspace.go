// Package workspace is one open project: the one door through which the screen
// and the commands reach what the rest of the core knows about it. What there is to
// be known is behind seven doors in it: the code, searching in it, answers about it,
// lists of places in it, changes of it that are proposed, drawings of it, and what is wrong
// in it. What changes files, and what is kept of the user's own beside the lists, is here.
package workspace

import (
	"context"
	"sync"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/change/history"
	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/change/replace"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/mend"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/tests"
)

// Workspace is an open project. It may be used by several goroutines.
type Workspace struct {
	// Code is what the files of the project say, Search finds things in it, Answers
	// answers questions about it, Lists keeps places in it.
	Code    *codebase.Base
	Search  *search.Searcher
	Answers *answer.Guide
	Lists   *lists.Keeper
	// Changes proposes changes over its files, and makes them.
	Changes *Changes
	// Overlook makes drawings and charts of it.
	Overlook *overlook.Maker
	// Problems finds what is wrong in it.
	Problems *problem.Finder
	// Mending finds what can be done about that.
	Mending *mend.Mender
	// Tests finds its tests and how they are run; TestBook keeps what became of them.
	Tests    *tests.Finder
	TestBook *tests.Book

	filing   *filing.Filing
	recovery *recovery.Store // nil if nothing is kept
	history  *history.Store  // nil if nothing is kept

	mu        sync.Mutex
	state     resume.State
	stateFile string // where state is kept; "" if it is not
}

// New makes the workspace of the project at root, an absolute path. It knows
// nothing until its code has been read.
func New(root string) *Workspace {
	w := &Workspace{Code: codebase.New(root), filing: filing.New(root, "")}
	w.Search = search.New(w.Code)
	w.Answers = answer.New(w.Code, w.Search)
	w.Lists = lists.New(w.Code, w.Search, w.Answers)
	w.Overlook = overlook.New(w.Code, w.Answers)
	hunks := hunk.New(w.Code)
	tidier := tidy.New(w.Code, hunks)
	w.Problems = problem.New(w.Code, w.Answers, tidier)
	w.Mending = mend.New(w.Code, w.Search, w.Answers, tidier, w.Problems)
	w.Tests = tests.New(w.Code, w.Answers)
	w.TestBook = tests.NewBook(w.Tests, w.Lists)
	w.Lists.Wrong, w.Problems.Reported = w.Problems.Places, w.reported
	w.Changes = &Changes{Tidier: tidier, Renamer: rename.New(w.Code, w.Answers), Replacer: replace.New(w.Code, w.Search), Restructurer: restructure.New(w.Code, w.Answers), Hunks: hunks, code: w.Code, maker: making.New(root, "")}
	return w
}

// reported is what reports say of a file, and which tests failed in it.
func (w *Workspace) reported(ctx context.Context, f *codebase.File) []sweep.Item {
	return append(w.Lists.ReportedIn(ctx, f), w.TestBook.FailuresIn(ctx, f)...)
}
