"""Prints the names of every scope of the Python files below the present folder, and how importing some of them goes.

What scripts/renames adds to names does not count in their order.
"""

import os
import subprocess
import sys
import symtable

MODULES = """json email.message http.client logging.config unittest asyncio concurrent.futures xml.dom.minidom urllib.request
multiprocessing argparse ast configparser dataclasses difflib inspect pathlib subprocess tempfile threading typing tarfile
zipfile shutil optparse traceback pdb cmd bdb statistics fractions csv""".split()


def shape(table):
    """The names of a scope and of those in it, with what each is."""
    rows = [table.get_type(), table.get_name()]
    for s in sorted(table.get_symbols(), key=lambda s: s.get_name().replace("Rnmd", "")):
        rows.append((s.get_name(), s.is_global(), s.is_local(), s.is_free(), s.is_parameter(), s.is_imported(), s.is_assigned()))
    return rows + [shape(child) for child in table.get_children()]


for folder, _, files in os.walk("."):
    for name in sorted(files):
        if name.endswith(".py"):
            path = os.path.join(folder, name)
            try:
                with open(path, encoding="utf-8") as f:
                    print(path, shape(symtable.symtable(f.read(), path, "exec")))
            except (SyntaxError, UnicodeDecodeError) as e:
                print(path, e)

for module in MODULES:
    done = subprocess.run([sys.executable, "-c", f"import sys; sys.path.insert(0, '.'); import {module}"], capture_output=True, text=True, check=False)
    print(module, done.stderr.strip().splitlines()[-1:])
