package dispatch

// Callout asks for help.
type Callout struct { //@def Callout
	Valley string //@def Valley
}

var current = &Callout{} //@use Callout

func valley() string { return current.Valley } //@use Valley

func loops(error error) { //@def error:param @outside error#2
again: //@def again:
	for {
		if error != nil { //@use error:param
			continue again //@use again:
		}
		break
	}
}
