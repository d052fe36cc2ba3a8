package cli

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	tea "charm.land/bubbletea/v2"
	"github.com/adrg/xdg"
	"github.com/spf13/cobra"

	"rooktrail/internal/core/disk/calling"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/core/keep/lesson"
	"rooktrail/internal/core/keep/userdata"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/app"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
)

// runScreen opens the full-screen program on what the argument names.
func runScreen(cmd *cobra.Command, target, colors string) error {
	root, start, err := openTarget(target)
	if err != nil {
		return err
	}
	return showScreen(cmd, screen{root: root, start: start, colors: colors, indexes: indexFolder(), data: dataFolder()})
}

// screen says what the full-screen program shows.
type screen struct {
	root    string
	start   place.Place
	colors  string
	indexes string // the folder of indexes; "" if the index is not kept
	data    string // where trails, bookmarks and the like are kept
	walk    *walk.Walk
	refused []string // what was left out of the walk
	demo    bool     // it is the demo
	learn   bool     // a lesson is begun
	lesson  string   // its name; "" for the one in which one stopped
}

// framesASecond is how often the screen is looked at for changes: twice as often as most screens
// show anything, so that a key waits half as long.
const framesASecond = 120

// showScreen runs the full-screen program until one leaves it.
func showScreen(cmd *cobra.Command, s screen) error {
	if !isTerminal(cmd.OutOrStdout()) || !isTerminal(cmd.InOrStdin()) {
		return errors.New("the full-screen program needs a terminal for its input and output; rooktrail --help lists the commands that print")
	}
	ws := newWorkspace(s.root)
	ws.KnowTrash(filepath.Join(xdg.DataHome, "Trash"))
	know(ws, s.data)
	ctx, cancel := context.WithCancel(cmd.Context())
	defer cancel()
	own, wrongKeys := keymap.LoadOwn(keysFile())
	model, err := app.New(ctx, ws, s.start, s.colors, own)
	if err != nil {
		closeProject(ws)
		return err
	}
	file := settingsFile()
	set, problems := settings.Load(file, s.root)
	for _, p := range append(problems, wrongKeys...) {
		ws.Code.Note(p.Error())
	}
	habits, err := habit.Open(filepath.Join(dataFolder(), "habits.json"))
	if err != nil {
		ws.Code.Note(err.Error())
	}
	model.Set(set, file, keysFile(), habits)
	model.ReportTo(filepath.Join(s.data, "failures"))
	if s.walk != nil {
		model.Guide(s.walk, s.refused)
	}
	lessons, err := lesson.Open(filepath.Join(dataFolder(), "lessons.json"))
	if err != nil {
		ws.Code.Note(err.Error())
	}
	model.Learn(lessons, s.demo)
	if s.learn {
		model.Teach(s.lesson)
	}
	in, out := keyboard.New(terminal(cmd.InOrStdin())), terminal(cmd.OutOrStdout())
	if e := endingOf(ctx); e != nil {
		defer e.guard(in, out)()
	}
	program := tea.NewProgram(model, tea.WithContext(ctx), tea.WithoutSignalHandler(), tea.WithInput(in), tea.WithOutput(out), tea.WithFPS(framesASecond))
	work.ForScreen()
	beside := work.Group{Failed: func(failed *work.Panic) {
		model.Fail(failed)
		program.Quit()
	}}
	beside.Go(func() {
		if s.indexes != "" {
			ws.Code.KeepIndex(ctx, s.indexes)
		}
		if err := ws.Code.Read(ctx); err == nil { // what goes wrong is shown on the screen
			beside.Go(func() { codebase.KeepListing(ctx, ws.Code) })
			beside.Go(func() { ws.Code.KeepChecked(ctx) })
			ws.Code.Watch(ctx)
		}
	})
	beside.Go(func() {
		if err := calling.Listen(ctx, calling.Folder(), s.root, model.Called().Answer); err != nil {
			ws.Code.Note("other programs cannot call this one: " + err.Error())
		}
	})
	if more, _ := ctx.Value(moreKey{}).(func(ctx context.Context)); more != nil {
		beside.Go(func() { more(ctx) })
	}
	_, err = program.Run()
	rescued := model.Rescue()
	cancel()
	if _, ended := beside.EndWithin(endWithin); ended { // else what is under way still uses it; all it holds is on disk
		closeProject(ws)
	}
	if rescued != nil {
		return rescued
	}
	if words := model.Failure(); words != "" {
		return errors.New(words + ". What was not saved is offered the next time; please send the report")
	}
	switch {
	case errors.Is(err, tea.ErrProgramPanic):
		return errors.New("the program failed; what is printed above says where. What was not saved is offered the next time; please report it")
	case err != nil && !errors.Is(err, tea.ErrProgramKilled):
		return fmt.Errorf("running on this terminal: %w", err)
	}
	return nil
}

// closeProject lets go of what is open on disk.
func closeProject(ws *workspace.Workspace) {
	ws.Recovery().Close()
	ws.Lists.CloseTrail()
	_ = ws.Code.Close() // what it holds is on disk already
}

// openTarget finds the project, and where in it to begin, from what was named
// on the command line: nothing, a folder, or a file with or without a line and
// a column.
func openTarget(target string) (root string, start place.Place, err error) {
	if target == "" {
		root, err = project.Root(".", catalog.Set().Tops())
		return root, start, err
	}
	info, err := os.Stat(target)
	at := place.Place{Path: target}
	if err != nil {
		at = place.Split(target)
		if info, err = os.Stat(at.Path); err != nil {
			return "", start, fmt.Errorf("opening %s: %w", at.Path, project.WithoutPath(err))
		}
	}
	if info.IsDir() {
		root, err = project.CheckFolder(at.Path)
		return root, start, err
	}
	abs, err := filepath.Abs(at.Path)
	if err != nil {
		return "", start, fmt.Errorf("opening %s: %w", at.Path, err)
	}
	if real, err := filepath.EvalSymlinks(filepath.Dir(abs)); err == nil {
		abs = filepath.Join(real, filepath.Base(abs))
	}
	if root, err = project.RootAround(filepath.Dir(abs), ".", catalog.Set().Tops()); err != nil {
		return "", start, err
	}
	at.Path = project.Relative(root, abs)
	return root, at, nil
}

// letGo ends the use of a project by a command, if it opened it.
func letGo(ctx context.Context, ws *workspace.Workspace) {
	if ws != shared(ctx) {
		_ = ws.Code.Close() // all that is worth it was written
	}
}

// findRoot is the root of the project for the commands that print: the folder
// asked for, or the one around the present folder.
func findRoot(asked string) (string, error) {
	if asked != "" {
		return project.CheckFolder(asked)
	}
	return project.Root(".", catalog.Set().Tops())
}

// rootFor is findRoot, or the root of the project that is open already.
func rootFor(ctx context.Context, asked string) (string, error) {
	if ws := shared(ctx); ws != nil {
		return ws.Code.Root(), nil
	}
	return findRoot(asked)
}

// inProject writes the path of a file named on the command line as the project
// does: from the present folder if there is such a file there, else from the
// root.
func inProject(root, file string) string {
	if filepath.IsAbs(file) {
		return project.Relative(root, filepath.Clean(file))
	}
	if abs, err := filepath.Abs(file); err == nil {
		if real, err := filepath.EvalSymlinks(abs); err == nil {
			if rel := project.Relative(root, real); !strings.HasPrefix(rel, "/") {
				return rel
			}
		}
	}
	return filepath.ToSlash(filepath.Clean(file))
}

// errStoppedReading says that the program was told to end before it had read the project.
var errStoppedReading = errors.New("stopped while the project was read; the next time it goes on from there")

// openProject reads a project for a command that prints.
func openProject(ctx context.Context, root string) (*workspace.Workspace, error) {
	if ws := shared(ctx); ws != nil {
		return ws, nil
	}
	ws := newWorkspace(root)
	ws.Code.KeepIndex(ctx, indexFolder())
	says := open(ctx, ws)
	stop := showProgress(says, ws)
	err := ws.Code.Read(ctx)
	stop()
	if err == nil {
		codebase.KeepListing(ctx, ws.Code)
	} else if ctx.Err() != nil {
		err = errStoppedReading
	}
	if pr := ws.Code.Progress(); pr.Left() != "" {
		fmt.Fprintln(says, pr.Left()+"; the setting “find.take_in” takes them in")
	}
	return ws, err
}

// recallProject opens a project for one question about a position, without reading
// it if it is as it was when it was last read; a hasty one looks only at the files that it comes upon whether they are.
func recallProject(ctx context.Context, root string, hasty bool) (*workspace.Workspace, error) {
	if ws := shared(ctx); ws != nil {
		return ws, nil
	}
	ws := newWorkspace(root)
	if ws.Code.Recall(ctx, indexFolder(), hasty) {
		open(ctx, ws)
		return ws, nil
	}
	return openAnew(ctx, ws)
}

// openAnew reads a project in place of what was known of it earlier, which may be damaged.
func openAnew(ctx context.Context, before *workspace.Workspace) (*workspace.Workspace, error) {
	if before == shared(ctx) {
		return nil, errors.New("the index on disk was damaged, and is made anew; ask again")
	}
	if codebase.Damaged(before.Code) {
		if err := before.Code.ForgetIndex(); err != nil {
			return nil, err
		}
	}
	root := before.Code.Root()
	if err := before.Code.Close(); err != nil {
		return nil, err
	}
	return openProject(ctx, root)
}

// libraryFolder is where sources of libraries that lie in archives are unpacked.
func libraryFolder() string { return filepath.Join(xdg.CacheHome, "rooktrail", "library") }

// dataFolder is where all that is the user's own is kept.
func dataFolder() string { return filepath.Join(xdg.DataHome, "rooktrail") }

// newWorkspace is that of a project, with the languages of files and the folders of libraries that the user has
// set. What is wrong in the file of settings is told by the full-screen program.
func newWorkspace(root string) *workspace.Workspace {
	ws := workspace.New(root)
	ws.Code.KnowLibraries(libraryFolder())
	set, _ := settings.Load(settingsFile(), "")
	codebase.TakeIn(ws.Code, set.Everything(root))
	ws.Code.KnowFolders(set.Lists(settings.Libraries), set.Lists(settings.Builds))
	if program, err := os.Executable(); err == nil { // else no compiler is asked that needs a process of its own
		ws.Code.Compilers.Know(program, set.Words(settings.Compilers))
	}
	for _, words := range ws.Code.NameLanguages(set.Words(settings.Languages)) {
		ws.Code.Note(words)
	}
	return ws
}

// settingsFile is where the settings of the user are.
func settingsFile() string { return filepath.Join(xdg.ConfigHome, "rooktrail", "settings.toml") }

// keysFile is where the keys of the user's own are.
func keysFile() string { return filepath.Join(xdg.ConfigHome, "rooktrail", "keys.toml") }

// know tells a workspace where what is kept of its project lies.
func know(ws *workspace.Workspace, data string) {
	folder, from, err := userdata.Open(data, ws.Code.Root())
	ws.Search.KnowChoices(folder.Path(userdata.Chosen))
	ws.KnowState(folder.Path(userdata.State))
	ws.Lists.KnowSweeps(folder.Path(userdata.Sweeps))
	ws.Lists.KnowTrails(folder.Path(userdata.Trails))
	ws.Lists.KnowBookmarks(folder.Path(userdata.Bookmarks))
	ws.KnowRecovery(folder.Path(userdata.Recovery))
	ws.KnowHistory(folder.Path(userdata.History))
	ws.KnowChanges(folder.Path(userdata.Changes))
	if from != "" {
		ws.Code.Note("this project was in " + from + " before; its trails, bookmarks and sweeps are here now")
	}
	if err != nil {
		ws.Code.Note(err.Error())
	}
}

// indexFolder is where the indexes of all projects are kept.
func indexFolder() string { return filepath.Join(xdg.CacheHome, "rooktrail", "index") }
