package resolve_test

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
)

// casesOfShared are like cases, about names that files of several languages share: each use leads first to what is marked, and is
// among the references of that.
var casesOfShared = map[string]string{
	"classes of a sheet in elements, in selectors and in lists of classes": `
-- site.css --
.‹=legend›legend, .row.‹=open›row-open { color: red }
@media print { .‹=closed›row-closed { display: none } }
-- board.html --
<body class="row ‹legend›legend"><style>.‹=hut›hut { margin: 0 }</style>
<p class='‹hut›hut {{if .Closed}}‹closed›row-closed{{end}}'>don't</p>
-- board.tsx --
document.querySelector("ul .‹legend›legend > p");
row.classList.add("‹open›row-open");
export const Row = (p) => <p className={` + "`row ${p.closed ? \"‹closed›row-closed\" : \"‹open›row-open\"}`" + `}>
	<b className={cn("‹legend›legend", { "‹hut›hut": p.hut })}/></p>;
`,
	"classes of a sheet that is imported": `
-- a/callout.module.scss --
.‹=callout›callout {
	&‹=title›-title { color: red }
	.‹=row›team-row, &:hover { margin: 0 }
}
-- b/other.module.css --
.‹=other›callout { color: blue }
-- b/Other.tsx --
import other from "./other.module.css";
export const Other = () => <p className={other.‹other›callout}/>;
-- a/Callout.tsx --
import styles from "./callout.module.scss";
export const Callout = () => <p className={styles.‹callout›callout} id={styles.‹row›teamRow}>{styles["x"]}{styles.‹none›missing}</p>;
`,
	"classes with a constant in front": `
-- banner.scss --
.#{$ns}-banner { margin: 0 }
.‹=chip›#{$ns}-chip { .‹=icon›#{$ns}-icon { width: 1em } }
-- banner.ts --
export const CHIP = ` + "`‹chip›${NS}-chip`" + `, ICON = ` + "`‹icon›${NS}-icon`" + `;
`,
	"ids and data attributes": `
-- hut.html --
<input id="‹=valley›valley" ‹=zoom›data-zoom-level="3"><label for="‹valley›valley">Valley</label>
<a href="#‹valley›valley">up</a>
-- hut.css --
#‹valley›valley[‹zoom›data-zoom-level] { height: 1em }
-- hut.ts --
const valley = document.getElementById("‹valley›valley");
valley.dataset.‹zoom›zoomLevel;
`,
	"templates and their parts": `
-- pages/base.html --
{{define "‹=row›row"}}x{{end}} {% block ‹=content›content %}{% endblock %}
-- pages/huts.html --
{% extends "‹!row›base.html" %}{% block ‹content›content %}{{template "‹row›row" .}}{% endblock %}
-- page.go --
package page
func show() { t.ExecuteTemplate(w, "‹row›row", nil) }
`,
	"keys of configuration and the fields that take them": `
-- config.go --
package config
type Config struct {
	‹=port›Port int ` + "`yaml:\"radio_port\" json:\"port,omitempty\"`" + `
	‹=valley›Valley string ` + "`yaml:\"valley\"`" + `
}
type Other struct {
	Valley string ` + "`yaml:\"valley\"`" + `
}
-- config.yaml --
‹port›radio_port: 80
‹valley›valley: north
-- Hut.java --
class Hut {
	@JsonProperty("snow_depth") int ‹=depth›depth;
}
-- hut.json --
{"‹depth›snow_depth": 3}
`,
	"variables of the environment": `
-- .env --
‹=port›RADIO_PORT=80
-- a.go --
package a
var port = os.Getenv("‹port›RADIO_PORT")
-- a.py --
port = os.environ["‹port›RADIO_PORT"] or os.environ.get("‹port›RADIO_PORT")
-- a.ts --
const port = process.env.‹port›RADIO_PORT ?? import.meta.env["‹port›RADIO_PORT"];
-- a.rs --
fn port() { std::env::var("‹port›RADIO_PORT"); }
`,
	"addresses that are answered": `
-- server.go --
package server
func serve() {
	mux.HandleFunc("GET ‹=one›/callouts/{id}", one)
	mux.HandleFunc("‹=all›/callouts", all)
}
-- app.py --
@app.route("‹=hut›/huts/<int:id>")
def hut(id): requests.get(f"‹hut›{BASE}/huts/{id}")
-- board.ts --
fetch(` + "`‹one›/callouts/${id}`" + `); axios.get("‹all›http://localhost:80/callouts?open=1"); fetch("‹one›/callouts/" + id);
`,
	"tables and columns in the code": `
-- store.sql --
create table ‹=callouts›callouts (id int, ‹=opened›opened_at timestamp);
-- store.go --
package store
func all() { db.Query(` + "`select c.‹opened›opened_at from ‹callouts›callouts c where valley = 'opened_at'`" + `) }
-- store.py --
cursor.execute("""
	INSERT INTO ‹callouts›callouts (‹opened›opened_at) VALUES (%s)
""")
`,
}

func TestSharedNames(t *testing.T) {
	for name, archive := range casesOfShared {
		t.Run(name, func(t *testing.T) { checkShared(t, archive) })
	}
}

func checkShared(t *testing.T, archive string) {
	root, defs, uses := laid(t, archive)
	ws := workspace.New(root)
	require.NoError(t, ws.Code.Read(context.Background()))
	require.NotEmpty(t, uses)
	for _, u := range uses {
		what := fmt.Sprintf("%s at %d, ‹%s›", u.file, u.offset, u.key)
		_, all := ws.Answers.All(context.Background(), answer.ToDefinition.On(u.file, u.offset))
		var got []string
		for _, a := range all {
			got = append(got, fmt.Sprintf("%s:%d", a.Path, a.At.Start))
		}
		switch {
		case u.key == "none":
			assert.Empty(t, got, what)
			continue
		case u.sign == "!":
			assert.NotContains(t, got, defs[u.key], what)
			continue
		case !assert.NotEmpty(t, got, what) || !assert.Equal(t, defs[u.key], got[0], what):
			continue
		}
		for _, from := range []answer.Question{answer.ToReferences.On(u.file, u.offset), answer.ToReferences.On(all[0].Path, int(all[0].At.Start))} {
			from.Scope.Possible = true
			_, refs := ws.Answers.All(context.Background(), from)
			assert.True(t, slices.ContainsFunc(refs, func(r answer.Answer) bool { return r.Path == u.file && int(r.At.Start) == u.offset }), "%s is no reference of it, asked at %s:%d", what, from.Path, from.Offset)
		}
	}
}
