package app

import (
	"context"

	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/recipe"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/surface"
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

// Recipes implements runs.Project.
func (p project) Recipes(ctx context.Context) []recipe.Recipe { return recipe.All(ctx, p.Base) }

// running is the program as the runs see it.
type running struct{ comparing }

// Room implements runs.Host.
func (r running) Room() (width, height int) {
	p := r.m.plan()
	return p.Width, max(p.Run, p.Height/3)
}

// Sweep implements runs.Host.
func (r running) Sweep(one *sweep.Sweep, said string) surface.Intent {
	return r.m.sweeps.FromRun(one, said)
}

// Unsaved implements runs.Host.
func (r running) Unsaved() map[string]bool { return r.m.writing.Unsaved() }

// leave leaves the program, after it was asked whether what runs is to be ended.
func (m *Model) leave() surface.Intent { return m.runs.Leaving(m.writing.Leave) }
