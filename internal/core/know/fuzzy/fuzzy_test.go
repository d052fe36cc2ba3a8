package fuzzy

import (
	"context"
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// paths is a project of realistic size for a reader's eye; every query of the
// table below is put to all of it.
var paths = strings.Fields(`
README.md go.mod Makefile docs/overview.md docs/radio-protocol.md docs/on-call.md config/tarnwell.yaml
config/valleys.yaml config/hut_sensors.yaml cmd/dispatchd/main.go cmd/dispatchd/flags.go
internal/dispatch/roster.go internal/dispatch/roster_test.go internal/dispatch/assign.go
internal/dispatch/callout.go internal/dispatch/callout_test.go internal/dispatch/team.go
internal/dispatch/skill.go internal/dispatch/errors.go internal/dispatch/nearest.go
internal/store/store.go internal/store/memory.go internal/store/sqlite.go internal/store/store_test.go
internal/store/migrations/001_create_callouts.sql internal/store/migrations/002_add_team_skills.sql
internal/httpapi/server.go internal/httpapi/routes.go internal/httpapi/middleware.go
internal/httpapi/calloutHandler.go internal/httpapi/rosterHandler.go internal/httpapi/HTTPError.go
internal/geo/valley.go internal/geo/distance.go internal/geo/coordinate_system.go
internal/radio/reader.go internal/radio/frame.go internal/radio/decoder.go internal/radio/gatewayClient.go
risk/__init__.py risk/model.py risk/slope.py risk/snowpack.py risk/weather_report.py risk/estimate.py
risk/tests/test_model.py risk/tests/test_snowpack.py risk/tests/conftest.py
board/package.json board/src/main.ts board/src/app.tsx board/src/components/CalloutList.tsx
board/src/components/RosterPanel.tsx board/src/components/AvalancheGauge.tsx
board/src/components/index.ts board/src/api/client.ts board/src/api/types.ts board/src/styles/board.css
board/src/hooks/useCallouts.ts board/src/hooks/useRoster.ts board/src/util/formatTime.ts
gateway/src/main/java/tarn/gateway/RadioGateway.java gateway/src/main/java/tarn/gateway/FrameParser.java
gateway/src/main/java/tarn/gateway/HutRegistry.java gateway/src/test/java/tarn/gateway/FrameParserTest.java
station/sensor.c station/sensor.h station/uart.c station/uart.h station/ring_buffer.c
`)

// names are symbols, each with its container in front.
var names = strings.Fields(`
Roster Roster.Assign Roster.Release Roster.free Roster.teams Team Team.Name Team.Skills Team.HasSkill
TeamStore TeamStore.Save TeamStore.Load NewRoster NewTeam Callout Callout.Valley Callout.Close
CalloutStatus StatusOpen StatusAssigned StatusClosed ErrNoTeam ErrTeamBusy Assigner Assigner.Assign
nearestTeam distanceBetween Valley ValleyByName HTTPServer HTTPServer.ListenAndServe HTTPError
HTTPError.Error parseHTTPHeader RiskModel RiskModel.estimate RiskModel.slope_factor SnowPack
SnowPack.add_layer SnowPack.weakest_layer estimate_avalanche_risk load_weather_report WeatherReport
RadioGateway RadioGateway.openPort FrameParser FrameParser.parseFrame FrameParser.checksum crc16
useCallouts useRoster CalloutList AvalancheGauge formatTime toLocalTime MAX_RETRIES max_frame_size
ring_buffer_push ring_buffer_pop uart_write XMLHttpRequest getElementById assignment reassignAll
TestAssignNearest TestRosterRelease test_estimate_flat_slope
`)

func baseOf(text string, separator byte) int { return strings.LastIndexByte(text, separator) + 1 }

func corpusOf(texts []string, separator byte) *Corpus {
	var c Corpus
	for _, t := range texts {
		c.Add(t, baseOf(t, separator))
	}
	return &c
}

func TestExpectedFirst(t *testing.T) {
	tables := []struct {
		name      string
		corpus    *Corpus
		separator byte
		cases     string // one "query → expected first" a line
	}{
		{"paths", corpusOf(paths, '/'), '/', `
			roster → internal/dispatch/roster.go
			rost → internal/dispatch/roster.go
			roster test → internal/dispatch/roster_test.go
			rostertest → internal/dispatch/roster_test.go
			rotest → internal/dispatch/roster_test.go
			callout → internal/dispatch/callout.go
			callouth → internal/httpapi/calloutHandler.go
			ch → internal/httpapi/calloutHandler.go
			CL → board/src/components/CalloutList.tsx
			clist → board/src/components/CalloutList.tsx
			rosterpanel → board/src/components/RosterPanel.tsx
			ropa → board/src/components/RosterPanel.tsx
			gauge → board/src/components/AvalancheGauge.tsx
			avgauge → board/src/components/AvalancheGauge.tsx
			main.go → cmd/dispatchd/main.go
			main.ts → board/src/main.ts
			maingo → cmd/dispatchd/main.go
			dispatch/team → internal/dispatch/team.go
			dis/ro → internal/dispatch/roster.go
			disro → internal/dispatch/roster.go
			store test → internal/store/store_test.go
			test store → internal/store/store_test.go
			sql → internal/store/sqlite.go
			.sql → internal/store/migrations/001_create_callouts.sql
			002 → internal/store/migrations/002_add_team_skills.sql
			skills → internal/store/migrations/002_add_team_skills.sql
			migr create → internal/store/migrations/001_create_callouts.sql
			httperror → internal/httpapi/HTTPError.go
			HE → internal/httpapi/HTTPError.go
			coord → internal/geo/coordinate_system.go
			cosys → internal/geo/coordinate_system.go
			snow → risk/snowpack.py
			risk/test/snow → risk/tests/test_snowpack.py
			model → risk/model.py
			test model → risk/tests/test_model.py
			weather → risk/weather_report.py
			wr → risk/weather_report.py
			init → risk/__init__.py
			conft → risk/tests/conftest.py
			readme → README.md
			mk → Makefile
			overview → docs/overview.md
			radio prot → docs/radio-protocol.md
			gateway java → gateway/src/main/java/tarn/gateway/RadioGateway.java
			fp → gateway/src/main/java/tarn/gateway/FrameParser.java
			fpt → gateway/src/test/java/tarn/gateway/FrameParserTest.java
			hutreg → gateway/src/main/java/tarn/gateway/HutRegistry.java
			uart.h → station/uart.h
			ring → station/ring_buffer.c
			rb → station/ring_buffer.c
			useroster → board/src/hooks/useRoster.ts
			api types → board/src/api/types.ts
			client → board/src/api/client.ts
			package → board/package.json
			rosetr → internal/dispatch/roster.go
			calllout → internal/dispatch/callout.go
			snowpock → risk/snowpack.py
			middelware → internal/httpapi/middleware.go
			sesnor → station/sensor.c
			valey → internal/geo/valley.go
			decodder → internal/radio/decoder.go
		`},
		{"symbols", corpusOf(names, '.'), '.', `
			roster → Roster
			assign → Roster.Assign
			Assign → Roster.Assign
			assigner → Assigner
			Ro.As → Roster.Assign
			ro as → Roster.Assign
			roster.assign → Roster.Assign
			as.as → Assigner.Assign
			te.has → Team.HasSkill
			hs → Team.HasSkill
			newr → NewRoster
			nt → NewTeam
			err → HTTPError.Error
			enoteam → ErrNoTeam
			ent → ErrNoTeam
			httpserv → HTTPServer
			hs listen → HTTPServer.ListenAndServe
			las → HTTPServer.ListenAndServe
			header → parseHTTPHeader
			phh → parseHTTPHeader
			risk → RiskModel
			estimate → RiskModel.estimate
			avrisk → estimate_avalanche_risk
			ear → estimate_avalanche_risk
			weakest → SnowPack.weakest_layer
			sp add → SnowPack.add_layer
			crc → crc16
			checksum → FrameParser.checksum
			maxre → MAX_RETRIES
			MAX → MAX_RETRIES
			push → ring_buffer_push
			rbp → ring_buffer_pop
			byid → getElementById
			xhr → XMLHttpRequest
			statusopen → StatusOpen
			tan → TestAssignNearest
			reasign → reassignAll
			rotser → Roster
			valleybynmae → ValleyByName
			avalnache → AvalancheGauge
			parsefrme → FrameParser.parseFrame
			relaese → Roster.Release
		`},
	}
	total := 0
	for _, table := range tables {
		for _, line := range strings.Split(strings.TrimSpace(table.cases), "\n") {
			query, want, _ := strings.Cut(strings.TrimSpace(line), " → ")
			total++
			t.Run(table.name+" "+query, func(t *testing.T) {
				hits := all(table.corpus, query, 5)
				require.NotEmpty(t, hits)
				got, _ := table.corpus.Text(hits[0].Index)
				assert.Equal(t, want, got, "then came: %v", textsOf(table.corpus, hits))
			})
		}
	}
	assert.GreaterOrEqual(t, total, 60)
}

// all are the hits with and without a slip.
func all(c *Corpus, query string, limit int) []Hit {
	q := Parse(query)
	return c.Forgive(context.Background(), q, Whole, limit, c.Search(context.Background(), q, Whole, limit))
}

func textsOf(c *Corpus, hits []Hit) (out []string) {
	for _, h := range hits {
		text, _ := c.Text(h.Index)
		out = append(out, fmt.Sprintf("%s %d", text, h.Score))
	}
	return out
}

// Two words that have but the same letters of a name say less than one, and letters left out within a word less than a slip.
func TestWhatLettersSayLittle(t *testing.T) {
	var c Corpus
	for _, text := range []string{"far/radio-server.manifest", "near/radio-server/deep/below/server.go", "processCommandAndResetClient", "processCommand"} {
		c.Add(text, baseOf(text, '/'))
	}
	best := func(query string) string {
		var found []*Match
		var texts []string
		q := Parse(query)
		for _, h := range all(&c, query, 5) {
			text, base := c.Text(h.Index)
			m, _ := q.Match(text, base)
			found, texts = append(found, &m), append(texts, text)
		}
		Settle(found)
		require.NotEmpty(t, found, query)
		at := 0
		for i := range found {
			if found[i].Better(*found[at]) {
				at = i
			}
		}
		return texts[at]
	}
	assert.Equal(t, "near/radio-server/deep/below/server.go", best("radio-server server"))
	assert.Equal(t, "processCommand", best("processCommnad"))
	assert.Equal(t, "processCommandAndResetClient", best("procAndReset"))
}

func TestCapitalMatchesOnlyItself(t *testing.T) {
	_, ok := Parse("Roster").Match("internal/roster.go", 9)
	assert.False(t, ok)
	_, ok = Parse("roster").Match("internal/ROSTER.go", 9)
	assert.True(t, ok)
}

func TestMatchedPositions(t *testing.T) {
	for _, c := range []struct {
		query, text string
		want        string // the text with the matched letters in capitals marked by ^
	}{
		{"ro as", "Roster.Assign", "^^.....^^...."},
		{"hs", "Team.HasSkill", ".....^..^...."},
		{"rosetr", "roster.go", "^^^^^^..."},
		{"xml", "aXbXMLc", "...^^^."},
	} {
		m, ok := Parse(c.query).Match(c.text, baseOf(c.text, '.'))
		require.True(t, ok, c.query)
		marks := []byte(strings.Repeat(".", len(c.text)))
		for _, i := range m.At {
			marks[i] = '^'
		}
		assert.Equal(t, c.want, string(marks), c.query)
	}
}

func TestSlipsRankBelowCleanMatches(t *testing.T) {
	c := corpusOf([]string{"roster.go", "roster_board.go", "ro_set_r.go"}, '/')
	hits := all(c, "rosetr", 10)
	require.NotEmpty(t, hits)
	first, _ := c.Text(hits[0].Index)
	assert.Equal(t, "ro_set_r.go", first)
	assert.False(t, hits[0].Slip)
	for _, h := range hits[1:] {
		assert.True(t, h.Slip)
	}
	assert.Empty(t, all(c, "xst", 10), "three letters forgive nothing")
}

// The fast way of scoring must agree with the plain one, whatever the text.
func TestSearchAgreesWithMatch(t *testing.T) {
	random := rand.New(rand.NewSource(7))
	letters := "abAB_./1"
	word := func(most int) string {
		b := make([]byte, 1+random.Intn(most))
		for i := range b {
			b[i] = letters[random.Intn(len(letters))]
		}
		return string(b)
	}
	for range 20000 {
		text, typed := word(14), word(5)
		query := Parse(typed)
		base := baseOf(text, '/')
		var c Corpus
		c.Add(text, base)
		hits := all(&c, typed, 1)
		m, ok := query.Match(text, base)
		require.Equal(t, ok, len(hits) == 1, "%q in %q", query.words, text)
		if ok {
			require.Equal(t, m.Score, hits[0].Score, "%q in %q", query.words, text)
			require.Equal(t, m.Slip, hits[0].Slip)
		}
	}
}

func TestSearchIsTheSameEveryTime(t *testing.T) {
	var c Corpus
	for i := range 40000 {
		text := fmt.Sprintf("pkg%d.handle", i%977)
		c.Add(text, strings.IndexByte(text, '.')+1)
	}
	first := c.Search(context.Background(), Parse("handle"), Whole, 50)
	for range 5 {
		assert.Equal(t, first, c.Search(context.Background(), Parse("handle"), Whole, 50))
	}
}

func TestSearchStopsWhenCancelled(t *testing.T) {
	c := corpusOf(paths, '/')
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Empty(t, c.Search(ctx, Parse("roster"), Whole, 5))
}

func TestLongTexts(t *testing.T) {
	long := strings.Repeat("deep/", 400) + "roster.go"
	m, ok := Parse("roster").Match(long, len(long)-9)
	require.True(t, ok)
	assert.Equal(t, len(long)-9, m.At[0])
	c := corpusOf([]string{long}, '/')
	assert.Len(t, c.Search(context.Background(), Parse("deepdeeproster"), Whole, 5), 1)
	c.Search(context.Background(), Parse(strings.Repeat("d", 80)), Whole, 5)
}

func FuzzMatch(f *testing.F) {
	f.Add("ro as", "Roster.Assign", 7)
	f.Add("\xff\x00", "a\xffb\x00", 1)
	f.Fuzz(func(t *testing.T, query, text string, base int) {
		if base < 0 || base >= len(text) {
			base = 0
		}
		m, ok := Parse(query).Match(text, base)
		for i, at := range m.At {
			if !ok || at < 0 || at >= len(text) || i > 0 && at <= m.At[i-1] {
				t.Fatalf("positions %v in %q", m.At, text)
			}
		}
	})
}

// The first letters of all words of a name say more than the same letters elsewhere.
func TestInitials(t *testing.T) {
	for query, names := range map[string][2]string{
		"vps":  {"ValidatePodSpec", "vipsOfPods"},
		"pcrm": {"PodControllerRefManager", "pickCarrmen"},
		"nrwc": {"NewRequestWithContext", "newRawConn"},
	} {
		q := Parse(query)
		meant, ok := q.Match(names[0], 0)
		assert.True(t, ok, query)
		if other, ok := q.Match(names[1], 0); ok {
			assert.Greater(t, meant.Score, other.Score, query)
		}
	}
}

// Where nothing without a slip is close, the letters of one name with a slip say more than letters that are strewn about.
func TestSlipsAmongStrewnLetters(t *testing.T) {
	var c Corpus
	for range 30 {
		c.Add("scenarios/cards/rapid/page.go", len("scenarios/cards/rapid/"))
	}
	c.Add("stat/scrape.go", len("stat/"))
	q := Parse("scrpae")
	hits := c.Forgive(context.Background(), q, Whole, 40, c.Search(context.Background(), q, Whole, 40))
	matches := make([]*Match, len(hits))
	best := 0
	for i, h := range hits {
		text, base := c.Text(h.Index)
		m, _ := q.Match(text, base)
		matches[i] = &m
	}
	Settle(matches)
	for i, m := range matches {
		if m.Better(*matches[best]) {
			best = i
		}
	}
	text, _ := c.Text(hits[best].Index)
	assert.Equal(t, "stat/scrape.go", text)
}
