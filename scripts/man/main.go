// Command man writes the manual pages of all commands, from the same words as --help, and the completions of shells:
//
//	go run ./scripts/man DIR
//
// makes DIR/man/man1/rooktrail*.1, DIR/bash/rooktrail, DIR/zsh/_rooktrail and DIR/fish/rooktrail.fish.
package main

import (
	"log"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra/doc"

	"rooktrail/internal/cli"
)

func main() {
	log.SetFlags(0)
	if len(os.Args) != 2 {
		log.Fatal("usage: man DIR")
	}
	if err := write(os.Args[1]); err != nil {
		log.Fatal(err)
	}
}

func write(folder string) error {
	for _, sub := range []string{"man/man1", "bash", "zsh", "fish"} {
		if err := os.MkdirAll(filepath.Join(folder, sub), 0o755); err != nil {
			return err
		}
	}
	all := cli.Commands()
	all.DisableAutoGenTag = true // or they would differ from day to day
	for _, cmd := range append(all.Commands(), all) {
		cmd.Long = blocks(cmd.Long)
	}
	header := &doc.GenManHeader{Title: "ROOKTRAIL", Section: "1", Source: "Rook Trail " + cli.Version, Manual: "Rook Trail"} // the date is that of SOURCE_DATE_EPOCH, or today
	if err := doc.GenManTree(all, header, filepath.Join(folder, "man", "man1")); err != nil {
		return err
	}
	if err := all.GenBashCompletionFileV2(filepath.Join(folder, "bash", "rooktrail"), true); err != nil {
		return err
	}
	if err := all.GenZshCompletionFile(filepath.Join(folder, "zsh", "_rooktrail")); err != nil {
		return err
	}
	return all.GenFishCompletionFile(filepath.Join(folder, "fish", "rooktrail.fish"), true)
}

// blocks has what is indented by two columns, as people read it, stand by itself and as it is, as it does for Markdown with four.
func blocks(words string) string {
	var b strings.Builder
	within := false
	for line := range strings.Lines(words) {
		indented := strings.HasPrefix(line, "  ")
		if indented != within {
			b.WriteString("\n")
		}
		if within = indented; indented {
			b.WriteString("  ")
		}
		b.WriteString(line)
	}
	return b.String()
}
