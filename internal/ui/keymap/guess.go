package keymap

// guesses are what people mean who press a key that does nothing here, as it does that in many programs.
var guesses = map[string]Action{
	"ctrl+f": InFile, "f3": Next, "shift+f3": Previous, "ctrl+g": GoLine, "ctrl+p": Scout,
	"f12": Definition, "shift+f12": References, "ctrl+w": Close, "ctrl+tab": NextView, "insert": Write,
}

// Nothing says of a key that it does nothing here, and what does what may be meant by it; write says that letters
// are typed.
func (m Map) Nothing(key string, write bool) string {
	words := Label(key) + " does nothing here; "
	if write {
		words = Label(key) + " does nothing in write; "
	}
	if a, ok := guesses[key]; ok && m.Key(a) != "" {
		return words + m.Fill(Marked("{"+string(a)+"}"), write) + " is “" + a.Naming().Name + "”"
	}
	if write {
		return words + "Esc leads back to roam"
	}
	return words + m.Fill(Marked("{scout} finds a command by its name, {keys} shows the keys"), false)
}
