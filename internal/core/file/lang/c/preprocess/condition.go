package preprocess

import (
	"strconv"
	"strings"
)

// common are the macros that a compiler on a common system defines, and what they stand for.
var common = map[string]string{
	"__GNUC__": "4", "__GNUC_MINOR__": "2", "__GNUC_PATCHLEVEL__": "1", "__STDC__": "1", "__STDC_HOSTED__": "1", "__VERSION__": `""`,
	"__clang__": "1", "__clang_major__": "14", "__clang_minor__": "0", "__clang_patchlevel__": "0", "__llvm__": "1",
	"__linux__": "1", "__linux": "1", "linux": "1", "__unix__": "1", "__unix": "1", "unix": "1", "__gnu_linux__": "1", "__ELF__": "1",
	"__x86_64__": "1", "__x86_64": "1", "__amd64__": "1", "__LP64__": "1", "_LP64": "1", "__SSE__": "1", "__SSE2__": "1",
	"__CHAR_BIT__": "8", "__SIZEOF_INT__": "4", "__SIZEOF_LONG__": "8", "__SIZEOF_POINTER__": "8", "__SIZEOF_SIZE_T__": "8", "__SIZEOF_INT128__": "16",
	"__INT_MAX__": "2147483647", "__LONG_MAX__": "9223372036854775807", "__SIZE_MAX__": "18446744073709551615", "__SCHAR_MAX__": "127", "__WCHAR_MAX__": "2147483647",
	"__ORDER_LITTLE_ENDIAN__": "1234", "__ORDER_BIG_ENDIAN__": "4321", "__BYTE_ORDER__": "1234",
	// Of headers that nearly all include.
	"INT_MAX": "2147483647", "UINT_MAX": "4294967295U", "LONG_MAX": "9223372036854775807", "ULONG_MAX": "18446744073709551615U", "LLONG_MAX": "9223372036854775807",
	"SHRT_MAX": "32767", "USHRT_MAX": "65535", "CHAR_BIT": "8", "SIZE_MAX": "18446744073709551615U", "INT32_MAX": "2147483647", "UINT32_MAX": "4294967295U",
	"INT64_MAX": "9223372036854775807", "UINT64_MAX": "18446744073709551615U", "INTPTR_MAX": "9223372036854775807", "UINTPTR_MAX": "18446744073709551615U",
	"__FILE__": `""`, "__LINE__": "1", "__DATE__": `""`, "__TIME__": `""`, "__COUNTER__": "0",
	"__has_include": "", "__has_include_next": "", "__has_attribute": "", "__has_cpp_attribute": "", "__has_builtin": "",
	"__has_feature": "", "__has_extension": "", "__has_declspec_attribute": "", "__has_warning": "",
}

// onlyPlain and onlyPlus are those by which C and C++ differ.
var (
	onlyPlain = map[string]string{"__STDC_VERSION__": "201710"}
	onlyPlus  = map[string]string{"__cplusplus": "201703", "__GNUG__": "4", "__EXCEPTIONS": "1", "__GXX_RTTI": "1", "__GXX_EXPERIMENTAL_CXX0X__": "1", "_GNU_SOURCE": "1",
		"__cpp_exceptions": "199711", "__cpp_rtti": "199711", "__cpp_constexpr": "201603", "__cpp_if_constexpr": "201606", "__cpp_inline_variables": "201606",
		"__cpp_deduction_guides": "201703", "__cpp_variadic_templates": "200704", "__cpp_rvalue_references": "200610", "__cpp_return_type_deduction": "201304",
		"__cpp_decltype_auto": "201304", "__cpp_generic_lambdas": "201304", "__cpp_variable_templates": "201304", "__cpp_fold_expressions": "201603",
		"__cpp_structured_bindings": "201606", "__cpp_noexcept_function_type": "201510", "__cpp_aligned_new": "201606", "__cpp_static_assert": "201411",
		"__cpp_range_based_for": "201603", "__cpp_lambdas": "200907", "__cpp_decltype": "200707", "__cpp_attributes": "200809", "__cpp_alias_templates": "200704",
		"__cpp_nontype_template_args": "201411", "__cpp_template_template_args": "201611", "__cpp_unicode_literals": "200710", "__cpp_user_defined_literals": "200809"}
)

// commonly finds what a compiler defines by itself.
func commonly(name string, cpp bool) *Macro {
	value, ok := common[name]
	if !ok {
		if only := onlyPlain; cpp {
			value, ok = onlyPlus[name]
		} else {
			value, ok = only[name]
		}
	}
	if !ok {
		return nil
	}
	m := &Macro{judged: true}
	m.body = scan(value, false)
	for i := range m.body {
		m.body[i].from = -1
	}
	return m
}

// holds works out a condition, with the macros that the expander finds.
func holds(condition string, x *expander) bool {
	find := x.find
	x.find = func(name string) *Macro {
		if strings.HasPrefix(name, "__has_") { // it is asked once all is put in place
			return nil
		}
		return find(name)
	}
	e := evaluation{tokens: asked(x.expand(asked(scan(condition, false), find), nil, 0), find)}
	return e.choice(0).truth()
}

// asked puts an answer in place of what a condition asks of the compiler: whether something is defined, or there.
func asked(in []token, find func(string) *Macro) (out []token) {
	number := func(is bool) token {
		if is {
			return token{kind: number, text: "1", from: -1}
		}
		return token{kind: number, text: "0", from: -1}
	}
	for i := 0; i < len(in); i++ {
		switch t := in[i]; t.text {
		case "defined":
			j := i + 1
			if j < len(in) && in[j].text == "(" {
				j++
			}
			if j >= len(in) {
				return out
			}
			out = append(out, number(find(in[j].text) != nil))
			if i = j; in[j-1].text == "(" {
				i = j + 1
			}
		case "__has_include", "__has_include_next", "__has_attribute", "__has_cpp_attribute", "__has_builtin", "__has_extension", "__has_feature", "__has_warning", "__has_declspec_attribute":
			args, last, ok := arguments(in, i+1)
			if !ok {
				out = append(out, number(false))
				continue
			}
			about := token{}
			if len(args) > 0 && len(args[0]) > 0 {
				about = args[0][0]
			}
			is := true
			switch t.text {
			case "__has_include", "__has_include_next":
				is = about.text == "<"
			case "__has_feature", "__has_extension":
				is = strings.HasPrefix(about.text, "cxx_") || strings.HasPrefix(about.text, "c_")
			case "__has_declspec_attribute":
				is = false
			}
			out = append(out, number(is))
			i = last
		default:
			out = append(out, t)
		}
	}
	return out
}

// value is one of a condition.
type value struct {
	n        int64
	unsigned bool
}

func (v value) truth() bool { return v.n != 0 }

func truth(b bool) value {
	if b {
		return value{n: 1}
	}
	return value{}
}

// evaluation reads a condition; what cannot be read counts as 0.
type evaluation struct {
	tokens []token
	pos    int
}

func (e *evaluation) peek() string {
	if e.pos < len(e.tokens) {
		return e.tokens[e.pos].text
	}
	return ""
}

func (e *evaluation) take(text string) bool {
	if e.peek() == text {
		e.pos++
		return true
	}
	return false
}

func (e *evaluation) choice(depth int) value {
	condition := e.binary(0, depth)
	if depth > mostNested || !e.take("?") {
		return condition
	}
	yes := e.choice(depth + 1)
	e.take(":")
	no := e.choice(depth + 1)
	if condition.truth() {
		return yes
	}
	return no
}

// levels are the operators between two values, those that bind least first.
var levels = [][]string{{"||"}, {"&&"}, {"|"}, {"^"}, {"&"}, {"==", "!="}, {"<", ">", "<=", ">="}, {"<<", ">>"}, {"+", "-"}, {"*", "/", "%"}}

func (e *evaluation) binary(level, depth int) value {
	if level == len(levels) {
		return e.unary(depth)
	}
	left := e.binary(level+1, depth)
	for {
		op := ""
		for _, o := range levels[level] {
			if e.take(o) {
				op = o
				break
			}
		}
		if op == "" {
			return left
		}
		left = apply(op, left, e.binary(level+1, depth))
	}
}

func apply(op string, a, b value) value {
	unsigned := a.unsigned || b.unsigned
	less := a.n < b.n
	if unsigned {
		less = uint64(a.n) < uint64(b.n)
	}
	switch op {
	case "||":
		return truth(a.truth() || b.truth())
	case "&&":
		return truth(a.truth() && b.truth())
	case "==":
		return truth(a.n == b.n)
	case "!=":
		return truth(a.n != b.n)
	case "<":
		return truth(less)
	case ">":
		return truth(!less && a.n != b.n)
	case "<=":
		return truth(less || a.n == b.n)
	case ">=":
		return truth(!less)
	}
	v := value{unsigned: unsigned}
	switch op {
	case "|":
		v.n = a.n | b.n
	case "^":
		v.n = a.n ^ b.n
	case "&":
		v.n = a.n & b.n
	case "<<":
		v.n = a.n << (uint64(b.n) & 63)
	case ">>":
		if v.n = a.n >> (uint64(b.n) & 63); unsigned {
			v.n = int64(uint64(a.n) >> (uint64(b.n) & 63))
		}
	case "+":
		v.n = a.n + b.n
	case "-":
		v.n = a.n - b.n
	case "*":
		v.n = a.n * b.n
	case "/", "%":
		switch {
		case b.n == 0:
		case unsigned && op == "/":
			v.n = int64(uint64(a.n) / uint64(b.n))
		case unsigned:
			v.n = int64(uint64(a.n) % uint64(b.n))
		case b.n == -1: // the least number cannot be divided by it
			if op == "/" {
				v.n = -a.n
			}
		case op == "/":
			v.n = a.n / b.n
		default:
			v.n = a.n % b.n
		}
	}
	return v
}

func (e *evaluation) unary(depth int) value {
	if depth > mostNested || e.pos >= len(e.tokens) {
		return value{}
	}
	t := e.tokens[e.pos]
	e.pos++
	switch {
	case t.text == "!":
		return truth(!e.unary(depth + 1).truth())
	case t.text == "-":
		v := e.unary(depth + 1)
		v.n = -v.n
		return v
	case t.text == "+":
		return e.unary(depth + 1)
	case t.text == "~":
		v := e.unary(depth + 1)
		v.n = ^v.n
		return v
	case t.text == "(":
		v := e.choice(depth + 1)
		e.take(")")
		return v
	case t.kind == number:
		return integer(t.text)
	case t.kind == quoted && strings.HasPrefix(t.text, "'"):
		if c, _, _, err := strconv.UnquoteChar(strings.Trim(t.text, "'"), '\''); err == nil {
			return value{n: int64(c)}
		}
	case t.kind == word:
		if t.text == "true" {
			return value{n: 1}
		}
		if e.take("(") { // something that this compiler does not have
			for open := 1; open > 0 && e.pos < len(e.tokens); e.pos++ {
				switch e.tokens[e.pos].text {
				case "(":
					open++
				case ")":
					open--
				}
			}
		}
	}
	return value{}
}

func integer(text string) value {
	digits := strings.TrimRight(strings.ReplaceAll(text, "'", ""), "uUlLzZ")
	n, err := strconv.ParseUint(digits, 0, 64)
	if err != nil {
		return value{}
	}
	return value{n: int64(n), unsigned: strings.ContainsAny(text[len(digits):], "uU") && !strings.Contains(text, "'")}
}
