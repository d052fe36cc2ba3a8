"""Prints what clang says each name means, for the C and C++ files of a folder:

    python3 cfamily.py DIR FOLDER [clang options]

FOLDER is the part of DIR to ask about, "." for all. It needs the Python
bindings of libclang.
"""

import json
import os
import sys

from clang import cindex
from clang.cindex import CursorKind as K

root = os.path.realpath(sys.argv[1])
part = os.path.join(root, sys.argv[2])
options = sys.argv[3:]
DEFINED = ("c", "cc", "cpp", "cxx")


def relative(file):
    path = os.path.realpath(str(file))
    return path[len(root) + 1:] if path.startswith(root + os.sep) else ""


def where(location):
    return "%s:%d:%d" % (relative(location.file), location.line, location.column)


def units():
    index = cindex.Index.create()
    for folder, _, names in sorted(os.walk(part)):
        for name in sorted(names):
            if name.rsplit(".", 1)[-1] in DEFINED:
                path = os.path.join(folder, name)
                try:
                    yield index.parse(path, args=options, options=cindex.TranslationUnit.PARSE_DETAILED_PROCESSING_RECORD)
                except cindex.TranslationUnitLoadError:
                    pass


USES = {K.DECL_REF_EXPR, K.MEMBER_REF_EXPR, K.TYPE_REF, K.TEMPLATE_REF, K.NAMESPACE_REF, K.MEMBER_REF, K.MACRO_INSTANTIATION,
        K.OVERLOADED_DECL_REF, K.LABEL_REF, K.VARIABLE_REF}


def token_at(cursor):
    """Where the name itself stands, which for a.b is behind the dot."""
    name = cursor.spelling.split("<")[0].split("::")[-1].split(" ")[-1]
    location = cursor.location
    if location.file is None or not relative(location.file):
        return None, None
    return name, location


library = cindex.conf.lib
library.clang_getOverloadedDecl.restype = cindex.Cursor


def overloads(cursor):
    """What a name in a template may mean, which the arguments decide once they are known."""
    all = []
    for i in range(library.clang_getNumOverloadedDecls(cursor)):
        one = library.clang_getOverloadedDecl(cursor, i)
        one._tu = cursor._tu
        all.append(one.get_definition() or one)
    return [one for one in all if one.location.file is not None]


# The definitions of functions by their unified symbol, for calls in files that
# only see the prototype.
bodies, answers = {}, {}
# A namespace is opened in many places, each of which is as right as the others.
opened = {}
for unit in units():
    for cursor in unit.cursor.walk_preorder():
        if cursor.location.file is None or not relative(cursor.location.file):
            continue
        defines = cursor.is_definition() or cursor.kind == K.VAR_DECL and cursor.storage_class != cindex.StorageClass.EXTERN
        if defines and cursor.kind in (K.FUNCTION_DECL, K.CXX_METHOD, K.VAR_DECL, K.CONSTRUCTOR, K.DESTRUCTOR, K.FUNCTION_TEMPLATE):
            bodies[cursor.get_usr()] = where(cursor.location)
        if cursor.is_definition() and cursor.kind in (K.CLASS_DECL, K.STRUCT_DECL, K.UNION_DECL, K.ENUM_DECL, K.CLASS_TEMPLATE):
            bodies[cursor.get_usr()] = where(cursor.location)
        if cursor.kind == K.NAMESPACE:
            opened.setdefault(cursor.get_usr(), set()).add(where(cursor.location))
        if cursor.kind not in USES:
            continue
        if cursor.kind == K.OVERLOADED_DECL_REF:
            name, location = token_at(cursor)
            found = overloads(cursor) if name else []
            if found:
                at = sorted({where(one.location) if relative(one.location.file) else "" for one in found})
                answers.setdefault(where(location), (name, [one.get_usr() for one in found], at))
            continue
        name, location = token_at(cursor)
        target = cursor.referenced
        if not name or target is None or target.location.file is None:
            if cursor.kind != K.MACRO_INSTANTIATION:
                continue
        if target is not None and target.kind == K.CONSTRUCTOR:
            continue
        definition = cursor.get_definition() if cursor.kind != K.MACRO_INSTANTIATION else None
        best = definition or target
        if best is None or best.location.file is None:
            continue
        answers.setdefault(where(location), (name, [best.get_usr()], [where(best.location) if relative(best.location.file) else ""]))

lines = {}
for query, (name, usrs, targets) in sorted(answers.items()):
    path, line, column = query.rsplit(":", 2)
    if path not in lines:
        with open(os.path.join(root, path), "rb") as f:
            lines[path] = f.read().split(b"\n")
    text = lines[path][int(line) - 1][int(column) - 1:]
    if not text.startswith(name.encode()):
        continue  # a macro stands there
    for usr in usrs:
        if usr and usr in bodies:
            targets = [t for t in targets if len(usrs) > 1] + [bodies[usr]]
        if usr and usr in opened:
            targets = sorted(opened[usr])
    for target in sorted(set(targets)):
        if target != query:
            print(json.dumps({"query": query, "target": target}))
