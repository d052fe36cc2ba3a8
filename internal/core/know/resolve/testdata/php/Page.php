<?php
namespace Tarn\Web;
class Page { // @def Page
    public function title() {} // @def title
}
