#ifndef ROOKTRAIL_PARSE_H
#define ROOKTRAIL_PARSE_H

#include <stdint.h>
#include <stdbool.h>

/* The part of the tree-sitter interface that is used here. The functions are
 * linked in by the Go package that carries the parser; declaring them weak
 * lets this file be linked on its own first, as cgo does. */
typedef struct {
  uint32_t context[4];
  const void *id;
  const void *tree;
} TSNode;

typedef struct {
  const void *tree;
  const void *id;
  uint32_t context[3];
} TSTreeCursor;

typedef struct TSParser TSParser;
typedef struct TSTree TSTree;
typedef struct TSLanguage TSLanguage;

extern TSParser *ts_parser_new(void) __attribute__((weak));
extern void ts_parser_delete(TSParser *) __attribute__((weak));
extern bool ts_parser_set_language(TSParser *, const TSLanguage *) __attribute__((weak));
extern void ts_parser_set_timeout_micros(TSParser *, uint64_t) __attribute__((weak));
extern TSTree *ts_parser_parse_string(TSParser *, const TSTree *, const char *, uint32_t) __attribute__((weak));
extern TSNode ts_tree_root_node(const TSTree *) __attribute__((weak));
extern void ts_tree_delete(TSTree *) __attribute__((weak));
extern TSTreeCursor ts_tree_cursor_new(TSNode) __attribute__((weak));
extern void ts_tree_cursor_delete(TSTreeCursor *) __attribute__((weak));
extern TSNode ts_tree_cursor_current_node(const TSTreeCursor *) __attribute__((weak));
extern uint16_t ts_tree_cursor_current_field_id(const TSTreeCursor *) __attribute__((weak));
extern bool ts_tree_cursor_goto_parent(TSTreeCursor *) __attribute__((weak));
extern bool ts_tree_cursor_goto_next_sibling(TSTreeCursor *) __attribute__((weak));
extern bool ts_tree_cursor_goto_first_child(TSTreeCursor *) __attribute__((weak));
extern uint16_t ts_node_symbol(TSNode) __attribute__((weak));
extern uint32_t ts_node_start_byte(TSNode) __attribute__((weak));
extern uint32_t ts_node_end_byte(TSNode) __attribute__((weak));
extern bool ts_node_is_named(TSNode) __attribute__((weak));
extern bool ts_node_is_missing(TSNode) __attribute__((weak));

/* One node of a flattened tree. next is the index just behind the node's last
 * descendant, so that a node's children are found without pointers. */
typedef struct {
  uint32_t start;
  uint32_t end;
  uint32_t next;
  uint16_t symbol;
  uint8_t field;
  uint8_t flags;
} rt_node;

enum { RT_NAMED = 1, RT_MISSING = 2 };

/* What came of rt_parse. */
enum {
  RT_DONE,     /* the nodes are there */
  RT_PAUSED,   /* the time is up; call again to go on */
  RT_TOO_DEEP, /* the tree is deeper than asked for, or memory ran out */
  RT_DIED,     /* the parser gave up on itself and must not be used again */
};

/* rt_parse parses a text for so many microseconds and writes the tree in
 * preorder into a new array, which the caller frees. spent is how long it took of
 * the processor, in nanoseconds, however busy that is with others. After RT_PAUSED it goes
 * on where it was when called again with the same parser and text.
 *
 * A parser that finds itself in a state it takes for impossible would end the
 * whole program; here it ends the parsing. */
int rt_parse(TSParser *parser, const char *text, uint32_t size, uint64_t micros, uint32_t most_deep, rt_node **out, uint32_t *count, uint64_t *spent);

#endif
