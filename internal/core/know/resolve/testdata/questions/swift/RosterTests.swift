func testAlert() { // @is testAlert
    _ = alert(pager: Bell(), level: 1) // @value level @tests alert = testAlert
}
