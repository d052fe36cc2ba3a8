package tarn.app

import tarn.hut.Hut
import tarn.hut.nearest as closest

class Pager(val owner: String) : Device() { // @def Pager @def owner @use Device
    var hut: Hut? = null // @def hut @use Hut
    fun ring(times: Int) { // @def ring @def times
        beep() // @use beep
        closest(hut!!.height) // @use closest:nearest @use hut @use height
        this.ring(times + owner.length) // @use ring @use times @use owner
    }
}
fun make() = Pager("x") // @use Pager
