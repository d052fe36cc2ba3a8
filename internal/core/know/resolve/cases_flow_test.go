package resolve_test

// casesOfFlow are like cases, about values whose types follow from what is done with them, in Python.
var casesOfFlow = map[string]string{
	"python: what a case takes": `
-- a.py --
import enum
class ‹=level›Level(enum.Enum):
    ‹=high›HIGH = 1
class ‹=hut›Hut:
    def ‹=ring›ring(self): pass
class Bell:
    def ring(self): pass
def check(thing):
    match thing:
        case ‹hut›Hut(name=‹=name›name) as ‹=h›h:
            ‹h›h.‹ring›ring(‹name›name)
            thing.‹ring›ring()
        case ‹level›Level.‹high›HIGH:
            pass
        case [‹=first›first, *‹=rest›rest] | {"k": ‹=v›v}:
            print(‹first›first, ‹rest›rest, ‹v›v)
        case ‹=other›other:
            return ‹other›other
`,
	"python: several names behind as": `
-- a.py --
def check(huts, bells):
    with huts() as (‹=a›a, [‹=b›b, c]), \
         bells() as (‹=d›d, e):
        print(‹a›a, ‹b›b, ‹d›d)
`,
	"python: what is in lists and maps": `
-- kit.py --
class Bell:
    def ‹=ring›ring(self): pass

class Log:
    def ‹=line›line(self): pass

class Hut:
    def __init__(self):
        self.bells = []
        self.named = {}
        self.logs = {}
        self.row = [Bell() for _ in range(3)]

    def add(self, name):
        bell = Bell()
        self.bells.append(bell)
        self.named[name] = bell
        self.logs.setdefault(name, []).append(Log())

    def alert(self):
        for bell in self.bells:
            bell.‹ring›ring()
        self.named["x"].‹ring›ring()
        self.bells.pop().‹ring›ring()
        next(iter(self.bells)).‹ring›ring()
        for name, logs in self.logs.items():
            for number, log in enumerate(logs):
                log.‹line›line()
        for bell, log in zip(self.row, self.logs["x"]):
            bell.‹ring›ring()
            log.‹line›line()
        first, *rest = sorted(self.bells)
        first.‹ring›ring()
        [b.‹ring›ring() for b in self.named.values()]
        max(self.row).‹ring›ring()
`,
	"python: what a name was given last": `
-- kit.py --
class Bell:
    def ‹=ringB›ring(self): pass

class Horn:
    def ‹=ringH›ring(self): pass

def alert(loud):
    x = Bell()
    x.‹ringB›ring()
    x = Horn()
    x.‹ringH›ring()
    if loud:
        y = Bell()
        y.‹ringB›ring()
    else:
        y = Horn()
        y.‹ringH›ring()
    y.‹?ringB›ring()
    y.‹?ringH›ring()
    z = Bell()
    if loud:
        z = Horn()
        return
    z.‹ringB›ring()
    w = None
    while loud:
        if w:
            w.‹ringH›ring()
        w = Horn()
`,
	"python: what is passed, kept and given back": `
-- kit.py --
class Bell:
    def ‹=ring›ring(self): pass
    def ‹=quiet›quiet(self): return None

class Hut:
    bell = None

    def __init__(self, bell):
        self.bell = bell

    def alert(self):
        self.bell.‹ring›ring()

    @classmethod
    def made(cls, kind=None):
        if kind is None:
            kind = Bell
        kind().‹ring›ring()
        return cls(Bell())

def page(b):
    b.‹ring›ring()

def bells():
    yield Bell()

page(Bell())
Hut.made().bell.‹quiet›quiet()
for b in bells():
    b.‹ring›ring()
class Log:
    pass
Log.bell = Bell()
Log.bell.‹ring›ring()
`,
	"python: super, what is mixed in, and what only a class below has": `
-- kit.py --
class Base:
    def ‹=runBase›run(self): pass
    def start(self):
        self.‹late›late()
        self.‹tone›tone.‹ring›ring()

class Left(Base):
    pass

class Right(Base):
    def ‹=runRight›run(self):
        super().‹runBase›run()

class Both(Left, Right):
    def ‹=late›late(self):
        self.‹runRight›run()
        super(Both, self).‹runRight›run()
        above = super()
        above.‹runRight›run()
        self.‹=tone›tone = Bell()

class Bell:
    def ‹=ring›ring(self): pass

class Ready:
    def ready(self):
        self.‹name›name()

class Named:
    def ‹=name›name(self): pass

class Hut(Ready, Named):
    pass
`,
	"python: tests for a class": `
-- kit.py --
class Bell:
    def ‹=ring›ring(self): pass
class Horn(Bell):
    def ‹=blow›blow(self): pass

def alert(x, y):
    if isinstance(x, Bell):
        x.‹ring›ring()
    if not isinstance(y, (Horn, Bell)):
        return
    y.‹blow›blow()
    y.‹ring›ring()
    for z in x:
        assert isinstance(z, Horn)
        z.‹blow›blow()
    return [e.‹blow›blow() for e in x if isinstance(e, Horn)]
`,
	"python: what takes the place of something else": `
-- kit.py --
try:
    from fast import ‹=fast›ring
except ImportError:
    ‹=none1›ring = None

from far import Horn

class ‹=horn›Horn:
    pass

def alert():
    ‹?none1›ring()
    ‹horn›Horn()
-- fast.py --
def ‹=ring›ring(): pass
-- far.py --
class Horn: pass
`,
	"python: a property that is set before it is read, and members of the language's own types": `
-- kit.py --
class Hut:
    def __init__(self, depth):
        self.‹depth›depth = depth
        self.kids = []

    @property
    def ‹=depth›depth(self): return self._depth

    @depth.setter
    def depth(self, value): self._depth = value

class Team:
    def ‹=load›load(self): pass

def alert(h: Hut):
    h.‹depth›depth
    for kid in h.kids:
        kid.‹?load›load()
`,
	"python: members that derived classes have to have": `
-- base.py --
from abc import ABC, abstractmethod

class Sign(ABC):
    @abstractmethod
    def ‹=base›draw(self): pass

    def drop(self):
        raise NotImplementedError("drop")

    def both(self):
        self.‹one›draw()
        self.‹?a›drop()
        self.‹?b›drop()

class Flag(Sign):
    def ‹=one›draw(self): return 1
    def ‹=a›drop(self): return 1

class Post(Sign):
    def ‹=b›drop(self): return 1
`,
	"python: a method that is written for two cases": `
-- a.py --
import sys
class Bell:
    if sys.platform == "win32":
        def ‹=one›ring(self): return 1
    else:
        def ‹=two›ring(self): return 2

def all(b: Bell):
    b.‹?one›ring()
    b.‹?two›ring()
`,
	"python: types in texts, in comments and in stubs": `
-- kit.py --
class Bell:
    def ‹=ring›ring(self): pass

class Hut:
    def __init__(self, bell, other):
        """Makes one.

        :param Bell bell: which
        :type other: Bell or None
        """
        self.bell = bell
        self.other = other
        self.row = make()  # type: list[Bell]

    def alert(self):
        self.bell.‹ring›ring()
        self.other.‹ring›ring()
        self.row[0].‹ring›ring()

def google(bell, many):
    """Rings.

    Args:
        bell (Bell): the one
        many (list[Bell], optional): more

    Returns:
        Bell: that which rang
    """
    bell.‹ring›ring()
    many[0].‹ring›ring()

def numbered(bell, count):
    """
    Parameters
    ----------
    bell : Bell
        The one.
    count : int

    Returns
    -------
    Bell
    """
    bell.‹ring›ring()

google(None, None).‹ring›ring()
numbered(None, 1).‹ring›ring()
-- tower.py --
def find(name): return load(name)
class Tower:
    def top(self, bell): bell.‹ring›ring()
    def all(self): return load("all")
-- tower.pyi --
from kit import Bell
def find(name: str) -> Bell: ...
class Tower:
    def top(self, bell: Bell) -> None: ...
    def all(self) -> list[Bell]: ...
-- main.py --
from tower import find, Tower
find("x").‹ring›ring()
Tower().all()[0].‹ring›ring()
`,
}
