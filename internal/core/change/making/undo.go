package making

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
)

// Latest is the change that Undo takes back, or with again the one that Redo makes again.
func (m *Maker) Latest(again bool) (*Change, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.latest(again)
}

func (m *Maker) latest(again bool) (*Change, error) {
	if m.log.folder == "" {
		return nil, ErrNothing
	}
	if !again {
		files := m.log.in(made)
		if len(files) == 0 {
			return nil, ErrNothing
		}
		return m.log.read(files[0])
	}
	files := m.log.in(undone) // that which was undone last is the earliest
	if len(files) == 0 {
		return nil, ErrNothing
	}
	last := files[len(files)-1]
	if done := m.log.in(made); len(done) > 0 && filepath.Base(done[0]) > filepath.Base(last) {
		return nil, ErrNothing // something else was done since
	}
	return m.log.read(last)
}

// Undo takes the latest change back, if all its files are as it left them.
func (m *Maker) Undo(ctx context.Context) (*Change, error) { return m.turn(ctx, true) }

// Redo makes the change again that was taken back last, if all its files are as they were then and nothing else
// was changed since.
func (m *Maker) Redo(ctx context.Context) (*Change, error) { return m.turn(ctx, false) }

func (m *Maker) turn(ctx context.Context, back bool) (*Change, error) {
	c, err := m.Latest(!back)
	if err != nil {
		return nil, err
	}
	from, during, to := undone, begun, made
	title := "making again: " + c.Title
	if back {
		from, during, to = made, undoing, undone
		title = "taking back: " + c.Title
	}
	named := *c
	named.Title = title
	err = m.whole(ctx, &named, func() error {
		if _, err := os.Stat(m.log.file(c, from)); err != nil {
			return errors.New("another program has done so meanwhile")
		}
		for i := range c.Steps {
			s := c.Steps[i].toward(back)
			at, err := m.where(&s)
			if err == nil && at != old {
				err = ErrDiffers
			}
			if err != nil {
				return &FileError{s.Path(), err}
			}
		}
		if err := m.log.move(c, from, during); err != nil {
			return fmt.Errorf("writing down what is to be done: %w", err)
		}
		return m.carry(ctx, c, during, to)
	})
	return c, err
}

// Broken is a change that was broken off.
type Broken struct {
	*Change
	// Back says that it was being taken back, not made.
	Back bool
	// Done counts the files that are as they are to be after the change, Old those that are as they were; Other
	// names those that are neither, which are left as they are.
	Done, Old int
	Other     []string
}

// Left are the changes that were broken off, as by a crash, the latest first. There are none while another
// program is making one.
func (m *Maker) Left(ctx context.Context) (all []Broken, err error) {
	if m.log.folder == "" {
		return nil, nil
	}
	if len(m.log.in(begun))+len(m.log.in(undoing)) == 0 {
		return nil, nil
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	unlock, err := m.log.lock(ctx)
	if errors.Is(err, ErrBusy) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	defer unlock()
	var wrong []error
	for _, s := range []state{begun, undoing} {
		for _, file := range m.log.in(s) {
			c, err := m.log.read(file)
			if err != nil {
				wrong = append(wrong, err)
				continue
			}
			all = append(all, m.broken(c, s == undoing))
		}
	}
	slices.SortFunc(all, func(a, b Broken) int { return b.At.Compare(a.At) })
	return all, errors.Join(wrong...)
}

func (m *Maker) broken(c *Change, back bool) Broken {
	b := Broken{Change: c, Back: back}
	for i := range c.Steps {
		s := &c.Steps[i]
		switch at, err := m.where(s); {
		case err != nil || at == other:
			b.Other = append(b.Other, s.Path())
		case at == done:
			b.Done++
		default:
			b.Old++
		}
	}
	return b
}

// Finish has all files of a change that was broken off be as they are to be after it. Files that are something
// else by now are left as they are.
func (m *Maker) Finish(ctx context.Context, b Broken) error { return m.settle(ctx, b, false) }

// TakeBack has all files of a change that was broken off be as they were before it.
func (m *Maker) TakeBack(ctx context.Context, b Broken) error { return m.settle(ctx, b, true) }

func (m *Maker) settle(ctx context.Context, b Broken, back bool) error {
	from, to := begun, made
	if b.Back {
		from = undoing
	}
	if back {
		to = undone
	}
	return m.whole(ctx, b.Change, func() error {
		rest := *b.Change
		rest.Steps = slices.DeleteFunc(slices.Clone(b.Steps), func(s Step) bool {
			at, err := m.where(&s)
			return err != nil || at == other
		})
		m.clear(b.Change)
		if err := m.all(ctx, &rest, back); err != nil {
			return err
		}
		m.clear(b.Change)
		return m.log.move(b.Change, from, to)
	})
}
