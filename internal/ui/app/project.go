package app

import (
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
)

// project gives the surfaces what they ask for, each by an interface of its own,
// whichever part of the workspace has it.
type project struct {
	*workspace.Workspace
	*codebase.Base
	*search.Searcher
	*answer.Guide
	*lists.Keeper
}
