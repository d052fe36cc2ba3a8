#include "parse.h"
#include <setjmp.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>
#include <unistd.h>

/* Where a failed assertion leads while a text is being parsed. */
static __thread jmp_buf *guard;

static void failed(const char *what, const char *file, unsigned line) __attribute__((noreturn));

static void failed(const char *what, const char *file, unsigned line) {
  if (!guard) fprintf(stderr, "%s:%u: assertion failed: %s\n", file, line, what);
  abort();
}

/* These stand in for the functions of the C library by which a program ends
 * itself: abort, and that of assert under its names in different libraries. */
void abort(void) {
  if (guard) {
    jmp_buf *there = guard;
    guard = NULL;
    longjmp(*there, 1);
  }
  signal(SIGABRT, SIG_DFL);
  raise(SIGABRT);
  _exit(134);
}

void __assert_fail(const char *what, const char *file, unsigned line, const char *function);
void __assert_fail(const char *what, const char *file, unsigned line, const char *function) {
  (void)function;
  failed(what, file, line);
}

void __assert_rtn(const char *function, const char *file, int line, const char *what);
void __assert_rtn(const char *function, const char *file, int line, const char *what) {
  (void)function;
  failed(what, file, (unsigned)line);
}

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
  if (n->start == n->end && ts_node_is_missing(node)) n->flags |= RT_MISSING;
  return true;
}

static uint32_t flatten(TSNode root, uint32_t most_deep, rt_node **out) {
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

static uint64_t of_this_thread(void) {
  struct timespec t;
  if (clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t)) return 0;
  return (uint64_t)t.tv_sec * 1000000000u + (uint64_t)t.tv_nsec;
}

int rt_parse(TSParser *parser, const char *text, uint32_t size, uint64_t micros, uint32_t most_deep, rt_node **out, uint32_t *count, uint64_t *spent) {
  const uint64_t begun = of_this_thread();
  jmp_buf here;
  guard = &here;
  if (setjmp(here)) {
    guard = NULL;
    return RT_DIED;
  }
  ts_parser_set_timeout_micros(parser, micros);
  TSTree *tree = ts_parser_parse_string(parser, NULL, text, size);
  int status = RT_PAUSED;
  if (tree) {
    *count = flatten(ts_tree_root_node(tree), most_deep, out);
    status = *count ? RT_DONE : RT_TOO_DEEP;
    ts_tree_delete(tree);
  }
  guard = NULL;
  *spent = of_this_thread() - begun;
  return status;
}
