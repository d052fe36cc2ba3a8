package tarn
package hut

class Hut(val height: Int, name: String) { // @def Hut @def height @def name
  def this(height: Int) = this(height, "none")
  def label: String = name + height // @def label @use name @use height
}

object Hut { // @def Hut:companion
  val Lowest = new Hut(900) // @def Lowest @use Hut
  def nearest(to: Hut): Hut = to // @def nearest @def to @use to
}

object Limits { // @def Limits
  val Steep = 30 // @def Steep
  sealed trait Grade // @def Grade
  case object Low extends Grade // @def Low @use Grade
}
