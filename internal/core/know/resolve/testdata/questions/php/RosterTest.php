<?php
namespace Tarn;

class RosterTest {
    public function testAlert() { // @is testAlert
        alert(new Bell(), 1); // @tests alert = testAlert
    }
}
