package check

import "rooktrail/internal/core/file/place"

// Asked is a question about values in a file.
type Asked struct {
	// Path is the absolute path of the file.
	Path string
	// Exprs are where expressions stand, Within is where it is to be seen whether variables are changed.
	Exprs  []place.Range
	Within place.Range
}

// Values are what a compiler says of values in a file.
type Values struct {
	// Exprs are those of expressions, in the order in which it was asked for them.
	Exprs []Value
	// Locals are the variables and constants of functions, by the offsets at which their names are defined.
	Locals map[uint32]Value
}

// Value is what a compiler says of one.
type Value struct {
	// Type is how its type is written in that file; "" if it cannot be written there.
	Type string
	// Count is how many values it is; 0 for something that is no value, such as a type or a call that gives nothing.
	Count int
	// Constant says that it is a constant without a type, or without one of its own.
	Constant bool
	// Local says that its type is known in one function alone.
	Local bool
	// InPlace says that it is changed, or may be, without being written: through its address, or in a part of it.
	InPlace bool
	// Imports are the packages that have to be imported to write its type, by the names under which it does.
	Imports map[string]string
}
