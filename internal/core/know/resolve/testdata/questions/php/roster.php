<?php
namespace Tarn;

interface Pager { // @is Pager @under Pager = Bell,Horn
    public function page(int $times); // @is page @under page = page:bell,page:horn
}

class Bell implements Pager { // @is Bell @over Bell = Pager
    private $rings = 0; // @is rings @value rings
    public function page(int $times) { // @is page:bell @over page:bell = page
        $this->rings += $times; // @ref rings readwrite @value rings
    }
    public function heard() { return $this->rings; } // @is heard @ref rings read @value rings @called heard = alert
}

class Horn extends Bell { // @is Horn @over Horn = Bell,Pager
    public function page(int $times) { parent::page($times); } // @is page:horn @over page:horn = page:bell,page
}

function alert(Pager $pager, int $level) { // @is alert @calls alert = quiet,page,heard,Horn
    if ($level > quiet()) {
        $pager->page($level); // @type pager = Pager
    }
    return (new Horn())->heard();
}

function quiet() { return 1; } // @is quiet @called quiet = alert

function forgotten() {} // @unused

alert(new Bell(), 3);
