from roster import Bell, alert # @ref alert import


def test_alert(): # @is test_alert
    alert(Bell(), 1) # @ref alert call @value level @tests alert = test_alert
