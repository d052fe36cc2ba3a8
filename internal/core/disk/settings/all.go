package settings

import (
	"fmt"
	"strings"
	"sync"

	"github.com/bmatcuk/doublestar/v4"
)

// The settings, by their keys in the file.
const (
	Palette     = "look.palette"
	Colors      = "look.colors"
	LineNumbers = "look.line_numbers"
	Wrap        = "look.wrap"
	TabWidth    = "look.tab_width"
	Margin      = "look.margin"
	Signpost    = "look.signpost"
	Strip       = "look.strip"
	Times       = "look.times"
	TrailDepth  = "look.trail_depth"
	Title       = "look.title"
	Progress    = "look.progress"
	Mouse       = "look.mouse"
	Reader      = "look.reader"
	FormatGo    = "write.format_go"
	Complete    = "write.complete"
	Begin       = "write.begin"
	Tips        = "learn.tips"
	LeaveOut    = "find.leave_out"
	TakeIn      = "find.take_in"
	Problems    = "problems.leave_out"
	Formatters  = "formatters"
	Languages   = "languages"
	Libraries   = "libraries"
	Compilers   = "compilers"
	Builds      = "builds"
	Tests       = "tests.commands"
)

// All are the settings, in the order of their page.
func All() []Setting { return all() }

var all = sync.OnceValue(func() []Setting {
	return []Setting{
		{Key: Palette, Name: "palette", Does: "The colours: peat is dark, chalk is light, clear has more contrast, slate (dark) and sand (light) are for those to whom red and green look alike, sixteen uses the terminal's own colours, plain none; auto takes what suits the terminal.",
			Phrases: words("theme, colours, color scheme, dark mode, light mode, high contrast, appearance, skin, colour blind, color blindness, red green"), Kind: Choice, Default: "auto", Values: []string{"auto", "peat", "chalk", "clear", "slate", "sand", "sixteen", "plain"}},
		{Key: Colors, Name: "colours of your own", Does: "Colours that are other than those of the palette, by what they say: text = \"#d6dacf\", or a number of the 256 of terminals.",
			Phrases: words("own palette, custom colours, syntax colours, color of comments, change a colour"), Kind: Words, Default: map[string]string{}, Check: checkColors},
		{Key: LineNumbers, Name: "line numbers", Does: "Whether lines are numbered: from the beginning of the file, from the line of the caret, or not at all.",
			Phrases: words("relative line numbers, hide line numbers, show line numbers, gutter, numbers"), Kind: Choice, Default: "absolute", Values: []string{"absolute", "relative", "none"}},
		{Key: Wrap, Name: "wrap long lines", Does: "Whether lines that are wider than the screen go on in the next row, or off it to the right.",
			Phrases: words("word wrap, line wrap, soft wrap, wrap text, break long lines, long lines"), Kind: Switch, Default: false},
		{Key: TabWidth, Name: "tab width", Does: "How many columns lie between two tab stops.", Phrases: words("tab size, width of tabs, tab stops, indentation width, indent size"), Kind: Number, Default: 4, Least: 1, Most: 16, Shared: true},
		{Key: Margin, Name: "margin above and below the caret", Does: "How many lines stay in sight above and below the caret.", Phrases: words("scroll margin, scroll offset, margins, lines around the caret, keep the caret centred"), Kind: Number, Default: 3, Least: 0, Most: 40},
		{Key: Signpost, Name: "signpost", Does: "How the signpost is shown in a project that is opened for the first time: as a column, as a narrow one, as one line above the strip.",
			Phrases: words("right column, info panel, sidebar, side column"), Kind: Choice, Default: "wide", Values: []string{"wide", "narrow", "line"}},
		{Key: Strip, Name: "strip", Does: "Whether the trail is drawn at the foot of the screen.", Phrases: words("status line, bottom line, trail at the bottom, history at the bottom, hide the strip"), Kind: Switch, Default: true},
		{Key: TrailDepth, Name: "depth of the trail", Does: "About how many stops of a long trail are shown, those where one was last; all of them are kept.", Phrases: words("trail length, history size, history length, how many stops, number of stops"), Kind: Number, Default: 2000, Least: 50, Most: 100000},
		{Key: Times, Name: "times", Does: "How times are written: by a clock of 24 or of 12 hours, as how long ago it was, or by the international standard.", Phrases: words("time format, date format, clock, 24 hours, 12 hours, am pm, relative times, ago"), Kind: Choice, Default: "24", Values: []string{"24", "12", "ago", "iso"}},
		{Key: Title, Name: "title of the terminal", Does: "Whether the window of the terminal is called after the project and the file.", Phrases: words("window title, tab title, terminal title"), Kind: Switch, Default: true},
		{Key: Progress, Name: "progress in the taskbar", Does: "Whether the terminal shows in its taskbar or tab how far the reading of a project is, if it can.", Phrases: words("taskbar, progress bar, terminal progress"), Kind: Switch, Default: false},
		{Key: Mouse, Name: "mouse", Does: "Whether the mouse is listened to: a click puts the caret, a second one follows the name, the wheel scrolls. auto: on, but not within a program that divides the terminal and has the mouse itself. With Shift the terminal selects text as ever.",
			Phrases: words("click, mouse support, wheel, scroll wheel, pointer, trackpad"), Kind: Choice, Default: "off", Values: []string{"off", "auto", "on"}},
		{Key: Reader, Name: "for screen readers", Does: "Whether the screen is in words, one thing at a time, with the cursor on it, and nothing drawn.", Phrases: words("screen reader, accessibility, blind, speech, braille, read aloud, accessible"), Kind: Switch, Default: false},
		{Key: FormatGo, Name: "format Go code", Does: "Whether Go code is put into its usual form when it is saved.", Phrases: words("format on save, formatting, prettify"), Kind: Switch, Default: true, Shared: true},
		{Key: Complete, Name: "complete while typing", Does: "Whether names are offered while one types them; without, only when one asks.", Phrases: words("autocomplete, completion, suggestions, suggest while typing"), Kind: Switch, Default: true},
		{Key: Begin, Name: "stance to begin in", Does: "Whether the program begins in roam, where letters are keys, or in write, where they are typed.", Phrases: words("begin in write, start in insert mode, default mode, stances, always write"), Kind: Choice, Default: "roam", Values: []string{"roam", "write"}},
		{Key: Tips, Name: "tips", Does: "Whether a key is shown, seldom and once, that would have done at once what was done by several.", Phrases: words("hints, show hints, teach me, coach, no more tips, stop tips, did you know"), Kind: Switch, Default: true},
		{Key: LeaveOut, Name: "left out of the scout", Does: "Patterns of paths that the scout does not show: [\"*.min.js\", \"generated/\"]; with is:all in what one types it does.", Phrases: words("exclude files, ignore files, hide files from search, ignored folders, exclude folders"), Kind: Texts, Default: []string{}, Shared: true, Check: checkPatterns},
		{Key: TakeIn, Name: "projects in which nothing is left out", Does: "Folders of projects to which all files belong, whatever the ignore files there say: [\"~/src/tarnwell\"].", Phrases: words("ignored files, show ignored files, include ignored, gitignore, no files found, empty project, missing files, heed no ignore files"), Kind: Texts, Default: []string{}},
		{Key: Problems, Name: "problems left out", Does: "Kinds of problems that are not told: [\"spare\", \"unused\"]. The kinds are syntax, types, name, import, analysis, spare (an import that nothing uses) and unused.",
			Phrases: words("hide problems, turn off errors, disable warnings, no diagnostics, lint, ignore warnings, unused imports"), Kind: Texts, Default: []string{}, Shared: true},
		{Key: Formatters, Name: "formatters", Does: "Commands that put files into their usual form when they are saved, by the endings of their names: \".py\" = [\"tidy-python\", \"-\"].", Phrases: words("format on save, external formatter, formatting command"), Kind: Commands, Default: map[string][]string{}, Check: checkEndings},
		{Key: Languages, Name: "languages by file name", Does: "In what language files are, by patterns of their names: \"*.inc\" = \"PHP\". It counts from the next start on.", Phrases: words("file associations, file types, file extension language, treat file as, associate extension, syntax for extension"), Kind: Words, Default: map[string]string{}},
		{Key: Libraries, Name: "where libraries lie", Does: "Folders in which libraries lie that are not where they usually are, by languages: Python = [\"~/env/lib/python3.12/site-packages\"]. It counts from the next start on; docs/languages.md says what each language looks for there.", Phrases: words("include path, library path, python path, sdk location, java home, site packages, sysroot, dependencies folder"), Kind: Commands, Default: map[string][]string{}},
		{Key: Compilers, Name: "compilers that are asked", Does: "Where the library of a compiler lies that says what names mean, by languages: C = \"/usr/lib/llvm-18/lib/libclang.so.1\"; none asks none. Where nothing is said it is looked for. It counts from the next start on.", Phrases: words("libclang path, clang path, exact answers, compiler path, no compiler, c++ compiler"), Kind: Words, Default: map[string]string{}},
		{Key: Builds, Name: "build that counts", Does: "Which build counts where several say how files are compiled, by languages: C = [\"out/Release\", \"-DNDEBUG\"], its folder, and words that the command has which is meant where a file is compiled in several ways. It counts from the next start on.", Phrases: words("compile_commands, compilation database, build folder, build directory, which build, debug or release"), Kind: Commands, Default: map[string][]string{}},
		{Key: Tests, Name: "how tests are run", Does: "Command lines that run tests, by languages: Java = \"./run-tests {files} --only {names} --xml {report}\". {files}, {names} and {folder} say which; with {report} the results are read from that file (JUnit XML, TAP), else from what is printed.", Phrases: words("test command, test runner, pytest path, how to run tests, custom test command"), Kind: Words, Default: map[string]string{}},
	}
})

func words(list string) []string { return strings.Split(list, ", ") }

func cutKey(key string) (table, name string, inTable bool) {
	if table, name, inTable = strings.Cut(key, "."); inTable {
		return table, name, true
	}
	return "", key, false
}

func checkEndings(value any) error {
	for ending := range value.(map[string][]string) {
		if !strings.HasPrefix(ending, ".") {
			return fmt.Errorf("%q is no ending such as \".py\"", ending)
		}
	}
	return nil
}

func checkPatterns(value any) error {
	for _, pattern := range value.([]string) {
		if !doublestar.ValidatePattern(pattern) {
			return fmt.Errorf("%q is no pattern such as \"*.min.js\" or \"generated/\"", pattern)
		}
	}
	return nil
}

// checkColors looks at colours only; which roles there are, the palette knows.
func checkColors(value any) error {
	for role, color := range value.(map[string]string) {
		if !isColor(color) {
			return fmt.Errorf("%s: %q is no colour such as \"#d6dacf\" or \"179\"", role, color)
		}
	}
	return nil
}

func isColor(s string) bool {
	if digits, ok := strings.CutPrefix(s, "#"); ok {
		return len(digits) == 6 && strings.Trim(strings.ToLower(digits), "0123456789abcdef") == ""
	}
	var n int
	_, err := fmt.Sscanf(s, "%d", &n)
	return err == nil && n >= 0 && n < 256 && strings.Trim(s, "0123456789") == ""
}
