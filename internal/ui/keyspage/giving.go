package keyspage

import (
	"path"
	"slices"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Keeper is what changes the keys of the program.
type Keeper struct {
	// Keys is the map that all share.
	Keys keymap.Map
	// Own are those of the user's own, and where they are kept; "" if they are kept nowhere.
	Own  *keymap.Owned
	File string
	// Queue is what writes there.
	Queue *surface.Queue
}

// Load has the keys of the user's own hold, which are kept in a file, "" for none, and says what is wrong with
// them.
func (k *Keeper) Load(file string) (problems []string) {
	k.File = file
	for _, words := range k.Keys.Take(k.Own.AllKeys()) {
		problems = append(problems, k.File+": "+words)
	}
	return problems
}

// listening is what the page does with the next key.
type listening uint8

const (
	nothing   listening = iota
	telling             // it says what the key does
	giving              // it gives the key to a command
	asking              // it asks whether the key is to be taken from others
	placing             // it asks where the key is to hold
	resetting           // it asks whether all keys are to be as they are delivered
)

// listen has the next keys be looked at instead of doing something.
type listen struct {
	what   listening
	action keymap.Action
	list   string   // the list of which a key is to stand for another one, "" for none
	stands string   // the key it is to stand for
	first  string   // the first of two keys
	key    string   // the key that is to be given
	table  []string // where it is to hold, by its table in the file; nil for everywhere
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
		s.listen.list, s.listen.stands = b.Group, b.Keys[0]
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
	case l.what == resetting:
		if keymap.Is(name, on.Take) {
			return s.reset()
		}
		return surface.Intent{}
	case l.what == placing:
		return s.place(name)
	case l.what == asking:
		switch {
		case !keymap.Is(name, on.Take):
			return surface.Intent{}
		case l.list != "":
			return s.giveInList()
		case l.table != nil:
			return s.giveIn(l.table)
		}
		return s.give()
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
	l.key = key
	if l.list != "" {
		return s.unless(s.giveInList)
	}
	l.what = placing
	return surface.Intent{}
}

// place takes where the key is to hold: everywhere, where letters are typed, or in files of an ending only.
func (s *Surface) place(name string) surface.Intent {
	l := &s.listen
	switch {
	case keymap.Is(name, on.Typed):
		l.table = []string{"write"}
		return s.unless(func() surface.Intent { return s.giveIn(l.table) })
	case keymap.Is(name, on.Files) && s.ending() != "":
		l.table = []string{"files", "*" + s.ending()}
		return s.unless(func() surface.Intent { return s.giveIn(l.table) })
	case !keymap.Is(name, on.Take):
		return surface.Intent{}
	}
	if why := s.keeper.Keys.Refuses(l.action, l.key); why != "" {
		s.listen = listen{}
		return surface.Say("%s", why)
	}
	return s.unless(s.give)
}

// unless gives the key, but asks first if something else has it where it is to hold.
func (s *Surface) unless(give func() surface.Intent) surface.Intent {
	if s.held() != "" {
		s.listen.what = asking
		return surface.Intent{}
	}
	return give()
}

// ending is that of the file on the screen.
func (s *Surface) ending() string { return path.Ext(s.file) }

// giveIn gives the command the key, to hold only somewhere.
func (s *Surface) giveIn(table []string) surface.Intent {
	l, o := s.listen, s.keeper.Own
	s.listen = listen{}
	keys, where := []string{l.key}, "where letters are typed"
	if table[0] == "write" {
		if o.Write == nil {
			o.Write = keymap.Own{}
		}
		o.Write.Give(l.action, l.key)
		keys = o.Write[l.action]
	} else {
		keys, where = o.GiveInFiles(table[1], l.action, l.key), "in "+table[1]+" files"
	}
	todo := surface.Say("%s is %s from now on, %s", keymap.Label(l.key), l.action.Naming().Name, where)
	return todo.And(s.write(func(file string) error { return keymap.KeepOwn(file, table, l.action, keys) }))
}

// giveInList has the key stand for that of a list.
func (s *Surface) giveInList() surface.Intent {
	l, o := s.listen, s.keeper.Own
	s.listen = listen{}
	o.GiveInList(l.list, l.key, l.stands)
	todo := surface.Say("%s stands for %s from now on, in the list: %s", keymap.Label(l.key), keymap.Label(l.stands), l.list)
	return todo.And(s.write(func(file string) error { return keymap.KeepInList(file, l.list, l.key, l.stands) }))
}

// reset gives all keys back as they are delivered.
func (s *Surface) reset() surface.Intent {
	s.listen = listen{}
	o := s.keeper.Own
	o.Keys, o.Write, o.Files, o.Lists = keymap.Own{}, nil, nil, nil
	s.keeper.Keys.Deliver()
	s.keeper.Keys.Take(o.AllKeys()) // what cannot be of them was said when they were read
	s.keys, s.finder = s.all(), nil
	return surface.Say("all keys are as they are delivered; your own commands stay").And(s.write(keymap.ForgetOwn))
}

// write has the file of keys be changed, if there is one.
func (s *Surface) write(change func(file string) error) surface.Intent {
	file := s.keeper.File
	if file == "" {
		return surface.Intent{}
	}
	return surface.Begin(s.keeper.Queue.Add(func() error { return change(file) }))
}

// held is what else has the key that is to be given; "" if it is free.
func (s *Surface) held() string {
	l, o := &s.listen, s.keeper.Own
	switch {
	case l.list != "":
		for _, b := range s.everywhere() {
			if (b.Group == l.list || b.Group == keymap.Sheet) && slices.Contains(b.Keys, l.key) && !slices.Contains(b.Keys, l.stands) {
				return b.Title
			}
		}
		return ""
	case l.table != nil:
		a, ok := o.InWrite(l.key)
		if l.table[0] == "files" {
			if a, ok = o.InFile(s.file, l.key); !ok {
				a, ok = s.keeper.Keys.Of(l.key)
			}
		} else if !ok {
			a, ok = s.keeper.Keys.OfWrite(l.key)
		}
		if !ok || a == l.action {
			return ""
		}
		return a.Naming().Name
	}
	b, ok := s.keeper.Keys.Holder(l.action, l.key)
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
	for _, b := range s.everywhere() {
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
	if s.input.Value() == "" {
		s.listen = listen{what: resetting}
		return surface.Intent{}
	}
	if !ok || b.Action == "" {
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
	return s.write(func(file string) error { return keymap.KeepOwn(file, []string{"keys"}, a, kept) })
}

// words say what the page listens for.
func (l *listen) words(held, ending string) string {
	first := ""
	if l.first != "" {
		first = keymap.Label(l.first) + " … "
	}
	switch l.what {
	case telling:
		return first + "press a key, to see what it does; Esc not"
	case giving:
		what := l.action.Naming().Name
		if l.list != "" {
			what = keymap.Label(l.stands) + " in the list: " + l.list
		}
		return first + "press the key for: " + what + "; Esc none"
	case resetting:
		return "all keys as they are delivered? Enter does it, Esc leaves yours"
	case placing:
		words := keymap.Label(l.key) + ": Enter everywhere; " + on.Typed.Help().Key + " only where letters are typed"
		if ending != "" {
			words += "; " + on.Files.Help().Key + " only in *" + ending
		}
		return words + "; Esc not"
	case asking:
		return keymap.Label(l.key) + " is now: " + held + "; Enter takes it from there, Esc leaves it"
	}
	return ""
}
