package readiness

import (
	"strings"

	"rooktrail/internal/ui/keymap"
)

// Here are the commands that act on the name where one is, as a group of their own that is called after it.
func (s All) Here(keys keymap.Map) (here keymap.Map) {
	for _, b := range keys {
		st := s[b.Action]
		if name, ok := strings.CutPrefix(st.On, "of "); ok && st.Lack == "" && len(b.Keys) > 0 {
			b.Group = keymap.HereAndNow + ": " + name
			here = append(here, b)
		}
	}
	return here
}
