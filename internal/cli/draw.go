package cli

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/core/workspace"
)

// drawing is the command draw with its flags.
type drawing struct {
	root, as, out, to, direction, group, size, theme, name string
	asked                                                  overlook.Asked
	counted                                                overlook.Counted
	format                                                 draw.Format
}

func newDraw() *cobra.Command {
	d := &drawing{}
	cmd := &cobra.Command{
		Use:   "draw WHAT [POS]",
		Short: "Draw the trail, a family, calls, imports … as SVG, PDF or text",
		Long: `Draws one of these, and writes it to standard output or to the file of -o:

  trail            the stops of the trail, in the order of time
  family POS       what the type or method at a position is derived from, and what is from it
  calls POS        what the function there calls; --direction in: what calls it; --to POS: every
                   way by which it reaches another one
  imports [PATH]   what folders and files import from each other, on floors, with circles marked;
                   --since REV marks what is new since a commit
  values POS       where a value comes from, and where it goes
  together [PATH]  which files are often changed in the same commit

or counts one of these, as bars or with --map as areas:

  time [PATH]      where time went, by the trails        days     on which days
  size [PATH]      how large folders are                 changes  how much of them was changed
  who [PATH]       who has changed them                  length   how long functions are
  depth [PATH]     how deep their blocks lie             callers  how many functions call each

POS is FILE:LINE:COL. What is left out is said below the drawing. The format follows from
--as, or from the name of the file: svg, pdf, text, markdown, dot or json.`,
		Example: `  rooktrail draw calls dispatch/roster.go:42:18 --depth 3 -o assign.svg
  rooktrail draw calls cmd/main.go:9:6 --to store/store.go:30:17
  rooktrail draw imports --since main... --as pdf -o imports.pdf
  rooktrail draw size dispatch --map`,
		Args: cobra.RangeArgs(1, 2),
		RunE: func(cmd *cobra.Command, args []string) error { return d.run(cmd, args) },
	}
	f := cmd.Flags()
	f.StringVar(&d.root, "root", "", "folder of the project (default: the one that holds the present folder)")
	f.StringVar(&d.as, "as", "", "how to write it: svg, pdf, text, markdown, dot or json (default: by the name of the file, else text)")
	f.StringVarP(&d.out, "output", "o", "", "write it to this `FILE`")
	f.StringVar(&d.to, "to", "", "of calls: only the ways to the function at this `POS`")
	f.StringVar(&d.direction, "direction", "out", "of calls and imports: out, in or both")
	f.IntVar(&d.asked.Depth, "depth", 0, "how many steps deep (default: that of the drawing)")
	f.StringVar(&d.group, "group", "", "what stands together: file, folder or day")
	f.StringVar(&d.size, "size", "medium", "how much stands in a box: small, medium or large")
	f.StringVar(&d.theme, "theme", "light", "colours of SVG and PDF: light or dark")
	f.StringVar(&d.name, "name", "", "name of the trail (default: the one walked last)")
	f.BoolVar(&d.asked.Tests, "tests", false, "take in tests")
	f.BoolVar(&d.asked.Libraries, "libraries", false, "take in libraries")
	f.StringArrayVar(&d.asked.Without, "without", nil, "leave out this `FOLDER`; can be given several times")
	f.StringVar(&d.asked.Since, "since", "", "of imports: mark what is new since this `REV`")
	f.IntVar(&d.asked.Most, "most", 0, "at most so many boxes or bars")
	f.BoolVar(&d.counted.AsMap, "map", false, "count as areas instead of bars")
	f.BoolVar(&d.counted.ByFile, "files", false, "count each file, instead of each folder")
	return cmd
}

// choice is one of some words that a flag may be, by its number.
func choice(flag, word string, words ...string) (int, error) {
	if i := slices.Index(words, word); i >= 0 {
		return i, nil
	}
	return 0, fmt.Errorf("--%s=%s: write %s or %s", flag, word, strings.Join(words[:len(words)-1], ", "), words[len(words)-1])
}

func (d *drawing) run(cmd *cobra.Command, args []string) error {
	ctx := cmd.Context()
	size, err := d.check()
	if err != nil {
		return err
	}
	theme := &draw.Light
	if n, err := choice("theme", d.theme, "light", "dark"); err != nil {
		return err
	} else if n == 1 {
		theme = &draw.Dark
	}
	root, err := findRoot(d.root)
	if err != nil {
		return err
	}
	ws, err := openProject(ctx, root)
	if err != nil {
		return err
	}
	know(ws, dataFolder())
	position := ""
	if len(args) > 1 {
		position = args[1]
	}
	made, err := d.make(ctx, ws, args[0], position, size)
	if err != nil {
		return err
	}
	return d.write(cmd.OutOrStdout(), made, theme, root)
}

// check reads the flags that are words.
func (d *drawing) check() (size draw.Size, err error) {
	direction, err := choice("direction", d.direction, "out", "in", "both")
	if err != nil {
		return 0, err
	}
	group, err := choice("group", d.group, "", "file", "folder", "day")
	if err != nil {
		return 0, err
	}
	s, err := choice("size", d.size, "small", "medium", "large")
	if err != nil {
		return 0, err
	}
	d.asked.Direction, d.asked.Grouping = overlook.Direction(direction), overlook.Grouping(group)
	d.format = draw.Text
	if name := d.as; name != "" || filepath.Ext(d.out) != "" {
		if name == "" {
			name = filepath.Ext(d.out)
		}
		if d.format, err = draw.FormatOf(name); err != nil {
			return 0, err
		}
	}
	return draw.Size(s), nil
}

// make makes the drawing or chart of a name.
func (d *drawing) make(ctx context.Context, ws *workspace.Workspace, what, position string, size draw.Size) (draw.Drawing, error) {
	if slices.Contains(overlook.Measures, overlook.Measure(what)) {
		return d.count(ctx, ws, what, position)
	}
	if d.asked.View = overlook.View(what); !slices.Contains(overlook.Views, d.asked.View) {
		return nil, fmt.Errorf("there is no drawing and no chart called %q; rooktrail draw --help names them", what)
	}
	var way *trail.Trail
	var err error
	switch d.asked.View {
	case overlook.Trail:
		if way, err = findTrail(ws, d.name); err != nil {
			return nil, err
		}
	case overlook.Imports, overlook.Together:
		if position != "" {
			d.asked.Path = filepath.ToSlash(filepath.Clean(inProject(ws.Code.Root(), position)))
		}
	default:
		if position == "" {
			return nil, fmt.Errorf("of what? Write rooktrail draw %s FILE:LINE:COL", what)
		}
		if d.asked.Path, d.asked.Offset, err = positionOf(ctx, ws, position); err != nil {
			return nil, err
		}
		if err := ws.Code.CheckAround(ctx, d.asked.Path); err != nil {
			return nil, err
		}
	}
	if d.to != "" {
		to := &overlook.Spot{}
		if to.Path, to.Offset, err = positionOf(ctx, ws, d.to); err != nil {
			return nil, err
		}
		d.asked.To = to
	}
	scene, err := ws.Overlook.Scene(ctx, d.asked, way)
	if err != nil {
		return nil, fmt.Errorf("drawing %s: %w", what, err)
	}
	return draw.Lay(scene, size), nil
}

func (d *drawing) count(ctx context.Context, ws *workspace.Workspace, what, position string) (draw.Drawing, error) {
	d.counted.Measure, d.counted.Tests, d.counted.Most = overlook.Measure(what), d.asked.Tests, d.asked.Most
	if position != "" {
		d.counted.Path = filepath.ToSlash(filepath.Clean(inProject(ws.Code.Root(), position)))
	}
	var ways []*trail.Trail
	if d.counted.Measure == overlook.Time || d.counted.Measure == overlook.Days {
		all, err := ws.Lists.Trails().List()
		if err != nil {
			return nil, err
		}
		for _, a := range all {
			if d.name != "" && trail.TitleOf(a.Name, a.Made) != d.name || a.Err != nil {
				continue
			}
			k, err := ws.Lists.Trails().Look(a.ID)
			if err != nil {
				return nil, err
			}
			ways = append(ways, &k.Trail)
		}
	}
	chart, err := ws.Overlook.Chart(ctx, d.counted, ways)
	if err != nil {
		return nil, fmt.Errorf("counting %s: %w", what, err)
	}
	return chart, nil
}

// write writes what was drawn to a file, whole or not at all, or to standard output.
func (d *drawing) write(out io.Writer, made draw.Drawing, theme *draw.Theme, root string) error {
	if d.out == "" {
		return made.Write(out, d.format, theme, draw.PlaceLinks(fromTo(".", root)))
	}
	var b bytes.Buffer
	if err := made.Write(&b, d.format, theme, draw.PlaceLinks(fromTo(filepath.Dir(d.out), root))); err != nil {
		return err
	}
	write := atomicfile.Write
	if info, err := os.Stat(d.out); err == nil && !info.Mode().IsRegular() {
		write = os.WriteFile // a pipe or device stays what it is
	}
	if err := write(d.out, b.Bytes(), 0o644); err != nil {
		return fmt.Errorf("writing the drawing: %w", err)
	}
	return nil
}

// fromTo is the way from one folder to another, as in links; "" if there is none.
func fromTo(from, to string) string {
	abs, err := filepath.Abs(from)
	if err != nil {
		return ""
	}
	way, err := filepath.Rel(abs, to)
	if err != nil {
		return ""
	}
	return filepath.ToSlash(way)
}
