package cli

import (
	"fmt"
	"runtime"
	"runtime/debug"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/calling"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/lsif"
	"rooktrail/internal/core/know/publish"
	"rooktrail/internal/serve"
)

// about says, behind the version, what the program was built of, and which versions of formats it has.
func about() string {
	var b strings.Builder
	info, ok := debug.ReadBuildInfo()
	if ok {
		if at := builtFrom(info); at != "" {
			fmt.Fprintf(&b, "commit    %s\n", at)
		}
	}
	fmt.Fprintf(&b, "built by  %s for %s/%s\n", runtime.Version(), runtime.GOOS, runtime.GOARCH)
	if ok {
		for _, m := range info.Deps {
			if strings.HasSuffix(m.Path, "tree-sitter") {
				fmt.Fprintf(&b, "grammars  %s %s\n", m.Path, m.Version)
			}
		}
	}
	var names []string
	for _, l := range catalog.Set().All() {
		if !slices.Contains(names, l.Name) { // some are read in several ways
			names = append(names, l.Name)
		}
	}
	fmt.Fprintf(&b, "reads     %s\n", strings.ReplaceAll(wrapped(names, 80, 0), "\n", "\n          "))
	fmt.Fprintf(&b, "speaks    Language Server Protocol %s, Language Server Index Format %s\n", serve.Protocol, publish.LSIFVersion)
	fmt.Fprintf(&b, "formats   index %s, dumps %d, calls %d, trails %d, bookmarks %d, sweeps %d, walks %d\n",
		index.Version(), lsif.Version, calling.Version, trail.Version, bookmark.Version, sweep.Version, walk.Version)
	return b.String()
}

// builtFrom is the commit that the program was built from; "" if that is not known.
func builtFrom(info *debug.BuildInfo) (commit string) {
	changed := false
	for _, s := range info.Settings {
		switch s.Key {
		case "vcs.revision":
			commit = s.Value
		case "vcs.modified":
			changed = s.Value == "true"
		}
	}
	if commit != "" && changed {
		commit += ", with changes"
	}
	return commit
}
