package tarn;

class RosterTest {
    void testAlert() { // @is testAlert
        Roster.alert(new Bell(), 1); // @value level @tests alert = testAlert
    }
}
