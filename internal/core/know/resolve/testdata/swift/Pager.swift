class Pager: Device { // @def Pager @use Device
    var hut: Hut? // @def hut @use Hut
    func ring(_ times: Int) { // @def ring @def times
        beep() // @use beep
        let n = times + limit // @use times @use limit
        self.ring(n) // @use ring
        hut!.open() // @use hut @use open
    }
}
