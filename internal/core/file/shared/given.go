package shared

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// given reads a string by what it is given to: an attribute, a call, a look into something.
func (s *scanner) given(at place.Range, goesOn bool) {
	for n := len(s.open) - 1; n >= 0; n-- {
		o := &s.open[n]
		s.before(o)
		switch {
		case o.attribute:
			s.attribute(o.word, int(at.Start), int(at.End), code)
			return
		case o.sign == '(' && o.word != "":
			if o.taking != nothing && (n == len(s.open)-1 || o.taking == aClass || o.decorator) {
				s.argument(o, at, goesOn)
			}
			return
		case o.sign == '[' && o.word != "":
			if o.taking == aVariable {
				s.environment(at)
			}
			return
		}
	}
}

// taking is what a function does with a name that is given to it.
type taking uint8

const (
	nothing taking = iota
	anID
	aSelector
	aSelectorOnly // which is one only if it begins like one
	aClass
	anAttribute
	aVariable
	aTemplate
	aPage // a template, which is one only by its ending
	aKey
	anAddress // at which it answers
	askedAt
	aVerb // either of both
	aPath // an address without what it begins with
)

// takes is what functions do with a name, by what they are called, in small letters.
var takes = func() map[string]taking {
	m := map[string]taking{}
	for does, names := range map[taking]string{
		anID:          "getelementbyid",
		aSelector:     "queryselector queryselectorall closest $ jquery locator waitforselector",
		aSelectorOnly: "find matches",
		aClass:        "classnames clsx cx cn getelementsbyclassname addclass removeclass toggleclass hasclass",
		anAttribute:   "getattribute setattribute hasattribute removeattribute toggleattribute attr",
		aTemplate:     "render_template get_template select_template executetemplate parsefiles parsefs render_to_string",
		aPage:         "render renderview",
		aKey:          "jsonproperty serializedname jsonpropertyname jsonalias yamlmember",
		anAddress: `handle handlefunc mapget mappost mapput mapdelete mappatch route getmapping postmapping putmapping deletemapping patchmapping requestmapping
			add_url_rule add_route httpget httppost httpput httpdelete httppatch`,
		aVerb: "get post put delete patch head options all any",
		askedAt: `fetch request newrequest newrequestwithcontext redirect redirect_to navigate push replace axios ajax getjson visit goto postform patchform url
			getforobject getforentity postforobject postforentity uri`,
		aPath: "path re_path",
	} {
		for _, name := range strings.Fields(names) {
			m[name] = does
		}
	}
	return m
}()

// taken is what is done with a name that is given to what is called so.
func taken(word string) taking {
	front, last := "", word
	if i := strings.LastIndexByte(word, '.'); i >= 0 {
		front, last = word[:i], word[i+1:]
	}
	switch does := takes[strings.ToLower(last)]; {
	case strings.HasSuffix(front, "classList"):
		return aClass
	case isEnvironment(word):
		return aVariable
	case does == aPath && front != "":
		return nothing
	default:
		return does
	}
}

// argument reads a string that is an argument of a call.
func (s *scanner) argument(o *opened, at place.Range, goesOn bool) {
	start, value := int(at.Start), at.In(s.text)
	switch o.taking {
	case aClass:
		s.classes(start, value)
	case anID:
		s.ids(start, value, false)
	case aSelector, aSelectorOnly:
		if len(value) > 1 && (strings.IndexByte(".#[", value[0]) >= 0 || o.taking == aSelector && bytes.ContainsAny(value, " >,[")) {
			s.selectors(start, value, false)
		}
	case anAttribute:
		if bytes.HasPrefix(value, []byte("data-")) {
			s.add(facts.Data, string(value), start, int(at.End), false)
		}
	case aVariable:
		s.environment(at)
	case aKey:
		s.add(facts.Entry, string(value), start, int(at.End), true)
	case aTemplate, aPage:
		s.template(o, at)
	case anAddress, askedAt:
		s.route(at, goesOn, o.taking == anAddress)
	case aVerb:
		receiver := strings.ToLower(o.word[:max(0, strings.LastIndexByte(o.word, '.'))])
		s.route(at, goesOn, o.decorator || isRouter(receiver[strings.LastIndexByte(receiver, '.')+1:]))
	case aPath:
		if (bytes.HasSuffix(value, []byte("/")) || bytes.Contains(value, []byte("<"))) && len(value) > 1 && value[0] != '/' {
			s.address("/"+strings.TrimPrefix(string(value), "^"), at, false, true)
		}
	}
}

// isRouter says whether what is called so has addresses given to it rather than asks at them.
func isRouter(name string) bool {
	switch name {
	case "r", "e", "g", "app", "api", "mux", "server", "bp":
		return true
	}
	return strings.Contains(name, "rout") || strings.Contains(name, "group") || strings.Contains(name, "blueprint") || strings.HasSuffix(name, "mux") || strings.HasSuffix(name, "app")
}

// isEnvironment says whether what is called, or looked into, gives variables of the environment.
func isEnvironment(word string) bool {
	for part := range strings.SplitSeq(strings.ToLower(word), ".") {
		if part == "env" || part == "environ" || strings.Contains(part, "getenv") || strings.Contains(part, "lookupenv") || strings.HasSuffix(part, "setenv") || strings.HasSuffix(part, "env") && len(part) < 12 ||
			strings.HasPrefix(part, "getenvironmentvariable") || part == "_env" {
			return true
		}
	}
	return false
}

var variable = regexp.MustCompile(`^[A-Z][A-Z0-9_]{2,}$`)

func (s *scanner) environment(at place.Range) {
	if v := at.In(s.text); variable.Match(v) {
		s.add(facts.Environment, string(v), int(at.Start), int(at.End), false)
	}
}

// template notes a template by its name, or by its file.
func (s *scanner) template(o *opened, at place.Range) {
	name := string(at.In(s.text))
	if strings.ContainsAny(name, " \n*") || o.taking == aPage && path.Ext(name) == "" || strings.HasSuffix(o.word, "ExecuteTemplate") && o.argument != 1 {
		return
	}
	s.add(facts.Template, name, int(at.Start), int(at.End), false)
}

// option reads a string that a name is given in a call of a language in which that says which argument it is.
func (s *scanner) option(name string, start int, value string) {
	switch name {
	case "alias", "rename", "validation_alias", "serialization_alias", "JsonProperty":
		if isKey(value) {
			s.add(facts.Entry, value, start, start+len(value), true)
		}
	case "template_name", "template":
		if path.Ext(value) != "" && !strings.ContainsAny(value, " \n") {
			s.add(facts.Template, value, start, start+len(value), false)
		}
	}
}

func isKey(value string) bool {
	return value != "" && !strings.ContainsAny(value, " \t\n/<>{}()*%")
}

// tagged is what is written behind a field for those who read it from elsewhere, as in Go.
var (
	tagged = regexp.MustCompile(`^\s*\w+:"[^"]*"`)
	tag    = regexp.MustCompile(`(\w+):"([^",]*)[^"]*"`)
)

// tags notes what a field is called elsewhere.
func (s *scanner) tags(offset int, value []byte) {
	for _, at := range tag.FindAllSubmatchIndex(value, -1) {
		name, start, end := string(value[at[4]:at[5]]), offset+at[4], offset+at[5]
		switch string(value[at[2]:at[3]]) {
		case "json", "yaml", "toml", "mapstructure", "koanf", "hcl", "xml":
			if isKey(name) && name != "-" {
				s.add(facts.Entry, name, start, end, true)
			}
		case "env", "envconfig":
			s.add(facts.Environment, name, start, end, false)
		case "db":
			if isKey(name) && name != "-" {
				s.add(facts.Stored, strings.ToLower(name), start, end, false)
			}
		}
	}
}
