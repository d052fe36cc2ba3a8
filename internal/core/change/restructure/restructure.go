// Package restructure proposes to build code otherwise without having it do anything else: a value gets a name, some
// statements become a function, what has a name is put in place of it, a function takes other parameters. What would
// change what the code does, as far as can be told, is not proposed, and it is said why.
package restructure

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Restructurer proposes such changes in one project. It may be used by several goroutines.
type Restructurer struct {
	code  *codebase.Base
	guide *answer.Guide
}

// New proposes changes to how some code is built.
func New(code *codebase.Base, guide *answer.Guide) *Restructurer {
	return &Restructurer{code: code, guide: guide}
}

// Part is a part of a file.
type Part struct {
	Path string
	// At is what is selected; a place alone if it is empty.
	At place.Range
}

// ErrNotHere says that parts of code of a language are not moved.
var ErrNotHere = errors.New("code of this language cannot be moved about yet")

// scene is a file in which something is moved, and what is known of it.
type scene struct {
	*Restructurer
	ctx  context.Context
	path string
	file *codebase.File
	lang *lang.Language
	*lang.Structure
	tree     *syntax.Tree
	text     []byte
	resolver *resolve.Resolver
	proposal *proposal.Proposal
	// short are the offsets of short forms, nil before it was asked for them.
	short map[int]bool
	// imported is what files import otherwise after the change, by their paths.
	imported map[string]*importing
	// kept is a variable that holds what was not used before, so that nothing uses it yet.
	kept string
}

// open reads a file.
func (r *Restructurer) open(ctx context.Context, p string) (*scene, error) {
	if err := r.code.Await(ctx, func(p *codebase.Progress) bool { return p.Done || p.Err != nil }); err != nil {
		return nil, err
	}
	l := r.code.Languages().Of(p)
	if l == nil || l.Structure.Grammar == nil {
		return nil, ErrNotHere
	}
	f, err := r.code.Load(ctx, p)
	if err != nil {
		return nil, err
	}
	if f.Facts == nil {
		return nil, fmt.Errorf("%s could not be read as %s", p, l.Name)
	}
	s := &scene{Restructurer: r, ctx: ctx, path: p, file: f, lang: l, Structure: l.Structure, text: f.Text.Bytes(), resolver: resolve.New(r.code), proposal: &proposal.Proposal{}, imported: map[string]*importing{}}
	if s.tree, err = syntax.Parse(ctx, l.Structure.Grammar, s.text); err != nil {
		return nil, fmt.Errorf("%s: %w", p, err)
	}
	return s, nil
}

// other is the scene of another file, for the same change.
func (s *scene) other(p string) (*scene, error) {
	if p == s.path {
		return s, nil
	}
	o, err := s.open(s.ctx, p)
	if err == nil {
		o.proposal, o.resolver, o.imported = s.proposal, s.resolver, s.imported
	}
	return o, err
}

// add adds a place.
func (s *scene) add(at place.Range, by, what string) {
	line, col := s.file.Text.Position(int(at.Start))
	s.proposal.Add(s.path, func() *text.Document { return s.file.Text }, proposal.Place{
		At: at, New: by, What: what, In: codebase.SymbolAt(s.file, line, col), Certainty: resolve.Inferred,
	})
}

// warn notes what one should know, or why it cannot be done.
func (s *scene) warn(at place.Range, stops bool, words string, args ...any) {
	line, col := s.file.Text.Position(int(at.Start))
	s.proposal.Warn(proposal.Warning{Path: s.path, Line: line, Col: col, Text: fmt.Sprintf(words, args...), Stops: stops})
}

// at says where something is, for an error.
func (s *scene) line(at uint32) int {
	line, _ := s.file.Text.Position(int(at))
	return line
}

// trimmed is a range without the blanks at its ends.
func (s *scene) trimmed(at place.Range) place.Range {
	for at.Start < at.End && strings.IndexByte(" \t\r\n", s.text[at.Start]) >= 0 {
		at.Start++
	}
	for at.End > at.Start && strings.IndexByte(" \t\r\n", s.text[at.End-1]) >= 0 {
		at.End--
	}
	return at
}

// allowed says why a name cannot be given, if it cannot.
func (s *scene) allowed(name string) error {
	if why, ok := s.lang.Names.Allows(name); !ok {
		return errors.New(why)
	}
	return nil
}

// indent is what stands in front of the line that an offset is in.
func (s *scene) indent(at uint32) string {
	line := string(s.file.Text.Line(s.line(at)))
	return line[:len(line)-len(strings.TrimLeft(line, " \t"))]
}

// step is one step of indentation.
func (s *scene) step() string { return write.IndentOf(s.file.Text, s.lang.Signs.Tabs) }

// ending is the line end of the file.
func (s *scene) newline() string {
	if n := s.file.Text.Offset(2, 1); s.file.Text.Lines() > 1 && n >= 2 && s.text[n-2] == '\r' {
		return "\r\n"
	}
	return "\n"
}

// written puts a text into the form of the file: its line ends, and no marks for lines that are kept.
func (s *scene) written(t string) string {
	return strings.ReplaceAll(strings.ReplaceAll(t, lang.Kept, ""), "\n", s.newline())
}

// formatted is code in the form that is usual for the language.
func (s *scene) formatted(code string) string {
	code = strings.ReplaceAll(code, lang.Kept, "")
	if out, err := s.lang.Format([]byte(code)); err == nil {
		return strings.TrimRight(string(out), "\n")
	}
	return code
}

// now is a part of the text as the places that were added would have it read; these places are taken away, since
// something around them is to stand there.
func (s *scene) now(at place.Range) string {
	f := s.proposal.File(s.path)
	if f == nil {
		return string(at.In(s.text))
	}
	var in []text.Edit
	f.Places = slices.DeleteFunc(f.Places, func(p proposal.Place) bool {
		if !inside(p.At, at) || p.Out {
			return false
		}
		in = append(in, text.Edit{Start: int(p.At.Start), End: int(p.At.End), New: []byte(p.New)})
		return true
	})
	slices.SortFunc(in, func(a, b text.Edit) int { return a.Start - b.Start })
	return edited(s.text, at, in)
}

// dedented is a part of the text without the indentation that its first line has; lines in whose text blanks count are
// marked. Within the part some ranges may read otherwise.
func (s *scene) dedented(at place.Range, edits []text.Edit) string {
	from := s.indent(at.Start)
	var kept []place.Range
	s.each(s.tree.Root(), at, func(n syntax.Node) bool {
		if s.Is(n, lang.Literal) {
			kept = append(kept, n.Range())
		}
		return true
	})
	var b strings.Builder
	offset := at.Start
	for offset < at.End {
		end := offset
		for end < at.End && s.text[end] != '\n' {
			end++
		}
		line := place.Range{Start: offset, End: end}
		if offset > at.Start {
			b.WriteByte('\n')
			if slices.ContainsFunc(kept, func(k place.Range) bool { return k.Start < offset && offset < k.End }) {
				b.WriteString(lang.Kept)
			} else if strings.HasPrefix(string(line.In(s.text)), from) {
				line.Start += uint32(len(from))
			}
		}
		b.WriteString(strings.TrimSuffix(edited(s.text, line, edits), "\r"))
		offset = end + 1
	}
	return b.String()
}

// edited is a part of a text with the edits that lie in it.
func edited(body []byte, at place.Range, edits []text.Edit) string {
	var b strings.Builder
	from := int(at.Start)
	for _, e := range edits {
		if e.Start >= from && e.End <= int(at.End) {
			b.Write(body[from:e.Start])
			b.Write(e.New)
			from = e.End
		}
	}
	b.Write(body[from:at.End])
	return b.String()
}

// each visits the nodes of a range, those around it included.
func (s *scene) each(n syntax.Node, at place.Range, visit func(syntax.Node) bool) {
	r := n.Range()
	if r.End <= at.Start && r.Start < at.Start || r.Start >= at.End {
		return
	}
	if !visit(n) {
		return
	}
	for c := range n.Children() {
		s.each(c, at, visit)
	}
}

// values asks the compiler, where there is one.
func (s *scene) values(asked check.Asked) (check.Values, bool) {
	v, ok, err := s.code.Values(s.ctx, s.path, asked)
	return v, ok && err == nil
}

// compiled has the compiler look at what the code would be, and notes what it would say that it does not say now.
func (s *scene) compiled() error {
	texts, now := map[string][]byte{}, map[string][]byte{}
	for _, f := range s.proposal.Files {
		texts[f.Path], now[f.Path] = f.After().Bytes(), f.Before.Bytes()
	}
	if len(texts) == 0 || s.ctx.Err() != nil {
		return s.ctx.Err()
	}
	if _, stopped := s.proposal.Stopped(); stopped {
		return nil
	}
	after, err := s.code.Errors(s.ctx, s.lang, texts, len(texts) > 1)
	if err != nil || len(after) == 0 {
		return s.ctx.Err() // what it cannot say is left to what is known without it
	}
	before, err := s.code.Errors(s.ctx, s.lang, now, len(texts) > 1)
	if err != nil {
		return s.ctx.Err()
	}
	had := map[string]int{}
	for _, e := range before {
		had[e.Path+": "+e.Text]++
	}
	for _, e := range after {
		if had[e.Path+": "+e.Text]--; had[e.Path+": "+e.Text] < 0 {
			if s.kept != "" && strings.HasSuffix(e.Text, ": "+s.kept) {
				s.proposal.Warn(proposal.Warning{Path: e.Path, Line: e.Line, Col: e.Col, Text: "nothing uses " + s.kept + " yet, which the compiler wants"})
				continue
			}
			s.proposal.Warn(proposal.Warning{Path: e.Path, Line: 1, Stops: true, Text: fmt.Sprintf("the compiler would say in line %d: %s", e.Line, e.Text)})
		}
	}
	return nil
}

// done is the proposal, in order and looked at by the compiler.
func (s *scene) done(title string, args ...any) (*proposal.Proposal, error) {
	s.proposal.Title = fmt.Sprintf(title, args...)
	if err := s.importOtherwise(); err != nil {
		return nil, err
	}
	s.proposal.Order()
	if err := s.compiled(); err != nil {
		return nil, err
	}
	s.proposal.Order()
	return s.proposal, s.ctx.Err()
}

// sameFolder says whether two files are in one folder.
func sameFolder(a, b string) bool { return path.Dir(a) == path.Dir(b) }

// taken tells what has a name already where something of that name would stand.
func (s *scene) taken(owner int, name string) error {
	for _, o := range s.resolver.Beside(s.ctx, s.path, owner, name) {
		return fmt.Errorf("there is a %s %s already, in %s", o.Kind, o.Name, o.Path)
	}
	return nil
}

// local says whether a definition is one that only its function sees, and that is a value.
func (s *scene) local(d *facts.Def) bool {
	switch d.Kind {
	case facts.Variable, facts.Constant, facts.Parameter, facts.Function:
		return s.file.Facts.Local(d)
	}
	return false
}
