package resolve_test

// cases are what a reader of code would not get wrong, each about one rule of one language.
var cases = map[string]string{
	"go: an inner name hides the outer one, from where it is declared": `
-- go.mod --
module tarn
-- a.go --
package a

func ‹=ring›ring(times int) int { return times }

func alert() int {
	first := ‹ring›ring(1)
	‹=inner›ring := func(n int) int { return n }
	if first > 0 {
		return ‹inner›ring(2)
	}
	return ‹inner›ring(3)
}
`,
	"go: methods and fields of what is embedded": `
-- go.mod --
module tarn
-- hut/hut.go --
package hut

type Base struct{ ‹=snow›Snow int }

func (b *Base) ‹=page›Page() int { return b.‹snow›Snow }
-- a.go --
package a

import "tarn/hut"

type team struct {
	*hut.Base
	depth int
}

func alert(t team) int { return t.‹page›Page() + t.‹snow›Snow }
`,
	"go: results of calls, elements and keys": `
-- go.mod --
module tarn
-- a.go --
package a

type bell struct{ ‹=rings›rings int }
type key struct{ ‹=letter›letter string }

func all() (map[key][]*bell, error) { return nil, nil }

func count() (n int) {
	byKey, err := all()
	if err != nil {
		return
	}
	for k, list := range byKey {
		n += len(k.‹letter›letter)
		for _, b := range list {
			n += b.‹rings›rings
		}
		n += list[0].‹rings›rings
	}
	return n
}
`,
	"go: two packages of one name in two folders": `
-- go.mod --
module tarn
-- hut/radio/radio.go --
package radio

func ‹=hut›Send() {}
-- station/radio/radio.go --
package radio

func ‹=station›Send() {}
-- a.go --
package a

import (
	"tarn/hut/radio"
	other "tarn/station/radio"
)

func alert() {
	radio.‹hut›Send()
	other.‹station›Send()
	radio.‹!station›Send()
}
`,
	"python: names of a class are none in its methods": `
-- a.py --
def ‹=outer›depth():
    return 1

class Hut:
    def ‹=method›depth(self):
        return ‹outer›depth() + self.‹method›depth()
`,
	"python: what a function gives back": `
-- a.py --
class Bell:
    def ‹=ring›ring(self):
        pass

def make():
    return Bell()

def alert():
    bell = make()
    bell.‹ring›ring()
    make().‹ring›ring()
    for b in [Bell()]:
        b.‹ring›ring()
    by = {"low": Bell()}
    by["low"].‹ring›ring()
    for name, b in by.items():
        b.‹ring›ring()
    for name in by:
        name.upper()
`,
	"python: an import under another name, and from a package": `
-- hut/__init__.py --
from .bell import Bell as ‹=loud›Loud
-- hut/bell.py --
class ‹=bell›Bell:
    def ‹=ring›ring(self):
        pass
-- a.py --
import hut.bell as b
from hut import Loud

b.‹bell›Bell().‹ring›ring()
‹bell›Loud().‹ring›ring()
`,
	"python: properties and class methods": `
-- a.py --
class Hut:
    @property
    def ‹=bell›bell(self) -> "Bell":
        return Bell()

    @classmethod
    def ‹=make›make(cls):
        return cls()

class Bell:
    def ‹=ring›ring(self):
        pass

def alert(hut: Hut):
    hut.‹bell›bell.‹ring›ring()
    Hut.‹make›make()
`,
	"java: overloads by number and by type": `
-- Radio.java --
class Radio {
    void ‹=text›send(String text) {}
    void ‹=number›send(int number) {}
    void ‹=two›send(String text, int times) {}
    void alert(long far) {
        send("a");
        ‹text›send("snow");
        ‹number›send(3);
        ‹two›send("snow", 2);
    }
}
`,
	"java: members of generic types": `
-- Box.java --
class Box<T> {
    private T held;
    T ‹=take›take() { return held; }
    Box<T> ‹=same›same() { return this; }
}
-- Bell.java --
class Bell { void ‹=ring›ring() {} }
-- Main.java --
class Main {
    void alert(Box<Bell> box) {
        box.‹take›take().‹ring›ring();
        box.‹same›same().‹take›take().‹ring›ring();
        var again = box.take();
        again.‹ring›ring();
    }
}
`,
	"java: a field, a parameter and a local of one name": `
-- Hut.java --
class Hut {
    int ‹=field›snow;
    Hut(int ‹=parameter›snow) { this.‹field›snow = ‹parameter›snow; }
    int more() { int ‹=local›snow = 3; return ‹local›snow + this.‹field›snow; }
    int less() { return ‹field›snow; }
}
`,
	"java: nested classes, and those of other packages": `
-- tarn/radio/Frame.java --
package tarn.radio;
public class Frame {
    public static class Header { public int ‹=length›length; }
    public Header ‹=header›header() { return null; }
}
-- tarn/Main.java --
package tarn;
import tarn.radio.Frame;
import static tarn.Tools.*;
class Main {
    int alert(Frame frame) {
        Frame.Header h = frame.‹header›header();
        return h.‹length›length + ‹helper›helper(frame.header().‹length›length);
    }
}
-- tarn/Tools.java --
package tarn;
class Tools { static int ‹=helper›helper(int n) { return n; } }
`,
	"java: a nested class derived from one of its own name": `
-- tarn/Line.java --
package tarn;
public interface Line {
    interface ‹=theirs›Frame { int ‹=length›length(); }
    interface ‹=base›Base<T extends Base<T>> { int ‹=depth›depth(); }
}
-- tarn/radio/Radio.java --
package tarn.radio;
import tarn.Line;
public class Radio implements Line {
    public static class Frame implements Line.‹theirs›Frame {
        public int twice() { return ‹length›length() * 2; }
    }
    private static abstract class Base<T extends Line.‹base›Base<T>> implements Line.‹base›Base<T> {
        int more() { return ‹depth›depth() + 1; }
    }
}
`,
	"typescript: what is taken apart": `
-- a.ts --
interface Hut { ‹=snow›snow: number; bell: Bell }
interface Bell { ‹=ring›ring(): void }
function alert({ snow, bell }: Hut, [first]: Bell[]) {
  bell.‹ring›ring();
  first.‹ring›ring();
  return snow;
}
`,
	"typescript: re-exports, defaults and namespaces": `
-- lib/bell.ts --
export default class ‹=bell›Bell { ‹=ring›ring() {} }
export const ‹=loud›loud = 3;
-- lib/index.ts --
export { default as Bell, loud } from './bell';
export * as inner from './bell';
-- a.ts --
import { Bell, loud as volume, inner } from './lib';
import * as all from './lib/bell';
new ‹bell›Bell().‹ring›ring();
console.log(‹loud›volume, all.‹loud›loud, inner.‹loud›loud);
`,
	"typescript: one of several types, told apart": `
-- a.ts --
interface Bell { kind: 'bell'; ‹=rings›level: number }
interface Horn { kind: 'horn'; ‹=tones›level: string }
function alert(signal: Bell | Horn) {
  if (signal.kind === 'bell') {
    return signal.‹rings›level;
  }
  return signal.‹tones›level;
}
`,
	"typescript: generics, promises and arrays": `
-- a.ts --
class Bell { ‹=ring›ring() {} }
async function make(): Promise<Bell> { return new Bell(); }
function same<T>(value: T): T { return value; }
async function alert(list: Array<Bell>) {
  (await make()).‹ring›ring();
  same(new Bell()).‹ring›ring();
  list.map(b => b.‹?ring›ring());
  for (const b of list) b.‹ring›ring();
  const first = list[0];
  first.‹ring›ring();
}
`,
	"javascript: modules of the older kind": `
-- lib/bell.js --
function ‹=make›make() {}
exports.make = make;
exports.‹=loud›loud = function () {};
-- a.js --
const { make } = require('./lib/bell');
const bell = require('./lib/bell.js');
‹make›make();
bell.‹loud›loud();
`,
	"c: a declaration in a header, and its definition": `
-- bell.h --
struct bell { int ‹=rings›rings; };
int ring(struct bell *b);
-- bell.c --
#include "bell.h"
int ‹=ring›ring(struct bell *b) { return b->‹rings›rings; }
-- main.c --
#include "bell.h"
static int ‹=quiet›quiet(void) { return 1; }
int main(void) {
    struct bell b = { .‹rings›rings = 2 };
    return ‹ring›ring(&b) + ‹quiet›quiet();
}
-- other.c --
static int ‹=other›quiet(void) { return 2; }
int two(void) { return ‹other›quiet(); }
`,
	"c: types under another name, and members through pointers": `
-- a.c --
typedef struct { int ‹=depth›depth; } snow_t;
typedef snow_t *snow_ref;
int total(snow_ref s, snow_t many[]) { return s->‹depth›depth + many[1].‹depth›depth; }
`,
	"c++: namespaces, and members of a base": `
-- a.cpp --
namespace tarn {
class Bell {
public:
    void ‹=ring›ring() {}
protected:
    int ‹=rings›rings = 0;
};
}
class Horn : public tarn::Bell {
public:
    int loud() { ‹ring›ring(); return ‹rings›rings; }
};
namespace other { void ‹=free›ring() {} }
void alert(tarn::Bell &b) { b.‹ring›ring(); other::‹free›ring(); }
`,
	"rust: methods of traits and of types, and modules": `
-- Cargo.toml --
[package]
name = "tarn"
-- src/main.rs --
mod radio;
use radio::{Bell, Pager};

fn main() {
    let bell = Bell::‹new›new(3);
    bell.‹ring›ring();
    bell.‹page›page();
    radio::‹send›send(&bell);
}
-- src/radio.rs --
pub trait Pager { fn page(&self); }
pub struct Bell { ‹=level›level: u8 }
impl Bell {
    pub fn ‹=new›new(level: u8) -> Bell { Bell { level } }
    pub fn ‹=ring›ring(&self) -> u8 { self.‹level›level }
}
impl Pager for Bell { fn ‹=page›page(&self) {} }
pub fn ‹=send›send(b: &Bell) { b.‹ring›ring(); }
`,
	"csharp: properties, and methods that extend": `
-- A.cs --
namespace Tarn {
    class Bell { public int ‹=level›Level { get; set; } }
    static class Tools { public static int ‹=louder›Louder(this Bell bell) { return bell.‹level›Level + 1; } }
    class Main {
        int Alert(Bell bell) { bell.‹level›Level = 2; return bell.‹?louder›Louder(); }
    }
}
`,
	"kotlin: functions that extend, and companions": `
-- a.kt --
package tarn

class Bell(val ‹=level›level: Int) {
    companion object { fun ‹=make›make(): Bell = Bell(1) }
}

fun Bell.‹=louder›louder(): Int = this.‹level›level + 1

fun alert() = Bell.‹make›make().‹?louder›louder()
`,
	"php: static members and traits": `
-- a.php --
<?php
trait Loud { public function ‹=ring›ring() {} }
class Bell {
    use Loud;
    const ‹=most›MOST = 3;
    public static function ‹=make›make(): Bell { return new Bell(); }
}
$bell = Bell::‹make›make();
$bell->‹?ring›ring();
echo Bell::‹most›MOST;
`,
	"php: a copy of a part of the project": `
-- copies/old/Bell.php --
<?php
namespace Tarn;
class ‹=old›Bell { public function ring() {} }
-- copies/old/Desk.php --
<?php
namespace Tarn;
function before(‹old›Bell $bell) {}
-- src/Bell.php --
<?php
namespace Tarn;
class ‹=bell›Bell { public function ‹=ring›ring() {} }
-- src/radio/Radio.php --
<?php
namespace Tarn\Radio;
use Tarn\‹bell›Bell;
function alert(‹bell›Bell $bell) { $bell->‹ring›ring(); }
`,
	"java: a copy of a part of the project": `
-- copies/tarn/Bell.java --
package tarn;
public class ‹=old›Bell { void ring() {} }
-- copies/tarn/Desk.java --
package tarn;
class Desk { ‹old›Bell bell; }
-- src/tarn/Bell.java --
package tarn;
public class ‹=bell›Bell { void ‹=ring›ring() {} }
-- src/tarn/radio/Radio.java --
package tarn.radio;
import tarn.‹bell›Bell;
class Radio { void alert(‹bell›Bell bell) { bell.‹ring›ring(); } }
`,
	"ruby: methods of a module that is taken in": `
-- a.rb --
module Loud
  def ‹=ring›ring
  end
end

class Bell
  include Loud

  def alert
    ‹ring›ring
  end
end
`,
	"swift: extensions of a type": `
-- a.swift --
struct Bell { var ‹=level›level = 1 }
extension Bell { func ‹=louder›louder() -> Int { return level + 1 } }
func alert(bell: Bell) -> Int { return bell.‹louder›louder() + bell.‹level›level }
func twice(bell: Bell, n: Int) -> Int { return n * bell.‹level›level - bell.‹louder›louder() * 2 }
`,
	"scala: objects beside classes, and what is taken in": `
-- a.scala --
package tarn

class Bell(val ‹=level›level: Int) { def ‹=ring›ring(): Int = ‹level›level }
object Bell { def ‹=make›make(): Bell = new Bell(1) }

object Main {
  import Bell._
  def alert(): Int = Bell.‹make›make().‹ring›ring()
}
`,
	"lua: members of a table": `
-- bell.lua --
local M = {}
function M.‹=ring›ring(times) return times end
return M
-- a.lua --
local bell = require("bell")
bell.‹ring›ring(2)
`,
	"bash: functions of a script that is read": `
-- lib.sh --
‹=quiet›quiet() { echo 1; }
-- a.sh --
. ./lib.sh
‹quiet›quiet
`,

	"go: constants, labels of structs and methods as values": `
-- go.mod --
module tarn
-- a.go --
package a

const (
	‹=low›low = iota
	‹=high›high
)

type bell struct{ ‹=level›level int }

func (b bell) ‹=ring›ring() {}

func alert() func() {
	b := bell{‹level›level: ‹high›high}
	if b.‹level›level > ‹low›low {
		return b.‹ring›ring
	}
	return bell{}.‹ring›ring
}
`,
	"go: closures, switches of types and generic functions": `
-- go.mod --
module tarn
-- a.go --
package a

type bell struct{}

func (bell) ‹=ring›ring() {}

type horn struct{}

func (horn) ‹=blow›blow() {}

func first[T any](list []T) T { return list[0] }

func alert(v any, bells []bell) {
	switch s := v.(type) {
	case bell:
		s.‹ring›ring()
	case horn:
		s.‹blow›blow()
	}
	if b, ok := v.(bell); ok {
		b.‹ring›ring()
	}
	first(bells).‹ring›ring()
	each := func(b bell) { b.‹ring›ring() }
	each(bells[0])
}
`,
	"python: what a base class has, and calls of it": `
-- base.py --
class Base:
    ‹=limit›limit = 3

    def ‹=ring›ring(self):
        self.‹=times›times = 0
-- a.py --
from base import Base

class Bell(Base):
    def ‹=mine›ring(self):
        super().‹ring›ring()
        return self.‹times›times + self.‹limit›limit

Bell().‹mine›ring()
`,
	"python: a module of the same package, and names that star brings": `
-- hut/__init__.py --
-- hut/bell.py --
from . import tools
from .more import *

def ‹=alert›alert():
    tools.‹=none2›help2 = 1
    return tools.‹help›help() + ‹extra›extra()
-- hut/tools.py --
def ‹=help›help():
    return 1
-- hut/more.py --
def ‹=extra›extra():
    return 2
`,
	"java: enums, and constants of interfaces": `
-- Level.java --
enum Level {
    ‹=low›LOW(1), HIGH(2);
    final int ‹=number›number;
    Level(int number) { this.‹number›number = number; }
    int ‹=twice›twice() { return ‹number›number * 2; }
}
-- Limits.java --
interface Limits { int ‹=most›MOST = 3; }
-- Main.java --
class Main implements Limits {
    int alert(Level level) {
        switch (level) {
            case ‹low›LOW: return Level.‹low›LOW.‹twice›twice();
            default: return ‹most›MOST + Limits.‹most›MOST;
        }
    }
}
`,
	"java: lambdas get what they are given": `
-- Bell.java --
class Bell { void ‹=ring›ring() {} Bell ‹=next›next() { return this; } }
-- Each.java --
interface Each<T> { void take(T value); }
-- Tower.java --
class Tower<T> {
    void ‹=all›all(Each<T> each) {}
}
-- Main.java --
class Main {
    void alert(Tower<Bell> tower) {
        tower.‹all›all(b -> b.‹next›next().‹ring›ring());
        tower.‹all›all((Bell b) -> { b.‹ring›ring(); });
        tower.‹all›all(Bell::‹ring›ring);
    }
}
`,
	"typescript: classes, their bases and what they hide": `
-- a.ts --
abstract class Base {
  protected ‹=depth›depth = 1;
  abstract ‹=open›ring(): void;
  ‹=twice›twice() { return this.‹depth›depth * 2; }
}
class Bell extends Base {
  constructor(private readonly ‹=name›name: string) { super(); }
  ‹=ring›ring() { return this.‹twice›twice() + this.‹name›name.length; }
  static ‹=make›make() { return new Bell('a'); }
  get ‹=loud›loud() { return this.‹depth›depth; }
}
function alert(b: Base, c: Bell) {
  b.‹open›ring();
  c.‹ring›ring();
  return Bell.‹make›make().‹loud›loud;
}
`,
	"typescript: enums, and functions with several signatures": `
-- a.ts --
enum Level { ‹=low›Low, High = 5 }
const enum Tone { ‹=deep›Deep = 'deep' }
function ‹=show›show(a: number): string;
function show(a: string): string;
function show(a: any) { return String(a); }
console.log(Level.‹low›Low, Tone.‹deep›Deep, ‹show›show(3));
type ‹=named›Named = { ‹=label›label: string };
function tell<T extends ‹named›Named>(t: T) { return t.‹label›label; }
`,
	"typescript: paths of a project": `
-- tsconfig.json --
{ "compilerOptions": { "baseUrl": ".", "paths": { "@hut/*": ["src/hut/*"] } } }
-- src/hut/bell.ts --
export const ‹=bell›bell = { ‹=ring›ring() { return 1; } };
-- src/a.ts --
import { bell } from '@hut/bell';
‹bell›bell.‹ring›ring();
`,
	"javascript: what a class is given by its constructor": `
-- a.js --
class Bell {
  constructor(level) { this.‹=level›level = level; }
  ring() { return this.‹level›level; }
}
const ‹=loud›loud = { ‹=tone›tone: 'deep', ‹=make›make() { return new Bell(1); } };
console.log(loud.‹tone›tone, loud.‹make›make().‹level›level);
`,
	"c: macros, enumerations and functions in tables": `
-- hut.h --
#ifndef HUT_H
#define HUT_H
#define ‹=most›MOST 3
enum level { ‹=low›LOW, HIGH };
typedef int (*ring_fn)(int);
struct entry { ring_fn ‹=ring›ring; };
#endif
-- a.c --
#include "hut.h"
static int ‹=quiet›quiet(int n) { return n; }
static const struct entry ‹=table›table[] = { { .‹ring›ring = ‹quiet›quiet } };
int alert(void) { return ‹table›table[0].‹ring›ring(‹most›MOST) + ‹low›LOW; }
`,
	"c++: overloads by number, templates and static members": `
-- a.h --
template <typename T> class Box {
public:
    T ‹=get›get() const { return held; }
private:
    T held;
};
struct Bell { void ‹=ring›ring() {} };
int ‹=one›send(int a);
int ‹=two›send(int a, int b);
-- a.cpp --
#include "a.h"
int alert(const Box<Bell> &box) {
    box.‹get›get();
    return ‹one›send(1) + ‹two›send(1, 2);
}
`,
	"rust: enums, what a match takes apart, and results": `
-- Cargo.toml --
[package]
name = "tarn"
-- src/main.rs --
enum Signal { ‹=bell›Bell(Bell), Quiet }
struct Bell { ‹=level›level: u8 }
impl Bell {
    const ‹=most›MOST: u8 = 3;
    fn ‹=ring›ring(&self) -> u8 { self.‹level›level + Self::‹most›MOST }
}
fn find() -> Option<Bell> { None }
fn main() {
    let s = Signal::‹bell›Bell(Bell { ‹level›level: 1 });
    match s {
        Signal::‹bell›Bell(b) => { b.‹?ring›ring(); }
        Signal::Quiet => {}
    }
    if let Some(b) = find() {
        b.‹?ring›ring();
    }
}
`,
	"kotlin: properties, objects and what is inherited": `
-- a.kt --
package tarn

open class Base { open val ‹=depth›depth = 1; fun ‹=twice›twice() = ‹depth›depth * 2 }
object Limits { const val ‹=most›MOST = 3 }
data class Bell(val ‹=level›level: Int) : Base()

fun alert(b: Bell): Int {
    val copy = Bell(Limits.‹most›MOST)
    return b.‹twice›twice() + copy.‹level›level
}
`,
	"csharp: inheritance, interfaces and constructors": `
-- A.cs --
namespace Tarn {
    interface IPager { void ‹=open›Page(); }
    class Base { protected int ‹=depth›depth = 1; public virtual int ‹=twice›Twice() { return ‹depth›depth * 2; } }
    class Bell : Base, IPager {
        public void ‹=page›Page() { this.‹twice›Twice(); }
    }
    class Main { void Alert(IPager p, Bell b) { p.‹open›Page(); b.‹page›Page(); new Bell().‹twice›Twice(); } }
}
`,
	"php: interfaces, constants and properties": `
-- a.php --
<?php
namespace Tarn;
interface Pager { const ‹=most›MOST = 3; public function ‹=open›page(); }
class Bell implements Pager {
    public int $‹=level›level = 1;
    public function ‹=page›page() { return $this->‹level›level + self::‹most›MOST; }
}
function alert(Pager $p, Bell $b) { $p->‹open›page(); $b->‹page›page(); }
`,
	"ruby: constants, class methods and attributes": `
-- a.rb --
class Bell
  ‹=most›MOST = 3

  def self.‹=make›make
    new
  end

  def alert
    ‹most›MOST
  end
end

Bell.‹make›make
puts Bell::‹most›MOST
`,
	"scala: traits, case classes and what a match takes apart": `
-- a.scala --
package tarn

trait Pager { def ‹=open›page(): Int }
case class Bell(‹=level›level: Int) extends Pager { def ‹=page›page(): Int = ‹level›level }

object Main {
  val ‹=most›most = 3
  def alert(p: Pager, b: Bell): Int = p.‹open›page() + b.‹page›page() + b.‹level›level + ‹most›most
}
`,
	"lua: functions that are local, and methods with a colon": `
-- a.lua --
local Bell = {}
Bell.__index = Bell
local function ‹=quiet›quiet() return 1 end
function Bell:‹=ring›ring(times) return times + ‹quiet›quiet() end
local b = setmetatable({}, Bell)
b:‹?ring›ring(2)
`,

	"go: a name of a package, of a parameter and of a field at once": `
-- go.mod --
module tarn
-- hut/hut.go --
package hut

type Hut struct{ ‹=hut›hut int }

func ‹=open›Open() *Hut { return nil }
-- a.go --
package a

import "tarn/hut"

func alert(h *hut.Hut) {
	‹=local›hut := hut.‹open›Open()
	_ = ‹local›hut
}
`,
	"go: files of tests, and names that only they have": `
-- go.mod --
module tarn
-- a.go --
package a

func ‹=ring›ring() int { return 1 }
-- a_test.go --
package a

import "testing"

func ‹=helper›helper(t *testing.T) int { return ‹ring›ring() }

func TestRing(t *testing.T) { ‹helper›helper(t) }
`,
	"python: comprehensions, lambdas and with": `
-- a.py --
class Bell:
    def ‹=ring›ring(self):
        return 1

    def __enter__(self):
        return self

def ‹=times›times(n):
    return n

def alert(bells: list[Bell], ‹=factor›factor):
    rung = [‹=inner›b.‹ring›ring() * ‹factor›factor for b in bells]
    with Bell() as open_bell:
        open_bell.‹?ring›ring()
    double = lambda ‹=x›x: ‹x›x * ‹times›times(2)
    return rung, double
`,
	"python: dataclasses, class variables and annotations": `
-- a.py --
from __future__ import annotations
from dataclasses import dataclass

@dataclass
class Hut:
    ‹=snow›snow: int
    bell: Bell | None = None

class Bell:
    ‹=most›MOST = 3

    def ‹=ring›ring(self) -> Hut:
        return Hut(snow=1)

def alert(hut: Hut, bell: "Bell"):
    print(hut.‹snow›snow, Bell.‹most›MOST)
    return bell.‹ring›ring().‹snow›snow
`,
	"java: inner classes see what is around them": `
-- Hut.java --
class Hut {
    private int ‹=snow›snow;
    void ‹=melt›melt() {}
    class Door {
        int ‹=own›width;
        void open() { ‹melt›melt(); ‹snow›snow++; this.‹own›width = Hut.this.‹snow›snow; }
    }
    Runnable later() {
        return new Runnable() { public void run() { ‹melt›melt(); } };
    }
}
`,
	"java: static imports, varargs and arrays": `
-- tarn/Tools.java --
package tarn;
public class Tools {
    public static int ‹=sum›sum(int... numbers) { return numbers.length; }
    public static final String ‹=word›WORD = "bell";
}
-- other/Main.java --
package other;
import static tarn.Tools.‹sum›sum;
import static tarn.Tools.WORD;
class Main {
    Bell[] bells;
    int alert() { return ‹sum›sum(1, 2, 3) + ‹word›WORD.length() + bells[0].‹level›level; }
}
class Bell { int ‹=level›level; }
`,
	"typescript: interfaces that are extended, and index types": `
-- a.ts --
interface Base { ‹=name›name: string }
interface Bell extends Base { ‹=level›level?: number }
interface Tower { [key: string]: Bell }
const tower: Tower = {};
function alert(b: Bell, all: Map<string, Bell>, opt?: Bell) {
  b.‹name›name; tower['a'].‹?level›level; opt?.‹level›level;
  for (const [key, bell] of all) bell.‹?level›level;
  all.get('a')!.‹name›name;
}
`,
	"typescript: closures, defaults and shadowing": `
-- a.ts --
const ‹=outer›depth = 1;
function alert(‹=parameter›depth = 2, times: number) {
  const add = (n: number) => n + ‹parameter›depth;
  {
    const ‹=block›depth = 3;
    add(‹block›depth);
  }
  return ‹parameter›depth;
}
export { ‹outer›depth };
`,
	"javascript: functions that make objects, and callbacks": `
-- a.js --
function ‹=make›make() { return { ‹=ring›ring() { return 1; }, ‹=level›level: 2 }; }
const bell = ‹make›make();
bell.‹ring›ring();
console.log(‹make›make().‹level›level);
function Horn() { this.‹=tone›tone = 1; }
Horn.prototype.‹=blow›blow = function () { return this.‹tone›tone; };
new Horn().‹blow›blow();
`,
	"typescript: this in functions that have none of their own, and what is put into a container": `
-- a.ts --
interface Note { ‹=frame›frame: number; text: string; }
class Gate {
  ‹=level›level = 1;
  ‹=rise›rise(by: number) { return this.‹level›level + by; }
  delegates(store: Map<number, { ‹=due›due: number }>) {
    const notes: Note[] = [];
    notes.push({ ‹=made›frame: this.‹rise›rise(1), text: '' });
    store.set(1, { ‹=put›due: this.‹level›level });
    const late = Array.from(store.values()).filter((s) => s.‹due›due < 4);
    let first: Note['‹frame›frame'] = 1;
    ({ text: '' } = { ...late[0] });
    return { ‹=inner›level: 5, set: (by: number) => this.‹level›level + by, late };
  }
}
`,
	"c: arguments put into macros, macros in front of variables": `
-- a.c --
#define SEND(‹=to›to, ‹=what›what) do { \
    post((‹to›to), "to" ‹what›what); /* to what */ \
  } while (0)
typedef unsigned char ‹=octet›octet;
PEAK_DATA const ‹octet›octet table[4] = { 0 };
`,
	"c: static functions of two files, and a union": `
-- a.c --
union value { int ‹=number›number; char *text; };
static int ‹=mine›helper(union value v) { return v.‹number›number; }
int first(union value *v) { return ‹mine›helper(*v) + v->‹number›number; }
-- b.c --
static int ‹=yours›helper(int n) { return n; }
int second(void) { return ‹yours›helper(2); }
`,
	"c++: a class in a header, its methods in a source": `
-- bell.h --
#pragma once
namespace tarn {
class Bell {
public:
    explicit Bell(int level);
    int ring(int times) const;
private:
    int ‹=level›level_;
};
}
-- bell.cpp --
#include "bell.h"
namespace tarn {
Bell::Bell(int level) : level_(level) {}
int Bell::‹=ring›ring(int times) const { return times * ‹level›level_; }
}
-- main.cpp --
#include "bell.h"
using tarn::Bell;
int alert(const Bell &bell, Bell *other) { return bell.‹ring›ring(2) + other->‹ring›ring(3); }
`,
	"rust: generics, traits with bodies and closures": `
-- Cargo.toml --
[package]
name = "tarn"
-- src/lib.rs --
pub trait Pager {
    fn ‹=level›level(&self) -> u8;
    fn ‹=twice›twice(&self) -> u8 { self.‹level›level() * 2 }
}
pub struct Bell;
impl Pager for Bell { fn level(&self) -> u8 { 1 } }
pub fn all<T: Pager>(list: &[T]) -> u8 { list[0].‹twice›twice() }
pub mod deep {
    use super::Pager;
    pub fn ‹=alert›alert(p: &dyn Pager) -> u8 { p.‹twice›twice() }
}
pub fn run() -> u8 { deep::‹alert›alert(&Bell) }
`,
	"kotlin: lambdas, defaults and null": `
-- a.kt --
package tarn

interface Pager { fun ‹=page›page(times: Int = 1): Int }
class Bell : Pager { override fun ‹=ring›page(times: Int) = times; val ‹=next›next: Bell? = null }

fun alert(p: Pager, b: Bell, all: List<Bell>) {
    p.‹page›page()
    b.‹next›next?.‹ring›page(2)
    all.forEach { it.‹?ring›page(1) }
    for (one in all) one.‹ring›page(1)
}
`,
	"swift: protocols, optionals and closures": `
-- a.swift --
protocol Pager { func ‹=open›page() -> Int }
class Bell: Pager {
    var ‹=next›next: Bell?
    func ‹=page›page() -> Int { return 1 }
}
func alert(p: Pager, b: Bell, all: [Bell]) {
    _ = p.‹open›page()
    _ = b.‹next›next?.‹page›page()
    for one in all { _ = one.‹page›page() }
    if let n = b.‹next›next { _ = n.‹page›page() }
}
`,
	"csharp: generics, linq and extension": `
-- A.cs --
using System.Collections.Generic;
namespace Tarn {
    class Bell { public int ‹=level›Level; public Bell ‹=next›Next() { return this; } }
    class Main {
        int Alert(List<Bell> all, Dictionary<string, Bell> by) {
            foreach (var b in all) { b.‹next›Next().‹level›Level = 1; }
            var first = all[0];
            return first.‹level›Level + by["a"].‹level›Level;
        }
    }
}
`,
	"php: closures, and what functions give back": `
-- a.php --
<?php
class Bell { public function ‹=ring›ring(): self { return $this; } public function ‹=next›next(): Bell { return $this; } }
function ‹=make›make(): Bell { return new Bell(); }
‹make›make()->‹ring›ring()->‹next›next()->‹ring›ring();
$f = function (Bell $b) { return $b->‹ring›ring(); };
$g = fn(Bell $b) => $b->‹next›next();
`,
	"scala: companions, implicit classes and for": `
-- a.scala --
package tarn

class Bell { def ‹=ring›ring(times: Int): Bell = this; val ‹=level›level = 1 }
object Tools { def ‹=make›make(): Bell = new Bell }

object Main {
  def alert(all: List[Bell]): Unit = {
    Tools.‹make›make().‹ring›ring(1).‹ring›ring(2)
    val b = Tools.‹make›make()
    println(b.‹level›level)
    for (one <- all) one.‹?ring›ring(3)
  }
}
`,
}
