<?php
namespace Tarn\Hut;
class Hut { // @def Hut
    public function open($n) {} // @def open
}
