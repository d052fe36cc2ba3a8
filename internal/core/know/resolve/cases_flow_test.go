package resolve_test

// casesOfFlow are like cases, about values whose types follow from what is done with them.
var casesOfFlow = map[string]string{
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
	"typescript: attributes of components lead to what these are given": `
-- board.tsx --
import * as React from "react";

interface RowProps { ‹=depth›depth: number; ‹=rowName›name?: string; onRing?: (at: Bell) => void }
interface Bell { ‹=ring›ring: number }

function Row({ depth, name }: RowProps) { return <b>{depth}{name}</b>; }
const Arrow: React.FC<RowProps> = ({ depth, onRing }) => <i>{depth}</i>;
const Ref = React.forwardRef<HTMLElement, RowProps>((props, ref) => <i>{props.‹depth›depth}</i>);
const Made = React.forwardRef((props: RowProps, ref: any) => <i>{props.‹rowName›name}</i>);
const Kept = React.memo(Row);
class Panel extends React.Component<RowProps, { ‹=open›open: boolean }> {
	render() {
		const { depth } = this.props;
		return this.state.‹open›open && <Row ‹depth›depth={this.props.‹depth›depth} onRing={b => b.‹ring›ring} />;
	}
}
type Same = React.ComponentProps<typeof Row>;
function Plain(p: Same) { return p.‹depth›depth; }
export const all = <div className="x">
	<Row ‹depth›depth={1} ‹rowName›name="a" /> <Arrow ‹depth›depth={2} /> <Ref ‹depth›depth={3} />
	<Made ‹rowName›name="b" /> <Kept ‹depth›depth={4} /> <Panel ‹depth›depth={5} /> <Plain ‹depth›depth={6} />
</div>;
`,
	"typescript: names of members between quotes, where one is wanted": `
-- hut.ts --
interface Snow { ‹=deep›deep: number; ‹=kind›kind?: string }
type Names = keyof Snow;
function only(name: keyof Snow) { }
function from<T, K extends keyof T>(of: T, name: K): T[K] { return of[name]; }
class Store<S> { get(name: keyof S) { } each(...names: (keyof S)[]) { } }
interface Column { head: string; field: keyof Snow; more?: Names[] }
const seen: Names = "‹kind›kind";
only("‹deep›deep");
only("other");
export function use(s: Snow, store: Store<Snow>, strange: any) {
	from(s, "‹deep›deep");
	store.get("‹kind›kind");
	const cs: Column[] = [{ head: "deep", field: "‹deep›deep", more: ["‹kind›kind"] }];
	const which: keyof Snow | "none" = s ? "‹deep›deep" : "none";
	return "deep";
}
function named(): keyof Snow { return "‹kind›kind"; }
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
	"ruby: methods that derived classes have to have": `
-- base.rb --
class Sign
  def ‹=base›draw
    raise NotImplementedError, "draw"
  end

  def both
    ‹one›draw
    self.‹one›draw
  end
end

class Flag < Sign
  def ‹=one›draw
    1
  end
end
`,
	"javascript: this in functions that have none of their own, and exports by another name": `
-- old.js --
var util = require('./util').‹depth›depth;
class ‹=hut›Hut {
	constructor() { this.‹=count›count = 0; this.on(() => { this.‹=state›state = 1; }); }
	run() { const end = () => { this.‹state›state = 2; this.‹count›count += 1; }; util(1); return end; }
}
class Big extends Hut { more() { this.‹count›count += 2; return ‹depth›util(2); } }
exports.‹hut›Hut = Hut;
-- util.js --
exports.‹=depth›depth = function (n) { return n; };
`,
	"rust: conditions of the build, stars within functions, and types of one name": `
-- Cargo.toml --
[package]
name = "hut"
-- src/lib.rs --
#[cfg(target_pointer_width = "32")]
const WIDTH: usize = 4;
#[cfg(all(unix, not(target_pointer_width = "32")))]
const ‹=width›WIDTH: usize = 8;

#[cfg(test)]
fn ring() {}
#[cfg(not(test))]
fn ‹=ring›ring() {}

enum Up { ‹=up›High }
enum Down { ‹=down›High }

pub struct Bag { len: usize }
impl Bag {
    fn ‹=len›len(&self) -> usize { ‹width›WIDTH }
    fn check(&self) { assert!(self.‹len›len() > 0); ‹ring›ring() }
}

fn climb(n: usize) -> Up { use Up::*; ‹up›High }
fn fall(‹=rows›rows: &[Down]) -> Down {
    use Down::*;
    for rows in ‹rows›rows.iter() { drop(rows) }
    ‹down›High
}
mod one { pub struct Cell; impl Cell { pub fn ‹=one›get(&self) {} pub fn ‹=only›only(&self) {} } }
mod two { pub struct Cell; impl Cell { pub fn ‹=two›get(&self) { self.‹two›get() } } }
fn both(a: one::Cell, b: two::Cell) { a.‹one›get(); b.‹two›get(); a.‹only›only() }
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
	"typescript: objects where a type is expected": `
-- hut.ts --
interface Snow { ‹=deep›deep: number; ‹=kind›kind?: string }
type Half = Pick<Snow, "‹deep›deep"> & Omit<Snow, "‹kind›kind">;
type All = { [K in keyof Snow]?: Snow[K] };
interface Hut { ‹=snow›snow: Snow; ‹=rows›rows: Snow[]; by: Record<string, Snow> }

function take(h: Hut, each: (s: Snow) => Snow): Partial<Snow> {
	return { ‹deep›deep: 1 };
}
const hut: Hut = {
	‹snow›snow: { ‹deep›deep: 1, ‹kind›kind: "x" },
	‹rows›rows: [{ ‹deep›deep: 2 }],
	by: { a: { ‹deep›deep: 3 } },
};
take({ ‹snow›snow: { ‹deep›deep: 1 }, ‹rows›rows: [], by: {} }, s => ({ ‹deep›deep: s.‹deep›deep }));
const kept = { ‹deep›deep: 4 } satisfies Snow;
let all: All = { ‹deep›deep: 1 };
let half: Half = { ‹deep›deep: 1 };
const made: (s: Snow) => number = s => s.‹deep›deep;
type Wet = { kind: "wet"; ‹=level›level: number };
type Dry = { kind: "dry"; ‹=dryLevel›level: number };
function both(w: Wet | Dry) { return w.‹level›level; }
-- lib.d.ts --
export = Tools;
declare class Tool<P> { constructor(p: P); }
interface Tool<P> { ‹=handle›handle: P }
declare namespace Tools { interface Bag { ‹=size›size: number } }
declare function Tools(): Tools.Bag;
-- use.ts --
import Tools from "./lib";
let bag: Tools.Bag;
bag.‹size›size;
-- handed.ts --
function inner() {}
const ‹=outer›_inner = inner;
export { _inner as inner };
-- taken.ts --
import { inner } from "./handed";
‹outer›inner();
`,
	"pages and style sheets: addresses lead to files": `
-- index.html --
<html><head><link rel="stylesheet" href="‹style›style.css"><script src="/js/‹app›app.js?v=2"></script></head>
<body><img src="img/‹img›hut.svg"></body></html>
-- style.css --
‹=style›@import "‹base›base.css";
.a { background: url("img/‹img›hut.svg#roof"); }
-- base.css --
‹=base›.b { top: 0; }
-- main.scss --
@use "lib/‹colors›colors" as c;
@import "lib/‹colors›colors";
.a { top: 0; }
-- lib/_colors.scss --
‹=colors›$red: red;
-- js/app.js --
‹=app›let x = 1;
-- img/hut.svg --
‹=img›<svg></svg>
`,
	"rust: what a path begins with is no value, methods beside fields, and bounds by the name of a parameter": `
-- Cargo.toml --
[package]
name = "tarn"
-- src/lib.rs --
mod ‹horn›horn;

pub trait Bell {
    fn ‹=ring›ring(&self) -> u8;
}

pub struct ‹=hut›Hut<B> {
    inner: B,
    ‹=depthField›depth: u8,
}

impl<B: Bell> Hut<B> {
    fn ‹=depth›depth(&self) -> u8 {
        ‹?hut›self.‹depthField›depth
    }

    fn alert(&self, horn: u8) -> u8 {
        let a = horn::‹blow›blow();
        a + horn + self.‹depth›depth() + self.inner.‹ring›ring()
    }
}
-- src/horn.rs --
‹=horn›pub fn ‹=blow›blow() -> u8 { 1 }
`,
	"javascript: what is in lists and maps": `
-- kit.js --
class Bell { ‹=ring›ring() {} }
class Log { ‹=line›line() {} }
class Hut {
	constructor() {
		this.bells = [];
		this.named = {};
		this.logs = new Map();
		this.row = [new Bell()];
		this.last = null;
	}
	add(name) {
		const bell = new Bell();
		this.bells.push(bell);
		this.named[name] = bell;
		this.logs.set(name, new Log());
		this.last = bell;
	}
	alert() {
		for (const bell of this.bells) bell.‹ring›ring();
		this.bells.forEach(b => b.‹ring›ring());
		this.bells.pop().‹ring›ring();
		this.bells[0].‹ring›ring();
		this.named["x"].‹ring›ring();
		for (const n in this.named) this.named[n].‹ring›ring();
		Object.values(this.named).map((b) => b.‹ring›ring());
		this.logs.get("x").‹line›line();
		for (const [name, log] of this.logs) log.‹line›line();
		for (const log of this.logs.values()) log.‹line›line();
		this.last.‹ring›ring();
		const [first, ...rest] = this.bells;
		first.‹ring›ring();
		rest[0].‹ring›ring();
		[...this.bells].filter(b => b).find(b => b.on).‹ring›ring();
		this.bells.slice(1).concat(this.row).forEach((b) => b.‹ring›ring());
		this.bells.map(b => new Log())[0].‹line›line();
		this.bells.sort().reverse()[0].‹ring›ring();
		this.bells.at(-1).‹ring›ring();
	}
}
`,
	"javascript: what a name was given last": `
-- kit.js --
class Bell { ‹=ringB›ring() {} }
class Horn { ‹=ringH›ring() {} }
function alert(loud) {
	let x = new Bell();
	x.‹ringB›ring();
	x = new Horn();
	x.‹ringH›ring();
	let y;
	if (loud) {
		y = new Bell();
		y.‹ringB›ring();
	} else {
		y = new Horn();
		y.‹ringH›ring();
	}
	y = null;
	y = new Horn();
	y.‹ringH›ring();
	let z = null;
	z = z || new Horn();
	z.‹ringH›ring();
}
`,
	"javascript: what is passed": `
-- kit.js --
class Bell { ‹=ring›ring() {} }
class Hut {
	constructor(bell, other) { this.bell = bell; this.other = other; }
	alert() { this.bell.‹ring›ring(); this.other.bell.‹ring›ring(); }
	static make(bell) { return new Hut(bell, null); }
}
function sound(bell) { bell.‹ring›ring(); }
const each = (bells) => { for (const b of bells) b.‹ring›ring(); };
sound(new Bell());
each([new Bell()]);
const hut = new Hut(new Bell(), new Hut(new Bell()));
Hut.make(new Bell()).bell.‹ring›ring();
-- old.js --
function Horn(pitch) { this.pitch = pitch; }
Horn.prototype.‹=blow›blow = function () { return this; };
Horn.prototype.twice = function () { this.‹blow›blow(); this.blow().‹blow›blow(); };
function use(horn) { horn.‹blow›blow(); }
use(new Horn(3));
module.exports = { make: function () { return new Horn(1); }, all: [new Horn(2)] };
-- main.js --
const old = require("./old");
old.make().‹blow›blow();
old.all[0].‹blow›blow();
`,
	"javascript: types in comments": `
-- bell.js --
export class Bell { ‹=ring›ring() {} }
/**
 * @typedef {Object} Hut where they are
 * @property {Bell} ‹=bell›bell
 * @property {Bell[]} more
 */
-- kit.js --
import { Bell } from "./bell.js";
/**
 * Rings.
 * @param {Bell} bell - which
 * @param {Array<Bell>} all
 * @param {import('./bell').Hut} hut
 * @param {?string|Bell} [other]
 * @returns {Promise<Bell>}
 */
export function alert(bell, all, hut, other) {
	bell.‹ring›ring();
	all[0].‹ring›ring();
	hut.‹bell›bell.‹ring›ring();
	hut.more[1].‹ring›ring();
	other.‹ring›ring();
}
/** @type {Map<string, Bell>} */
const named = make();
named.get("x").‹ring›ring();
(/** @type {Bell} */ (find())).‹ring›ring();
class Row {
	constructor() {
		/** @type {Bell} */
		this.first = null;
	}
	/** @param {Bell} b */
	add(b) { b.‹ring›ring(); this.first.‹ring›ring(); }
}
async function f() { (await alert()).‹ring›ring(); }
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
	"ruby: what is in arrays and hashes": `
-- kit.rb --
class Bell
  def ‹=ring›ring; end
end
class Log
  def ‹=line›line; end
end
class Hut
  attr_reader :bells, :final
  attr_accessor :main
  def initialize
    @bells = []
    @named = {}
    @logs = Hash.new
    @row = [Bell.new]
    @final = nil
  end
  def add(name)
    bell = Bell.new
    @bells << bell
    @named[name] = bell
    @logs[name] ||= Log.new
    @final = bell
    self.main = bell
  end
  def alert
    @bells.each { |b| b.‹ring›ring }
    for b in @bells do b.‹ring›ring end
    @bells.pop.‹ring›ring
    @bells[0].‹ring›ring
    @bells.first.‹ring›ring
    @named["x"].‹ring›ring
    @named.each { |name, b| b.‹ring›ring }
    @named.values.each do |b| b.‹ring›ring end
    @final.‹ring›ring
    final.‹ring›ring
    main.‹ring›ring
    bells.map { |b| Log.new }.first.‹line›line
    @bells.select { |b| b }.first.‹ring›ring
    first, second = @bells
    first.‹ring›ring
    pick.‹ring›ring
    either(true).‹ring›ring
  end
  def pick
    @bells.last
  end
  def either(x)
    return Bell.new if x
    nil
  end
end
Hut.new.bells.first.‹ring›ring
`,
	"ruby: what a name was given last, and what is passed": `
-- kit.rb --
class Bell
  def ‹=ringB›ring; end
end
class Horn
  def ‹=ringH›ring; end
end
def alert(loud)
  x = Bell.new
  x.‹ringB›ring
  x = Horn.new
  x.‹ringH›ring
  if loud
    y = Bell.new
    y.‹ringB›ring
  else
    y = Horn.new
    y.‹ringH›ring
  end
  z = nil
  z ||= Horn.new
  z.‹ringH›ring
end
class Hut
  def initialize(bell, name: nil)
    @bell = bell
    @name = name
  end
  def alert; @bell.‹ringB›ring; @name.‹ringH›ring; end
end
Hut.new(Bell.new, name: Horn.new)
def sound(bell) bell.‹ringB›ring end
sound(Bell.new)
`,
	"ruby: a method that takes what is set": `
-- kit.rb --
class Hut
  attr_accessor :‹=name›name, :bell
  def ‹=bell›bell=(b)
    @bell = b
  end
end
hut = Hut.new
hut.‹name›name = "x"
hut.‹bell›bell = 3
`,
	"ruby: what belongs to a class, to its values, and to what opens it again": `
-- kit.rb --
module Kit
end
class Kit::Bell
  def ‹=init›initialize; end
  def ‹=ring›ring; end
  def self.‹=make›make; end
  def make; end
  ‹make›make
end
-- more.rb --
module Kit
  class Horn
    def ‹=blow›blow; end
  end
end
class Kit::Bell
  def ‹=late›late; end
end
Kit::Bell.‹init›new.‹ring›ring
Kit::Horn.new.‹blow›blow
Kit::Bell.new.‹late›late
`,
	"php: what is in arrays, given last, passed and said in comments": `
-- kit.php --
<?php
class Bell { function ‹=ringB›ring() {} }
class Horn { function ‹=ringH›ring() {} }
class Hut {
	private $bells = [];
	private $named = [];
	public $last = null;
	/** @var Horn[] */
	private array $horns;
	private $main;
	function __construct($main) { $this->main = $main; }
	function add($name) {
		$bell = new Bell();
		$this->bells[] = $bell;
		$this->named[$name] = $bell;
		$this->last = $bell;
	}
	function alert() {
		foreach ($this->bells as $bell) { $bell->‹ringB›ring(); }
		foreach ($this->named as $name => $bell) { $bell->‹ringB›ring(); }
		$this->bells[0]->‹ringB›ring();
		array_pop($this->bells)->‹ringB›ring();
		$this->last->‹ringB›ring();
		$this->horns[1]->‹ringH›ring();
		$this->main->‹ringH›ring();
		[$one, $two] = [new Horn(), new Horn()];
		$one->‹ringH›ring();
		$this->pick()->‹ringB›ring();
	}
	function pick() { if ($this->last) { return $this->last; } return new Bell(); }
}
new Hut(new Horn());
function sound($bell) { $bell->‹ringB›ring(); }
sound(new Bell());
function choose($loud) {
	$x = new Bell();
	$x->‹ringB›ring();
	$x = new Horn();
	$x->‹ringH›ring();
	if ($loud) {
		$y = new Bell();
		$y->‹ringB›ring();
	} else {
		$y = new Horn();
		$y->‹ringH›ring();
	}
	$z = $loud ?? new Horn();
}
/**
 * @param Bell $bell
 * @param array<Horn> $all
 * @return ?Horn
 */
function told($bell, array $all) { $bell->‹ringB›ring(); $all[0]->‹ringH›ring(); return load(); }
told(load(), [])->‹ringH›ring();
/** @var Bell $loaded */
$loaded = load();
$loaded->‹ringB›ring();
`,
	"kotlin: values of which no type is said": `
-- a.kt --
class Bell { fun ‹=ring›ring(): Bell = this; fun ‹=list›all(): List<Bell> = listOf() }
class Hut(val bell: Bell) {
    val made = Bell()
    val row = listOf(Bell(), Bell())
    val many = mutableListOf<Bell>()
    val named = mapOf("a" to Bell())
    fun pick() = made
    fun alert() {
        bell.‹ring›ring()
        made.‹ring›ring().‹ring›ring()
        pick().‹ring›ring()
        for (b in many) b.‹ring›ring()
        many.forEach { it.‹ring›ring() }
        many.map { b -> b.‹ring›ring() }
        many[0].‹ring›ring()
        row.first().‹ring›ring()
        named["a"]?.‹ring›ring()
        val x = if (true) Bell() else Bell()
        x.‹ring›ring()
        bell.‹list›all()[0].‹ring›ring()
        bell.let { it.‹ring›ring() }
        val c = bell as Bell
        c.‹ring›ring()
        if (bell is Bell) bell.‹ring›ring()
    }
}
`,
	"swift: values of which no type is said": `
-- a.swift --
class Bell { func ‹=ring›ring() -> Bell { return self } }
class Hut {
    let bell: Bell
    let made = Bell()
    var row = [Bell(), Bell()]
    var many: [Bell] = []
    var named: [String: Bell] = [:]
    init(bell: Bell) { self.bell = bell }
    func pick() -> Bell { return made }
    func alert() {
        bell.‹ring›ring()
        made.‹ring›ring().‹ring›ring()
        pick().‹ring›ring()
        for b in many { b.‹ring›ring() }
        many.map { b in b.‹ring›ring() }
        many[0].‹ring›ring()
        named["a"]?.‹ring›ring()
        let x = Bell()
        x.‹ring›ring()
        if let b = named["a"] { b.‹ring›ring() }
        guard let c = many.first else { return }
        c.‹ring›ring()
    }
}
`,
	"c#: values of which no type is said": `
-- a.cs --
using System.Collections.Generic;
class Bell { public Bell ‹=ring›Ring() { return this; } public List<Bell> All() { return null; } }
class Hut {
    Bell bell;
    Bell made = new Bell();
    List<Bell> many = new List<Bell>();
    Dictionary<string, Bell> named = new();
    Bell Pick() => made;
    void Alert() {
        bell.‹ring›Ring();
        made.‹ring›Ring().‹ring›Ring();
        Pick().‹ring›Ring();
        foreach (var b in many) { b.‹ring›Ring(); }
        many.ForEach(b => b.‹ring›Ring());
        many[0].‹ring›Ring();
        named["a"].‹ring›Ring();
        var x = new Bell();
        x.‹ring›Ring();
        var y = bell.All()[0];
        y.‹ring›Ring();
        if (bell is Bell c) { c.‹ring›Ring(); }
        Bell z = new();
        z.‹ring›Ring();
        many.Select(b => b.‹ring›Ring()).First();
        many.Where(b => true).First().‹ring›Ring();
    }
}
`,
}
