package tarn

class RosterTest {
    fun testAlert() { // @is testAlert
        alert(Bell(), 1) // @value level @tests alert = testAlert
    }
}
