package cli

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
)

// printed is one answer: the object for --json, and the place and text of its
// line.
type printed struct {
	object any
	line   string
}

// question is a command that asks about the name at a position.
type question struct {
	name, short, long, example string
	// near says that few files are looked into to answer it.
	near bool
	// flags adds those of its own.
	flags func(cmd *cobra.Command)
	// file says that it answers for a whole file, too.
	file func(ctx context.Context, ws *workspace.Workspace, path string) []printed
	ask  func(ctx context.Context, ws *workspace.Workspace, path string, offset int) []printed
	// left counts the answers that are only possible and were left out; nil if there are none such.
	left *int
}

// unsureFlag is the one with which answers are printed that have the name and could be meant.
const unsureFlag = "unsure"

// placeOf prints an answer with the object for --json.
func placeOf(a *answer.Answer, object any) printed {
	return printed{object, fmt.Sprintf("%s:%d:%d: %s", a.Path, a.Line, a.Col, a.Text)}
}

// definitions asks a question that is answered with definitions.
func definitions(ask func() answer.Question) func(context.Context, *workspace.Workspace, string, int) []printed {
	return func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
		q := ask()
		q.Path, q.Offset = path, offset
		ws.Answers.Ask(ctx, q, func(some []answer.Answer) bool {
			for i := range some {
				all = append(all, placeOf(&some[i], resultOf(&some[i])))
			}
			return true
		})
		return all
	}
}

// along is a question about one way.
func along(way answer.Way) func() answer.Question {
	return func() answer.Question { return answer.Question{Way: way} }
}

// questions are the commands that ask about the name at a position.
func questions() []*cobra.Command {
	var commands []*cobra.Command
	for _, q := range []*question{definition(), typeDefinition(), implementations(), references(), supertypes(), subtypes(), calls(), values(), tests(), imports(), describe()} {
		commands = append(commands, q.command())
	}
	return commands
}

func definition() *question {
	return &question{
		name:  "definition",
		near:  true,
		short: "Print where the name at FILE:LINE:COL is defined",
		long: `Prints where the name at a position is defined, the best answer first; where it is
declared more than once, all of these. On a path, an import or an include it is
that file.`,
		example: `  rooktrail definition dispatch/roster.go:42:18
  rooktrail definition --json --root ~/src/tarnwell dispatch/roster.go:42:18
  rooktrail definition --batch < positions.txt`,
		ask: definitions(along(answer.ToDefinition)),
	}
}

func typeDefinition() *question {
	return &question{
		name:    "type-definition",
		near:    true,
		short:   "Print where the type of the value at FILE:LINE:COL is defined",
		long:    "Prints where the type of the value at a position is defined: of a function, the type\nof what it gives; of a list or a map, that of what it holds.",
		example: "  rooktrail type-definition dispatch/roster.go:43:5",
		ask:     definitions(along(answer.ToType)),
	}
}

// belowResult is what implements something as it is printed in JSON.
type belowResult struct {
	result
	Possible bool `json:"possible,omitempty"`
}

func implementations() *question {
	var unsure bool
	left := 0
	return &question{
		name:    "implementations",
		short:   "Print what implements the type or method at FILE:LINE:COL",
		long:    "Prints the types that implement an interface or extend a class, however many steps\naway, or the methods that implement or override a method. What may be among them, but\nis derived from something that was not resolved, is left out, and counted on standard\nerror; --unsure prints it, too, last, with \"possible\" true.",
		example: "  rooktrail implementations dispatch/assign.go:12:6",
		left:    &left,
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&unsure, unsureFlag, false, "also what may be among them, but is derived from something that was not resolved")
		},
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
			_, found := ws.Answers.All(ctx, answer.Question{Way: answer.ToImplementations, Path: path, Offset: offset})
			found = proven(found, unsure, &left)
			for i := range found {
				all = append(all, placeOf(&found[i], belowResult{resultOf(&found[i]), found[i].Possible}))
			}
			return all
		},
	}
}

// hierarchy is a question about types above or below.
func hierarchy(name, short, long, example string, way answer.Way) *question {
	all := false
	return &question{
		name: name, short: short, long: long, example: example,
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&all, "all", false, "not only those one step away")
		},
		ask: definitions(func() answer.Question { return answer.Question{Way: way, Level: resolve.Level(all)} }),
	}
}

func supertypes() *question {
	return hierarchy("supertypes", "Print what the type or method at FILE:LINE:COL is derived from",
		"Prints the types that a type extends, embeds or implements, or the method that a\nmethod overrides or implements.",
		"  rooktrail supertypes --all gateway/Radio.java:9:14", answer.ToSupers)
}

func subtypes() *question {
	return hierarchy("subtypes", "Print what is derived from the type or method at FILE:LINE:COL",
		"Prints the types, interfaces among them, that extend or implement a type, or the\nmethods that override or implement a method.",
		"  rooktrail subtypes --all gateway/Device.java:7:23", answer.ToSubs)
}

// referenceResult is a reference as it is printed in JSON. Kind and Container
// are those of the function or type it stands in, whose name is In.
type referenceResult struct {
	result
	Access   string `json:"access"`
	In       string `json:"in"`
	Possible bool   `json:"possible,omitempty"`
}

func referenceOf(r *answer.Answer) referenceResult {
	return referenceResult{result{inFile(r.Path), r.Line, r.Col, r.Name, r.In.Kind.String(), r.In.Container, r.Certainty.String(), r.Text}, r.Access.String(), r.Around(), r.Possible}
}

// proven are the answers that are sure, before those that are possible if these are wanted, too; else they are counted.
func proven(all []answer.Answer, unsure bool, left *int) []answer.Answer {
	sure, possible := make([]answer.Answer, 0, len(all)), []answer.Answer(nil)
	for _, a := range all {
		if a.Possible {
			possible = append(possible, a)
		} else {
			sure = append(sure, a)
		}
	}
	if unsure {
		return append(sure, possible...)
	}
	*left += len(possible)
	return sure
}

func references() *question {
	var scope resolve.Scope
	var access []string
	var mentions, unsure bool
	left := 0
	return &question{
		left:  &left,
		name:  "references",
		short: "Print where what the name at FILE:LINE:COL means is used",
		long: `Prints the uses of what the name at a position means, those that are sure first,
then the near ones. With --json each has its "access": read, write, readwrite,
call, type or import, and "in", the function it stands in. Uses that have the name
and could be meant, but were not resolved, are left out, and counted on standard
error; --unsure prints them, too, last, with "possible" true.`,
		example: "  rooktrail references dispatch/roster.go:42:18\n  rooktrail references --access write dispatch/roster.go:14:2",
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&scope.Family, "family", false, "of a method, also the uses of those it overrides and of those that override it")
			cmd.Flags().BoolVar(&unsure, unsureFlag, false, "also what has the name and could be meant, but was not resolved")
			cmd.Flags().BoolVar(&mentions, "mentions", false, "also where the name stands in comments, strings, configuration and pages, with the access \"mention\"")
			cmd.Flags().StringSliceVar(&access, "access", nil, "only these: read, write, readwrite, call, type, import")
		},
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
			res, refs := ws.Answers.All(ctx, answer.Question{Way: answer.ToReferences, Path: path, Offset: offset, Scope: resolve.Scope{Family: scope.Family, Possible: true}})
			refs = proven(refs, unsure, &left)
			for i := range refs {
				if len(access) == 0 || slices.Contains(access, refs[i].Access.String()) {
					all = append(all, placeOf(&refs[i], referenceOf(&refs[i])))
				}
			}
			if mentions && res.Name != "" {
				all = append(all, mentioned(ctx, ws, res.Name)...)
			}
			return all
		},
	}
}

// mentioned prints the places other than in code where a name stands.
func mentioned(ctx context.Context, ws *workspace.Workspace, name string) (all []printed) {
	hits, err := ws.Answers.Mentions(ctx, name)
	if err != nil {
		return nil // it was cancelled
	}
	for i := range hits {
		h := &hits[i]
		all = append(all, placeOf(h, referenceResult{result{inFile(h.Path), h.Line, h.Col, name, "", "", h.Certainty.String(), h.Text}, h.Role, "", false}))
	}
	return all
}

// callResult is a function that calls or is called, as it is printed in JSON.
type callResult struct {
	result
	// Through is the method through which it may be called, if it is not said
	// outright.
	Through  string   `json:"through,omitempty"`
	Sites    []string `json:"sites"`
	Possible bool     `json:"possible,omitempty"`
}

func callOf(c *answer.Answer) printed {
	r := callResult{result: resultOf(c), Through: c.Through, Possible: c.Possible}
	for _, s := range c.Sites {
		r.Sites = append(r.Sites, s.String())
	}
	p := placeOf(c, r)
	if c.Why != "" {
		p.line += "  (" + c.Why + ")"
	}
	return p
}

func calls() *question {
	var incoming, outgoing, unsure bool
	left := 0
	return &question{
		left:  &left,
		name:  "calls",
		short: "Print what calls the function at FILE:LINE:COL, or what it calls",
		long: `With --incoming prints the functions that call the one at a position, with
--outgoing those that it calls: each where it is defined. With --json "sites" are
the places of the calls, and "through" is the method of an interface through
which a call may come or go. Calls that have the name and could be meant, but were
not resolved, are left out, and counted on standard error; --unsure prints them, too.`,
		example: "  rooktrail calls --incoming dispatch/roster.go:42:18\n  rooktrail calls --outgoing dispatch/roster.go:42:18",
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&incoming, "incoming", false, "what calls it")
			cmd.Flags().BoolVar(&outgoing, "outgoing", false, "what it calls")
			cmd.Flags().BoolVar(&unsure, unsureFlag, false, "also calls that have the name and could be meant, but were not resolved")
			cmd.MarkFlagsOneRequired("incoming", "outgoing")
			cmd.MarkFlagsMutuallyExclusive("incoming", "outgoing")
		},
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
			way := answer.ToCalled
			if incoming {
				way = answer.ToCallers
			}
			var found []answer.Answer
			ws.Answers.Ask(ctx, answer.Question{Way: way, Path: path, Offset: offset, Scope: resolve.Scope{Possible: true}}, func(some []answer.Answer) bool {
				found = append(found, some...)
				return true
			})
			found = proven(found, unsure, &left)
			for i := range found {
				all = append(all, callOf(&found[i]))
			}
			return all
		},
	}
}

// valueResult is a place where a value comes from or goes to, as it is printed
// in JSON.
type valueResult struct {
	referenceResult
	Flow string `json:"flow"`
	To   string `json:"to,omitempty"`
}

func values() *question {
	return &question{
		name:  "values",
		short: "Print where the value at FILE:LINE:COL is set, and where it is read",
		long: `Prints the places that give a variable, a field or a parameter its value, then
those that take it. With --json "flow" says what happens there: initial, set,
changed or passed (an argument for it), then read, passed on or result; "to" is
the parameter or function it goes to.`,
		example: "  rooktrail values dispatch/roster.go:14:2",
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
			_, found := ws.Answers.All(ctx, answer.Question{Way: answer.ToValues, Path: path, Offset: offset})
			for i := range found {
				v := &found[i]
				r := valueResult{referenceResult: referenceOf(v), Flow: v.Role}
				if r.To = v.To.Name; v.To.Container != "" {
					r.To = v.To.Container + "." + r.To
				}
				all = append(all, placeOf(v, r))
			}
			return all
		},
	}
}

// testResult is a test as it is printed in JSON; Through are the functions through which it reaches what it tests, with a
// comma between them, the first that it calls first.
type testResult struct {
	result
	Through  string `json:"through,omitempty"`
	Possible bool   `json:"possible,omitempty"`
}

func tests() *question {
	var unsure bool
	left := 0
	return &question{
		name:    "tests",
		short:   "Print the tests of what is at FILE:LINE:COL, or what a test there tests",
		long:    "Prints the tests of a symbol: those that are named after it, those that use it, then\nthose that reach it through other functions, which are said behind it. Asked about a test, prints what that tests. With a FILE alone, the files that go\nwith it.",
		example: "  rooktrail tests dispatch/roster.go:42:18\n  rooktrail tests dispatch/roster.go",
		left:    &left,
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&unsure, unsureFlag, false, "also tests that use what has the name and could be meant, but was not resolved")
		},
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
			_, found := ws.Answers.All(ctx, answer.Question{Way: answer.ToTests, Path: path, Offset: offset})
			found = proven(found, unsure, &left)
			for i := range found {
				t := testResult{resultOf(&found[i]), strings.TrimPrefix(found[i].Why, "through "), found[i].Possible}
				p := placeOf(&found[i], t)
				if found[i].Why != "" {
					p.line += "  (" + found[i].Why + ")"
				}
				all = append(all, p)
			}
			return all
		},
		file: func(_ context.Context, ws *workspace.Workspace, path string) (all []printed) {
			for _, p := range ws.Answers.TestFiles(path) {
				all = append(all, printed{fileResult{inFile(p)}, p})
			}
			return all
		},
	}
}

// descriptionResult is what is to be told about a name, as it is printed in
// JSON.
type descriptionResult struct {
	result
	Modifiers     []string `json:"modifiers"`
	Signature     string   `json:"signature"`
	Documentation string   `json:"documentation"`
}

// imports is a question about a file, wherever in it a position is.
func imports() *question {
	by := false
	ask := func(ctx context.Context, ws *workspace.Workspace, path string, offset int) (all []printed) {
		way := answer.ToImported
		if by {
			way = answer.ToImporters
		}
		_, found := ws.Answers.All(ctx, way.On(path, offset))
		for i := range found {
			all = append(all, placeOf(&found[i], resultOf(&found[i])))
		}
		return all
	}
	return &question{
		name:    "imports",
		short:   "Print what a file imports of the project, or who imports it",
		long:    "Prints the files of the project that a file imports; for a package or folder the file\nthat describes it. With --by, prints where others import the file, or the package\nthat it belongs to.",
		example: "  rooktrail imports dispatch/roster.go\n  rooktrail imports --by board/hut.ts",
		flags: func(cmd *cobra.Command) {
			cmd.Flags().BoolVar(&by, "by", false, "who imports it")
		},
		ask: ask,
		file: func(ctx context.Context, ws *workspace.Workspace, path string) []printed {
			return ask(ctx, ws, path, 0)
		},
	}
}

func describe() *question {
	return &question{
		name:    "describe",
		near:    true,
		short:   "Print the signature and documentation of what the name at FILE:LINE:COL means",
		long:    "Prints where what the name at a position means is defined, its signature and its\ndocumentation; with --json as one object, with its kind, container and modifiers.",
		example: "  rooktrail describe dispatch/roster.go:42:18",
		ask: func(ctx context.Context, ws *workspace.Workspace, path string, offset int) []printed {
			d := ws.Answers.Describe(ctx, path, offset)
			if d.Candidates == 0 {
				return nil
			}
			r := descriptionResult{resultOf(&d.Best), d.Modifiers, d.Signature, d.Doc}
			line := fmt.Sprintf("%s:%d:%d: %s", r.Path, r.Line, r.Col, r.Signature)
			if d.Doc != "" {
				line += "\n\n" + d.Doc
			}
			return []printed{{r, line}}
		},
	}
}

func newUnused() *cobra.Command {
	f := &finder{}
	return f.limited(f.command("unused [DIR]", "List the definitions that nothing in the project refers to",
		`Prints the definitions, in a folder or in all of the project, that nothing in the
project refers to. With --json the certainty is "inferred" if nothing outside can
refer to it either, and "by name" for what is visible outside the project. Entry
points, tests, and what overrides or implements something are left out.`,
		"  rooktrail unused\n  rooktrail unused --json dispatch", cobra.MaximumNArgs(1),
		func(ctx context.Context, args []string) error {
			folder, err := ".", error(nil)
			if len(args) > 0 {
				folder = inProject(f.ws.Code.Root(), args[0])
			}
			if err := f.ws.Search.CheckFolder(folder); err != nil {
				return err
			}
			f.ws.Answers.Unused(ctx, folder, func(a answer.Answer) bool {
				p := placeOf(&a, resultOf(&a))
				err = f.print(p.object, p.line)
				return err == nil && f.count < f.most()
			})
			return err
		}), 0)
}
