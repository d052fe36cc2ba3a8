"""Prints what rustc says each name means, for crates that need no others:

    python3 rustc.py DIR CRATE...

CRATEs are folders in DIR. It needs a rustc that can still save its analysis (-Zsave-analysis, up to 1.69),
as Debian's, whose name RUSTC may give.
"""

import glob
import json
import os
import re
import subprocess
import sys
import tempfile

root = os.path.realpath(sys.argv[1])
rustc = os.environ.get("RUSTC", "/usr/bin/rustc")


def settings(crate):
    with open(os.path.join(root, crate, "Cargo.toml")) as f:
        manifest = f.read()
    edition = re.search(r'^edition\s*=\s*"(\d+)"', manifest, re.M)
    features = re.search(r"^default\s*=\s*\[([^\]]*)\]", manifest, re.M)
    return edition.group(1) if edition else "2015", re.findall(r'"([^"]*)"', features.group(1)) if features else []


def analysis(crate, out):
    edition, features = settings(crate)
    command = [rustc, "-Zsave-analysis", "--crate-type", "lib", "--crate-name", crate.replace("-", "_"), "--edition", edition,
               "--cap-lints", "allow", "--out-dir", out, os.path.join(crate, "src", "lib.rs")]
    for feature in features:
        command += ["--cfg", 'feature="%s"' % feature]
    done = subprocess.run(command, cwd=root, env=dict(os.environ, RUSTC_BOOTSTRAP="1"), stderr=subprocess.PIPE, text=True)
    if done.returncode:
        print("left out %s: %s" % (crate, done.stderr.strip().split("\n")[0]), file=sys.stderr)
        return None
    for file in glob.glob(os.path.join(out, "save-analysis", "*.json")):
        with open(file) as f:
            return json.load(f)


lines = {}


def place(span, name=None):
    """The place of a span, with its column in bytes; None if the name does not stand there."""
    file = span["file_name"]
    file = bytes(file).decode() if isinstance(file, list) else file
    if not os.path.exists(os.path.join(root, file)):
        return None
    if file not in lines:
        with open(os.path.join(root, file), encoding="utf-8", newline="") as f:
            lines[file] = f.read().split("\n")
    line, column = span["line_start"], span["column_start"]
    text = lines[file][line - 1]
    if name is not None and not text[column - 1:].startswith(name):
        return None
    return "%s:%d:%d" % (file, line, len(text[:column - 1].encode()) + 1)


def key(id):
    return id["krate"], id["index"]


for crate in sys.argv[2:]:
    with tempfile.TemporaryDirectory() as out:
        told = analysis(crate, out)
    if told is None:
        continue
    defs, names = {}, {}
    for d in told["defs"]:
        at = place(d["span"], d["name"])
        if at or d["kind"] == "Mod":
            defs[key(d["id"])] = at or place(d["span"])
            names[key(d["id"])] = d["name"]
    seen = set()
    for r in told["refs"]:
        to = key(r["ref_id"])
        query = place(r["span"], names.get(to))
        target = defs.get(to) if to[0] == 0 else ""
        if names.get(to) == "self":
            continue  # which leads to the type here, not to where the word stands among the parameters
        if query is None or target is None or query == target or (query, target) in seen:
            continue
        seen.add((query, target))
        print(json.dumps({"query": query, "target": target}))
