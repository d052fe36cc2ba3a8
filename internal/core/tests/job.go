package tests

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/report"
)

// Job is a command that runs tests.
type Job struct {
	// Title says which tests.
	Title string
	// Line is the command as one would type it; Args are what is run, or else Line is, by a shell.
	Line string
	Args []string
	// Dir is the folder in which it runs, from the root of the project.
	Dir string
	// Form is that of what it prints, if its report is that; Report is otherwise where that is written: a file, or a pattern of files
	// in Dir.
	Form   report.Form
	Report string
	// Runner is what runs them, Language that of the tests.
	Runner, Language string
	// Files are those with the tests, from the root; of a folder as a whole, all with tests in it.
	Files []string
}

// Wanted says which tests are to be run: some of them, all of some files, or all of a folder.
type Wanted struct {
	Title  string
	Tests  []Test
	Files  []string
	Folder string
}

// Jobs are what runs tests: more than one if they are of several languages, or of several parts of the project. reports is a folder
// for what they write. The error says what is missing.
func (f *Finder) Jobs(ctx context.Context, w Wanted, reports string) (jobs []Job, err error) {
	files := slices.Clone(w.Files)
	for _, t := range w.Tests {
		if !slices.Contains(files, t.Path) {
			files = append(files, t.Path)
		}
	}
	if w.Folder != "" {
		files = f.Files(w.Folder)
	}
	if len(files) == 0 {
		return nil, fmt.Errorf("there are no tests in %s", w.Title)
	}
	var groups []*group
	var missing []error
	for _, file := range files {
		g, err := f.groupOf(ctx, file)
		if err != nil {
			missing = append(missing, err)
			continue
		}
		i := slices.IndexFunc(groups, func(o *group) bool {
			return o.language == g.language && o.runner.Name == g.runner.Name && o.dir == g.dir
		})
		if i < 0 {
			i = len(groups)
			groups = append(groups, g)
		}
		groups[i].files = append(groups[i].files, file)
	}
	for n, g := range groups {
		jobs = append(jobs, f.job(ctx, g, w, filepath.Join(reports, fmt.Sprintf("tests-%d.xml", n))))
	}
	if len(jobs) == 0 && len(missing) > 0 {
		return nil, missing[0]
	}
	return jobs, nil
}

// group are the files whose tests are run by one command.
type group struct {
	language *lang.Language
	runner   *lang.Runner
	own      string // the command that the user has set; "" for none
	dir      string
	files    []string
}

// groupOf finds by what, and in which folder, the tests of a file are run.
func (f *Finder) groupOf(ctx context.Context, file string) (*group, error) {
	l := f.language(file)
	if l == nil || len(l.Trying.Runners) == 0 {
		return nil, fmt.Errorf("it is not known how tests in %s are run", path.Base(file))
	}
	loaded, err := f.code.Load(ctx, file)
	if err != nil {
		return nil, err
	}
	if own := f.command(l.Name); own != "" {
		return &group{language: l, runner: &lang.Runner{Name: "the command that is set for " + l.Name}, own: own, dir: "."}, nil
	}
	var missing string
	for i := range l.Trying.Runners {
		r := &l.Trying.Runners[i]
		dir, found := f.suited(ctx, loaded, r)
		if !found {
			continue
		}
		if f.isThere(r.Program, dir) {
			return &group{language: l, runner: r, dir: dir}, nil
		}
		if missing == "" {
			missing = r.Name + ", for which " + r.Program + " has to be there"
		}
	}
	const set = "; the setting tests.commands says by which command the tests of a language are run"
	if missing != "" {
		return nil, fmt.Errorf("the tests in %s are run by %s, which it is not%s", path.Base(file), missing, set)
	}
	return nil, fmt.Errorf("nothing says how the tests in %s are run%s", path.Base(file), set)
}

// suited finds the nearest folder around a file with tests in which a runner can be run.
func (f *Finder) suited(ctx context.Context, file *codebase.File, r *lang.Runner) (dir string, found bool) {
	test := file.Text.Bytes()
	marked := false
	for dir = path.Dir(file.Path); ; dir = path.Dir(dir) {
		for _, name := range r.Marks {
			p := path.Join(dir, name)
			if !f.code.Listing().IsFile(p) {
				continue
			}
			marked = true
			mark, err := f.code.Load(ctx, p)
			if err == nil && r.Suits(test, mark.Text.Bytes()) {
				return dir, true
			}
		}
		if dir == "." || dir == "/" {
			return ".", !marked && r.Anywhere && r.Suits(test, nil)
		}
	}
}

// isThere says whether a program is.
func (f *Finder) isThere(program, dir string) bool {
	if !strings.HasPrefix(program, "./") {
		_, err := exec.LookPath(program)
		return err == nil
	}
	info, err := fs.Stat(f.code.Disk(), path.Join(dir, program))
	return err == nil && info.Mode().IsRegular()
}

// job is the command for a group.
func (f *Finder) job(ctx context.Context, g *group, w Wanted, reportFile string) Job {
	wanted := lang.TestsWanted{Report: reportFile}
	if w.Folder != "" {
		wanted.Folder = within(g.dir, w.Folder)
	} else {
		for _, file := range g.files {
			wanted.Files = append(wanted.Files, within(g.dir, file))
		}
		chosen := w.Tests
		if g.runner.ByName && len(chosen) == 0 {
			chosen = f.outermost(ctx, g.files)
		}
		for _, t := range chosen {
			if i := slices.Index(g.files, t.Path); i >= 0 {
				wanted.Tests = append(wanted.Tests, lang.TestName{File: i, Names: t.Names})
			}
		}
	}
	j := Job{Title: w.Title, Dir: g.dir, Runner: g.runner.Name, Language: g.language.Name, Files: g.files, Form: g.runner.Form, Report: g.runner.Reports}
	if g.own != "" {
		j.Line = fill(g.own, wanted)
		if strings.Contains(g.own, "{report}") {
			j.Report = reportFile
		}
		return j
	}
	j.Args = g.runner.Command(wanted)
	j.Line = quoted(j.Args)
	if j.Form == "" && j.Report == "" {
		j.Report = reportFile
	}
	return j
}

// outermost are the tests of files that stand in no others.
func (f *Finder) outermost(ctx context.Context, files []string) (all []Test) {
	for _, p := range files {
		file, err := f.code.Load(ctx, p)
		if err != nil {
			continue // it is gone
		}
		for _, t := range f.In(file) {
			if len(t.Names) == 1 {
				all = append(all, t)
			}
		}
	}
	return all
}

// within is a path from a folder that holds it, or that it holds.
func within(dir, p string) string {
	if dir == "." {
		return p
	}
	if rest, ok := strings.CutPrefix(p, dir+"/"); ok {
		return rest
	}
	return "."
}

// fill puts what is wanted into a command that the user has set.
func fill(command string, w lang.TestsWanted) string {
	var names []string
	for _, t := range w.Tests {
		names = append(names, t.Names[len(t.Names)-1])
	}
	folder := w.Folder
	if folder == "" && len(w.Files) > 0 {
		folder = path.Dir(w.Files[0])
	}
	return strings.NewReplacer("{files}", quoted(w.Files), "{names}", quoted([]string{strings.Join(names, "|")}), "{folder}", quoted([]string{folder}), "{report}", quoted([]string{w.Report})).Replace(command)
}

// quoted writes words as a shell reads them.
func quoted(words []string) string {
	out := make([]string, len(words))
	for i, w := range words {
		if w == "" || strings.ContainsAny(w, " \t\n\"'\\$`&|;<>(){}[]*?!#~^") {
			w = "'" + strings.ReplaceAll(w, "'", `'\''`) + "'"
		}
		out[i] = w
	}
	return strings.Join(out, " ")
}

// ReadReport reads what tests have said: what was printed, or the reports that were written; root is the folder of the project.
func ReadReport(root string, j Job, printed string) (*report.Report, error) {
	if j.Report == "" {
		l := report.NewLive(j.Form)
		if j.Form == "" {
			return report.Read(strings.NewReader(printed))
		}
		for line := range strings.Lines(printed) {
			l.Line(strings.TrimRight(line, "\r\n"))
		}
		return l.End(), nil
	}
	files := []string{j.Report}
	if !filepath.IsAbs(j.Report) {
		found, err := doublestar.FilepathGlob(filepath.Join(root, filepath.FromSlash(j.Dir), j.Report))
		if err != nil {
			return nil, fmt.Errorf("looking for the reports of the tests: %w", err)
		}
		files = found
	}
	all := &report.Report{Form: report.JUnit}
	for _, file := range files {
		read, err := readOne(file)
		if err != nil {
			return nil, err
		}
		all.Form = read.Form
		all.Results = append(all.Results, read.Results...)
		all.Findings = append(all.Findings, read.Findings...)
		if read.Broken != "" {
			all.Broken = filepath.Base(file) + ": " + read.Broken
		}
	}
	return all, nil
}

func readOne(file string) (*report.Report, error) {
	f, err := os.Open(file)
	if errors.Is(err, fs.ErrNotExist) {
		return &report.Report{Form: report.JUnit, Broken: "it was not written"}, nil // it ended before its tests began
	}
	if err != nil {
		return nil, fmt.Errorf("reading the report of the tests: %w", err)
	}
	defer f.Close()
	return report.Read(f)
}
