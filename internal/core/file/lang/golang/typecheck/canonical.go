package typecheck

import (
	"fmt"
	"go/types"
	"strings"
)

// canonical writes a type in such a way that identical types are written alike:
// with full package paths, and looking through all aliases.
func canonical(t types.Type) string {
	var b strings.Builder
	w := canonicalWriter{&b}
	w.typ(t)
	return b.String()
}

type canonicalWriter struct{ *strings.Builder }

func (w canonicalWriter) typ(t types.Type) {
	switch t := types.Unalias(t).(type) {
	case *types.Basic:
		w.WriteString(types.Typ[t.Kind()].Name())
	case *types.Named:
		if p := t.Obj().Pkg(); p != nil {
			w.WriteString(p.Path() + ".")
		}
		w.WriteString(t.Obj().Name())
		w.list("[", t.TypeArgs().Len(), func(i int) { w.typ(t.TypeArgs().At(i)) }, "]")
	case *types.Pointer:
		w.WriteByte('*')
		w.typ(t.Elem())
	case *types.Slice:
		w.WriteString("[]")
		w.typ(t.Elem())
	case *types.Array:
		fmt.Fprintf(w, "[%d]", t.Len())
		w.typ(t.Elem())
	case *types.Map:
		w.WriteString("map[")
		w.typ(t.Key())
		w.WriteByte(']')
		w.typ(t.Elem())
	case *types.Chan:
		fmt.Fprintf(w, "chan%d ", t.Dir())
		w.typ(t.Elem())
	case *types.Signature:
		w.WriteString("func")
		w.signature(t)
	case *types.Struct:
		w.list("struct{", t.NumFields(), func(i int) {
			w.WriteString(t.Field(i).Id() + " ")
			w.typ(t.Field(i).Type())
			w.WriteString(t.Tag(i))
		}, "}")
	case *types.Interface:
		w.WriteString("interface{")
		for m := range t.Methods() {
			w.WriteString(m.Id())
			w.signature(m.Signature())
			w.WriteByte(';')
		}
		w.WriteByte('}')
	case *types.TypeParam:
		fmt.Fprintf(w, "$%d", t.Index())
	default:
		w.WriteString(t.String())
	}
}

func (w canonicalWriter) list(open string, n int, item func(i int), shut string) {
	if n == 0 && open == "[" {
		return
	}
	w.WriteString(open)
	for i := range n {
		if i > 0 {
			w.WriteByte(',')
		}
		item(i)
	}
	w.WriteString(shut)
}

// signature writes the types of parameters and results, without their names.
func (w canonicalWriter) signature(s *types.Signature) {
	for _, tuple := range []*types.Tuple{s.Params(), s.Results()} {
		w.list("(", tuple.Len(), func(i int) { w.typ(tuple.At(i).Type()) }, ")")
	}
	if s.Variadic() {
		w.WriteString("...")
	}
}
