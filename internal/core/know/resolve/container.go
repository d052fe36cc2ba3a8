package resolve

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Containers of the libraries are known by what their methods are called where
// their source is not at hand: what one gets out of a list, a map or a stream,
// and what functions that one passes to them are given.

var (
	// givesElement are the methods that give one of the elements.
	givesElement = lang.WordsOf(`get at pop shift find findLast next first last getFirst getLast peek poll remove removeFirst removeLast element
		First FirstOrDefault Last LastOrDefault Single SingleOrDefault ElementAt Dequeue Pop Peek sample detect min_by max_by fetch dig orElse orElseThrow orElseGet take unwrap expect getValue getOrDefault min max popleft setdefault get_nowait`)
	// givesIterator are those that give what points to an element, which of a map has its key.
	givesIterator = lang.WordsOf("begin end cbegin cend rbegin rend find lower_bound upper_bound insert_or_assign try_emplace")
	// givesHeld are those that give an element of what is no map.
	givesHeld = lang.WordsOf("front back top lock value value_or emplace_back emplace_front data")
	// givesPairs are those that give keys with values.
	givesPairs = lang.WordsOf("items")
	// givesKey are those that give a key.
	givesKey = lang.WordsOf("getKey firstKey lastKey")
	// givesSame are those that give more of the same, or another container of it.
	givesSame = lang.WordsOf(`filter slice concat reverse sort splice stream parallelStream iterator limit skip distinct sorted values toList findFirst findAny
		Where OrderBy OrderByDescending ThenBy Skip Take Distinct Reverse ToList ToArray AsEnumerable select reject find_all sort_by uniq compact shuffle each each_with_index reverse_each to_a to_set keep_if delete_if drop subList toArray copy toSorted toReversed descendingIterator listIterator peekable iter entries`)
	// givesKeys are those that give all keys.
	givesKeys = lang.WordsOf("keySet keys")
	// givesResults are those that give what a function makes of each element.
	givesResults = lang.WordsOf("map flatMap Select SelectMany collect flat_map filter_map thenApply then")
	// makesOf are those of a type that make a container of what another one holds.
	makesOf = lang.WordsOf("from copyOf")
	// takesElement are those that put what is given to them last into it.
	takesElement = lang.WordsOf("push unshift add addFirst addLast offer set put putIfAbsent fill append enqueue")
	// takesSecond are those whose function gets the element second.
	takesSecond = lang.WordsOf("reduce reduceRight")
)

// fromContainer is what a call of a method of a container gives.
func (q *question) fromContainer(src *source, call facts.Expr, depth int) Type {
	callee := src.Exprs[call.Base]
	if callee.Kind != facts.Member || depth > deepest {
		return Type{}
	}
	t := q.typeOf(src, callee.Base, depth+1)
	if makesOf[callee.Name] && !t.named.ok() && len(call.Args) > 0 {
		if of := q.element(q.typeOf(src, call.Args[0], depth+1), false, depth+1); of.known() {
			return Type{outside: src.itself(), name: "list", args: []Type{of}}
		}
	}
	if t.other != nil {
		var all []Type
		for _, t := range t.each() {
			all = append(all, q.fromContainerOf(src, call, callee.Name, t, depth))
		}
		return oneOf(all)
	}
	return q.fromContainerOf(src, call, callee.Name, t, depth)
}

// fromContainerOf is what a call of a method of a container of a type gives.
func (q *question) fromContainerOf(src *source, call facts.Expr, name string, t Type, depth int) Type {
	held := q.element(t, false, depth+1)
	if t.named.ok() || !held.known() {
		return Type{}
	}
	switch {
	case givesIterator[name] && src.lang.Values.Pairs[t.name] && len(t.args) >= 2:
		return Type{outside: src.itself(), name: together, args: t.args[:2]}
	case src.sees() == lang.SeesIncludes && (givesIterator[name] || givesHeld[name]):
		return held
	case givesPairs[name]:
		return listOf(src, Type{outside: src.itself(), name: together, args: []Type{q.element(t, true, depth+1), held}})
	case name == "popitem":
		return Type{outside: src.itself(), name: together, args: []Type{q.element(t, true, depth+1), held}}
	case name == "copy":
		return t
	case givesElement[name]:
		return held
	case givesKey[name]:
		return q.element(t, true, depth+1)
	case givesSame[name]:
		return Type{outside: src.itself(), name: "list", args: []Type{held}}
	case givesKeys[name]:
		return Type{outside: src.itself(), name: "list", args: []Type{q.element(t, true, depth+1)}}
	case givesResults[name] && len(call.Args) > 0:
		if made := q.resultOfValue(q.typeOf(src, call.Args[0], depth+1), depth+1); made.known() {
			return Type{outside: src.itself(), name: "list", args: []Type{made}}
		}
	}
	return Type{}
}

// takenByContainer is what a method of a container takes for an argument that is put into it.
func (q *question) takenByContainer(src *source, taken facts.Expr, depth int) Type {
	callee := src.Exprs[taken.Base]
	if callee.Kind != facts.Member || !takesElement[callee.Name] || depth > deepest {
		return Type{}
	}
	t := q.typeOf(src, callee.Base, depth+1)
	if t.named.ok() {
		return Type{}
	}
	return q.element(t, len(t.args) == 2 && taken.Arg == 0, depth+1)
}

// givenByContainer is what a function gets for a parameter when it is passed to a
// method of a container: the element, or of a map the key first, where that is so.
func (q *question) givenByContainer(src *source, given facts.Expr, depth int) Type {
	callee := src.Exprs[given.Base]
	if callee.Kind != facts.Member || given.Arg > 0 || depth > deepest {
		return Type{}
	}
	t := q.typeOf(src, callee.Base, depth+1)
	if src.lang.Values.Whole[callee.Name] {
		return t
	}
	if t.named.ok() {
		return Type{}
	}
	element := 0
	switch {
	case takesSecond[callee.Name], (len(t.args) == 2 || src.lang.Values.Pairs[t.name]) && src.lang.Types.KeysFirst[callee.Name]:
		element = 1
	case callee.Name == "sort" || callee.Name == "toSorted":
		element = int(given.Part)
	}
	switch {
	case int(given.Part) == element:
		return q.element(t, false, depth+1)
	case element == 1 && given.Part == 0 && (len(t.args) == 2 || src.lang.Values.Pairs[t.name]):
		return q.element(t, true, depth+1)
	}
	return Type{}
}

// listOf is a list of values of a type.
func listOf(src *source, held Type) Type {
	return Type{outside: src.itself(), name: "list", args: []Type{held}}
}

// fromLibrary is what a function gives that the language or its library has, as far as that follows from its arguments.
func (q *question) fromLibrary(src *source, call facts.Expr, depth int) Type {
	name := src.Exprs[call.Base].Name
	if src.Exprs[call.Base].Kind == facts.GenericOf {
		name = src.Exprs[src.Exprs[call.Base].Base].Name
	}
	gives, ok := src.lang.Values.Gives[name]
	if !ok || depth > deepest {
		return Type{}
	}
	argument := func(n int) Type {
		if n >= len(call.Args) {
			return Type{}
		}
		return q.typeOf(src, call.Args[n], depth+1)
	}
	first := argument(gives.Argument)
	switch gives.What {
	case lang.Written:
		for _, t := range q.typeArguments(src, call.Base, depth) {
			return t
		}
		return Type{}
	case lang.TheSame:
		if len(call.Args) == 0 && gives.Name != "" {
			return Type{outside: src.itself(), name: gives.Name, empty: true}
		}
		return first
	case lang.AnElement:
		return q.element(first, false, depth+1)
	case lang.ListOfThem:
		if len(call.Args) == 0 {
			return Type{outside: src.itself(), name: gives.Name, empty: true}
		}
		if len(first.args) == 2 && first.name != together && gives.Keys { // a map is gone through by its keys
			return listOf(src, q.element(first, true, depth+1))
		}
		return listOf(src, q.element(first, false, depth+1))
	case lang.Numbered:
		return listOf(src, Type{outside: src.itself(), name: together, args: []Type{{outside: src.itself(), name: "int"}, q.element(first, false, depth+1)}})
	case lang.SideBySide:
		all := Type{outside: src.itself(), name: together}
		for n := range call.Args {
			all.args = append(all.args, q.element(argument(n), false, depth+1))
		}
		return listOf(src, all)
	case lang.ListOfResults:
		return listOf(src, q.resultOfArgument(src, call, gives.Argument, depth+1))
	case lang.Holding:
		return q.holds(src, call, gives.Name, depth+1)
	case lang.MapOfResults:
		return Type{outside: src.itself(), name: gives.Name, args: []Type{{}, q.resultOfArgument(src, call, gives.Argument, depth+1)}}
	}
	return Type{outside: src.itself(), name: gives.Name, empty: src.lang.Values.Holds[gives.Name]}
}

// holds is a collection of what it is made with, or of the types that are written behind it.
func (q *question) holds(src *source, call facts.Expr, name string, depth int) Type {
	made := Type{outside: src.itself(), name: name, args: q.typeArguments(src, call.Base, depth)}
	if len(made.args) > 0 {
		return made
	}
	var keys, all []Type
	for _, a := range call.Args[:min(len(call.Args), mostTypes)] {
		t := q.typeOf(src, a, depth+1)
		if t.expr().Kind == facts.TupleOf { // a key with its value
			keys, t = append(keys, q.part(t, 1, depth+1)), q.part(t, 2, depth+1)
		}
		all = append(all, t)
	}
	if len(keys) > 0 {
		made.args = []Type{oneOf(keys), oneOf(all)}
	} else if len(all) > 0 {
		made.args = []Type{oneOf(all)}
	}
	return made
}

// resultOfArgument is what an argument gives when it is called.
func (q *question) resultOfArgument(src *source, call facts.Expr, n, depth int) Type {
	if n >= len(call.Args) {
		return Type{}
	}
	return q.typeOfCall(src, facts.Expr{Kind: facts.CallOf, Base: call.Args[n], Scope: call.Scope, At: call.At}, depth+1)
}
