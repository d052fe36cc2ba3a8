package tarn.hut

class Hut(val height: Int) // @def Hut @def height
fun nearest(h: Int) = h // @def nearest
object Limits { // @def Limits
    const val steep = 30 // @def steep
}
enum class Grade { LOW, HIGH } // @def Grade @def LOW
