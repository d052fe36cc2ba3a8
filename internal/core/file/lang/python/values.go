package python

import "rooktrail/internal/core/file/lang"

// flow is how values come to be of a type.
var flow = lang.Values{
	Passed: lang.Yes,
	Itself: []string{"cls"},
	Known: map[string]lang.Words{
		"None":   {},
		"object": lang.WordsOf(`__class__ __delattr__ __dir__ __doc__ __eq__ __format__ __ge__ __getattribute__ __getstate__ __gt__ __hash__ __init__ __init_subclass__ __le__ __lt__ __ne__ __new__ __reduce__ __reduce_ex__ __repr__ __setattr__ __sizeof__ __str__ __subclasshook__`),
		"list":   lang.WordsOf(`__class__ append clear copy count extend index insert pop remove reverse sort`),
		"dict":   lang.WordsOf(`__class__ clear copy fromkeys get items keys pop popitem setdefault update values`),
		"set": lang.WordsOf(`__class__ add clear copy difference difference_update discard intersection intersection_update isdisjoint issubset
			issuperset pop remove symmetric_difference symmetric_difference_update union update`),
		"frozenset": lang.WordsOf(`__class__ copy difference intersection isdisjoint issubset issuperset symmetric_difference union`),
		"str": lang.WordsOf(`__class__ capitalize casefold center count encode endswith expandtabs find format format_map index isalnum isalpha
			isascii isdecimal isdigit isidentifier islower isnumeric isprintable isspace istitle isupper join ljust lower lstrip
			maketrans partition removeprefix removesuffix replace rfind rindex rjust rpartition rsplit rstrip split splitlines
			startswith strip swapcase title translate upper zfill`),
		"int":   lang.WordsOf(`__class__ as_integer_ratio bit_count bit_length conjugate denominator from_bytes imag numerator real to_bytes`),
		"float": lang.WordsOf(`__class__ as_integer_ratio conjugate fromhex hex imag is_integer real`),
		"bool":  lang.WordsOf(`__class__ as_integer_ratio bit_count bit_length conjugate denominator from_bytes imag numerator real to_bytes`),
		"bytes": lang.WordsOf(`__class__ capitalize center count decode endswith expandtabs find fromhex hex index isalnum isalpha isascii isdigit
			islower isspace istitle isupper join ljust lower lstrip maketrans partition removeprefix removesuffix replace rfind
			rindex rjust rpartition rsplit rstrip split splitlines startswith strip swapcase title translate upper zfill`),
		"tuple": lang.WordsOf(`__class__ count index`),
	},
	Holds: lang.WordsOf("list dict set frozenset tuple deque OrderedDict defaultdict"),
	Gives: map[string]lang.Result{
		"iter": {What: lang.ListOfThem, Keys: true}, "list": {What: lang.ListOfThem, Name: "list", Keys: true},
		"tuple": {What: lang.ListOfThem, Name: "list", Keys: true}, "set": {What: lang.ListOfThem, Name: "set", Keys: true},
		"frozenset": {What: lang.ListOfThem, Name: "set", Keys: true}, "sorted": {What: lang.ListOfThem, Keys: true},
		"reversed": {What: lang.ListOfThem, Keys: true}, "deque": {What: lang.ListOfThem, Name: "list", Keys: true},
		"chain": {What: lang.ListOfThem, Keys: true}, "islice": {What: lang.ListOfThem}, "cycle": {What: lang.ListOfThem},
		"filter": {What: lang.ListOfThem, Argument: 1}, "dict": {What: lang.TheSame, Name: "dict"}, "OrderedDict": {What: lang.TheSame, Name: "dict"},
		"WeakSet": {What: lang.ListOfThem, Name: "set"}, "WeakValueDictionary": {What: lang.TheSame}, "WeakKeyDictionary": {What: lang.TheSame},
		"copy": {What: lang.TheSame}, "deepcopy": {What: lang.TheSame}, "proxy": {What: lang.TheSame}, "cast": {What: lang.TheSame, Argument: 1},
		"wraps": {What: lang.TheSame}, "type": {What: lang.TheSame}, "enter_context": {What: lang.TheSame}, "closing": {What: lang.TheSame},
		"next": {What: lang.AnElement}, "min": {What: lang.AnElement}, "max": {What: lang.AnElement}, "choice": {What: lang.AnElement},
		"heappop": {What: lang.AnElement}, "heappushpop": {What: lang.AnElement}, "enumerate": {What: lang.Numbered},
		"zip": {What: lang.SideBySide}, "zip_longest": {What: lang.SideBySide}, "map": {What: lang.ListOfResults},
		"defaultdict": {What: lang.MapOfResults, Name: "dict"},
		"str":         {What: lang.AType, Name: "str"}, "repr": {What: lang.AType, Name: "str"}, "int": {What: lang.AType, Name: "int"},
		"len": {What: lang.AType, Name: "int"}, "float": {What: lang.AType, Name: "float"}, "bytes": {What: lang.AType, Name: "bytes"},
		"bool": {What: lang.AType, Name: "bool"},
	},
	Components: lang.NoComponents,
	Pairs:      lang.Words{},
	Whole:      lang.Words{},
	Bare:       lang.No,
	Together:   lang.Words{}, Makers: lang.Words{},
	Stub:      "i",
	Iterators: []lang.Iterator{{Method: "__iter__", Steps: true}, {Method: "__next__"}, {Method: "__getitem__"}},
}
