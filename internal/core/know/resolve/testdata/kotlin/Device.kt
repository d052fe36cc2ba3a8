package tarn.app

open class Device { // @def Device
    fun beep() {} // @def beep
}
