package resolve_test

// casesOfOthers are like cases, in the languages that have no compiler to compare with here.
var casesOfOthers = map[string]string{
	"kotlin: nested classes, companions and constants of the file": `
-- tarn/Hut.kt --
package tarn

const val ‹=deep›DEEP = 40

class Hut(val ‹=name›name: String, private var ‹=snow›snow: Int = ‹deep›DEEP) {
    class ‹=log›Log(val ‹=line›line: String)

    companion object {
        fun ‹=open›open(name: String): Hut = Hut(name)
        const val ‹=top›TOP = 3
    }

    fun ‹=report›report(): Log = Log("$‹name›name: $‹snow›snow")
    fun ‹=dig›dig(by: Int) { this.‹snow›snow -= by; snow = ‹top›TOP }
}
-- board/Main.kt --
package board

import tarn.Hut
import tarn.‹deep›DEEP

fun main() {
    val hut = Hut.‹open›open("Arnfirst")
    hut.‹dig›dig(‹deep›DEEP)
    println(hut.‹report›report().‹line›line)
    val log: Hut.‹log›Log = hut.‹report›report()
    log.‹line›line
    Hut.‹top›TOP
}
`,
	"kotlin: interfaces, overriding and delegation": `
-- a.kt --
package a

interface Page { fun ‹=page›page(to: String): Boolean; val ‹=tone›tone: Int get() = 1 }
open class Radio : Page {
    override fun ‹=radio›page(to: String) = to.isNotEmpty()
    open fun ‹=ring›ring() = ‹tone›tone
}
class Relay : Radio() {
    override fun ‹=relay›ring() = super.‹ring›ring() + 1
}
object Desk { val ‹=relayed›relay = Relay() }

fun alert(p: Page, r: Relay) {
    p.‹page›page("Tom")
    r.‹radio›page("Ann")
    r.‹relay›ring()
    Desk.‹relayed›relay.‹relay›ring()
    when (p) { is Radio -> p.‹?ring›ring() }
}
`,
	"kotlin: enums, sealed classes and what a lambda is given": `
-- a.kt --
package a

enum class Risk(val ‹=level›level: Int) { ‹=low›LOW(1), HIGH(4); fun ‹=grave›grave() = ‹level›level > 3 }
sealed class Answer { data class ‹=found›Found(val ‹=team›team: Team) : Answer(); object ‹=nobody›Nobody : Answer() }
class Team(val ‹=size›size: Int)

fun ask(a: Answer): Int = when (a) {
    is Answer.‹found›Found -> a.‹?team›team.‹?size›size
    Answer.‹nobody›Nobody -> Risk.‹low›LOW.‹level›level
    else -> 0
}

fun all(teams: List<Team>) {
    teams.filter { it.‹?size›size > 2 }.map { team -> team.‹?size›size }
    for (t in teams) t.‹size›size
    teams.first().‹size›size
    Risk.LOW.‹grave›grave()
}
`,
	"swift: extensions, protocols and what is inherited": `
-- Hut.swift --
protocol Paging { func ‹=page›page(_ to: String) -> Bool }
class Station {
    let ‹=name›name: String
    init(name: String) { self.‹name›name = name }
    func ‹=open›open() -> Bool { return true }
}
class Hut: Station, Paging {
    var ‹=snow›snow = 0
    static let ‹=deep›deep = 40
    func ‹=paging›page(_ to: String) -> Bool { return ‹snow›snow > Hut.‹deep›deep && ‹open›open() }
}
extension Hut {
    var ‹=buried›buried: Bool { return ‹snow›snow > 3 }
}
-- Main.swift --
func alert(p: Paging) {
    let hut = Hut(name: "Arnfirst")
    hut.‹paging›page(hut.‹name›name)
    p.‹page›page("Tom")
    if hut.‹buried›buried { hut.‹snow›snow += 1 }
}
`,
	"swift: enums, optionals and guards": `
-- a.swift --
enum Risk { case ‹=low›low, high; var ‹=grave›grave: Bool { return self == .high } }
struct Team { var ‹=size›size: Int; var ‹=lead›lead: Person? }
struct Person { let ‹=call›callSign: String }

func ‹=find›find(_ id: Int) -> Team? { return nil }

func alert(teams: [Team]) {
    guard let team = ‹find›find(3) else { return }
    team.‹size›size
    if let lead = team.‹lead›lead { lead.‹call›callSign }
    team.lead?.‹call›callSign
    for t in teams { t.‹size›size }
    let risk = Risk.‹low›low
    risk.‹grave›grave
}
`,
	"php: classes of a namespace, and their members": `
-- src/Hut.php --
<?php
namespace Tarn;

abstract class Station {
    protected string $‹=name›name;
    public function __construct(string $name) { $this->‹name›name = $name; }
    abstract public function ‹=report›report(): Report;
    public static function ‹=open›open(): static { return new static('x'); }
}
class Hut extends Station {
    const ‹=deep›DEEP = 40;
    private int $‹=snow›snow = self::‹deep›DEEP;
    public function ‹=hutreport›report(): Report { return new Report($this->‹name›name, $this->‹snow›snow); }
}
-- src/Report.php --
<?php
namespace Tarn;

final class Report {
    public function __construct(public string $‹=hut›hut, public int $‹=depth›depth) {}
    public function ‹=line›line(): string { return $this->‹hut›hut . $this->‹depth›depth; }
}
-- src/main.php --
<?php
use Tarn\Hut;
use Tarn\Report as Line;

function ‹=show›show(Line $l): string { return $l->‹line›line(); }

$hut = new Hut('Arnfirst');
echo ‹show›show($hut->‹hutreport›report());
echo $hut->report()->‹depth›depth, Hut::‹deep›DEEP;
Hut::‹open›open();
`,
	"php: traits, interfaces and functions of a namespace": `
-- a.php --
<?php
namespace Tarn\Radio;

interface Pages { const ‹=tone›TONE = 3; public function ‹=page›page(string $to): bool; }
trait Logs {
    private array $‹=lines›lines = [];
    protected function ‹=log›log(string $line): void { $this->‹lines›lines[] = $line; }
}
class Relay implements Pages {
    use Logs;
    public function ‹=relay›page(string $to): bool { $this->‹log›log($to); return self::‹tone›TONE > 2; }
}
function ‹=loud›loud(Pages $p): bool { return $p->‹page›page('Tom'); }
-- b.php --
<?php
use function Tarn\Radio\loud;
use Tarn\Radio\Relay;

$relay = new Relay;
$relay->‹relay›page('Ann');
‹loud›loud($relay);
`,
	"csharp: namespaces, properties and what is inherited": `
-- Hut.cs --
namespace Tarn.Huts
{
    public abstract class Station
    {
        protected readonly string ‹=name›name;
        protected Station(string name) { this.‹name›name = name; }
        public virtual int ‹=depth›Depth => 0;
        public static Station ‹=open›Open(string name) { return new Hut(name); }
    }

    public class Hut : Station
    {
        public const int ‹=deep›Deep = 40;
        private int ‹=snow›snow;
        public Hut(string name) : base(name) { ‹snow›snow = ‹deep›Deep; }
        public override int ‹=hutdepth›Depth => ‹snow›snow + base.‹depth›Depth;
        public string ‹=label›Label { get { return ‹name›name; } }
    }
}
-- Board.cs --
using Tarn.Huts;

class Board
{
    private Hut ‹=hut›hut = new Hut("Arnfirst");
    public int ‹=show›Show()
    {
        var other = Station.‹open›Open("x");
        return ‹hut›hut.‹hutdepth›Depth + other.‹depth›Depth + Hut.‹deep›Deep + hut.‹label›Label.Length;
    }
}
`,
	"csharp: interfaces, generics, enums and overloads": `
-- a.cs --
using System.Collections.Generic;

namespace Tarn
{
    interface IPage { bool ‹=page›Page(string to); }
    class Radio : IPage
    {
        public bool ‹=radio›Page(string to) { return ‹two›Page(to, 1); }
        public bool ‹=two›Page(string to, int times) { return times > 0; }
    }
    enum Risk { ‹=low›Low, High }
    struct Team { public int ‹=size›Size; public Risk ‹=risk›Risk; }

    static class Desk
    {
        public static int ‹=count›Count(List<Team> teams, Dictionary<string, Team> byName, IPage p, Radio r)
        {
            int n = 0;
            foreach (var t in teams) n += t.‹size›Size;
            foreach (Team t in teams) if (t.‹risk›Risk == Risk.‹low›Low) n++;
            n += teams[0].‹size›Size + byName["a"].‹size›Size;
            p.‹page›Page("Tom");
            r.‹radio›Page("Ann");
            r.‹two›Page("Ann", 2);
            return n;
        }
    }
}
`,
	"scala: objects, inheritance and members of what a call gives": `
-- tarn/Hut.scala --
package tarn

abstract class Station(val ‹=name›name: String) {
  def ‹=depth›depth: Int = 0
  def ‹=report›report(): Report = new Report(‹name›name, ‹depth›depth)
}
class Hut(name: String, var ‹=snow›snow: Int) extends Station(name) {
  override def ‹=hutdepth›depth: Int = ‹snow›snow + super.‹depth›depth
}
object Hut {
  val ‹=deep›Deep = 40
  def ‹=open›open(name: String): Hut = new Hut(name, ‹deep›Deep)
}
class Report(val ‹=hut›hut: String, val ‹=cm›cm: Int)
-- board/Main.scala --
package board

import tarn.{Hut, Station}

object Main {
  def ‹=show›show(s: Station): Int = s.‹report›report().‹cm›cm + s.‹depth›depth
  def main(): Unit = {
    val hut = Hut.‹open›open("Arnfirst")
    ‹show›show(hut)
    hut.‹snow›snow = Hut.‹deep›Deep
    println(hut.‹hutdepth›depth)
  }
}
`,
	"ruby: modules, inheritance and what a class is given": `
-- lib/hut.rb --
module Tarn
  class Station
    attr_reader :‹=name›name

    def initialize(name)
      ‹=ivar›@name = name
    end

    def ‹=open›open?
      true
    end

    def self.‹=build›build(name)
      new(name)
    end
  end

  class Hut < Station
    ‹=deep›DEEP = 40

    def ‹=report›report
      return ‹line›line if ‹open›open?
      ‹ivar›@name
    end

    private

    def ‹=line›line
      "#{‹name›name} #{‹deep›DEEP}"
    end
  end
end
-- main.rb --
require_relative 'lib/hut'

hut = Tarn::Hut.new('Arnfirst')
hut.‹report›report
hut.‹open›open?
Tarn::Hut.‹build›build('x')
Tarn::Hut::‹deep›DEEP
`,
	"lua: a module that is required, and its methods": `
-- hut.lua --
local Hut = {}
Hut.__index = Hut
Hut.‹=deep›deep = 40

function Hut.‹=new›new(name)
  return setmetatable({ ‹=name›name = name }, Hut)
end

function Hut:‹=report›report()
  return self.name .. Hut.‹deep›deep
end

return Hut
-- main.lua --
local Hut = require("hut")
local function ‹=show›show(h) return h end
local hut = Hut.‹new›new("Arnfirst")
hut:‹?report›report()
‹show›show(hut)
print(Hut.‹deep›deep)
`,
	"bash: locals, and functions of a file that is read": `
-- lib.sh --
‹=deep›DEEP=40
‹=dig›dig() {
  local ‹=cm›cm=$1
  echo "$‹cm›cm of ${‹deep›DEEP}"
}
-- main.sh --
source ./lib.sh
‹=main›main() {
  ‹dig›dig 3 | sort
  if ‹dig›dig 4; then echo "$‹deep›DEEP"; fi
  x=$(‹dig›dig 5)
}
‹main›main "$@"
`,
	"c++: virtual methods, namespaces and constants of a class": `
-- hut.hpp --
#pragma once
namespace tarn {
class Station {
public:
  explicit Station(int snow) : ‹snow›snow_(snow) {}
  virtual ~Station() = default;
  virtual int ‹=depth›depth() const { return ‹snow›snow_; }
  static const int ‹=deep›kDeep = 40;
protected:
  int ‹=snow›snow_;
};
class Hut : public Station {
public:
  using Station::Station;
  int ‹=hutdepth›depth() const override;
  enum class Risk { ‹=low›Low, High };
  Risk ‹=risk›risk() const { return Risk::‹low›Low; }
};
}
-- hut.cpp --
#include "hut.hpp"
namespace tarn {
int Hut::depth() const { return ‹snow›snow_ + ‹deep›kDeep; }
}
-- main.cpp --
#include "hut.hpp"
using tarn::Hut;

int show(const tarn::Station &s) { return s.‹depth›depth(); }

int main() {
  Hut two(4);
  two.‹risk›risk();
  Hut *p = &two;
  p->‹risk›risk();
  return show(two) + tarn::Station::‹?deep›kDeep + (two.‹risk›risk() == Hut::Risk::‹?low›Low);
}
`,
	"rust: enums, impls of traits and paths": `
-- Cargo.toml --
[package]
name = "tarn"
version = "0.1.0"
-- src/lib.rs --
pub mod hut;
pub mod radio;

use crate::hut::{Hut, Risk};

pub fn ‹=show›show(hut: &Hut) -> u32 {
    match hut.‹risk›risk() {
        Risk::‹low›Low => hut.‹snow›snow,
        Risk::High(n) => n + hut::‹?deep›DEEP,
    }
}
-- src/hut.rs --
use super::radio::Page;

pub const ‹=deep›DEEP: u32 = 40;
pub enum Risk { ‹=low›Low, High(u32) }
pub struct Hut { pub ‹=snow›snow: u32, pub ‹=log›log: Vec<Line> }
pub struct Line { pub ‹=text›text: String }

impl Hut {
    pub fn ‹=new›new() -> Self { Self { ‹snow›snow: ‹deep›DEEP, ‹log›log: Vec::new() } }
    pub fn ‹=risk›risk(&self) -> Risk { if self.‹snow›snow > 3 { Risk::High(self.snow) } else { Risk::‹low›Low } }
    pub fn lines(&self) -> usize {
        for line in &self.‹log›log { line.‹text›text.len(); }
        self.log.iter().map(|l| l.‹?text›text.len()).sum()
    }
}
impl Page for Hut {
    fn ‹=hutpage›page(&self) -> bool { self.‹snow›snow > 1 }
}
-- src/radio.rs --
pub trait Page { fn ‹=page›page(&self) -> bool; fn ‹=twice›twice(&self) -> bool { self.‹page›page() } }

pub fn alert<T: Page>(one: T, other: &dyn Page) -> bool {
    let hut = crate::hut::Hut::‹new›new();
    one.‹page›page() && other.‹page›page() && hut.‹hutpage›page() && hut.‹twice›twice()
}
`,
}
