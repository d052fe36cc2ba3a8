package javascript

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/syntax"
)

// flow is how values come to be of a type.
var flow = func() lang.Values {
	v := lang.Declared
	v.Holds = lang.WordsOf("Record")
	v.Components = lang.Components{
		Types: map[string]int{"FC": 0, "FunctionComponent": 0, "VFC": 0, "SFC": 0, "ComponentType": 0, "ComponentClass": 0, "Component": 0,
			"PureComponent": 0, "ForwardRefExoticComponent": 0, "ExoticComponent": 0, "NamedExoticComponent": 0, "ForwardRefRenderFunction": 1},
		Makers:   map[string]int{"forwardRef": 1, "memo": 0},
		Members:  map[string]int{"props": 0, "state": 1},
		Elements: "IntrinsicElements",
		Anyway:   lang.WordsOf("key ref"),
		Of:       lang.WordsOf("ComponentProps ComponentPropsWithRef ComponentPropsWithoutRef"),
	}
	return v
}()

// element reads the tag of a JSX element with its attributes. A name in small letters is one of
// the page's own elements, which nothing here defines.
func element(r *reader.Reader, n syntax.Node) {
	tag := n.Part("name")
	props := facts.Expr{Kind: facts.PropsOf, At: tag.Range()}
	switch t := tag.Text(); {
	case !tag.OK():
		r.All(n)
		return
	case tag.Type() != "identifier":
		r.Visit(tag)
		props.Base = r.Expression(tag)
	case t[0] < 'a' || t[0] > 'z':
		r.Use(t, facts.Call, tag.Range(), facts.NoExpr)
		props.Base = r.NameOf(tag)
	default:
		props.Name = t
	}
	of := r.Expr(props)
	for c := range n.NamedChildren() {
		switch {
		case c == tag:
		case c.Type() == "jsx_attribute":
			attribute(r, c, of)
		case c.Type() == "type_arguments":
			r.UseType(c)
		default:
			r.Visit(c)
		}
	}
}

// attribute reads one that a component is given, of which the type is known by the component.
func attribute(r *reader.Reader, n syntax.Node, props facts.ExprID) {
	want := facts.NoExpr
	for c := range n.NamedChildren() {
		if c.Type() != "property_identifier" {
			r.Visit(c)
			if want != facts.NoExpr && c.Type() == "jsx_expression" {
				expect(r, reader.Nth(0)(c), want)
			}
			continue
		}
		r.Use(c.Text(), facts.Write, c.Range(), props)
		member := r.Expr(facts.Expr{Kind: facts.Member, Name: c.Text(), Base: props, At: c.Range()})
		want = r.Expr(facts.Expr{Kind: facts.TypeOf, Base: member, At: c.Range()})
	}
}
