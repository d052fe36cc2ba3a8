package geo

import "testing"

func TestDistance(t *testing.T) {
	v := Valleys{"a": {0, 0}, "b": {3, 4}}
	if d := v.Distance("a", "b"); d != 5 {
		t.Fatalf("got %v", d)
	}
	if d := v.Distance("a", "nowhere"); d != farAway {
		t.Fatalf("got %v", d)
	}
}
