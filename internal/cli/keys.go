package cli

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/app"
	"rooktrail/internal/ui/keymap"
)

func newKeys() *cobra.Command {
	var asJSON, markdown, delivered bool
	var take string
	cmd := &cobra.Command{
		Use:   "keys [WORDS]",
		Short: "Print the keys of the full-screen program",
		Long: `Prints every key of the full-screen program, by what it belongs to; with words
only those that they name, as the page of keys (?) finds them. They are those that
hold for you; --delivered prints them as they are without keys.toml.

--take adds what is in another file of keys to yours, such as one that somebody
else has given you; of keys of the same command the later ones hold.`,
		Example: "  rooktrail keys\n  rooktrail keys split\n  rooktrail keys --markdown > keys.md",
		RunE: func(cmd *cobra.Command, args []string) error {
			if take != "" {
				return takeKeys(cmd.OutOrStdout(), take)
			}
			own, problems := keymap.LoadOwn(keysFile())
			if delivered {
				own, problems = keymap.Owned{}, nil
			}
			for _, p := range problems {
				fmt.Fprintln(cmd.ErrOrStderr(), p.Error())
			}
			keys := app.Keys(own).WithKeys()
			if words := strings.Join(args, " "); words != "" {
				if keys = keys.Finder().Named(words); len(keys) == 0 {
					return errNothing
				}
			}
			switch out := cmd.OutOrStdout(); {
			case asJSON:
				return printKeysAsJSON(out, keys)
			case markdown:
				return printKeysAsMarkdown(out, keys)
			default:
				return printKeys(out, keys)
			}
		},
	}
	cmd.Flags().BoolVar(&asJSON, "json", false, "print one object a line")
	cmd.Flags().BoolVar(&markdown, "markdown", false, "print tables in Markdown")
	cmd.Flags().BoolVar(&delivered, "delivered", false, "print the keys as they are delivered")
	cmd.Flags().StringVar(&take, "take", "", "add the keys of `FILE` to your own")
	cmd.MarkFlagsMutuallyExclusive("json", "markdown", "take")
	return cmd
}

// takeKeys adds the keys of another file to the user's own. A file in which something is wrong is not taken.
func takeKeys(out io.Writer, from string) error {
	data, err := os.ReadFile(from)
	if err != nil {
		return fmt.Errorf("taking keys: %w", err)
	}
	if _, problems := keymap.LoadOwn(from); len(problems) > 0 {
		return fmt.Errorf("taking keys: %w; nothing was taken", problems[0])
	}
	entries, _ := settings.Entries(data)
	for _, e := range entries {
		if err := settings.PutAt(keysFile(), e.Key, e.Value); err != nil {
			return fmt.Errorf("taking keys: %w", err)
		}
	}
	_, err = fmt.Fprintf(out, "%d taken into %s\n", len(entries), keysFile())
	return err
}

func printKeys(out io.Writer, keys keymap.Map) error {
	w := tabwriter.NewWriter(out, 0, 8, 3, ' ', 0)
	group := ""
	for _, b := range keys {
		if b.Group != group {
			if group != "" {
				fmt.Fprintln(w)
			}
			group = b.Group
			fmt.Fprintln(w, group)
		}
		fmt.Fprintf(w, "  %s\t%s\n", strings.Join(labels(b), ", "), b.Title)
	}
	return w.Flush()
}

func printKeysAsMarkdown(out io.Writer, keys keymap.Map) error {
	var b strings.Builder
	group := ""
	for _, k := range keys {
		if k.Group != group {
			group = k.Group
			b.WriteString("\n## " + group + "\n\n| key | does |\n|---|---|\n")
		}
		b.WriteString("| " + strings.ReplaceAll(strings.Join(labels(k), ", "), "|", `\|`) + " | " + strings.ReplaceAll(k.Title, "|", `\|`) + " |\n")
	}
	_, err := io.WriteString(out, strings.TrimPrefix(b.String(), "\n"))
	return err
}

// printedKey is a key as it is printed.
type printedKey struct {
	Keys   []string `json:"keys"`
	Does   string   `json:"does"`
	Group  string   `json:"group"`
	Action string   `json:"action,omitempty"`
	Name   string   `json:"name,omitempty"`
	Also   []string `json:"also,omitempty"`
}

func printKeysAsJSON(out io.Writer, keys keymap.Map) error {
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	for _, b := range keys {
		n := b.Action.Naming()
		if err := enc.Encode(printedKey{labels(b), b.Title, b.Group, string(b.Action), n.Name, n.Phrases}); err != nil {
			return err
		}
	}
	return nil
}

func labels(b keymap.Binding) (all []string) {
	for _, k := range b.Keys {
		all = append(all, keymap.Label(k))
	}
	return all
}
