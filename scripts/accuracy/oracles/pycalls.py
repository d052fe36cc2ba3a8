"""Prints which function each call in a package went to while its tests ran:

    python3 pycalls.py DIR PACKAGE[,PACKAGE...] MODULE [ARGUMENT...]

DIR is the folder that the packages lie in, MODULE what is run with the arguments, such as unittest or
pytest. For each place in the packages at which a function of theirs was called by its own name, or a
property was read, there is a line for every function that it went to, and one that says "above" for
every method that this overrides, since code may well say no more than that.
"""

import ast
import atexit
import json
import os
import runpy
import sys
import threading

root = os.path.realpath(sys.argv[1])
packages = [os.path.join(root, p) for p in sys.argv[2].split(",")]
module, sys.argv = sys.argv[3], sys.argv[3:]
sys.path.insert(0, root)

inside = {}  # whether the code of a file belongs to the packages
seen = {}  # (code, instruction) of the caller -> codes that were called
above = {}  # the same -> codes that those override


def belongs(file):
    known = inside.get(file)
    if known is None:
        path = os.path.realpath(file)
        known = inside[file] = path.endswith(".py") and any(path == p + ".py" or path.startswith(p + os.sep) for p in packages)
    return known


def called(frame, event, argument):
    if event != "call":
        return
    code, caller = frame.f_code, frame.f_back
    if caller is None or not belongs(code.co_filename) or not belongs(caller.f_code.co_filename):
        return
    at = (caller.f_code, caller.f_lasti)
    codes = seen.setdefault(at, set())
    if code not in codes:
        codes.add(code)
        above.setdefault(at, set()).update(overridden(frame, code))


def overridden(frame, code):
    """The methods of the classes above that have the name."""
    if not code.co_argcount:
        return
    me = frame.f_locals.get(code.co_varnames[0])
    for c in (me if isinstance(me, type) else type(me)).__mro__:
        member = c.__dict__.get(code.co_name)
        for part in (member, getattr(member, "fget", None), getattr(member, "__func__", None), getattr(member, "__wrapped__", None)):
            found = getattr(part, "__code__", None)
            if found is not None and found is not code and found.co_name == code.co_name and belongs(found.co_filename):
                yield found


trees = {}


class Tree:
    """The names that are called in a file, by where the calls stand, and the functions by where they begin."""

    def __init__(self, file):
        with open(file, "rb") as f:
            text = f.read()
        self.lines = text.split(b"\n")
        self.named, self.functions = {}, {}
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.Call):
                self.note(node, node.func)
            elif isinstance(node, ast.Attribute):
                self.note(node, node)
            elif isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                first = min([node.lineno] + [d.lineno for d in node.decorator_list])
                start = node.col_offset + (4 if isinstance(node, ast.FunctionDef) else 10)
                column = self.lines[node.lineno - 1].find(node.name.encode(), start)
                if column >= 0:
                    self.functions[first, node.name] = (node.lineno, column + 1)

    def note(self, node, name):
        at = (node.lineno, node.end_lineno, node.col_offset, node.end_col_offset)
        if isinstance(name, ast.Name):
            self.named[at] = (name.id, name.lineno, name.col_offset + 1, True)
        elif isinstance(name, ast.Attribute):
            self.named[at] = (name.attr, name.end_lineno, name.end_col_offset - len(name.attr.encode()) + 1, False)


def tree(file):
    file = os.path.realpath(file)
    if file not in trees:
        trees[file] = Tree(file)
    return trees[file]


def tell():
    sys.setprofile(None)
    threading.setprofile(None)
    told = set()
    for (code, instruction), targets in list(seen.items()):
        positions = list(code.co_positions())[instruction // 2]
        name = tree(code.co_filename).named.get(positions)
        if name is None or name[3] and name[0] in code.co_varnames + code.co_freevars:
            continue  # what is called is kept in a variable that happens to have its name
        for target in list(targets):
            to = function(target)
            if to and target.co_name == name[0]:
                query = place(code, name[1:3])
                told.add((query, to, False))
                told.update((query, function(a), True) for a in above[code, instruction] if function(a))
    with open(os.environ["CALLS"], "w") as out:
        for query, to, base in sorted(told):
            print(json.dumps({"query": query, "target": to} | ({"above": True} if base else {})), file=out)


def function(code):
    at = tree(code.co_filename).functions.get((code.co_firstlineno, code.co_name))
    return place(code, at) if at else None


def place(code, at):
    return "%s:%d:%d" % (os.path.relpath(os.path.realpath(code.co_filename), root), at[0], at[1])


atexit.register(tell)
threading.setprofile(called)
sys.setprofile(called)
runpy.run_module(module, run_name="__main__", alter_sys=True)
