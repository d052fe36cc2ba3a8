#include "libclang.h"

#include <dlfcn.h>
#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef void *CXIndex, *CXTranslationUnit, *CXFile, *CXDiagnostic;

typedef struct {
	const void *data;
	unsigned flags;
} CXString;

typedef struct {
	int kind, xdata;
	const void *data[3];
} CXCursor;

typedef struct {
	const void *ptr_data[2];
	unsigned int_data;
} CXSourceLocation;

typedef int (*visitor)(CXCursor, CXCursor, void *);
typedef void (*inclusion)(CXFile, CXSourceLocation *, unsigned, void *);

// The kinds of cursors that are looked for, by their numbers.
enum {
	struct_decl = 2, union_decl, class_decl, enum_decl, field_decl, enum_constant, function_decl, var_decl, parm_decl,
	typedef_decl = 20, method = 21, namespace_kind = 22, constructor = 24, destructor = 25, function_template = 30, class_template = 31, alias_decl = 36, last_decl = 39,
	type_ref = 43, template_ref = 45, namespace_ref = 46, member_ref = 47, label_ref = 48, overloaded_ref = 49, variable_ref = 50,
	decl_ref_expr = 101, member_ref_expr = 102, macro_definition = 501, macro_expansion = 502,
	alias_template = 601
};

enum { stop = 0, go_on = 1, go_in = 2 };

#define FUNCTIONS(F)                                                                                         \
	F(CXIndex, createIndex, (int, int))                                                                  \
	F(void, disposeIndex, (CXIndex))                                                                     \
	F(int, parseTranslationUnit2, (CXIndex, const char *, const char *const *, int, void *, unsigned, unsigned, CXTranslationUnit *)) \
	F(void, disposeTranslationUnit, (CXTranslationUnit))                                                 \
	F(unsigned, getNumDiagnostics, (CXTranslationUnit))                                                  \
	F(CXDiagnostic, getDiagnostic, (CXTranslationUnit, unsigned))                                        \
	F(int, getDiagnosticSeverity, (CXDiagnostic))                                                        \
	F(CXString, formatDiagnostic, (CXDiagnostic, unsigned))                                              \
	F(CXString, getDiagnosticSpelling, (CXDiagnostic))                                                   \
	F(CXSourceLocation, getDiagnosticLocation, (CXDiagnostic))                                           \
	F(void, disposeDiagnostic, (CXDiagnostic))                                                           \
	F(CXCursor, getTranslationUnitCursor, (CXTranslationUnit))                                           \
	F(unsigned, visitChildren, (CXCursor, visitor, void *))                                              \
	F(CXSourceLocation, getCursorLocation, (CXCursor))                                                   \
	F(void, getFileLocation, (CXSourceLocation, CXFile *, unsigned *, unsigned *, unsigned *))           \
	F(CXCursor, getCursorReferenced, (CXCursor))                                                         \
	F(CXCursor, getCursorDefinition, (CXCursor))                                                         \
	F(unsigned, isCursorDefinition, (CXCursor))                                                          \
	F(int, Cursor_isNull, (CXCursor))                                                                    \
	F(int, getCursorLinkage, (CXCursor))                                                                 \
	F(CXString, getCursorSpelling, (CXCursor))                                                           \
	F(CXString, getCursorUSR, (CXCursor))                                                                \
	F(const char *, getCString, (CXString))                                                              \
	F(void, disposeString, (CXString))                                                                   \
	F(CXString, getFileName, (CXFile))                                                                   \
	F(const char *, getFileContents, (CXTranslationUnit, CXFile, unsigned long *))                       \
	F(void, getInclusions, (CXTranslationUnit, inclusion, void *))                                       \
	F(CXString, getClangVersion, (void))

#define DECLARE(result, name, parameters) static result(*cx_##name) parameters;
FUNCTIONS(DECLARE)

static char *copied(CXString s) {
	const char *c = cx_getCString(s);
	char *copy = strdup(c ? c : "");
	cx_disposeString(s);
	return copy;
}

static char *said(const char *what, const char *more) {
	size_t size = strlen(what) + strlen(more) + 1;
	char *s = malloc(size);
	snprintf(s, size, "%s%s", what, more);
	return s;
}

char *asked_load(const char *library, char **failure) {
	void *handle = dlopen(library, RTLD_NOW | RTLD_LOCAL);
	if (!handle) {
		const char *why = dlerror();
		*failure = said("", why ? why : "it cannot be loaded");
		return NULL;
	}
#define FIND(result, name, parameters)                                      \
	*(void **)&cx_##name = dlsym(handle, "clang_" #name);               \
	if (!cx_##name) {                                                   \
		*failure = said("it is too old, and lacks clang_", #name);  \
		return NULL;                                                \
	}
	FUNCTIONS(FIND)
	return copied(cx_getClangVersion());
}

// known is a file that was met, with its text.
typedef struct {
	CXFile file;
	const char *text;
	unsigned long length;
} known;

typedef struct {
	CXTranslationUnit unit;
	asked_unit *out;
	const char *root;
	known *files;
	uint32_t last; // the file that was met last
	uint32_t use_room, definition_room, file_room, fault_room;
} state;

#define ROOM(list, count, room)                                     \
	if ((count) == (room)) {                                    \
		(room) = (room) ? 2 * (room) : 256;                 \
		(list) = realloc((list), (room) * sizeof *(list));  \
	}

static const uint32_t nowhere = UINT32_MAX;

// file_of is the number of a file, which is added if it is met for the first time.
static uint32_t file_of(state *s, CXFile file) {
	if (!file) {
		return nowhere;
	}
	asked_unit *o = s->out;
	if (s->last < o->file_count && s->files[s->last].file == file) {
		return s->last;
	}
	for (uint32_t i = 0; i < o->file_count; i++) {
		if (s->files[i].file == file) {
			return s->last = i;
		}
	}
	if (o->file_count == s->file_room) {
		s->file_room = s->file_room ? 2 * s->file_room : 64;
		o->files = realloc(o->files, s->file_room * sizeof *o->files);
		s->files = realloc(s->files, s->file_room * sizeof *s->files);
	}
	char *name = copied(cx_getFileName(file)), real[PATH_MAX];
	asked_file *f = &o->files[o->file_count];
	f->path = realpath(name, real) ? strdup(real) : strdup(name);
	f->inside = strncmp(f->path, s->root, strlen(s->root)) == 0;
	free(name);
	known *k = &s->files[o->file_count];
	k->file = file;
	k->length = 0;
	k->text = cx_getFileContents(s->unit, file, &k->length);
	return s->last = o->file_count++;
}

static int in_name(char c) { return c == '_' || c == '$' || (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (unsigned char)c >= 0x80; }

// stands gives the length of a name if it is written at a place of a file, else 0.
static uint32_t stands(state *s, uint32_t file, uint32_t offset, const char *name) {
	known *k = &s->files[file];
	if (name[0] == '~') { // of what a destructor is named after
		name++;
		if (offset < k->length && k->text && k->text[offset] == '~') {
			offset++;
		}
	}
	size_t n = 0;
	while (in_name(name[n])) {
		n++;
	}
	if (n == 0 || (name[n] && name[n] != '<') || !k->text || offset + n > k->length || memcmp(k->text + offset, name, n) != 0) {
		return 0;
	}
	if (offset + n < k->length && in_name(k->text[offset + n])) {
		return 0;
	}
	return (uint32_t)n;
}

static uint32_t place_of(state *s, CXCursor c, uint32_t *offset) {
	CXFile file = NULL;
	unsigned line = 0, column = 0;
	*offset = 0;
	cx_getFileLocation(cx_getCursorLocation(c), &file, &line, &column, offset);
	return file_of(s, file);
}

// symbol_of stands for what a cursor means in whichever file; 0 if only its own can name it. (The hash is FNV-1a.)
static uint64_t symbol_of(CXCursor c) {
	if (c.kind == macro_definition) {
		return 0;
	}
	if (cx_getCursorLinkage(c) < 3 && c.kind != class_decl && c.kind != struct_decl && c.kind != union_decl && c.kind != enum_decl && c.kind != class_template) {
		return 0;
	}
	CXString s = cx_getCursorUSR(c);
	uint64_t h = 14695981039346656037ULL;
	const char *u = cx_getCString(s);
	if (!u || !*u) {
		h = 0;
	} else {
		for (; *u; u++) {
			h = (h ^ (unsigned char)*u) * 1099511628211ULL;
		}
	}
	cx_disposeString(s);
	return h;
}

static int is_function(int kind) { return kind == function_decl || kind == method || kind == constructor || kind == destructor || kind == function_template; }

static int is_type(int kind) { return kind == struct_decl || kind == union_decl || kind == class_decl || kind == enum_decl || kind == class_template; }

static void define(state *s, CXCursor c, uint32_t file, uint32_t offset) {
	int written = (is_function(c.kind) || is_type(c.kind) || c.kind == var_decl) && cx_isCursorDefinition(c);
	uint64_t symbol = written ? symbol_of(c) : 0;
	CXString spelling = cx_getCursorSpelling(c);
	const char *name = cx_getCString(spelling);
	uint32_t length = name ? stands(s, file, offset, name) : 0;
	cx_disposeString(spelling);
	if (!length) {
		return;
	}
	asked_unit *o = s->out;
	ROOM(o->definitions, o->definition_count, s->definition_room)
	o->definitions[o->definition_count++] = (asked_definition){file, offset, symbol, length};
}

static void use(state *s, CXCursor c, uint32_t file, uint32_t offset) {
	CXCursor target = cx_getCursorReferenced(c);
	if (cx_Cursor_isNull(target) || target.kind == namespace_kind || target.kind == constructor) {
		return;
	}
	uint32_t flags = 0;
	if (target.kind != macro_definition) {
		CXCursor definition = cx_getCursorDefinition(target);
		if (!cx_Cursor_isNull(definition)) {
			target = definition;
		} else if (is_function(target.kind) || is_type(target.kind) || target.kind == var_decl) {
			flags |= asked_declared;
		}
	}
	CXString spelling = cx_getCursorSpelling(target);
	const char *name = cx_getCString(spelling);
	uint32_t length = name ? stands(s, file, offset, name) : 0, at = 0, in = nowhere;
	if (length) {
		in = place_of(s, target, &at);
		if (in == nowhere || (s->out->files[in].inside && !stands(s, in, at, name))) {
			in = nowhere; // a macro writes it
		}
	}
	cx_disposeString(spelling);
	if (!length) {
		return;
	}
	asked_unit *o = s->out;
	ROOM(o->uses, o->use_count, s->use_room)
	o->uses[o->use_count++] = (asked_use){file, offset, in, at, in == nowhere ? 0 : symbol_of(target), length, flags};
}

static int visit(CXCursor c, CXCursor parent, void *data) {
	state *s = data;
	uint32_t offset, file = place_of(s, c, &offset);
	if (file == nowhere) {
		return go_in;
	}
	if (!s->out->files[file].inside) {
		return parent.kind >= 300 && parent.kind < 400 ? go_on : go_in; // 300 and 350 are units
	}
	switch (c.kind) {
	case type_ref:
	case template_ref:
	case member_ref:
	case label_ref:
	case variable_ref:
	case decl_ref_expr:
	case member_ref_expr:
	case macro_expansion:
		use(s, c, file, offset);
		break;
	default:
		if (c.kind <= last_decl || c.kind == macro_definition || c.kind == alias_template) {
			define(s, c, file, offset);
		}
	}
	return go_in;
}

static void include(CXFile file, CXSourceLocation *stack, unsigned depth, void *data) {
	(void)stack, (void)depth;
	file_of(data, file);
}

enum { error = 3, fatal = 4 };

static const uint32_t most_faults = 200;

// diagnose takes note of the errors. What a compiler says behind one that is fatal, or before it, may only come of that.
static void diagnose(state *s) {
	asked_unit *o = s->out;
	unsigned n = cx_getNumDiagnostics(s->unit);
	int given_up = 0;
	for (unsigned i = 0; i < n; i++) {
		CXDiagnostic d = cx_getDiagnostic(s->unit, i);
		int severity = cx_getDiagnosticSeverity(d);
		if (severity >= error && !o->failure) {
			o->failure = copied(cx_formatDiagnostic(d, 3));
		}
		given_up |= severity >= fatal;
		if (severity == error && o->fault_count < most_faults) {
			CXFile file = NULL;
			unsigned line = 0, column = 0;
			uint32_t offset = 0;
			cx_getFileLocation(cx_getDiagnosticLocation(d), &file, &line, &column, &offset);
			uint32_t in = file_of(s, file);
			if (in != nowhere && o->files[in].inside) {
				ROOM(o->faults, o->fault_count, s->fault_room)
				o->faults[o->fault_count++] = (asked_fault){in, offset, copied(cx_getDiagnosticSpelling(d))};
			}
		}
		cx_disposeDiagnostic(d);
	}
	if (given_up) {
		for (uint32_t i = 0; i < o->fault_count; i++) {
			free(o->faults[i].words);
		}
		o->fault_count = 0;
	}
}

asked_unit *asked_parse(const char *root, const char *file, const char *const *arguments, int count) {
	state s = {.root = root, .out = calloc(1, sizeof(asked_unit))};
	CXIndex index = cx_createIndex(0, 0);
	const unsigned with_macros = 1;
	int failed = cx_parseTranslationUnit2(index, file, arguments, count, NULL, 0, with_macros, &s.unit);
	if (failed || !s.unit) {
		s.out->failure = said("libclang gave the file up", failed == 2 ? ", since it crashed" : "");
		cx_disposeIndex(index);
		return s.out;
	}
	diagnose(&s);
	cx_getInclusions(s.unit, include, &s);
	if (!s.out->failure) {
		cx_visitChildren(cx_getTranslationUnitCursor(s.unit), visit, &s);
	}
	cx_disposeTranslationUnit(s.unit);
	cx_disposeIndex(index);
	free(s.files);
	return s.out;
}

void asked_free(asked_unit *unit) {
	for (uint32_t i = 0; i < unit->file_count; i++) {
		free(unit->files[i].path);
	}
	free(unit->files);
	free(unit->uses);
	free(unit->definitions);
	for (uint32_t i = 0; i < unit->fault_count; i++) {
		free(unit->faults[i].words);
	}
	free(unit->faults);
	free(unit->failure);
	free(unit);
}
