package cli

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"rooktrail/internal/ui/app"
	"rooktrail/internal/ui/keymap"
)

func newKeys() *cobra.Command {
	var asJSON, markdown bool
	cmd := &cobra.Command{
		Use:   "keys [WORDS]",
		Short: "Print the keys of the full-screen program",
		Long: `Prints every key of the full-screen program, by what it belongs to; with words
only those that they name, as the page of keys (?) finds them.`,
		Example: "  rooktrail keys\n  rooktrail keys split\n  rooktrail keys --markdown > keys.md",
		RunE: func(cmd *cobra.Command, args []string) error {
			keys := app.Keys().WithKeys()
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
	cmd.MarkFlagsMutuallyExclusive("json", "markdown")
	return cmd
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
