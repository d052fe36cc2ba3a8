// Command words tells how well the commands and settings are found by what people call them: it prints
// those of a list, made before the words of the program were looked at, that do not find what they mean
// among the first three.
//
//	go run ./scripts/words [-list FILE]
package main

import (
	"flag"
	"fmt"
	"log"
	"os"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/know/lexicon"
	"rooktrail/internal/ui/keymap"
)

// first is among how many answers the right one is to be.
const first = 3

// leastFound is what share of the list is to be found.
const leastFound = 0.95

func main() {
	list := flag.String("list", "scripts/words/words.txt", "what people say = the command or setting they mean")
	flag.Parse()
	data, err := os.ReadFile(*list)
	if err != nil {
		log.Fatal(err)
	}
	commands, names := offers()
	all, found := 0, 0
	for line := range strings.Lines(string(data)) {
		said, meant, ok := strings.Cut(strings.TrimSpace(line), " = ")
		if !ok || strings.HasPrefix(said, "#") {
			continue
		}
		all++
		hits := commands.Find(said)
		var got []string
		for _, h := range hits[:min(first, len(hits))] {
			got = append(got, names[h.Index])
		}
		if slices.ContainsFunc(strings.Split(meant, " or "), func(m string) bool { return slices.Contains(got, m) }) {
			found++
			continue
		}
		fmt.Printf("%-34s means %-22s and finds %s\n", said, meant, strings.Join(got, ", "))
	}
	share := float64(found) / float64(all)
	fmt.Printf("%d of %d among the first %d: %.1f %%\n", found, all, first, 100*share)
	if share < leastFound {
		os.Exit(1)
	}
}

// offers are what the scout knows of commands and settings, with the names they have in the list.
func offers() (*lexicon.Lexicon, []string) {
	var entries []lexicon.Entry
	var names []string
	for _, b := range keymap.Default().Commands() {
		n := b.Action.Naming()
		entries, names = append(entries, lexicon.Entry{Title: n.Name, Phrases: append(n.Phrases, b.Title)}), append(names, string(b.Action))
	}
	for _, s := range settings.All() {
		entries, names = append(entries, lexicon.Entry{Title: s.Name, Phrases: s.Phrases}), append(names, s.Key)
	}
	return lexicon.New(entries), names
}
