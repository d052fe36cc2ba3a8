package settings

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
)

// Everything says whether all files belong to the project at root, whatever ignore files say.
func (s *Settings) Everything(root string) bool {
	return slices.ContainsFunc(s.Texts(TakeIn), func(folder string) bool { return absolute(folder) == root })
}

// WithEverything are the folders of the projects to which all files belong, with the one at root or without it.
func (s *Settings) WithEverything(root string, on bool) []string {
	folders := slices.DeleteFunc(slices.Clone(s.Texts(TakeIn)), func(folder string) bool { return absolute(folder) == root })
	if on {
		folders = append(folders, root)
	}
	return folders
}

// absolute is a folder as a person writes it.
func absolute(folder string) string {
	if rest, ok := strings.CutPrefix(folder, "~"); ok && (rest == "" || rest[0] == '/') {
		if home, err := os.UserHomeDir(); err == nil {
			folder = home + rest
		}
	}
	return filepath.Clean(folder)
}
