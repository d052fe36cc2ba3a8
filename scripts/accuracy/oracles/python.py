"""Prints what Python itself says each name means, for the modules of packages:

    python3 python.py DIR PACKAGE...

DIR is the folder that the packages lie in, from which they are imported. Names
are told by symtable, what they are bound to by looking at the imported modules
and classes. Members of values whose class only a run would show are left out.
"""

import ast
import importlib
import json
import os
import symtable
import sys
import types

root = os.path.realpath(sys.argv[1])
sys.path.insert(0, root)
trees, texts = {}, {}


library = os.path.realpath(os.path.dirname(os.__file__))


def relative(path):
    path = os.path.realpath(path)
    if path.startswith(library + os.sep) and os.path.exists(os.path.join(root, path[len(library) + 1:])):
        return path[len(library) + 1:]  # loaded before there was a choice
    return path[len(root) + 1:] if path.startswith(root + os.sep) else ""


def tree(path):
    if path not in trees:
        with open(path, "rb") as f:
            texts[path] = f.read()
        trees[path] = ast.parse(texts[path])
    return trees[path]


def column(path, line, name, start):
    """The byte column of a name on a line, from a byte offset on."""
    text = texts[path].split(b"\n")[line - 1]
    word = name.encode()
    at = text.find(word, start)
    while at >= 0:
        before, after = text[at - 1:at], text[at + len(word):at + len(word) + 1]
        if not (before.isalnum() or before == b"_") and not (after.isalnum() or after == b"_"):
            return at + 1
        at = text.find(word, at + 1)
    return 0


def bound(body, name, path, own=True):
    """The first node in a list of statements that binds a name."""
    for node in body:
        for found in binders(node, name):
            return found
    return None


def binders(node, name):
    if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
        if node.name == name:
            yield node
        return
    if isinstance(node, ast.Lambda):
        return
    if isinstance(node, (ast.Import, ast.ImportFrom)):
        for a in node.names:
            if (a.asname or a.name.split(".")[0]) == name:
                yield (node, a)
        return
    if isinstance(node, ast.Name) and node.id == name and isinstance(node.ctx, (ast.Store, ast.Del)):
        yield node
    if isinstance(node, ast.ExceptHandler) and node.name == name:
        yield node
    if isinstance(node, (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)):
        return
    for child in ast.iter_child_nodes(node):
        yield from binders(child, name)


def place(path, node, name):
    line = node.lineno
    start = node.col_offset if not isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef, ast.ExceptHandler)) else node.col_offset + 3
    col = column(path, line, name, start)
    return "%s:%d:%d" % (relative(path), line, col) if col else None


def module_file(module):
    file = getattr(module, "__file__", None)
    return os.path.realpath(file) if file and file.endswith(".py") else None


def in_module(module, name, seen=()):
    """Where a name of a module is bound: a place, "" outside, None if unknown."""
    path = module_file(module)
    if path is None or not relative(path):
        return ""
    if (path, name) in seen or len(seen) > 20:
        return None
    node = bound(tree(path).body, name, path)
    if node is None:
        sub = sys.modules.get(module.__name__ + "." + name)
        if sub is not None and module_file(sub):
            return "%s:1:1" % relative(module_file(sub)) if relative(module_file(sub)) else ""
        return None
    return follow(path, module, node, name, seen)


def follow(path, module, node, name, seen=()):
    if not isinstance(node, tuple):
        return place(path, node, name)
    statement, alias = node
    try:
        if isinstance(statement, ast.Import):
            target = importlib.import_module(alias.name if alias.asname else alias.name.split(".")[0])
            file = module_file(target)
            return "%s:1:1" % relative(file) if file and relative(file) else ""
        package = module.__name__ if path.endswith("__init__.py") else module.__name__.rpartition(".")[0]
        dots = "." * statement.level
        source = importlib.import_module(dots + (statement.module or ""), package or None)
    except Exception:
        return None
    return in_module(source, alias.name, seen + ((path, name),))


def class_node(cls):
    module = sys.modules.get(cls.__module__)
    path = module_file(module) if module else None
    if path is None:
        return None, None
    nodes = tree(path).body
    found = None
    for part in cls.__qualname__.split("."):
        if part == "<locals>":
            return None, None
        found = next((n for n in walk_statements(nodes) if isinstance(n, ast.ClassDef) and n.name == part), None)
        if found is None:
            return None, None
        nodes = found.body
    return path, found


def walk_statements(nodes):
    for n in nodes:
        yield n
        if isinstance(n, (ast.If, ast.Try, ast.With)):
            yield from walk_statements([c for c in ast.iter_child_nodes(n) if isinstance(c, ast.stmt)])
            for h in getattr(n, "handlers", []):
                yield from walk_statements(h.body)


def in_class(cls, name):
    """Where a member is defined, by the order in which Python looks for it."""
    for c in cls.__mro__:
        path, node = class_node(c)
        if node is None or not relative(path):
            if name in c.__dict__:
                return ""
            if c is not object:
                outside = True
            continue
        found = bound(node.body, name, path)
        if found is not None:
            return None if isinstance(found, tuple) else place(path, found, name)
        for method in node.body:
            if isinstance(method, (ast.FunctionDef, ast.AsyncFunctionDef)) and method.args.args:
                me = method.args.args[0].arg
                for n in ast.walk(method):
                    if isinstance(n, ast.Attribute) and n.attr == name and isinstance(n.ctx, ast.Store) and isinstance(n.value, ast.Name) and n.value.id == me:
                        return place_attribute(path, n)
    return None


def place_attribute(path, n):
    col = column(path, n.end_lineno, n.attr, n.end_col_offset - len(n.attr.encode()))
    return "%s:%d:%d" % (relative(path), n.end_lineno, col) if col else None


class Asker(ast.NodeVisitor):
    def __init__(self, path, module):
        self.path, self.module = path, module
        self.tables = [symtable.symtable(texts[path].decode("utf-8", "replace"), path, "exec")]
        self.functions, self.classes, self.skipped = [], [], 0

    def say(self, line, col, name, target):
        query = "%s:%d:%d" % (relative(self.path), line, col)
        if target is not None and target != query and col:
            print(json.dumps({"query": query, "target": target}))

    def enter(self, node, name):
        for t in self.tables[-1].get_children():
            if t.get_name() == name and t.get_lineno() in (node.lineno, *(d.lineno for d in getattr(node, "decorator_list", []))):
                return t
        return None

    def scoped(self, node, name, body):
        table = self.enter(node, name)
        if table is None:
            return
        self.tables.append(table)
        for n in body:
            self.visit(n)
        self.tables.pop()

    def visit_FunctionDef(self, node):
        for n in node.decorator_list + node.args.defaults + [d for d in node.args.kw_defaults if d]:
            self.visit(n)
        self.functions.append(node)
        self.scoped(node, node.name, node.body)
        self.functions.pop()

    visit_AsyncFunctionDef = visit_FunctionDef

    def visit_Lambda(self, node):
        pass

    visit_ListComp = visit_SetComp = visit_DictComp = visit_GeneratorExp = visit_Lambda

    def visit_ClassDef(self, node):
        for n in node.decorator_list + node.bases:
            self.visit(n)
        self.classes.append((node, len(self.functions)))
        self.scoped(node, node.name, node.body)
        self.classes.pop()

    def visit_Name(self, node):
        if isinstance(node.ctx, ast.Load):
            self.say(node.lineno, node.col_offset + 1, node.id, self.meaning(node.id))

    def meaning(self, name):
        try:
            symbol = self.tables[-1].lookup(name)
        except KeyError:
            return None
        if symbol.is_global() or len(self.tables) == 1:
            node = bound(tree(self.path).body, name, self.path)
            if node is None:
                return "" if hasattr(__builtins__, name) else None
            return follow(self.path, self.module, node, name)
        if symbol.is_parameter():
            f = self.functions[-1]
            for a in f.args.posonlyargs + f.args.args + f.args.kwonlyargs + [a for a in (f.args.vararg, f.args.kwarg) if a]:
                if a.arg == name:
                    return place(self.path, a, name)
        if symbol.is_local() and self.functions and self.tables[-1].get_type() in ("function", getattr(symtable, "SymbolTableType", None) and symtable.SymbolTableType.FUNCTION):
            node = bound(self.functions[-1].body, name, self.path)
            if node is not None:
                return follow(self.path, self.module, node, name)
        return None

    def value(self, node):
        """The object that an expression of global names stands for."""
        if isinstance(node, ast.Name):
            try:
                symbol = self.tables[-1].lookup(node.id)
            except KeyError:
                return None
            if symbol.is_global() or len(self.tables) == 1:
                return self.module.__dict__.get(node.id)
        if isinstance(node, ast.Attribute):
            base = self.value(node.value)
            if isinstance(base, (types.ModuleType, type)):
                return base.__dict__.get(node.attr)
        return None

    def visit_Attribute(self, node):
        self.visit(node.value)
        name = node.attr
        line = node.end_lineno
        col = column(self.path, line, name, node.end_col_offset - len(name.encode()))
        base = self.value(node.value)
        if isinstance(base, types.ModuleType):
            self.say(line, col, name, in_module(base, name))
        elif isinstance(base, type):
            self.say(line, col, name, in_class(base, name))
        elif isinstance(node.value, ast.Name) and self.classes and self.functions:
            cls, depth = self.classes[-1]
            f = self.functions[depth] if depth < len(self.functions) else None
            if f is not None and f in cls.body and f.args.args and f.args.args[0].arg == node.value.id and not f.decorator_list and len(self.classes) == 1:
                obj = self.module.__dict__.get(cls.name)
                if isinstance(obj, type) and isinstance(node.ctx, ast.Load):
                    self.say(line, col, name, in_class(obj, name))


for package in sys.argv[2:]:
    base = os.path.join(root, *package.split("."))
    files = []
    if os.path.isdir(base):
        for folder, _, names in sorted(os.walk(base)):
            files += [os.path.join(folder, n) for n in sorted(names) if n.endswith(".py") and n != "__main__.py" and "test" not in folder]
    else:
        files = [base + ".py"]
    for path in files:
        name = os.path.relpath(path, root)[:-3].replace(os.sep, ".")
        if name.endswith(".__init__"):
            name = name[:-9]
        try:
            module = importlib.import_module(name)
            if module_file(module) != os.path.realpath(path):
                continue
            parsed = tree(os.path.realpath(path))
            Asker(os.path.realpath(path), module).visit(parsed)
        except Exception as e:
            print("left out %s: %r" % (path, e), file=sys.stderr)
