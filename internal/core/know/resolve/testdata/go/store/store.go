// Package store keeps things.
package store

// Saver saves.
type Saver interface { //@def Saver
	Save(name string) //@def Save:iface
}

// Memory forgets.
type Memory struct{ names map[string]bool } //@def Memory:store @def names

// Save keeps a name.
func (m *Memory) Save(name string) { //@def Save @use Memory:store
	m.names[name] = true //@use names
}

// Open makes a Memory.
func Open(path string) *Memory { return &Memory{} } //@def Open @use Memory:store

// Name is a type, and a method of another type has the same name.
type Name string //@def Name:type

func (m *Memory) Name() Name { return Name("memory") } //@def Name:method @use Name:type#2 @use Name:type#3
