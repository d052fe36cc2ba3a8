package proposal

import (
	"fmt"

	"rooktrail/internal/core/change/making"
)

// Change is what has to be made for all that is taken in; the error says of which file that cannot be.
func (p *Proposal) Change() (*making.Change, error) {
	c := &making.Change{Title: p.Title}
	for _, f := range p.Files {
		if !f.Changes() {
			continue
		}
		s, err := f.step()
		if err != nil {
			return nil, fmt.Errorf("%s: %s: %w", p.Title, f.Name(), err)
		}
		c.Steps = append(c.Steps, s)
	}
	return c, nil
}

func (f *File) step() (s making.Step, err error) {
	s = making.Step{From: f.Path, To: f.To}
	if f.Stays {
		s.To = s.From
	}
	if f.Before.Lossy() {
		return s, fmt.Errorf("it holds bytes that mean nothing in %s, which would be lost", f.Before.Encoding())
	}
	if s.From != "" {
		if s.Before, err = f.Before.Encode(); err != nil {
			return s, err
		}
	}
	if s.To != "" {
		s.After, err = f.After().Encode()
	}
	return s, err
}
