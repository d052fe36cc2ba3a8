package dispatch

import (
	"slices"
	"time"
)

// Skill is something that not every team can do.
type Skill string

// The skills that call-outs ask for.
const (
	Rope   Skill = "rope"
	Medic  Skill = "medic"
	Dog    Skill = "dog"
	Cave   Skill = "cave"
	Ski    Skill = "ski"
	Stream Skill = "stream"
)

// Team is a group of people who go out together.
type Team struct {
	Name   string
	Valley string
	Skills []Skill
	// Out is the valley the team is in while it is on a call-out.
	Out string
	// Back is when it came back from its last one.
	Back time.Time
}

// Has says whether the team has a skill.
func (t Team) Has(s Skill) bool { return slices.Contains(t.Skills, s) }

// Suits says whether the team has every skill that the call-out needs.
func (t Team) Suits(c Callout) bool {
	for _, need := range c.Needs {
		if !t.Has(need) {
			return false
		}
	}
	return true
}

// Busy says whether the team is on a call-out.
func (t Team) Busy() bool { return t.Out != "" }

// Rested says whether the team has had its rest since it came back.
func (t Team) Rested(now time.Time, rest time.Duration) bool {
	return t.Back.IsZero() || now.Sub(t.Back) >= rest
}

// DefaultTeams are the teams of the service.
func DefaultTeams() []Team {
	return []Team{
		{Name: "Curlew", Valley: "tarn", Skills: []Skill{Rope, Medic}},
		{Name: "Dipper", Valley: "birk", Skills: []Skill{Stream, Medic}},
		{Name: "Ptarmigan", Valley: "skarfell", Skills: []Skill{Ski, Rope, Medic}},
		{Name: "Wheatear", Valley: "aldermoss", Skills: []Skill{Dog}},
		{Name: "Ouzel", Valley: "lowmere", Skills: []Skill{Cave, Rope, Stream}},
	}
}
