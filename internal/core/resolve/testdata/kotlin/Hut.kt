package tarn.hut

class Hut(val height: Int) // @def Hut @def height
fun nearest(h: Int) = h // @def nearest
