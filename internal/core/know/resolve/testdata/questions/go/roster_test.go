package tarn

import "testing"

func TestAlert(t *testing.T) { // @is TestAlert @tests TestAlert = alert
	alert(&Bell{}, 1) // @value level
}
