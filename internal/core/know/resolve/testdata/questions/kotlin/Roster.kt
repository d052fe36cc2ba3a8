package tarn

interface Pager { // @is Pager @under Pager = Bell,Horn
    fun page(times: Int) // @is page @under page = page:bell,page:horn
}

open class Bell : Pager { // @is Bell @over Bell = Pager
    var rings = 0 // @is rings @value rings
    override fun page(times: Int) { // @is page:bell @over page:bell = page
        this.rings += times // @ref rings readwrite @value rings
    }
    fun heard(): Int = rings // @is heard @ref rings read @value rings @called heard = alert
}

class Horn : Bell() { // @is Horn @over Horn = Bell,Pager
    override fun page(times: Int) { super.page(times) } // @is page:horn @over page:horn = page:bell,page
}

fun alert(pager: Pager, level: Int): Int { // @is alert @is pager @is level @calls alert = quiet,page,heard,Horn
    if (level > quiet()) { // @value level
        pager.page(level) // @type pager = Pager @ref pager read @value level
    }
    return Horn().heard()
}

private fun quiet() = 1 // @is quiet @called quiet = alert

private fun forgotten() {} // @unused

fun main() {
    alert(Bell(), 3) // @value level
}
