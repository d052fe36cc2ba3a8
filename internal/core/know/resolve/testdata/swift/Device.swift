let limit = 3 // @def limit
class Device { // @def Device
    func beep() {} // @def beep
}
struct Hut { // @def Hut
    func open() {} // @def open
}
