package tarn.app

import tarn.hut.Limits.steep
import tarn.hut.Grade.*

fun isSteep(angle: Int) = angle > steep // @def isSteep @def angle @use angle#2 @use steep
fun grade() = LOW // @use LOW
