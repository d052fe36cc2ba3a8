require_relative 'roster'

def test_alert # @is test_alert
  alert(Bell.new, 1) # @ref alert call @ref Bell read @value level @tests alert = test_alert
end
