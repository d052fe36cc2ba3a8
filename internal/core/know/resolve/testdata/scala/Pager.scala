package tarn.app

import tarn.hut.{Hut, Limits => Bounds}
import tarn.hut.Limits.Steep
import Bounds._

trait Device { // @def Device
  def beep(times: Int): Unit // @def beep
  def kind: String = "device" // @def kind
}

abstract class Radio extends Device { // @def Radio @use Device
  override def kind: String = "radio" // @def kind:radio
}

class Pager[T <: Device](val owner: String, devices: List[T]) extends Radio { // @def Pager @def T @use Device @def owner @def devices @use T#2 @use Radio
  private var hut: Hut = Hut.Lowest // @def hut @use Hut @use Hut#2 @use Lowest
  def beep(times: Int): Unit = println(times) // @def beep:pager @def times @use times#2 @outside println
  def ring(now: Boolean = true): Int = { // @def ring
    val high = hut.height + Steep // @def high @use hut @use height @use Steep
    for (d <- devices if high > 0) { d.beep(high) } // @def d @use devices @use high @use d#2 @use beep
    devices.foreach { x => x.beep(2) } // @def x @use x#2 @use beep
    devices.map(_.kind) // @use kind
    hut match { // @use hut
      case h: Hut if h.height > 3 => h.label.length // @def h @use Hut @use h#2 @use height @use h#3 @use label
      case other => this.ring(false) // @def other @use ring
    }
  }
  def grade: Grade = Low // @use Grade @use Low
  def place = Hut.nearest(hut).label // @use Hut @use nearest @use hut @use label
  def both(that: Pager[T]) = that.owner // @def that @use Pager @use T @use that#2 @use owner
}

object Main extends App {
  val pager = new Pager[Radio]("x", Nil) // @def pager @use Pager @use Radio
  pager.ring() // @use pager @use ring
  pager ring false // @use pager @use ring
}
