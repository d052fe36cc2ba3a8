package resolve

import (
	"path"
	"slices"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// A file may see what the files it includes define, and those they
// include. Which files these are is worked out once and kept until the code
// changes. Nothing is parsed for that which the index knows, or of which the includes can be read by themselves.

// closures keeps what files include. The zero value is empty.
type closures struct {
	mu         sync.Mutex
	generation int
	leads      map[string][]string        // by file the headers that it includes itself
	included   map[string]map[string]bool // by file all that it includes
}

// at gives the closures of a generation of the code. The lock must be held.
func (c *closures) at(generation int) *closures {
	if c.generation != generation || c.leads == nil {
		c.generation, c.leads, c.included = generation, map[string][]string{}, map[string]map[string]bool{}
	}
	return c
}

// included are all files that one includes, however many steps away.
func (q *question) included(src *source) map[string]bool {
	c, generation := &q.resolver.closures, q.code.Generation()
	c.mu.Lock()
	known, ok := c.at(generation).included[src.path]
	c.mu.Unlock()
	if ok {
		return known
	}
	all := map[string]bool{}
	for next := []string{src.path}; len(next) > 0 && q.ctx.Err() == nil; {
		file := next[len(next)-1]
		next = next[:len(next)-1]
		for _, header := range q.leads(file) {
			if !all[header] && header != src.path {
				all[header] = true
				next = append(next, header)
			}
		}
	}
	c.mu.Lock()
	if q.ctx.Err() == nil {
		c.at(generation).included[src.path] = all
	}
	c.mu.Unlock()
	return all
}

// leads are the headers that a file includes itself.
func (q *question) leads(file string) []string {
	c, generation := &q.resolver.closures, q.code.Generation()
	c.mu.Lock()
	known, ok := c.at(generation).leads[file]
	c.mu.Unlock()
	if ok {
		return known
	}
	var all []string
	if l := q.code.Languages().Of(file); l != nil && l.Scopes.Sees == lang.SeesIncludes {
		modules := q.resolver.importsOf(l)
		for _, imp := range q.includesOf(file) {
			if imp.Name == openedNamespace {
				continue
			}
			if header := modules.Module(file, imp); header != "" && !slices.Contains(all, header) {
				all = append(all, header)
			}
		}
	}
	c.mu.Lock()
	if q.ctx.Err() == nil {
		c.at(generation).leads[file] = all
	}
	c.mu.Unlock()
	return all
}

// seesIncludes says whether a file is in a language in which files see what they include.
func (q *question) seesIncludes(file string) bool {
	l := q.code.Languages().Of(file)
	return l != nil && l.Scopes.Sees == lang.SeesIncludes
}

// includesOf are what a file includes: as its facts say, if they were read, else as the index has it, or its text alone,
// either of which costs less than to read it.
func (q *question) includesOf(file string) []facts.Imported {
	if s := q.sources[file]; s != nil {
		return s.Imports
	}
	if path.IsAbs(file) {
		if l := q.code.Languages().Of(file); l != nil {
			if h, ok := q.resolver.importsOf(l).(lang.Headers); ok {
				return h.Includes(q.code.Text(file))
			}
		}
	} else if all, ok := q.code.ImportsOf(file); ok {
		return all
	}
	if s := q.source(file); s != nil {
		return s.Imports
	}
	return nil
}

// reaching is what is known so far of which files include one, however many steps away, and which do not.
type reaching map[string]bool

// reaches says whether a file includes another one.
func (q *question) reaches(src *source, header string) bool { return q.reachesFrom(src.path, header) }

// reachesFrom is reaches for the path of a file, which is not read for it. All that is gone through for one file and does not lead
// to the header, is not gone through again for others.
func (q *question) reachesFrom(file, header string) bool {
	if file == header {
		return false
	}
	known := q.reaching[header]
	if known == nil {
		if q.reaching == nil {
			q.reaching = map[string]reaching{}
		}
		known = reaching{header: true}
		q.reaching[header] = known
	}
	if reached, ok := known[file]; ok {
		return reached
	}
	from := map[string]string{file: ""}
	for next := []string{file}; len(next) > 0 && q.ctx.Err() == nil; {
		at := next[0]
		next = next[1:]
		for _, to := range q.leads(at) {
			if _, seen := from[to]; seen {
				continue
			}
			reached, ok := known[to]
			if reached {
				for ; at != ""; at = from[at] {
					known[at] = true
				}
				return true
			}
			if from[to] = at; !ok {
				next = append(next, to)
			}
		}
	}
	if q.ctx.Err() == nil {
		for at := range from {
			known[at] = false
		}
	}
	return false
}
