package codebase

import (
	"context"
	"sync"
	"time"

	"rooktrail/internal/core/disk/vcs"
)

// changedFor is how long the answer of git to what has changed is good for, as
// it is asked for again with every letter that is typed.
const changedFor = 2 * time.Second

// changedFiles keeps that answer.
type changedFiles struct {
	mu    sync.Mutex
	asked time.Time
	paths map[string]bool
	fresh map[string]bool // those of them that the last commit does not have
}

// Changes are the files that differ from the last commit; none where git is not
// there or the project is in no repository. The map is not to be changed.
func (b *Base) Changes(ctx context.Context) map[string]bool {
	changed, _ := b.Differing(ctx)
	return changed
}

// Differing are the files that differ from the last commit, and those of them
// that it does not have at all. The maps are not to be changed.
func (b *Base) Differing(ctx context.Context) (changed, fresh map[string]bool) {
	c := &b.differing
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.paths != nil && time.Since(c.asked) < changedFor {
		return c.paths, c.fresh
	}
	list, err := vcs.Changed(ctx, b.root)
	if ctx.Err() != nil {
		return nil, nil
	}
	c.paths, c.fresh, c.asked = map[string]bool{}, map[string]bool{}, time.Now()
	if err == nil { // without a repository nothing has changed
		for _, change := range list {
			c.paths[change.Path] = true
			if change.New {
				c.fresh[change.Path] = true
			}
		}
	}
	return c.paths, c.fresh
}

// ForgetChanges has git asked again the next time.
func (b *Base) ForgetChanges() { b.differing.forget() }

// forget has git asked again the next time.
func (c *changedFiles) forget() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.paths = nil
}
