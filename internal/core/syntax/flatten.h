#ifndef ROOKTRAIL_FLATTEN_H
#define ROOKTRAIL_FLATTEN_H

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

enum { RT_NAMED = 1 };

/* rt_flatten writes the tree under root in preorder into a new array, which
 * the caller frees, and returns the number of nodes; 0 if memory ran out or
 * the tree is deeper than most_deep. */
uint32_t rt_flatten(TSNode root, uint32_t most_deep, rt_node **out);

#endif
