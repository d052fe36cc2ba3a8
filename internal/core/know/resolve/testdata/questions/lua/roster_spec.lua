require("roster")

local function test_alert() -- @is test_alert
	alert(nil, 1) -- @ref alert call @value level @tests alert = test_alert
end

test_alert() -- @ref test_alert call
