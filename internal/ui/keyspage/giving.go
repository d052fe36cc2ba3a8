package keyspage

import (
	"path/filepath"
	"slices"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Keeper is what changes the keys of the program.
type Keeper struct {
	// Keys is the map that all share.
	Keys keymap.Map
	// File is where the user's own are kept; "" if they are kept nowhere.
	File string
	// Queue is what writes there.
	Queue *surface.Queue
}

// Load takes the keys of the user's own from beside their file of settings, "" for none, and says what is wrong
// with them.
func (k *Keeper) Load(settings string) (problems []string) {
	if settings == "" {
		return nil
	}
	k.File = filepath.Join(filepath.Dir(settings), "keys.toml")
	own, wrong := keymap.LoadOwn(k.File)
	for _, p := range wrong {
		problems = append(problems, p.Error())
	}
	for _, words := range k.Keys.Take(own) {
		problems = append(problems, k.File+": "+words)
	}
	return problems
}

// listening is what the page does with the next key.
type listening uint8

const (
	nothing listening = iota
	telling           // it says what the key does
	giving            // it gives the key to a command
	asking            // it asks whether the key is to be taken from others
)

// listen has the next keys be looked at instead of doing something.
type listen struct {
	what   listening
	action keymap.Action
	first  string // the first of two keys
	key    string // the key that is to be given
}

// begin listens for a key: to say what it does, or to give it to the chosen command.
func (s *Surface) begin(what listening) surface.Intent {
	s.listen = listen{what: what}
	if what == telling {
		return surface.Intent{}
	}
	row, _, ok := s.list.Chosen()
	b, _ := row.Value.(keymap.Binding)
	switch {
	case s.input.Value() == "" || !ok:
		s.listen = listen{}
		return surface.Say("type what the key is to do, and choose it")
	case b.Action == "":
		s.listen = listen{}
		return surface.Say("%s works in %s, where its keys stay as they are", b.Labels(2), b.Group)
	}
	s.listen.action = b.Action
	return surface.Intent{}
}

// heard takes a key while the page listens.
func (s *Surface) heard(name string) surface.Intent {
	l := &s.listen
	switch {
	case keymap.Is(name, keymap.Ends.Close):
		s.listen = listen{}
		return surface.Intent{}
	case l.what == asking:
		if keymap.Is(name, on.Take) {
			return s.give()
		}
		return surface.Intent{}
	case l.first == "" && (s.keeper.Keys.Begins(name) || len(s.keeper.Keys.After(name, true)) > 0):
		l.first = name
		return surface.Intent{}
	}
	key := name
	if l.first != "" {
		key = l.first + " " + name
	}
	if l.what == telling {
		s.listen = listen{}
		return s.tell(key)
	}
	key, err := keymap.ReadKey(key)
	if err != nil {
		s.listen = listen{}
		return surface.Say("%s", err)
	}
	if why := s.keeper.Keys.Refuses(l.action, key); why != "" {
		s.listen = listen{}
		return surface.Say("%s", why)
	}
	if l.key = key; s.held() != "" {
		l.what = asking
		return surface.Intent{}
	}
	return s.give()
}

// held is what else has the key that is to be given; "" if it is free.
func (s *Surface) held() string {
	b, ok := s.keeper.Keys.Holder(s.listen.action, s.listen.key)
	if !ok {
		return ""
	}
	if n := b.Action.Naming().Name; n != "" {
		return n
	}
	return b.Title
}

// tell shows all that a key does, here and in lists.
func (s *Surface) tell(key string) surface.Intent {
	var rows []sheet.Row
	for _, b := range s.keys {
		if slices.Contains(b.Keys, key) {
			rows = append(rows, sheet.Row{What: b.Group, Name: b.Title, Key: b.Labels(2), Value: b})
		}
	}
	s.input.Put(keymap.Label(key))
	s.list.Set([]sheet.Section{{Title: keymap.Label(key), Note: sheet.Count(len(rows), "meaning", "meanings"), Rows: rows}}, 0)
	if len(rows) == 0 {
		return surface.Say("%s does nothing, and can be given to a command", keymap.Label(key))
	}
	return surface.Intent{}
}

// give gives the command the key, besides those it has.
func (s *Surface) give() surface.Intent {
	l := s.listen
	s.listen = listen{}
	keys := []string{l.key}
	for _, b := range s.keeper.Keys {
		if b.Action == l.action {
			keys = append(keys, slices.DeleteFunc(slices.Clone(b.Keys), func(k string) bool { return k == l.key })...)
		}
	}
	return surface.Say("%s is %s from now on", keymap.Label(l.key), l.action.Naming().Name).And(s.change(l.action, keys, keys))
}

// deliver gives the chosen command the keys again that it is delivered with, but for those that are something
// else by now.
func (s *Surface) deliver() surface.Intent {
	row, _, ok := s.list.Chosen()
	b, _ := row.Value.(keymap.Binding)
	if !ok || b.Action == "" || s.input.Value() == "" {
		return surface.Intent{}
	}
	keys := slices.DeleteFunc(slices.Clone(keymap.Delivered(b.Action)), func(k string) bool {
		_, held := s.keeper.Keys.Holder(b.Action, k)
		return held
	})
	words := "%s has its delivered keys again"
	if len(keys) < len(keymap.Delivered(b.Action)) {
		words += ", but for what is something else by now"
	}
	return surface.Say(words, b.Action.Naming().Name).And(s.change(b.Action, keys, nil))
}

// change has a command have other keys, and keeps that.
func (s *Surface) change(a keymap.Action, keys, kept []string) surface.Intent {
	s.keeper.Keys.Take(keymap.Own{a: keys})
	s.keys, s.finder = s.all(), nil
	_, chosen, _ := s.list.Chosen()
	s.list.Set(s.matching(), chosen)
	file := s.keeper.File
	if file == "" {
		return surface.Intent{}
	}
	return surface.Begin(s.keeper.Queue.Add(func() error { return keymap.KeepOwn(file, a, kept) }))
}

// words say what the page listens for.
func (l *listen) words(held string) string {
	first := ""
	if l.first != "" {
		first = keymap.Label(l.first) + " … "
	}
	switch l.what {
	case telling:
		return first + "press a key, to see what it does; Esc not"
	case giving:
		return first + "press the key for: " + l.action.Naming().Name + "; Esc none"
	case asking:
		return keymap.Label(l.key) + " is now: " + held + "; Enter takes it from there, Esc leaves it"
	}
	return ""
}
