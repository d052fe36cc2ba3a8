package resolve_test

// casesOfPython are of which definition of a name counts in Python, and where modules are looked for.
var casesOfPython = map[string]string{
	"python: signatures that a function may be called by": `
-- a.py --
import typing
from typing import overload

def early(x):
    return ‹tou›tou(x)

@typing.overload
def tou(value: str) -> str: ...

@typing.overload  # as well
def tou(value: None) -> None: ...

def ‹=tou›tou(value):
    return value

class Hut:
    @overload
    def at(self, level: int) -> int: ...
    @overload
    def at(self, level: str) -> str: ...
    def ‹=at›at(self, level):
        return level

Hut().‹at›at(1)
-- b.py --
from a import tou
‹tou›tou(1)
`,
	"python: what a module defines in one of two branches": `
-- fd.py --
import sys
if sys.platform == "x":
    close = other = lambda fd: None
else:
    def ‹=close›close(fd):
        return fd

def ‹=old›twice(): pass
def ‹=twice›twice(): pass
-- use.py --
import fd
from fd import twice
fd.‹?close›close(1)
‹twice›twice()
‹!old›twice()
`,
	"python: a method that is there until an object is given another": `
-- a.py --
class Base:
    def ‹=ring›ring(self): pass
    def loud(self): pass

class Bell(Base):
    def __init__(self):
        self.‹=loud›loud = print
    def stop(self):
        self.ring = lambda *a: None

def use(b: Bell):
    b.‹ring›ring()
    b.‹loud›loud()
`,
	"python: modules of packages are named by these": `
-- hut/__init__.py --
-- hut/unittest.py --
class ‹=case›TestCase: pass
-- hut/helper.py --
def ‹=inner›help(): pass
-- hut/check.py --
import unittest
import helper
class Check(unittest.‹!case›TestCase):
    def go(self):
        helper.‹outer›help()
-- helper.py --
def ‹=outer›help(): pass
`,
}
