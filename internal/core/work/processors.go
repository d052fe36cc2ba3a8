package work

import "runtime"

// processors is how many there were when the program began.
var processors = runtime.GOMAXPROCS(0)

// Processors is how many things are done at the same time where there is enough to do: as many as there are processors for this
// program.
func Processors() int { return processors }

// spare is how many threads there are besides those that work.
const spare = 2

// ForScreen has what answers keys go on at once while as much is done beside it as there are processors. Go lets that wait
// until one of the others has had its turn of 10 ms, several times on the way from a key to the screen; the system shares them out
// much more finely.
func ForScreen() { runtime.GOMAXPROCS(processors + spare) }
