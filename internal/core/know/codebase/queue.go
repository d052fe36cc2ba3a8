package codebase

import (
	"context"
	"path"
	"sync"
	"time"

	"golang.org/x/sync/semaphore"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// queue holds the files that are to be read, those first that people are likely to need first: the one that is looked at, those
// near it, those that changed lately. It takes any number, so that
// listing never waits for parsing.
type queue struct {
	mu     sync.Mutex
	filled *sync.Cond
	first  []project.File
	rest   []project.File
	near   string // the file that is looked at; "" for none
	lately int64
	closed bool
}

const (
	// recently is for how long a file has changed lately.
	recently = 14 * 24 * time.Hour
	// nearby is how many folders away from another file one may be to be near it.
	nearby = 2
)

func newQueue(now time.Time) *queue {
	q := &queue{lately: now.Add(-recently).UnixNano()}
	q.filled = sync.NewCond(&q.mu)
	return q
}

func (q *queue) add(files []project.File) {
	q.mu.Lock()
	q.sort(files)
	q.mu.Unlock()
	q.filled.Broadcast()
}

// sort puts files among the first, or among the rest. The lock must be held.
func (q *queue) sort(files []project.File) {
	for _, f := range files {
		if f.Modified > q.lately || q.near != "" && place.Distance(q.near, f.Path) <= nearby {
			q.first = append(q.first, f)
		} else {
			q.rest = append(q.rest, f)
		}
	}
}

// look has the files near one be read before others.
func (q *queue) look(file string) {
	q.mu.Lock()
	defer q.mu.Unlock()
	if q.near != "" && path.Dir(q.near) == path.Dir(file) {
		return
	}
	q.near = file
	first, rest := q.first, q.rest
	q.first, q.rest = nil, make([]project.File, 0, len(rest))
	q.sort(rest)
	q.first = append(q.first, first...)
}

func (q *queue) close() {
	q.mu.Lock()
	q.closed = true
	q.mu.Unlock()
	q.filled.Broadcast()
}

// take waits for a file; it is false when there are no more to come.
func (q *queue) take() (project.File, bool) {
	q.mu.Lock()
	defer q.mu.Unlock()
	for len(q.first)+len(q.rest) == 0 && !q.closed {
		q.filled.Wait()
	}
	from := &q.first
	if len(*from) == 0 {
		from = &q.rest
	}
	if len(*from) == 0 {
		return project.File{}, false
	}
	f := (*from)[0]
	*from = (*from)[1:]
	return f, true
}

// each has so many workers do something with each file, until the queue is closed and empty; so much text at once as mostAtOnce says.
func (q *queue) each(ctx context.Context, workers *work.Group, most int, do func(ctx context.Context, f project.File)) {
	room := semaphore.NewWeighted(mostAtOnce)
	for range most {
		workers.Go(func() {
			for f, ok := q.take(); ok; f, ok = q.take() {
				if weight := min(f.Size, mostAtOnce); room.Acquire(ctx, weight) == nil {
					do(ctx, f)
					room.Release(weight)
				}
			}
		})
	}
}
