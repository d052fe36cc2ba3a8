package app

import (
	"bytes"
	"context"
	"fmt"
	"path"
	"slices"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/find"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/sweeps"
)

// sweptMsg brings the sweeps that were kept.
type sweptMsg struct {
	all []*sweep.Sweep
	err error
}

// loadSweeps reads the sweeps that were kept.
func (m *Model) loadSweeps() tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		all, err := ws.Sweeps()
		return sweptMsg{all, err}
	}
}

// sweepsLoaded takes over the sweeps that were kept. One may have been made here meanwhile, and have
// been read, too.
func (m *Model) sweepsLoaded(msg sweptMsg) {
	for _, s := range msg.all {
		if i := slices.IndexFunc(m.sweeps, func(o *sweep.Sweep) bool { return o.ID == s.ID }); i >= 0 {
			m.sweeps[i].Merge(s)
		} else {
			m.sweeps = append(m.sweeps, s)
		}
	}
	if m.sweep == nil && len(m.sweeps) > 0 {
		m.sweep = m.sweeps[0] // the one used last
		if at := m.sweep.At(); at >= 0 && m.sweep.Items[at].Path == m.start.Path && m.sweep.Items[at].Line == m.start.Line {
			m.say("%s", m.arrival(at, walkedMsg{}))
		}
	}
	if msg.err != nil {
		m.say("%s", msg.err)
	}
}

// keepSweep keeps a sweep as it is now, and takes over what another program did to it.
func (m *Model) keepSweep(s *sweep.Sweep) tea.Cmd {
	if m.swept == nil {
		m.swept = map[*sweep.Sweep]bool{}
	}
	m.swept[s] = true
	ws, kept := m.ws, s.Clone()
	return func() tea.Msg {
		if err := ws.KeepSweep(kept); err != nil {
			return noteMsg(err.Error())
		}
		return sweepKeptMsg{s, kept}
	}
}

// sweepKeptMsg brings a sweep as it is on disk now.
type sweepKeptMsg struct{ sweep, kept *sweep.Sweep }

func (m *Model) sweepKept(msg sweepKeptMsg) {
	msg.sweep.Merge(msg.kept)
	m.showSweep()
}

// showSweep brings the sheet up to date, if it is open.
func (m *Model) showSweep() {
	if m.overlay == sweepOverlay {
		m.sweeping.Update(m.sweep, m.sweeps)
	}
}

// onSweeps carries out an action on sweeps; ok is false for any other.
func (m *Model) onSweeps(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.Sweep, keymap.Sweeps:
		return m.openSweep(a == keymap.Sweeps), true
	case keymap.ChangedPlaces:
		return m.listChanged(), true
	case keymap.Unused:
		return m.listUnused(), true
	case keymap.Next, keymap.Previous:
		if len(m.inFile.hits) > 0 {
			return m.nextHit(a == keymap.Next), true
		}
		if m.guided != nil {
			return m.onWalk(a == keymap.Next), true
		}
		return m.walk(a == keymap.Next), true
	case keymap.SweepDone, keymap.SweepTick, keymap.SweepAside, keymap.SweepFile, keymap.SweepFolder, keymap.SweepNote, keymap.SweepRefresh:
		return m.onPlace(a), true
	}
	return nil, false
}

// onPlace carries out an action on the place of the sweep one is at.
func (m *Model) onPlace(a keymap.Action) tea.Cmd {
	s := m.sweep
	if s == nil {
		m.noSweep()
		return nil
	}
	if a == keymap.SweepRefresh {
		return m.refreshSweep()
	}
	at := s.At()
	if at < 0 {
		m.say("n goes to the first place of the sweep; that can then be marked")
		return nil
	}
	switch a {
	case keymap.SweepDone:
		s.SetMark(at, sweep.Done)
		return tea.Batch(m.keepSweep(s), m.walk(true))
	case keymap.SweepTick:
		m.tick(at)
	case keymap.SweepAside:
		m.setAside(at)
	case keymap.SweepFile:
		m.setAsideAll(s.Items[at].Path)
	case keymap.SweepFolder:
		m.setAsideAll(path.Dir(s.Items[at].Path))
	case keymap.SweepNote:
		cmd := m.openSweep(false)
		m.sweeping.Ask()
		return cmd
	}
	return m.keepSweep(s)
}

func (m *Model) noSweep() {
	if len(m.sweeps) > 0 {
		m.say("no sweep is the present one; W s lists them")
		return
	}
	m.say("nothing is being looked for in this file, which / does, and there is no sweep: Alt+K in a list keeps it as one")
}

// tick marks a place as done, or as not done after all.
func (m *Model) tick(at int) {
	mark, words := sweep.Done, "done"
	if m.sweep.Items[at].Mark == sweep.Done {
		mark, words = sweep.Seen, "not done after all"
	}
	m.sweep.SetMark(at, mark)
	m.say("%s: %s", words, m.howFar())
}

func (m *Model) setAside(at int) {
	mark, words := sweep.Aside, "set aside"
	if m.sweep.MarkOf(at) == sweep.Aside {
		mark, words = sweep.Left, "brought back"
	}
	m.sweep.SetMark(at, mark)
	m.say("%s: %s", words, m.howFar())
}

// setAsideAll sets a file or folder aside with all places in it, or brings it back.
func (m *Model) setAsideAll(folder string) {
	s, back := m.sweep, true
	for i := range s.Items {
		if sweep.Within(folder, s.Items[i].Path) && s.IsLeft(i) {
			back = false
		}
	}
	s.SetAside(folder, !back)
	words := "set aside"
	if back {
		words = "brought back"
	}
	if folder == "." {
		folder = "everything"
	}
	m.say("%s %s: %s", folder, words, m.howFar())
}

// howFar says what is left of the sweep.
func (m *Model) howFar() string {
	c := m.sweep.Count()
	return sheet.Number(c.Left) + " of " + sheet.Number(c.All) + " left in " + m.sweep.Name
}

// walkedMsg says where the place of a sweep is now to which one goes.
type walkedMsg struct {
	number int
	sweep  *sweep.Sweep
	key    string
	at     place.Memory
	fate   place.Fate
	err    error
	round  bool
}

// walk goes to the next place of the sweep, or back to the one before.
func (m *Model) walk(forward bool) tea.Cmd {
	s := m.sweep
	if s == nil {
		m.noSweep()
		return nil
	}
	i, round, ok := s.Next(forward)
	if !ok {
		if at := s.At(); at >= 0 && s.IsLeft(at) {
			m.say("this is the last place that is left of %s; N ticks it", s.Name)
		} else {
			m.say("nothing is left of %s; W W shows all of it", s.Name)
		}
		return nil
	}
	return m.walkTo(i, round)
}

// walkTo goes to a place of the sweep, wherever that is by now.
func (m *Model) walkTo(i int, round bool) tea.Cmd {
	m.opens++
	m.going = true
	s, number, it, ws := m.sweep, m.opens, m.sweep.Items[i], m.ws
	return func() tea.Msg {
		fate, err := ws.Find(context.Background(), &it.Memory)
		return walkedMsg{number, s, it.Key, it.Memory, fate, err, round}
	}
}

func (m *Model) walked(msg walkedMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	s := msg.sweep
	i := -1
	for n := range s.Items {
		if s.Items[n].Key == msg.key {
			i = n
		}
	}
	if i < 0 || s != m.sweep {
		return m.arrived(nil)
	}
	it := &s.Items[i]
	it.Fate = msg.fate
	if msg.err != nil || msg.fate == place.Gone {
		s.Here = it.Key // so that the next is the one behind it
		if msg.err != nil {
			m.say("gone: %s: %s; n goes on, %s", it.Path, reason(msg.err), m.howFar())
		} else {
			m.say("gone from %s: %s; n goes on, %s", shortName(it.Path), it.Text, m.howFar())
		}
		return m.arrived(m.keepSweep(s))
	}
	it.Memory = msg.at
	s.Go(i)
	keep := m.keepSweep(s)
	m.clearInFile()
	o := toItem(it)
	o.lead = true
	o.how, o.symbol, o.after = "sweep: "+s.Name, it.In, m.arrival(i, msg)
	return tea.Batch(keep, m.open(o))
}

// toItem is the opening that goes to a place of a sweep.
func toItem(it *sweep.Item) opening {
	return opening{path: it.Path, line: it.Line, col: it.Col, length: it.Length}
}

// arrival says at which place of the sweep one is.
func (m *Model) arrival(i int, msg walkedMsg) string {
	s := m.sweep
	words := fmt.Sprintf("%d of %s, %s left", i+1, sheet.Number(len(s.Items)), sheet.Number(s.Count().Left))
	if msg.round {
		words += ", from the other end again"
	}
	switch mark := s.MarkOf(i); {
	case mark == sweep.Done:
		words += ", done"
	case msg.fate == place.Changed:
		words += ", changed since"
	}
	if note := s.Items[i].Note; note != "" {
		return words + ": " + note
	}
	return words + " of " + s.Name + ". N ticks it and goes on"
}

// openSweep shows the present sweep, or all of them; where its places are by now is
// found out meanwhile.
func (m *Model) openSweep(choose bool) tea.Cmd {
	if len(m.sweeps) == 0 {
		m.noSweep()
		return nil
	}
	m.remember()
	m.overlay = sweepOverlay
	m.sweeping.Open(m.sweep, m.sweeps, choose, m.sheetHeight())
	m.arrange()
	m.lines.spans = nil
	return tea.Batch(m.locateSweep(), m.previewItem(), m.colorItems())
}

// colorItems finds the colours of the places of the sweep.
func (m *Model) colorItems() tea.Cmd {
	if m.sweep == nil {
		return nil
	}
	var all []place.Place
	for i := range m.sweep.Items {
		all = append(all, m.sweep.Items[i].Place())
	}
	return m.colorLines(all)
}

// locatedMsg brings where the places of a sweep are by now.
type locatedMsg struct{ sweep, found *sweep.Sweep }

// locatedItems are places of the sweep in a file with where they are now.
type locatedItems struct {
	sweep    *sweep.Sweep
	was, now []sweep.Item
}

func (l *locatedItems) none() bool { return len(l.now) == 0 }

// itemsIn are copies of the places of the sweep in a file.
func (m *Model) itemsIn(path string) (in locatedItems) {
	if m.sweep == nil {
		return in
	}
	in.sweep = m.sweep
	for i := range m.sweep.Items {
		if it := m.sweep.Items[i]; it.Path == path && it.Text != "" {
			in.was, in.now = append(in.was, it), append(in.now, it)
		}
	}
	return in
}

// locate finds them in their file, as locatedMarks does.
func (l *locatedItems) locate(was *text.Document, f *workspace.File) {
	all, before := make([]*place.Memory, len(l.now)), make([]place.Fate, len(l.now))
	for i := range l.now {
		all[i], before[i] = &l.now[i].Memory, l.now[i].Fate
	}
	for i, fate := range whereAll(was, f, all, before) {
		l.now[i].Fate = fate
	}
}

// itemsLocated takes over where places of the sweep are now.
func (m *Model) itemsLocated(in locatedItems) tea.Cmd {
	if in.none() || m.sweep != in.sweep {
		return nil
	}
	if !in.sweep.Follow(in.was, in.now) {
		return nil
	}
	m.showSweep()
	return m.keepSweep(in.sweep)
}

func (m *Model) locateSweep() tea.Cmd {
	if m.sweep == nil {
		return nil
	}
	s, found, ws := m.sweep, m.sweep.Clone(), m.ws
	return func() tea.Msg {
		ws.Locate(context.Background(), found)
		return locatedMsg{s, found}
	}
}

func (m *Model) sweepLocated(msg locatedMsg) tea.Cmd {
	msg.sweep.Located(msg.found)
	m.showSweep()
	if m.overlay == sweepOverlay {
		return tea.Batch(m.previewItem(), m.colorItems())
	}
	return nil
}

// previewItem shows the chosen place beneath the sheet.
func (m *Model) previewItem() tea.Cmd {
	i, ok := m.sweeping.Item()
	if !ok {
		return m.showBefore()
	}
	o := toItem(&m.sweep.Items[i])
	o.preview = true
	return m.open(o)
}

// sweepingUpdate hands a key to the sheet of sweeps and acts on what came of it.
func (m *Model) sweepingUpdate(msg tea.Msg) tea.Cmd {
	e := m.sweeping.Key(msg)
	s := m.sweep
	switch e.Kind {
	case sweeps.Closed:
		return m.restore()
	case sweeps.Selected:
		return m.previewItem()
	case sweeps.Taken:
		from := m.before
		m.closeOverlay()
		if from != nil && from.file != nil {
			return tea.Batch(m.putBack(from), m.walkTo(e.Item, false))
		}
		return m.walkTo(e.Item, false)
	case sweeps.Tick:
		m.tick(e.Item)
	case sweeps.Aside:
		m.setAside(e.Item)
	case sweeps.AsideAll:
		m.setAsideAll(e.Path)
	case sweeps.Noted:
		s.SetNote(e.Item, e.Words)
	case sweeps.Refresh:
		return m.refreshSweep()
	case sweeps.Copy:
		var b bytes.Buffer
		s.WriteMarkdown(&b) // a buffer takes everything
		return m.copy(b.String(), "the checklist of "+s.Name)
	case sweeps.Chosen:
		m.present(e.Sweep)
		m.sweeping.Open(m.sweep, m.sweeps, false, m.sheetHeight())
		m.arrange()
		return tea.Batch(m.keepSweep(e.Sweep), m.locateSweep(), m.previewItem())
	case sweeps.Renamed:
		e.Sweep.Rename(e.Words)
		m.showSweep()
		return m.keepSweep(e.Sweep)
	case sweeps.Removed:
		return m.removeSweep(e.Sweep)
	default:
		return nil
	}
	m.showSweep()
	return m.keepSweep(s)
}

// present makes a sweep the one that n and p walk.
func (m *Model) present(s *sweep.Sweep) {
	m.sweep = s
	s.Touch()
}

func (m *Model) removeSweep(gone *sweep.Sweep) tea.Cmd {
	for i, s := range m.sweeps {
		if s == gone {
			m.sweeps = append(m.sweeps[:i:i], m.sweeps[i+1:]...)
			break
		}
	}
	if m.sweep == gone {
		m.sweep = nil
	}
	m.say("%s is forgotten", gone.Name)
	ws := m.ws
	forget := func() tea.Msg {
		if err := ws.RemoveSweep(gone.ID); err != nil {
			return noteMsg(err.Error())
		}
		return nil
	}
	if len(m.sweeps) == 0 {
		return tea.Batch(forget, m.restore())
	}
	m.showSweep()
	return tea.Batch(forget, m.previewItem())
}

// refreshedMsg brings a sweep whose question was asked again.
type refreshedMsg struct {
	sweep, found   *sweep.Sweep
	fresh, settled int
	err            error
}

// refreshSweep asks the question of the sweep again.
func (m *Model) refreshSweep() tea.Cmd {
	if m.sweep == nil {
		m.noSweep()
		return nil
	}
	if m.overlay == sweepOverlay {
		m.sweeping.Busy()
	} else {
		m.say("%s is being asked again …", m.sweep.Name)
	}
	s, found, ws := m.sweep, m.sweep.Clone(), m.ws
	return func() tea.Msg {
		fresh, settled, err := ws.RefreshSweep(context.Background(), found)
		return refreshedMsg{s, found, fresh, settled, err}
	}
}

func (m *Model) sweepRefreshed(msg refreshedMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
		m.showSweep()
		return nil
	}
	msg.found.Merge(msg.sweep) // what was marked meanwhile
	*msg.sweep = *msg.found
	m.showSweep()
	m.say("%s new, %s no longer among the answers: %s", sheet.Number(msg.fresh), sheet.Number(msg.settled), m.howFar())
	cmds := []tea.Cmd{m.keepSweep(msg.sweep)}
	if m.overlay == sweepOverlay {
		cmds = append(cmds, m.previewItem())
	}
	return tea.Batch(cmds...)
}

// madeMsg brings a sweep that was made of a list.
type madeMsg struct {
	made *sweep.Sweep
	err  error
}

// makeSweep keeps places as a sweep; find is called outside the update loop.
func (m *Model) makeSweep(name string, source sweep.Source, find func(ctx context.Context) ([]workspace.Destination, error)) tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		ctx := context.Background()
		all, err := find(ctx)
		if err != nil {
			return madeMsg{err: err}
		}
		return madeMsg{made: ws.NewSweep(ctx, name, source, all)}
	}
}

// sweepMade takes a sweep that was made. One of the same question that is there
// already is brought up to date instead, so that its marks are not lost.
func (m *Model) sweepMade(msg madeMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
		return nil
	}
	made := msg.made
	if len(made.Items) == 0 {
		m.say("there is no place to keep")
		return nil
	}
	for _, s := range m.sweeps {
		if s.SameQuestion(made) {
			m.present(s)
			return m.refreshSweep()
		}
	}
	m.sweeps = append([]*sweep.Sweep{made}, m.sweeps...)
	m.present(made)
	m.say("kept as the sweep %q with %s: n and p walk through it, W W shows it", made.Name, sheet.Count(len(made.Items), "place", "places"))
	return m.keepSweep(made)
}

// keepPlaces keeps what the list of places shows.
func (m *Model) keepPlaces() tea.Cmd {
	name, source, shown := m.places.Title(), m.placesSource, m.places.Shown()
	if narrowed := m.places.Narrowed(); narrowed != "" {
		name += ", " + narrowed
		source = sweep.Source{Kind: sweep.OfList} // the question had a wider answer
	}
	return tea.Batch(m.restore(), m.makeSweep(name, source, func(context.Context) ([]workspace.Destination, error) { return shown, nil }))
}

// keepText keeps all places where the text that is typed in the scout is found.
func (m *Model) keepText(q find.Query) tea.Cmd {
	ws := m.ws
	cmd := m.restore()
	m.say("every place of %q is being gathered …", q.Pattern)
	return tea.Batch(cmd, m.makeSweep("text: "+q.Pattern, sweep.Source{Kind: sweep.OfText, Query: &q}, func(ctx context.Context) ([]workspace.Destination, error) {
		return ws.TextPlaces(ctx, q)
	}))
}

// listedMsg brings places to be listed that do not depend on a name.
type listedMsg struct {
	number     int
	title, how string
	none       string
	source     sweep.Source
	list       places.Gathered
}

// listAll lists places that do not depend on a name.
func (m *Model) listAll(title, how, none string, source sweep.Source, find func(ctx context.Context) []workspace.Destination) tea.Cmd {
	m.opens++
	m.going = true
	ctx, cancel := context.WithCancel(context.Background())
	m.giveUp = cancel
	number := m.opens
	return func() tea.Msg {
		defer cancel()
		return listedMsg{number, title, how, none, source, places.Gather(find(ctx))}
	}
}

func (m *Model) listed(msg listedMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	if msg.list.Len() == 0 {
		m.say("%s", msg.none)
		return m.arrived(nil)
	}
	return m.arrived(m.openPlaces(msg.title, msg.how, msg.source, msg.list))
}

// listChanged lists what differs from the last commit.
func (m *Model) listChanged() tea.Cmd {
	return m.listAll("changed since the last commit", "changed place", "nothing differs from the last commit", sweep.Source{Kind: sweep.OfChanged}, m.ws.ChangedPlaces)
}

// listUnused lists the definitions around the present file that nothing refers to.
func (m *Model) listUnused() tea.Cmd {
	folder := path.Dir(m.code.Path())
	title, where := "nothing refers to, in "+folder, folder+"/"
	if folder == "." {
		title, where = "nothing refers to", "this project"
	}
	m.say("looking for what nothing refers to in %s; Esc gives up", where)
	m.waiting = m.message
	return m.listAll(title, "unused symbol", "everything in "+where+" is referred to", sweep.Source{Kind: sweep.OfUnused, Folder: folder}, func(ctx context.Context) []workspace.Destination {
		return m.ws.UnusedPlaces(ctx, folder)
	})
}
