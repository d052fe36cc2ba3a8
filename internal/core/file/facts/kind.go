package facts

// Kind is what a definition defines.
type Kind uint8

// The kinds of definitions.
const (
	NoKind Kind = iota
	Package
	Class
	Interface
	Struct
	Enum
	Type // a type under another name, or one that is none of the above
	Function
	Method
	Constructor
	Field
	Property
	EnumMember
	Variable
	Constant
	Parameter
	TypeParameter
	Import
	Label // its name ends with a colon, which keeps it apart from other names
	Namespace
	Module
	Trait
	Union
	Macro
	Event
	Section // a heading, or what a comment sets apart from the rest of a file
	Key     // of a configuration
	Table
	View
	Procedure
	Rule    // of a style sheet
	ID      // of an element of a page
	Target  // of a build
	Stage   // of the making of an image
	Message // of a protocol
	Service
	Block // of a configuration
	Test  // a function without a name that a test by the name is
)

var kindNames = [...]string{
	"", "package", "class", "interface", "struct", "enum", "type", "function", "method",
	"constructor", "field", "property", "enum member", "variable", "constant", "parameter",
	"type parameter", "import", "label", "namespace", "module", "trait", "union", "macro", "event",
	"section", "key", "table", "view", "procedure", "rule", "id", "target", "stage", "message",
	"service", "block", "test",
}

// String names the kind as people do.
func (k Kind) String() string { return kindNames[k] }

// Kinds are all kinds.
func Kinds() (all []Kind) {
	for k := range kindNames {
		if kindNames[k] != "" {
			all = append(all, Kind(k))
		}
	}
	return all
}

// Valid says whether there is such a kind.
func (k Kind) Valid() bool { return int(k) < len(kindNames) }

// IsType says whether values can be of what is defined.
func (k Kind) IsType() bool {
	switch k {
	case Class, Interface, Struct, Enum, Type, TypeParameter, Trait, Union, Message:
		return true
	}
	return false
}

// IsSpace says whether what is defined only holds names, without being a type.
func (k Kind) IsSpace() bool { return k == Package || k == Namespace || k == Module }

// IsCallable says whether what is defined has parameters and a result.
func (k Kind) IsCallable() bool {
	return k == Function || k == Method || k == Constructor || k == Test
}

// IsValue says whether what is defined holds a value.
func (k Kind) IsValue() bool {
	switch k {
	case Variable, Constant, Field, Property, EnumMember:
		return true
	}
	return false
}

// Role is what a use does with the name it uses.
type Role uint8

// The roles of uses.
const (
	Read Role = iota
	Write
	ReadWrite
	Call
	TypeUse
	ImportUse
)

// String names the role as the commands print it.
func (r Role) String() string {
	return [...]string{"read", "write", "readwrite", "call", "type", "import"}[r]
}
