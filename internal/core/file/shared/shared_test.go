package shared_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
)

var signs = &lexical.Signs{Line: []string{"//"}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`"}

// found are the names that a reader finds in a text, each with what it is; = says that it is given there.
func found(read shared.Reader, text string) string {
	var all []string
	for _, s := range shared.Sort(read([]byte(text), &facts.File{Exprs: make([]facts.Expr, 1)})) {
		sign := " "
		if s.Given {
			sign = " ="
		}
		all = append(all, s.Realm.String()+sign+s.Name)
	}
	return strings.Join(all, ", ")
}

func TestReaders(t *testing.T) {
	code, markup := shared.InCode(signs), shared.InMarkup(signs)
	for _, c := range []struct {
		read       shared.Reader
		text, want string
	}{
		{code, `os.Getenv("RADIO_PORT"); os.Getenv("port"); x("RADIO_PORT")`, "environment variable RADIO_PORT"},
		{code, `mux.HandleFunc("GET /huts/{id}", f)`, "route =/huts/*"},
		{code, `client.get("/huts/" + id); open("/etc/hosts")`, "route /huts/*"},
		{code, "db.Query(`select depth from huts where name = 'depth'`)", "table or column depth, table or column huts, table or column name"},
		{code, `print("select one of them")`, ""},
		{code, "Port int `yaml:\"port,omitempty\" json:\"-\"`", "key =port"},
		{code, `const id = "valley"; let to = "/x"`, ""},
		{markup, `<p className="a b" id="c" data-d="1"/>`, "class a, class b, id =c, data attribute =data-d"},
		{markup, "<p className={`a ${x ? 'b' : \"c\"} d-${e}`}/>", "class a, class b, class c, class d-*"},
		{markup, `const id = "valley"`, ""},
		{shared.InSheets, ".a { &-b { top: .5em } } /* .c */ #d[data-e] { color: #fff }", "class =a, class =a-b, id d, data attribute data-e"},
		{shared.InPages(signs), `<a href="#x" class='y'>{% block z %}</a>`, "id x, class y, template block =z"},
		{code, `"`, ""},
	} {
		assert.Equal(t, c.want, found(c.read, c.text), c.text)
	}
}

// What is put together meets what it may come to, part by part.
func TestNamesMeet(t *testing.T) {
	for _, c := range []struct {
		realm facts.Realm
		a, b  string
		want  bool
	}{
		{facts.StyleClass, "*-banner", "tw-banner", true},
		{facts.StyleClass, "*-banner", "tw-banner-icon", false},
		{facts.StyleClass, "hut", "hut", true},
		{facts.Route, "/huts/*", "/huts/3", true},
		{facts.Route, "/huts/*", "/huts/3/snow", false},
	} {
		assert.Equal(t, c.want, (&facts.Shared{Realm: c.realm, Name: c.a}).Meets(&facts.Shared{Realm: c.realm, Name: c.b}), "%s and %s", c.a, c.b)
	}
}
