package dispatch

import (
	"errors"
	"testing"
	"time"
)

// fakeKeeper keeps call-outs in a map.
type fakeKeeper map[int]Callout

func (k fakeKeeper) Save(c Callout) (Callout, error) {
	if c.ID == 0 {
		c.ID = len(k) + 1
	}
	k[c.ID] = c
	return c, nil
}

func (k fakeKeeper) Load(id int) (Callout, error) {
	c, ok := k[id]
	if !ok {
		return c, errors.New("not there")
	}
	return c, nil
}

func (k fakeKeeper) All() (all []Callout, err error) {
	for id := 1; id <= len(k); id++ {
		all = append(all, k[id])
	}
	return all, nil
}

func TestOpenAndClose(t *testing.T) {
	now := time.Date(2026, 2, 7, 11, 0, 0, 0, time.UTC)
	r := newTestRoster(&now)
	d := NewDesk(r, fakeKeeper{})
	d.Releaser, d.Now = r, r.Now
	c, err := d.Open("tarn", []Skill{Rope}, "two walkers on the ridge")
	if err != nil || c.Status != StatusAssigned || c.Team != "Curlew" {
		t.Fatalf("got %+v, %v", c, err)
	}
	if c, err = d.Close(c.ID); err != nil || c.Status != StatusClosed {
		t.Fatalf("got %+v, %v", c, err)
	}
	var state *StateError
	if _, err = d.Close(c.ID); !errors.As(err, &state) {
		t.Fatalf("closing twice gave %v", err)
	}
}

func TestWaitingPutsUrgentOnesFirst(t *testing.T) {
	now := time.Date(2026, 2, 7, 11, 0, 0, 0, time.UTC)
	r := newTestRoster(&now)
	d := NewDesk(r, fakeKeeper{
		1: {ID: 1, Opened: now},
		2: {ID: 2, Opened: now.Add(-time.Hour)},
	})
	d.Now = r.Now
	waiting, err := d.Waiting()
	if err != nil || len(waiting) != 2 || waiting[0].ID != 2 {
		t.Fatalf("got %+v, %v", waiting, err)
	}
}
