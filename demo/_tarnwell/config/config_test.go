package config

import (
	"testing"
	"time"
)

func TestLoad(t *testing.T) {
	s, err := Load("tarnwell.yaml")
	if err != nil || s.Rest != 45*time.Minute || s.Assigner != "nearest" {
		t.Fatalf("got %+v, %v", s, err)
	}
}
