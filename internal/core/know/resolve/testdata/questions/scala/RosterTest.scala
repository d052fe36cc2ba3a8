package tarn

class RosterTest {
  def testAlert(): Unit = { // @is testAlert
    Roster.alert(new Bell(), 1) // @value level @tests alert = testAlert
  }
}
