<?php
namespace Tarn\Web;
use Tarn\Hut\Hut;
class Board extends Page { // @def Board @use Page
    private ?Hut $hut = null; // @def hut @use Hut
    const MAX = 3; // @def MAX
    public function draw(Hut $first, $n) { // @def draw @use Hut
        $total = $n + self::MAX; // @use MAX
        $this->hut->open($total); // @use hut @use open
        $this->draw($first, 1); // @use draw
        parent::title(); // @use title
        return new Board(); // @use Board
    }
}
