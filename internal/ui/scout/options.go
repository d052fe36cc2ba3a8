package scout

import (
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/lexicon"
	"rooktrail/internal/ui/sheet"
	"sync"
)

// options are the settings, as they are found by what people call them.
type options struct {
	all     []settings.Setting
	set     settings.Settings
	lexicon func() *lexicon.Lexicon // made when it is first asked for, beside the screen
}

func newOptions() options {
	all := settings.All()
	return options{all: all, lexicon: sync.OnceValue(func() *lexicon.Lexicon {
		var entries []lexicon.Entry
		for _, s := range all {
			entries = append(entries, lexicon.Entry{Title: s.Name, Phrases: s.Phrases})
		}
		return lexicon.New(entries)
	})}
}

// lane are the settings that one may mean.
func (o options) lane(typed string) lane {
	l := lane{title: laneSettings}
	if !isWords(typed) {
		return l
	}
	q := fuzzy.Parse(typed)
	for _, h := range o.lexicon().Find(typed) {
		s := o.all[h.Index]
		value, _ := o.set.Value(s.Key)
		if len(l.rows) == 0 {
			l.liken(q, h, s.Name)
		}
		l.rows = append(l.rows, sheet.Row{What: "setting", Name: s.Name + ": " + s.Written(value), At: h.At, Where: s.Does, Reads: true, Value: Choice{Setting: s.Key}})
	}
	return l
}
