// Package dispatch is a sample: the comments at the ends of lines say what
// each name on the line must lead to.
package dispatch

import (
	"errors"
	"fmt"

	"example.test/rescue/store"
	db "example.test/rescue/store" //@use db:pkg
)

var ErrNoTeam = errors.New("no team") //@def ErrNoTeam @outside New

const most, fewest = 3, 1 //@def most @def fewest

type Skill string //@def Skill

func (s Skill) Rank() int { return len(s) } //@def Rank @use Skill @outside len @use s:rank-s#2 @def s:rank-s

type Team struct { //@def Team
	Name   string            //@def Name:team
	Skills []Skill           //@def Skills @use Skill
	ByHut  map[string]*Hut   //@def ByHut @use Hut
	base   struct{ hut Hut } //@def base @def hut:base
}

type Hut struct{ Height int } //@def Hut @def Height

type Named interface{ Title() string } //@def Named @def Title:named

type Roster struct { //@def Roster
	store.Memory                //@use Memory:store
	*Team                       //@use Team
	teams        []Team         //@def teams @use Team
	hook         func(Team) Hut //@def hook @use Team @use Hut
}

func New(n int) *Roster { //@def New:dispatch @use Roster @def n:new
	return &Roster{teams: make([]Team, n)} //@use Roster @use teams @use Team @use n:new
}

func (r *Roster) Assign(c Callout) (Team, error) { //@def Assign @use Callout @def r:assign @def c:assign
	for i, t := range r.teams { //@def i:range @def t:range @use r:assign @use teams
		if t.Name == c.Valley { //@use t:range @use Name:team @use c:assign @use Valley
			return r.teams[i], nil //@use teams @use i:range
		}
		for _, s := range t.Skills { //@use Skills @def s:inner
			_ = s.Rank() //@use s:inner @use Rank
		}
	}
	if hut, ok := r.ByHut["north"]; ok { //@use ByHut @def hut:local
		fmt.Println(hut.Height) //@use hut:local @use Height @outside Println
	}
	_ = r.base.hut.Height         //@use base @use hut:base @use Height
	_ = r.hook(r.teams[0]).Height //@use hook @use Height
	r.Save(r.teams[0].Name)       //@use Save @use Name:team
	return Team{}, ErrNoTeam      //@use ErrNoTeam
}

func describe(v any) string { //@def describe @def v:describe
	switch v := v.(type) { //@use v:describe#2
	case Named:
		return v.Title() //@use Title:named
	case *Hut:
		return fmt.Sprint(v.Height) //@use Height
	}
	return ""
}

func shadows() int {
	x := most          //@def x:outer @use most
	if x := x; x > 1 { //@def x:inner @use x:outer#2 @use x:inner#3
		return x //@use x:inner
	}
	f := func(x int) int { return x } //@def x:param @use x:param#2
	return f(x)                       //@use x:outer
}

func useOthers() {
	r := New(fewest)                               //@use New:dispatch @use fewest
	team, err := r.Assign(Callout{Valley: "tarn"}) //@use Assign @use Callout @use Valley @def team:others @def err:others
	_, _ = team.Name, err                          //@use team:others @use Name:team @use err:others
	m := db.Open("x")                              //@use db:pkg @use Open
	m.Save("y")                                    //@use Save
	var s store.Saver = m                          //@use Saver
	s.Save("z")                                    //@use Save:iface
	_ = first(r.teams)                             //@use first
	unknown.Save("w")                              //@byname Save
}

func first[T any](list []T) T { return list[0] } //@def first @def T @use T#2 @def list @use list#2
