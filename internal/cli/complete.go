package cli

import (
	"maps"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/workspace"
)

// mostCompleted is how many ways to go on are offered to a shell.
const mostCompleted = 100

// chosenFrom are the options that take one of a few words, by command; "" for those of all.
func chosenFrom() map[string]map[string][]string {
	var kinds, wrong []string
	for _, k := range facts.Kinds() {
		kinds = append(kinds, k.String())
	}
	for _, k := range problem.Kinds {
		wrong = append(wrong, string(k))
	}
	forms := []string{"text", "markdown", "json"}
	return map[string]map[string][]string{
		"":           {"color": {colorAuto, colorAlways, colorNever}, "palette": {"peat", "chalk", "clear", "slate", "sand", "sixteen", "plain"}},
		"problems":   {"as": {"text", "json", "sarif"}, "only": wrong, "without": wrong},
		"symbols":    {"kind": kinds},
		"text":       {"role": {"definition", "code", "comment", "string", "other"}},
		"references": {"access": {"read", "write", "readwrite", "call", "type", "import"}},
		"sweep":      {"as": forms},
		"trail":      {"as": forms},
		"bookmarks":  {"as": forms},
		"draw": {"as": {"svg", "pdf", "text", "markdown", "dot", "json"}, "direction": {"out", "in", "both"}, "group": {"file", "folder", "day"},
			"size": {"small", "medium", "large"}, "theme": {"light", "dark"}},
	}
}

// completion has a shell complete what all commands take: words, files and symbols of the project, and folders.
func completion(root *cobra.Command) {
	chosen := chosenFrom()
	for _, cmd := range append(root.Commands(), root) {
		words := maps.Clone(chosen[cmd.Name()])
		if cmd == root {
			words = chosen[""]
		}
		for flag, some := range words {
			_ = cmd.RegisterFlagCompletionFunc(flag, cobra.FixedCompletions(some, cobra.ShellCompDirectiveNoFileComp)) // a test looks at each
		}
		for _, flag := range []string{"root", "keep"} {
			if cmd.Flags().Lookup(flag) != nil {
				_ = cmd.MarkFlagDirname(flag) // it is there
			}
		}
		if cmd.Flags().Lookup("in") != nil {
			_ = cmd.RegisterFlagCompletionFunc("in", completeFolders) // it is there
		}
		switch words := strings.Fields(strings.NewReplacer("[", " ", "]", " ", ":", " ").Replace(cmd.Use)); {
		case cmd.Name() == "symbols":
			cmd.ValidArgsFunction = completeSymbols
		case cmd.Name() == "files", cmd.Name() != "go" && cmd.Name() != "walk" && (slices.Contains(words, "POS") || slices.Contains(words, "FILE")) && cmd != root:
			cmd.ValidArgsFunction = completeFiles
		case len(words) > 1 && words[1] == "DIR" && cmd != root:
			cmd.ValidArgsFunction = completeFolders
		}
	}
}

// completing opens the project of a command as it was when it was last read; nil if it never was, since a shell cannot wait for that.
func completing(cmd *cobra.Command) *workspace.Workspace {
	asked := ""
	if f := cmd.Flags().Lookup("root"); f != nil {
		asked = f.Value.String()
	}
	root, err := findRoot(asked)
	if err != nil {
		return nil
	}
	ws := newWorkspace(root)
	if !ws.Code.Recall(cmd.Context(), indexFolder(), true) {
		return nil
	}
	open(cmd.Context(), ws)
	return ws
}

// completeSymbols offers names, and the words that narrow a query.
func completeSymbols(cmd *cobra.Command, _ []string, typed string) ([]cobra.Completion, cobra.ShellCompDirective) {
	if words, ok := narrowing(typed); ok {
		return words, cobra.ShellCompDirectiveNoFileComp
	}
	ws := completing(cmd)
	if ws == nil || typed == "" {
		return nil, cobra.ShellCompDirectiveNoFileComp
	}
	defer ws.Code.Close()
	var names []string
	for _, h := range ws.Code.Index().SearchClean(cmd.Context(), fuzzy.Parse(typed), 20*mostCompleted) {
		for _, name := range []string{h.Name, h.Qualified()} {
			if strings.HasPrefix(name, typed) && !slices.Contains(names, name) && len(names) < mostCompleted {
				names = append(names, name)
			}
		}
	}
	return names, cobra.ShellCompDirectiveNoFileComp
}

// narrowing offers what goes on a word that narrows a query; ok is false for another word.
func narrowing(typed string) (words []string, ok bool) {
	name, _, ok := strings.Cut(typed, ":")
	var values []string
	switch name {
	case "kind":
		values = chosenFrom()["symbols"]["kind"]
	case "is":
		values = []string{"test", "code", "changed", "all"}
	case "ext":
		for _, l := range catalog.Set().All() {
			for _, e := range l.Files.Extensions {
				values = append(values, strings.TrimPrefix(e, "."))
			}
		}
	default:
		return nil, false
	}
	for _, v := range values {
		if w := name + ":" + v; strings.HasPrefix(w, typed) && !slices.Contains(words, w) {
			words = append(words, w)
		}
	}
	return words, ok
}

// completeFiles offers the files and folders of the project, a folder at a time; where there is no index, those of the shell.
func completeFiles(cmd *cobra.Command, _ []string, typed string) ([]cobra.Completion, cobra.ShellCompDirective) {
	if words, ok := narrowing(typed); ok && cmd.Name() == "files" {
		return words, cobra.ShellCompDirectiveNoFileComp
	}
	return completePaths(cmd, typed, true)
}

func completeFolders(cmd *cobra.Command, _ []string, typed string) ([]cobra.Completion, cobra.ShellCompDirective) {
	return completePaths(cmd, typed, false)
}

func completePaths(cmd *cobra.Command, typed string, files bool) ([]cobra.Completion, cobra.ShellCompDirective) {
	ws := completing(cmd)
	if ws == nil {
		return nil, cobra.ShellCompDirectiveDefault
	}
	defer ws.Code.Close()
	found, further := map[string]bool{}, false
	for f := range ws.Code.Listing().Files() {
		rest, ok := strings.CutPrefix(f.Path, typed)
		if !ok {
			continue
		}
		if at := strings.IndexByte(rest, '/'); at >= 0 {
			found[typed+rest[:at+1]], further = true, true
		} else if files {
			found[f.Path] = true
		}
	}
	all := slices.Sorted(maps.Keys(found))
	how := cobra.ShellCompDirectiveNoFileComp
	switch {
	case len(all) == 0:
		how = cobra.ShellCompDirectiveDefault
	case further:
		how |= cobra.ShellCompDirectiveNoSpace
	}
	return all[:min(len(all), mostCompleted)], how
}
