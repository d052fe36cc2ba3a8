package dispatch

import (
	"errors"
	"testing"
	"time"

	"tarnwell/geo"
)

var valleys = geo.Valleys{
	"tarn":     {East: 0, North: 4},
	"birk":     {East: 7, North: 2},
	"skarfell": {East: 12, North: 14},
}

func newTestRoster(now *time.Time) *Roster {
	r := NewRoster(valleys, []Team{
		{Name: "Curlew", Valley: "tarn", Skills: []Skill{Rope}},
		{Name: "Ptarmigan", Valley: "skarfell", Skills: []Skill{Rope, Ski}},
	})
	r.Now = func() time.Time { return *now }
	return r
}

func TestAssignTakesTheNearest(t *testing.T) {
	now := time.Date(2026, 2, 7, 11, 0, 0, 0, time.UTC)
	r := newTestRoster(&now)
	team, err := r.Assign(Callout{Valley: "birk", Needs: []Skill{Rope}})
	if err != nil || team.Name != "Curlew" {
		t.Fatalf("got %q, %v", team.Name, err)
	}
	team, err = r.Assign(Callout{Valley: "birk", Needs: []Skill{Rope}})
	if err != nil || team.Name != "Ptarmigan" {
		t.Fatalf("got %q, %v", team.Name, err)
	}
}

func TestAssignWithoutTheSkill(t *testing.T) {
	now := time.Now()
	_, err := newTestRoster(&now).Assign(Callout{Valley: "tarn", Needs: []Skill{Cave}})
	if !errors.Is(err, ErrNoTeam) {
		t.Fatalf("got %v", err)
	}
}

func TestReleaseAndRest(t *testing.T) {
	now := time.Date(2026, 2, 7, 11, 0, 0, 0, time.UTC)
	r := newTestRoster(&now)
	c := Callout{Valley: "tarn", Needs: []Skill{Rope}}
	if _, err := r.Assign(c); err != nil {
		t.Fatal(err)
	}
	r.Release(c)
	now = now.Add(RestTime - time.Minute)
	if team, _ := r.Assign(c); team.Name == "Curlew" {
		t.Fatal("Curlew is still resting")
	}
}
