// What is used of the stable interface of libclang in C. Its types are laid out as they have
// been since its first version; nothing of it is needed for building.

#ifndef ROOKTRAIL_LIBCLANG_H
#define ROOKTRAIL_LIBCLANG_H

#include <stdint.h>

typedef struct {
	uint32_t file, offset;             // where a name is used
	uint32_t target, target_offset;    // the file and the place of what it means
	uint64_t symbol;                   // the same for what is the same in all files; 0 for what only one can name
	uint32_t length;                   // of the name
	uint32_t flags;
} asked_use;

typedef struct {
	uint32_t file, offset; // where a name is declared
	uint64_t symbol;       // 0 for what only its file can name, or is not written out there
	uint32_t length;
} asked_definition;

enum { asked_declared = 1 };

typedef struct {
	uint32_t file, offset; // where the compiler does not take a text
	char *words;
} asked_fault;

typedef struct {
	char *path;
	int inside; // the file is in the folder that is asked about
} asked_file;

typedef struct {
	asked_use *uses;
	uint32_t use_count;
	asked_definition *definitions;
	uint32_t definition_count;
	asked_file *files; // all that were read
	uint32_t file_count;
	asked_fault *faults; // none if not all could be read
	uint32_t fault_count;
	char *failure;  // why nothing is known, or null
} asked_unit;

// asked_load loads a library and gives its version, or null and why not. What it gives is to be freed.
char *asked_load(const char *library, char **failure);

// asked_parse reads a file as a compiler does that is given arguments, and says what names mean in those files that lie below
// root, which ends with a slash. What it gives is to be given to asked_free.
asked_unit *asked_parse(const char *root, const char *file, const char *const *arguments, int count);

void asked_free(asked_unit *unit);

#endif
