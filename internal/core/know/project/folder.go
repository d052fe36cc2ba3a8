package project

import (
	"bufio"
	"bytes"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"slices"
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
func (l *lister) listFolder(dir string, rules []rule) error {
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
	if !l.everything {
		rules = withRules(l.root, dir, rules)
	}
	for _, e := range entries {
		path := e.Name()
		if dir != "" {
			path = dir + "/" + path
		}
		if out, _ := excluded(rules, path, e.IsDir()); out || repositories[e.Name()] {
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

// rule is one of an ignore file.
type rule struct {
	gitignore.Pattern
	from string // the path of that
}

// withRules adds the patterns of the folder's own ignore files to those from
// above. The result never shares its end with rules.
func withRules(root, dir string, rules []rule) []rule {
	rules = rules[:len(rules):len(rules)]
	var domain []string
	if dir != "" {
		domain = strings.Split(dir, "/")
	}
	for _, name := range ignoreFiles {
		data, err := door.ReadWithin(root, path.Join(dir, name), door.LargestSettings)
		if err != nil {
			continue // mostly there is none; an unreadable one excludes nothing
		}
		for s := bufio.NewScanner(bytes.NewReader(data)); s.Scan(); {
			line := strings.TrimSuffix(s.Text(), "\r")
			if strings.TrimSpace(line) != "" && !strings.HasPrefix(line, "#") {
				rules = append(rules, rule{gitignore.ParsePattern(line, domain), path.Join(dir, name)})
			}
		}
	}
	return rules
}

// excluded asks the rules from the innermost and last outwards; the first that
// has something to say decides. by is the file that it stands in.
func excluded(rules []rule, path string, isDir bool) (out bool, by string) {
	if len(rules) == 0 {
		return false, ""
	}
	parts := strings.Split(path, "/")
	for _, r := range slices.Backward(rules) {
		switch r.Match(parts, isDir) {
		case gitignore.Exclude:
			return true, r.from
		case gitignore.Include:
			return false, ""
		}
	}
	return false, ""
}
