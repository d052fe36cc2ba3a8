package javascript

import (
	"github.com/smacker/go-tree-sitter/javascript"
	"github.com/smacker/go-tree-sitter/typescript/tsx"
	"github.com/smacker/go-tree-sitter/typescript/typescript"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/css"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/shared"
	"rooktrail/internal/core/file/syntax"
)

const (
	scriptName     = "JavaScript"
	typescriptName = "TypeScript"
	family         = scriptName
)

var (
	plain    = syntax.NewGrammar(javascript.GetLanguage())
	typed    = syntax.NewGrammar(typescript.GetLanguage())
	typedTag = syntax.NewGrammar(tsx.GetLanguage())
)

// The languages. A .tsx file is TypeScript too, but has a grammar of its own.
var (
	JavaScript = language(scriptName, plain, signs, code, ".js", ".mjs", ".cjs")
	JSX        = language(scriptName, plain, tagged, tagless, ".jsx")
	TypeScript = language(typescriptName, typed, signs, code, ".ts", ".mts", ".cts")
	TSX        = language(typescriptName, typedTag, tagged, tagless, ".tsx")
)

var (
	signs = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}},
		Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`"}
	tagged = &lexical.Signs{Line: signs.Line, Block: signs.Block, Quotes: signs.Quotes, Raw: signs.Raw, Tags: true}
)

// A component has its style and its page in files of their own.
var (
	code    = []lang.Half{{Of: "component", Part: "code", Endings: []string{".module.ts", ".module.js", ".module.mjs", ".ts", ".js", ".mjs"}}}
	tagless = []lang.Half{{Of: "component", Part: "code", Endings: []string{".module.tsx", ".module.jsx", ".tsx", ".jsx"}}}
)

// valuesOf is how values come to be of a type in a language.
func valuesOf(name string) lang.Values {
	if name == typescriptName {
		return flow
	}
	return undeclared
}

func language(name string, g *syntax.Grammar, written *lexical.Signs, halves []lang.Half, extensions ...string) *lang.Language {
	return &lang.Language{
		Name:   name,
		Family: family,
		Files: lang.Files{Extensions: extensions, Names: lang.None, Front: lang.None, Halves: halves,
			Tops: []string{"package.json"}, Installed: []string{modulesFolder}},
		Facts:      extractor(name, g),
		Pieces:     g.Pieces,
		Wrong:      lang.Wrong{Syntax: faults(name, g), Bare: lang.NoBare, Wanting: wanting, Leads: hasToLead, Unused: lang.Yes, Slips: lang.Yes},
		Shorthands: g.Nodes("shorthand_property_identifier", "shorthand_property_identifier_pattern"),
		Signs:      written,
		Shared:     shared.InMarkup(written, css.Endings...),
		Names: lang.Names{Reserved: lang.WordsOf(`break case catch class const continue debugger default delete do else enum export extends false finally for function if
			import in instanceof let new null return super static switch this throw true try typeof var void while with yield await
			implements interface package private protected public`), Also: "$", Argument: lang.NoLetters, Overrides: "override", Files: lang.MayFollow},
		Keywords: lang.WordsOf(`async await case catch const default delete do else export extends finally for from function if import in instanceof let
			new of return static switch throw try typeof var void while with yield`),
		Tests:     lang.Tests{Files: []string{"?*.test.*", "?*.spec.*"}, Functions: lang.None},
		Generated: lang.Generated{Files: []string{"*.min.js", "*.min.mjs", "*_pb.js"}, Says: lang.SaysGenerated},
		Code:      lang.Yes,
		Scopes: lang.Scopes{Sees: lang.SeesItself, Implied: lang.None, Paths: lang.NoPaths, Namespaces: lang.No, ClassSpaces: lang.No, TagsApart: lang.No,
			CallsApart: lang.No, Shared: lang.Yes, Relative: lang.No, Again: lang.Yes, Builtin: builtin, Builds: lang.AllBuilt{}},
		Members: lang.Members{Reached: []string{".", "?."}, Self: lang.WordsOf("this super"), Super: lang.WordsOf("super"), Named: lang.Qualified, Apart: lang.Within,
			Overloads: lang.No, Constructors: []string{"constructor"}, Prototypes: lang.Yes, Root: lang.NoRoot, Everyone: lang.Words{},
			OfLists: map[string]string{}, Gives: given},
		Types: lang.Types{Satisfied: lang.No, Private: lang.NonePrivate, Written: lang.No, DerivedApart: lang.No,
			Transparent: lang.WordsOf("Partial Required Readonly NonNullable Pick Omit Awaited NoInfer ThisType"), KeysFirst: lang.Words{}},
		Values: valuesOf(name),
		Outside: lang.Outside{Unused: lang.Yes,
			Visible: func(s lang.Symbol) bool { return s.Has("export") || s.Container != "" && !s.Has("private") },
			Entries: lang.WordsOf("main"), Called: lang.WordsOf("toString toJSON valueOf"), Marks: []string{"@"}, Unmarked: lang.None},
		Imports:      Imports,
		Surroundings: lang.NoSurroundings,
		Importing:    importing(g),
		Checker:      lang.NoChecker,
		Mending:      mending,
		Trying:       trying,
		Units:        lang.NoUnits,
		Structure:    structure(g, name == typescriptName),
		Format:       lang.AsWritten,
	}
}

var builtin = lang.WordsOf(`undefined NaN Infinity globalThis Object Function Boolean Symbol Error AggregateError EvalError
	RangeError ReferenceError SyntaxError TypeError URIError Number BigInt Math Date String RegExp Array
	Int8Array Uint8Array Uint8ClampedArray Int16Array Uint16Array Int32Array Uint32Array Float32Array
	Float64Array BigInt64Array BigUint64Array Map Set WeakMap WeakSet WeakRef ArrayBuffer
	SharedArrayBuffer DataView Atomics JSON Promise Reflect Proxy Intl eval isFinite isNaN parseFloat
	parseInt decodeURI decodeURIComponent encodeURI encodeURIComponent escape unescape arguments
	console window document navigator location history fetch setTimeout setInterval clearTimeout
	clearInterval queueMicrotask structuredClone requestAnimationFrame localStorage sessionStorage
	URL URLSearchParams Headers Request Response FormData Blob File AbortController AbortSignal
	TextEncoder TextDecoder WebSocket EventSource Event CustomEvent EventTarget Element HTMLElement
	ReadableStream WritableStream TransformStream CompressionStream DecompressionStream BroadcastChannel MessageChannel MessagePort
	performance crypto WebAssembly Worker SharedWorker Image Audio Node NodeList Document DocumentFragment DOMParser XMLHttpRequest
	MutationObserver IntersectionObserver ResizeObserver customElements getComputedStyle matchMedia cancelAnimationFrame
	requestIdleCallback cancelIdleCallback setImmediate clearImmediate globalThis self alert confirm prompt atob btoa
	process Buffer global require module exports __dirname __filename
	Partial Required Readonly Record Pick Omit Exclude Extract NonNullable Parameters ReturnType
	InstanceType ConstructorParameters Awaited ReadonlyArray ReadonlyMap ReadonlySet PromiseLike
	Iterable Iterator IterableIterator AsyncIterable Generator AsyncGenerator ArrayLike`)
