package demo

// never is the number of a commit that has not been made: what belongs to it
// is changed, but not committed.
const never = 1 << 20

const (
	ada   = "Ada Fenwick <ada@tarnwell.example>"
	bram  = "Bram Holt <bram@tarnwell.example>"
	celia = "Celia Ward <celia@tarnwell.example>"
)

var commits = []commit{
	{"2026-01-12T09:14:00Z", ada, "Begin with valleys and distances", []string{"README.md", "Makefile", ".gitignore", "go.mod", "geo/", "config/valleys.yaml"}},
	{"2026-01-13T16:40:00Z", ada, "Hold call-outs and teams", []string{"dispatch/callout.go", "dispatch/team.go", "dispatch/errors.go"}},
	{"2026-01-15T11:02:00Z", bram, "Give call-outs to the nearest team", []string{"dispatch/roster.go", "dispatch/roster_test.go"}},
	{"2026-01-16T10:25:00Z", bram, "Keep call-outs in memory and in a file", []string{"store/"}},
	{"2026-01-19T14:51:00Z", ada, "Open and close call-outs at a desk", []string{"dispatch/assigner.go", "dispatch/desk.go", "dispatch/desk_test.go"}},
	{"2026-01-20T10:11:00Z", bram, "Spread the load at night, and let the head of operations pin a team", []string{"dispatch/"}},
	{"2026-01-21T08:33:00Z", celia, "Read what the huts send", []string{"radio/", "docs/radio-protocol.md"}},
	{"2026-01-22T17:05:00Z", celia, "Keep three days of weather", []string{"weather/"}},
	{"2026-01-27T13:20:00Z", bram, "Serve the board, with settings from a file", []string{"server/", "config/config.go", "config/config_test.go", "config/tarnwell.yaml", "cmd/"}},
	{"2026-01-29T09:48:00Z", celia, "Estimate the risk of slopes", []string{"risk/", "config/slopes.csv"}},
	{"2026-02-02T12:30:00Z", celia, "Do not count snow that has blown away against what has fallen", nil},
	{"2026-02-03T15:37:00Z", ada, "Show it all on a board", []string{"board/"}},
	{"2026-02-04T11:06:00Z", celia, "Put a gateway between the radio and the service", []string{"gateway/"}},
	{"2026-02-06T18:20:00Z", bram, "Let teams rest for three quarters of an hour", nil},
	{"2026-02-07T13:02:00Z", celia, "Measure in the huts and report by radio", []string{"station/"}},
	{"2026-02-09T07:55:00Z", ada, "Describe how it fits together", []string{"docs/overview.md"}},
}

var revisions = []revision{
	{10, "weather/history.go", "fallen += list[i].Snow - list[i-1].Snow", "fallen += max(list[i].Snow-list[i-1].Snow, 0)"},
	{10, "weather/history.go", "millimetres.\n", "millimetres. Snow that has settled or blown away does not count against it.\n"},
	{10, "weather/history_test.go", "got != 110", "got != 140"},
	{13, "dispatch/roster.go", "const RestTime = 30 * time.Minute", "const RestTime = 45 * time.Minute"},
	{13, "config/config.go", "Rest: 30 * time.Minute", "Rest: 45 * time.Minute"},
	{13, "config/config_test.go", "s.Rest != 30*time.Minute", "s.Rest != 45*time.Minute"},
	{13, "config/tarnwell.yaml", "rest_minutes: 30", "rest_minutes: 45"},
	{never, "dispatch/callout.go", "const urgentAfter = 15 * time.Minute", "const urgentAfter = 10 * time.Minute"},
	{never, "README.md", "", `

## A known nuisance

Now and then the board shows a team as free that is still on the mountain. It
has happened when two call-outs came from the same valley within an hour.
`},
}
