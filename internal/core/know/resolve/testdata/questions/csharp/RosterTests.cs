namespace Tarn
{
    class RosterTests
    {
        void TestAlert() // @is TestAlert
        {
            Roster.Alert(new Bell(), 1); // @value level @tests Alert = TestAlert
        }
    }
}
