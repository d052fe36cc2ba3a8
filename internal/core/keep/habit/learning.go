package habit

import (
	"cmp"
	"slices"
	"time"
)

// Known is how often a command was done by its key by somebody who knows the key.
const Known = 5

// When it is said that a command would have helped: not if it was used not long ago, not again soon, not
// often, and not many a day.
const (
	quietAfterUse = 14 * 24 * time.Hour
	quietAfterTip = 7 * 24 * time.Hour
	mostTold      = 3
	mostADay      = 3
)

// Missed notes that a command would have done at once what was done otherwise. tell says that this is
// worth saying now, and counts it as said; it is false if such tips are not wanted.
func (b *Book) Missed(command string, wanted bool, when time.Time) (tell bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	u := b.kept[command].and(b.fresh[command])
	tell = wanted && u.Keyed < Known && u.Told < mostTold &&
		(u.Keyed == 0 || when.Sub(u.Last) > quietAfterUse) &&
		(u.Told == 0 || when.Sub(u.Shown) > quietAfterTip) && b.toldOn(when) < mostADay
	add := Use{Missed: 1}
	if tell {
		add.Told, add.Shown = 1, when
	}
	b.add(command, add)
	return tell
}

// toldOn is of how many commands it was said on the day of a time that they would have helped.
func (b *Book) toldOn(when time.Time) (n int) {
	day := when.Local().Format(time.DateOnly)
	seen := map[string]bool{}
	for _, all := range []map[string]Use{b.kept, b.fresh} {
		for c, u := range all {
			if !seen[c] && !u.Shown.IsZero() && u.Shown.Local().Format(time.DateOnly) == day {
				seen[c] = true
				n++
			}
		}
	}
	return n
}

// Command is one that can be learned, of a group of such as are used for the same.
type Command struct{ Name, Group string }

// Learned is how far somebody is with commands.
type Learned struct {
	// Known are those whose keys are known, the most used first. Worth are those worth learning next, the
	// most useful first. Others were hardly used, or never, in the order in which they were given.
	Known, Worth, Others []Command
}

// mostWorth is how many commands are said to be worth learning next, and mostOfGroup how many of those are of a
// group only because one uses others of it.
const (
	mostWorth   = 9
	mostOfGroup = 3
)

// Learned says how far one is with commands. Worth learning are those that would have helped, then those that
// one does by their names, and then those whose group one uses most.
func (b *Book) Learned(all []Command) (l Learned) {
	groups := map[string]int{}
	for _, c := range all {
		u := b.Of(c.Name)
		groups[c.Group] += u.Keyed + u.Named
	}
	var rest []Command
	for _, c := range all {
		if b.Of(c.Name).Keyed >= Known {
			l.Known = append(l.Known, c)
		} else {
			rest = append(rest, c)
		}
	}
	slices.SortStableFunc(l.Known, func(x, y Command) int { return cmp.Compare(b.Of(y.Name).Keyed, b.Of(x.Name).Keyed) })
	worth := slices.Clone(rest)
	slices.SortStableFunc(worth, func(x, y Command) int {
		u, v := b.Of(x.Name), b.Of(y.Name)
		return cmp.Or(cmp.Compare(v.Missed, u.Missed), cmp.Compare(v.Named, u.Named), cmp.Compare(groups[y.Group], groups[x.Group]))
	})
	fromGroup := map[string]int{}
	for _, c := range worth {
		u := b.Of(c.Name)
		if asked := u.Missed+u.Named > 0; !asked {
			if fromGroup[c.Group]++; fromGroup[c.Group] > mostOfGroup {
				continue
			}
		}
		if len(l.Worth) < mostWorth {
			l.Worth = append(l.Worth, c)
		}
	}
	for _, c := range rest {
		if !slices.Contains(l.Worth, c) {
			l.Others = append(l.Others, c)
		}
	}
	return l
}
