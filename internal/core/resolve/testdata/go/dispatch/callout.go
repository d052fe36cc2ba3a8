package dispatch

// Callout asks for help.
type Callout struct { //@def Callout
	Valley string //@def Valley
}

var current = &Callout{} //@use Callout

func valley() string { return current.Valley } //@use Valley
