// Package factstest checks that facts hold together, for the tests of the
// languages.
package factstest

import (
	"context"
	"fmt"
	"testing"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// Check says what is wrong with the facts of a text of the given length: a
// range outside of it, a number that stands for nothing, a list out of order.
func Check(f *facts.File, length int) error {
	inside := func(r place.Range) bool { return r.Start <= r.End && int(r.End) <= length }
	scope := func(s facts.ScopeID) bool { return s >= 0 && int(s) < len(f.Scopes) }
	expr := func(e facts.ExprID) bool { return e >= 0 && int(e) < len(f.Exprs) }
	def := func(d facts.DefID) bool { return d >= facts.NoDef && int(d) < len(f.Defs) }
	for i, s := range f.Scopes {
		if !inside(s.At) || !scope(s.Parent) || i > 0 && int(s.Parent) >= i || !def(s.Owner) {
			return fmt.Errorf("scope %d: %+v", i, s)
		}
	}
	for i, d := range f.Defs {
		ok := inside(d.At) && inside(d.Full) && inside(d.Head) && inside(d.Doc) && scope(d.Scope) && scope(d.Body) &&
			expr(d.Type) && expr(d.Init) && def(d.Parent) && d.Import >= 0 && d.Import <= len(f.Imports)
		for _, s := range d.Supers {
			ok = ok && expr(s)
		}
		if !ok || i > 0 && d.At.Start < f.Defs[i-1].At.Start {
			return fmt.Errorf("definition %d: %+v", i, d)
		}
	}
	for i, u := range f.Uses {
		if !inside(u.At) || !scope(u.Scope) || !expr(u.Base) || i > 0 && u.At.Start < f.Uses[i-1].At.Start {
			return fmt.Errorf("use %d: %+v", i, u)
		}
	}
	for i, g := range f.Settings {
		if int(g.At) > length || int(g.From) > length || !scope(g.Of) || !expr(g.Base) || !expr(g.Value) || i > 0 && g.At < f.Settings[i-1].At {
			return fmt.Errorf("setting %d: %+v", i, g)
		}
	}
	for i, p := range f.Puts {
		if int(p.At) > length || !expr(p.Into) || !expr(p.Key) || !expr(p.Value) {
			return fmt.Errorf("put %d: %+v", i, p)
		}
	}
	for i, b := range f.Branches {
		if !inside(b.At) || !inside(b.Whole) {
			return fmt.Errorf("branch %d: %+v", i, b)
		}
	}
	for i, e := range f.Exprs {
		ok := inside(e.At) && scope(e.Scope) && expr(e.Base)
		for _, a := range e.Args {
			ok = ok && expr(a)
		}
		if !ok {
			return fmt.Errorf("expression %d: %+v", i, e)
		}
	}
	return nil
}

// Outline reads a text and writes each of its symbols on a line: kind,
// qualified name, head, and comment, with bars between.
func Outline(t *testing.T, l *lang.Language, text string) (f *facts.File, lines []string) {
	t.Helper()
	f, err := l.Read(context.Background(), []byte(text))
	if err == nil {
		err = Check(f, len(text))
	}
	if err != nil {
		t.Fatal(err)
	}
	for _, id := range f.Symbols() {
		d := f.Defs[id]
		lines = append(lines, fmt.Sprintf("%s %s | %s | %s", d.Kind, d.Qualified(), d.Head.In([]byte(text)), d.Doc.In([]byte(text))))
	}
	return f, lines
}

// Fuzz is the body of a fuzz test of a language: whatever the text, the facts
// hold together.
func Fuzz(f *testing.F, l *lang.Language, seeds ...string) {
	for _, s := range seeds {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		if len(text) > 1<<16 {
			return
		}
		found, err := l.Read(context.Background(), text)
		if err != nil {
			return // left as text, which is allowed
		}
		if err := Check(found, len(text)); err != nil {
			t.Fatalf("%v in %q", err, text)
		}
		for offset := range len(text) + 1 {
			found.Around(offset)
			found.DefAt(offset)
			found.UseAt(offset)
			found.ScopeAt(offset)
		}
	})
}
