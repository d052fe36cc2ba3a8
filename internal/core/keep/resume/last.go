package resume

import (
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
)

// Last is the list that one saw last, as the question that it answers and where one was in it.
type Last struct {
	// List is which one: "search", "places" or "tree".
	List string `json:"list"`
	// Title is its heading, How says how one comes to a place of it.
	Title string `json:"title,omitempty"`
	How   string `json:"how,omitempty"`
	// Source is the question, Tree the number of that of a tree, Query what was typed in a search.
	Source sweep.Source `json:"source,omitzero"`
	Tree   int          `json:"tree,omitempty"`
	Query  string       `json:"query,omitempty"`
	// Typed is what narrowed it, At the place that was chosen.
	Typed string      `json:"typed,omitempty"`
	At    place.Place `json:"at,omitzero"`
}
