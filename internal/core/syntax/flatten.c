#include "flatten.h"
#include <stdlib.h>

static bool append(rt_node **nodes, uint32_t *len, uint32_t *room, const TSTreeCursor *cursor) {
  if (*len == *room) {
    uint32_t larger = *room * 2;
    rt_node *moved = realloc(*nodes, (size_t)larger * sizeof(rt_node));
    if (!moved) return false;
    *nodes = moved;
    *room = larger;
  }
  TSNode node = ts_tree_cursor_current_node(cursor);
  rt_node *n = &(*nodes)[(*len)++];
  n->start = ts_node_start_byte(node);
  n->end = ts_node_end_byte(node);
  n->next = 0;
  n->symbol = ts_node_symbol(node);
  n->field = (uint8_t)ts_tree_cursor_current_field_id(cursor);
  n->flags = ts_node_is_named(node) ? RT_NAMED : 0;
  return true;
}

uint32_t rt_flatten(TSNode root, uint32_t most_deep, rt_node **out) {
  uint32_t len = 0, room = 1024, depth = 0;
  rt_node *nodes = malloc((size_t)room * sizeof(rt_node));
  uint32_t *open = malloc((size_t)(most_deep + 1) * sizeof(uint32_t));
  TSTreeCursor cursor = ts_tree_cursor_new(root);
  bool ok = nodes && open && append(&nodes, &len, &room, &cursor);
  if (ok) open[0] = 0;
  while (ok) {
    if (ts_tree_cursor_goto_first_child(&cursor)) {
      if (++depth > most_deep) { ok = false; break; }
      open[depth] = len;
      ok = append(&nodes, &len, &room, &cursor);
      continue;
    }
    nodes[open[depth]].next = len;
    while (depth > 0 && !ts_tree_cursor_goto_next_sibling(&cursor)) {
      ts_tree_cursor_goto_parent(&cursor);
      nodes[open[--depth]].next = len;
    }
    if (depth == 0) break;
    open[depth] = len;
    ok = append(&nodes, &len, &room, &cursor);
  }
  ts_tree_cursor_delete(&cursor);
  free(open);
  if (!ok) {
    free(nodes);
    return 0;
  }
  *out = nodes;
  return len;
}
