package project

import (
	"bufio"
	"bytes"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"

	"github.com/go-git/go-git/v5/plumbing/format/gitignore"

	"rooktrail/internal/core/disk/door"
)

// ignoreFiles are the files that say what to leave out of their folder.
var ignoreFiles = []string{".gitignore", ".ignore"}

// repositories are the folders in which version control keeps its own data.
var repositories = map[string]bool{".git": true, ".hg": true, ".svn": true}

// listFolder lists the folder dir, given relative to the root, and all below it.
// rules are the ignore patterns of the folders above, outermost first.
func (l *lister) listFolder(dir string, rules []gitignore.Pattern) error {
	if l.ctx.Err() != nil {
		return l.ctx.Err()
	}
	entries, err := os.ReadDir(filepath.Join(l.root, filepath.FromSlash(dir)))
	if err != nil {
		l.unreadable(dir)
		if dir == "" {
			return fmt.Errorf("listing %s: %w", l.root, WithoutPath(err))
		}
		return nil
	}
	rules = l.withRules(dir, rules)
	for _, e := range entries {
		path := e.Name()
		if dir != "" {
			path = dir + "/" + path
		}
		if repositories[e.Name()] || excluded(rules, path, e.IsDir()) {
			continue
		}
		if e.IsDir() {
			if err := l.listFolder(path, rules); err != nil {
				return err
			}
			continue
		}
		if info, err := e.Info(); err == nil {
			l.add(path, info)
		}
	}
	return nil
}

// withRules adds the patterns of the folder's own ignore files to those from
// above. The result never shares its end with rules.
func (l *lister) withRules(dir string, rules []gitignore.Pattern) []gitignore.Pattern {
	rules = rules[:len(rules):len(rules)]
	var domain []string
	if dir != "" {
		domain = strings.Split(dir, "/")
	}
	for _, name := range ignoreFiles {
		data, err := door.ReadWithin(l.root, path.Join(dir, name), door.LargestSettings)
		if err != nil {
			continue // mostly there is none; an unreadable one excludes nothing
		}
		for s := bufio.NewScanner(bytes.NewReader(data)); s.Scan(); {
			line := strings.TrimSuffix(s.Text(), "\r")
			if strings.TrimSpace(line) != "" && !strings.HasPrefix(line, "#") {
				rules = append(rules, gitignore.ParsePattern(line, domain))
			}
		}
	}
	return rules
}

// excluded asks the rules from the innermost and last outwards; the first that
// has something to say decides.
func excluded(rules []gitignore.Pattern, path string, isDir bool) bool {
	if len(rules) == 0 {
		return false
	}
	parts := strings.Split(path, "/")
	for i := len(rules) - 1; i >= 0; i-- {
		switch rules[i].Match(parts, isDir) {
		case gitignore.Exclude:
			return true
		case gitignore.Include:
			return false
		}
	}
	return false
}
