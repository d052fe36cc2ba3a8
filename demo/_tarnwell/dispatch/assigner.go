package dispatch

// Assigner finds a team for a call-out.
type Assigner interface {
	Assign(c Callout) (Team, error)
}

// Releaser takes a team back when its call-out is closed.
type Releaser interface {
	Release(c Callout)
}
