package overlook

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
)

// Measure is what a chart shows.
type Measure string

// Measures.
const (
	Time    Measure = "time"    // where time went
	Days    Measure = "days"    // on which days
	Volume  Measure = "size"    // how large folders are
	Churn   Measure = "changes" // how much of them was changed
	Who     Measure = "who"     // who has changed them
	Lengths Measure = "length"  // how long functions are
	Depths  Measure = "depth"   // how deep their blocks lie
	Callers Measure = "callers" // how many functions call something
)

// Measures are all of them.
var Measures = []Measure{Time, Days, Volume, Churn, Who, Lengths, Depths, Callers}

// Counted is what a chart is asked for.
type Counted struct {
	Measure Measure
	// Path is the file or folder that it is about; "" for the project.
	Path string
	// ByFile has one bar for each file, instead of for each folder directly below Path.
	ByFile bool
	// Tests takes in those.
	Tests bool
	// Most is how many bars there are at the most; 0 for the usual number.
	Most  int
	AsMap bool
}

const usualBars = 30

// Chart makes what is asked for. ways are the trails, for charts of those.
func (m *Maker) Chart(ctx context.Context, c Counted, ways []*trail.Trail) (*draw.Chart, error) {
	c.Path = cmp.Or(c.Path, ".")
	if c.Path != "." && !m.code.Has(c.Path) {
		return nil, fmt.Errorf("there is no file or folder %s in this project", c.Path)
	}
	t := &tally{Maker: m, ctx: ctx, asked: c, chart: &draw.Chart{Unit: "lines", Parts: []string{""}, AsMap: c.AsMap}, bars: map[string]int{}}
	var err error
	switch c.Measure {
	case Time, Days:
		err = t.time(ways)
	case Volume:
		err = t.size()
	case Churn:
		err = t.churn()
	case Who:
		err = t.who()
	case Lengths, Depths:
		err = t.functions()
	case Callers:
		err = t.callers()
	default:
		err = fmt.Errorf("there is no chart of %q; there are time, days, size, changes, who, length, depth and callers", c.Measure)
	}
	if err == nil {
		err = ctx.Err()
	}
	if err == nil && len(t.chart.Bars) == 0 {
		err = errors.New("there is nothing to count")
	}
	if err != nil {
		return nil, err
	}
	t.finish()
	return t.chart, nil
}

// tally is a chart that is being made.
type tally struct {
	*Maker
	ctx   context.Context
	asked Counted
	chart *draw.Chart
	bars  map[string]int
}

// bar is the bar of something, made if it is not there yet.
func (t *tally) bar(id string, b draw.Bar) *draw.Bar {
	at, ok := t.bars[id]
	if !ok {
		at = len(t.chart.Bars)
		t.bars[id] = at
		b.Values = make([]float64, len(t.chart.Parts))
		t.chart.Bars = append(t.chart.Bars, b)
	}
	return &t.chart.Bars[at]
}

// of is the bar that a file counts for; nil if it is not asked about.
func (t *tally) of(p string) *draw.Bar {
	if !below(p, t.asked.Path) {
		return nil
	}
	if t.asked.ByFile || p == t.asked.Path {
		return t.bar(p, draw.Bar{Name: path.Base(p), Where: path.Dir(p), Place: place.Place{Path: p, Line: 1}, Symbol: p})
	}
	rest := p
	if t.asked.Path != "." {
		rest = strings.TrimPrefix(p, t.asked.Path+"/")
	}
	first, _, deeper := strings.Cut(rest, "/")
	if !deeper {
		return t.bar("files", draw.Bar{Name: "files directly in it", Place: place.Place{Path: t.asked.Path}})
	}
	folder := path.Join(t.asked.Path, first)
	return t.bar(folder, draw.Bar{Name: first + "/", Place: place.Place{Path: folder}, Symbol: folder})
}

// finish orders the bars, the largest first, and leaves out the small ones where there are very many.
func (t *tally) finish() {
	c := t.chart
	if t.asked.Measure != Days {
		slices.SortStableFunc(c.Bars, func(a, b draw.Bar) int {
			return cmp.Or(cmp.Compare(b.Total(), a.Total()), cmp.Compare(a.Name, b.Name))
		})
	}
	most := cmp.Or(t.asked.Most, usualBars)
	if n := len(c.Bars) - most; n > 0 {
		if t.asked.Measure == Days {
			c.Bars = c.Bars[n:]
		} else {
			c.Bars = c.Bars[:most]
		}
		c.Notes = append(c.Notes, fmt.Sprintf("%d smaller ones are left out.", n))
	}
}

func (t *tally) title(words string) {
	t.chart.Title = words
	if t.asked.Path != "." {
		t.chart.Title += " in " + t.asked.Path
	}
}

// longestPause is how long one may stay at a stop; what is longer was a pause.
const longestPause = 10 * time.Minute

// visit is when one was somewhere.
type visit struct {
	stop *trail.Stop
	at   time.Time
}

// time counts how long one was where, by the times at which one came to the stops and was last there.
func (t *tally) time(ways []*trail.Trail) error {
	t.title("Where time went")
	t.chart.Unit = "minutes"
	var all []visit
	for _, w := range ways {
		for _, s := range w.All() {
			all = append(all, visit{s, s.At})
			if s.Seen.After(s.At) {
				all = append(all, visit{s, s.Seen})
			}
		}
	}
	if len(all) == 0 {
		return errors.New("the trail is empty: there is no stop on it yet")
	}
	slices.SortStableFunc(all, func(a, b visit) int { return a.at.Compare(b.at) })
	for i := range len(all) - 1 {
		v := all[i]
		long := all[i+1].at.Sub(v.at)
		if long > longestPause {
			long = 0
		}
		p := v.stop.View.Place.Path
		if path.IsAbs(p) || long <= 0 {
			continue
		}
		b := t.of(p)
		if t.asked.Measure == Days && b != nil {
			b = t.bar(v.at.Format("2006-01-02"), draw.Bar{Name: v.at.Format("Mon 2 Jan 2006"), Place: v.stop.View.Place, Symbol: v.stop.Symbol})
		}
		if b != nil {
			b.Values[0] += long.Minutes()
		}
	}
	if t.asked.Measure == Days {
		t.title("On which days time went")
		t.dropEmpty()
	}
	for i := range t.chart.Bars {
		t.chart.Bars[i].Words = duration(t.chart.Bars[i].Total())
	}
	t.chart.Notes = append(t.chart.Notes, "By when stops on the trail were come to and last left; pauses of more than 10 minutes do not count.")
	return nil
}

// dropEmpty takes out bars of nothing, such as those of folders where days are counted.
func (t *tally) dropEmpty() {
	t.chart.Bars = slices.DeleteFunc(t.chart.Bars, func(b draw.Bar) bool { return b.Total() == 0 })
}

// duration is a number of minutes in words.
func duration(minutes float64) string {
	d := time.Duration(minutes * float64(time.Minute)).Round(time.Second)
	switch {
	case d >= time.Hour:
		return fmt.Sprintf("%d h %d min", int(d.Hours()), int(d.Minutes())%60)
	case d >= time.Minute:
		return fmt.Sprintf("%d min", int(d.Minutes()))
	}
	return fmt.Sprintf("%d s", int(d.Seconds()))
}

// size counts the lines of files.
func (t *tally) size() error {
	t.title("How large it is")
	t.chart.Parts = []string{"code", "tests"}
	for f := range t.code.Listing().Files() {
		if t.ctx.Err() != nil {
			return t.ctx.Err()
		}
		l := t.code.Languages().Of(f.Path)
		if l == nil || !below(f.Path, t.asked.Path) {
			continue
		}
		n := 0
		if known := t.code.Index().Head(f.Path); known != nil {
			n = known.Lines
		}
		part := 0
		if t.code.Languages().IsTest(f.Path) {
			part = 1
		}
		t.of(f.Path).Values[part] += float64(n)
	}
	return nil
}

// churn counts lines that commits have added and taken out.
func (t *tally) churn() error {
	t.title("What was changed")
	t.chart.Parts = []string{"added", "removed"}
	commits := 0
	stopped, err := vcs.Log(t.ctx, t.code.Root(), mostCounted, true, func(e *vcs.Entry) {
		commits++
		for i, f := range e.Files {
			if t.code.Listing().IsFile(f) && t.code.Languages().Of(f) != nil {
				if b := t.of(f); b != nil && i < len(e.Added) {
					b.Values[0] += float64(max(e.Added[i], 0))
					b.Values[1] += float64(max(e.Removed[i], 0))
				}
			}
		}
	})
	t.noteCommits(commits, stopped)
	return err
}

// mostCounted is how many commits are read where lines are counted, which takes longer.
const mostCounted = 5000

func (t *tally) noteCommits(commits int, stopped bool) {
	which := "all"
	if stopped {
		which = "the last"
	}
	t.chart.Notes = append(t.chart.Notes, fmt.Sprintf("Of %s %d commits, and of files that are there now.", which, commits))
}

// who counts the commits of each author.
func (t *tally) who() error {
	t.title("Who has changed it")
	t.chart.Unit = "commits"
	commits := 0
	stopped, err := vcs.Log(t.ctx, t.code.Root(), mostCommits, false, func(e *vcs.Entry) {
		commits++
		for _, f := range e.Files {
			if below(f, t.asked.Path) {
				b := t.bar(e.Author, draw.Bar{Name: e.Author})
				if b.Where == "" {
					b.Where = "last on " + e.When.Format("2 Jan 2006")
				}
				b.Values[0]++
				return
			}
		}
	})
	t.noteCommits(commits, stopped)
	return err
}

// functions measures how long functions are, or how deep their blocks lie.
func (t *tally) functions() error {
	t.title("How long functions are")
	if t.asked.Measure == Depths {
		t.title("How deep the blocks of functions lie")
		t.chart.Unit = "blocks"
	}
	for f := range t.code.Listing().Files() {
		if t.ctx.Err() != nil {
			return t.ctx.Err()
		}
		if t.code.Languages().Of(f.Path) == nil || !below(f.Path, t.asked.Path) || !t.asked.Tests && t.code.Languages().IsTest(f.Path) {
			continue
		}
		if err := t.functionsOf(f.Path); err != nil {
			return err
		}
		t.trim()
	}
	return nil
}

// trim keeps a project of a million functions from being kept as bars.
func (t *tally) trim() {
	const enough = 4000
	if len(t.chart.Bars) < enough {
		return
	}
	slices.SortStableFunc(t.chart.Bars, func(a, b draw.Bar) int { return cmp.Compare(b.Total(), a.Total()) })
	t.chart.Bars, t.bars = t.chart.Bars[:enough/4], map[string]int{}
}

func (t *tally) functionsOf(p string) error {
	file, err := codebase.FactsOnce(t.ctx, t.code, p)
	if err != nil || file == nil {
		return t.ctx.Err() // what cannot be read has no functions
	}
	var lines []int
	for i := range file.Defs {
		d := &file.Defs[i]
		if !d.Kind.IsCallable() || d.Body == 0 || d.Kind == facts.Macro {
			continue
		}
		if lines == nil {
			doc, err := t.code.TextOnDisk(p)
			if err != nil {
				return nil // it went
			}
			lines = starts(doc.Bytes())
		}
		first, last := lineAt(lines, int(d.At.Start)), lineAt(lines, int(d.Full.End))
		n := last - lineAt(lines, int(d.Full.Start)) + 1
		if t.asked.Measure == Depths {
			n = depthOf(file, d)
		}
		name := qualified(d)
		t.bar(idOf(p, d.At.Start), draw.Bar{Name: name, Where: fmt.Sprintf("%s %d", path.Base(p), first), Place: place.Place{Path: p, Line: first}, Symbol: name}).Values[0] = float64(n)
	}
	return nil
}

// starts are where the lines of a text begin.
func starts(text []byte) []int {
	all := []int{0}
	for i, b := range text {
		if b == '\n' {
			all = append(all, i+1)
		}
	}
	return all
}

// lineAt is the line of an offset, counted from 1.
func lineAt(starts []int, offset int) int {
	i, _ := slices.BinarySearch(starts, offset+1)
	return i
}

// depthOf is how deep the blocks in a function lie in each other.
func depthOf(f *facts.File, d *facts.Def) (most int) {
	for s := range f.Scopes {
		if !d.Full.Covers(f.Scopes[s].At) || f.Scopes[s].Kind != facts.BlockScope {
			continue
		}
		n := 0
		for at := facts.ScopeID(s); at != 0 && at != d.Body; at = f.Scopes[at].Parent {
			n++
		}
		most = max(most, n)
	}
	return most
}

// mostAskedAbout is how many functions are asked about by whom they are called.
const mostAskedAbout = 400

// callers counts how many functions call each.
func (t *tally) callers() error {
	t.title("How many functions call it")
	t.chart.Unit = "functions"
	asked := 0
	for f := range t.code.Listing().Files() {
		if t.ctx.Err() != nil {
			return t.ctx.Err()
		}
		if t.code.Languages().Of(f.Path) == nil || !below(f.Path, t.asked.Path) || t.code.Languages().IsTest(f.Path) {
			continue
		}
		file, err := codebase.FactsOnce(t.ctx, t.code, f.Path)
		if err != nil || file == nil {
			continue
		}
		for i := range file.Defs {
			d := &file.Defs[i]
			if !d.Kind.IsCallable() || d.Body == 0 || file.Local(d) {
				continue
			}
			if asked++; asked > mostAskedAbout {
				t.chart.Notes = append(t.chart.Notes, fmt.Sprintf("Of the first %d functions; ask about a folder or file for others.", mostAskedAbout))
				return nil
			}
			t.callersOf(f.Path, d)
		}
	}
	return nil
}

func (t *tally) callersOf(p string, d *facts.Def) {
	n := t.guide.CountUses(t.ctx, p, int(d.At.Start)).Callers
	doc, err := t.code.TextOnDisk(p)
	if err != nil {
		return // it went
	}
	line, _ := doc.Position(int(d.At.Start))
	name := qualified(d)
	t.bar(idOf(p, d.At.Start), draw.Bar{Name: name, Where: fmt.Sprintf("%s %d", path.Base(p), line), Place: place.Place{Path: p, Line: line}, Symbol: name}).Values[0] = float64(n)
}

// qualified is the name of a definition, with that of its type.
func qualified(d *facts.Def) string {
	if d.Container != "" {
		return d.Container + "." + d.Name
	}
	return d.Name
}
