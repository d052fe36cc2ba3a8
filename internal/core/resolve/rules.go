package resolve

import "strings"

// ruleSet is what the look-up of names in a language does not share with the
// others.
type ruleSet struct {
	// self are the names by which the inside of a class names the class.
	self map[string]bool
	// membersInBody says that the body of a class, but no function in it,
	// can name the members without anything in front.
	membersInBody bool
	// membersAnywhere says that all code inside a type can name its members,
	// and those it inherits, without anything in front.
	membersAnywhere bool
	// callsApart says that what is called and what has a value may share a name.
	callsApart bool
	// builtin are the names that the language itself defines.
	builtin map[string]bool
}

func words(s string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(s) {
		m[w] = true
	}
	return m
}

var noRules = &ruleSet{}

var scriptRules = &ruleSet{
	self: words("this super"),
	builtin: words(`undefined NaN Infinity globalThis Object Function Boolean Symbol Error AggregateError EvalError
		RangeError ReferenceError SyntaxError TypeError URIError Number BigInt Math Date String RegExp Array
		Int8Array Uint8Array Uint8ClampedArray Int16Array Uint16Array Int32Array Uint32Array Float32Array
		Float64Array BigInt64Array BigUint64Array Map Set WeakMap WeakSet WeakRef ArrayBuffer
		SharedArrayBuffer DataView Atomics JSON Promise Reflect Proxy Intl eval isFinite isNaN parseFloat
		parseInt decodeURI decodeURIComponent encodeURI encodeURIComponent escape unescape arguments
		console window document navigator location history fetch setTimeout setInterval clearTimeout
		clearInterval queueMicrotask structuredClone requestAnimationFrame localStorage sessionStorage
		URL URLSearchParams Headers Request Response FormData Blob File AbortController AbortSignal
		TextEncoder TextDecoder WebSocket EventSource Event CustomEvent EventTarget Element HTMLElement
		process Buffer global require module exports __dirname __filename
		Partial Required Readonly Record Pick Omit Exclude Extract NonNullable Parameters ReturnType
		InstanceType ConstructorParameters Awaited ReadonlyArray ReadonlyMap ReadonlySet PromiseLike
		Iterable Iterator IterableIterator AsyncIterable Generator AsyncGenerator ArrayLike`),
}

var languageRules = map[string]*ruleSet{
	"Go": {builtin: words(`any bool byte comparable complex64 complex128 error float32 float64 int int8 int16
		int32 int64 rune string uint uint8 uint16 uint32 uint64 uintptr true false iota nil append cap
		clear close complex copy delete imag len make max min new panic print println real recover`)},
	"Python": {membersInBody: true, builtin: words(`abs aiter all anext any ascii bin bool breakpoint bytearray bytes
		callable chr classmethod compile complex delattr dict dir divmod enumerate eval exec filter float
		format frozenset getattr globals hasattr hash help hex id input int isinstance issubclass iter
		len list locals map max memoryview min next object oct open ord pow print property range repr
		reversed round set setattr slice sorted staticmethod str sum super tuple type vars zip
		__import__ __name__ __file__ __doc__ Ellipsis NotImplemented None True False
		BaseException Exception ArithmeticError AssertionError AttributeError BlockingIOError
		BrokenPipeError BufferError ChildProcessError ConnectionAbortedError ConnectionError
		ConnectionRefusedError ConnectionResetError EOFError EnvironmentError FileExistsError
		FileNotFoundError FloatingPointError GeneratorExit IOError ImportError IndentationError
		IndexError InterruptedError IsADirectoryError KeyError KeyboardInterrupt LookupError
		MemoryError ModuleNotFoundError NameError NotADirectoryError NotImplementedError OSError
		OverflowError PermissionError ProcessLookupError RecursionError ReferenceError ResourceWarning
		RuntimeError RuntimeWarning StopAsyncIteration StopIteration SyntaxError SystemError SystemExit
		TabError TimeoutError TypeError UnboundLocalError UnicodeDecodeError UnicodeEncodeError
		UnicodeError UserWarning ValueError Warning ZeroDivisionError DeprecationWarning`)},
	"Java": {self: words("this super"), membersAnywhere: true, callsApart: true, builtin: words(`Object String StringBuilder StringBuffer CharSequence
		Integer Long Short Byte Character Boolean Double Float Number Math StrictMath System Thread Runnable
		Runtime Process ProcessBuilder Class ClassLoader Comparable Iterable Cloneable AutoCloseable Enum
		Record Void Throwable Exception Error RuntimeException IllegalArgumentException
		IllegalStateException NullPointerException IndexOutOfBoundsException
		ArrayIndexOutOfBoundsException UnsupportedOperationException ClassCastException
		ArithmeticException NumberFormatException InterruptedException CloneNotSupportedException
		ReflectiveOperationException ClassNotFoundException SecurityException AssertionError
		OutOfMemoryError StackOverflowError LinkageError Override Deprecated SuppressWarnings
		FunctionalInterface SafeVarargs ThreadLocal StackTraceElement Module Package`)},
	"C++":    {self: words("this"), membersAnywhere: true},
	"C#":     {self: words("this base"), membersAnywhere: true},
	"Kotlin": {self: words("this super"), membersAnywhere: true},
	"Swift":  {self: words("self super Self"), membersAnywhere: true},
	"Ruby":   {self: words("self super"), membersAnywhere: true},
	"PHP":    {self: words("$this self static parent")},
	"Rust": {self: words("self Self"), builtin: words(`bool char str i8 i16 i32 i64 i128 isize u8 u16 u32 u64 u128 usize f32 f64
		Option Some None Result Ok Err Vec String Box ToString ToOwned Clone Copy Send Sync Sized Drop Fn FnMut FnOnce
		AsRef AsMut Into From Default Iterator IntoIterator Extend DoubleEndedIterator ExactSizeIterator
		Eq PartialEq Ord PartialOrd Debug Hash TryFrom TryInto FromIterator drop
		println print eprintln eprint format panic vec assert assert_eq assert_ne debug_assert debug_assert_eq
		debug_assert_ne write writeln unreachable unimplemented todo matches include_str include_bytes concat env
		option_env line file column module_path stringify cfg dbg compile_error format_args thread_local include
		global_asm asm try std core alloc`)},
	"Lua":        {self: words("self")},
	"JavaScript": scriptRules,
	"TypeScript": scriptRules,
}

func rules(src *source) *ruleSet {
	if r := languageRules[src.Language]; r != nil {
		return r
	}
	return noRules
}
