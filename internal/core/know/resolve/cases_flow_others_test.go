package resolve_test

// casesOfFlowElsewhere are those of other languages.
var casesOfFlowElsewhere = map[string]string{
	"ruby: what a method gives that is written in two branches": `
-- a.rb --
class Siren
  def ‹=s›wail
  end
end
class Horn
  def ‹=h›wail
  end
end
class Desk
  def initialize(x)
    @x = x
    @tool = build
  end
  if TESTING
    def build
      Horn.new
    end
  else
    def build
      string = 3
      if string
        Siren.new
      else
        Horn.new
      end
    end
  end
  def work
    @tool.‹?s›wail
    @tool.‹?h›wail
    build.‹?s›wail
  end
end
`,
	"what a condition defines is not known in what is done otherwise": `
-- a.rs --
fn f(‹=outer›text: &str, other: Option<u8>) -> usize {
    let a = if let Some(‹=inner›text) = ‹outer›text.strip_prefix('-') { ‹inner›text.len() } else if let Some(n) = other { ‹outer›text.len() } else { ‹outer›text.len() };
    a + ‹outer›text.len()
}
-- b.swift --
func f(hut: Int?) -> Int {
    let ‹=sx›x = 5
    if let ‹=ix›x = hut, ‹ix›x > 3 {
        return ‹ix›x
    } else if ‹sx›x > 4 {
        return ‹sx›x
    } else {
        return ‹sx›x + 1
    }
}
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
