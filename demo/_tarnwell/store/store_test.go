package store

import (
	"errors"
	"path/filepath"
	"testing"

	"tarnwell/dispatch"
)

func TestStores(t *testing.T) {
	file, err := OpenFile(filepath.Join(t.TempDir(), "callouts.json"))
	if err != nil {
		t.Fatal(err)
	}
	for name, s := range map[string]Store{"memory": NewMemory(), "file": file} {
		t.Run(name, func(t *testing.T) { checkStore(t, s) })
	}
	again, err := OpenFile(file.path)
	if err != nil {
		t.Fatal(err)
	}
	if all, _ := again.All(); len(all) != 1 {
		t.Fatalf("got %d call-outs back", len(all))
	}
}

func checkStore(t *testing.T, s Store) {
	c, err := s.Save(dispatch.Callout{Valley: "tarn"})
	if err != nil || c.ID == 0 {
		t.Fatalf("got %+v, %v", c, err)
	}
	c.Note = "found, cold but well"
	if _, err := s.Save(c); err != nil {
		t.Fatal(err)
	}
	back, err := s.Load(c.ID)
	if err != nil || back.Note != c.Note {
		t.Fatalf("got %+v, %v", back, err)
	}
	if _, err := s.Load(99); !errors.Is(err, ErrNotFound) {
		t.Fatalf("got %v", err)
	}
}
