package main

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"os"

	"rooktrail/internal/core/place"
)

// told is what another compiler says about one name.
type told struct{ Query, Target string }

// compareTold compares definitions with what a file says of them.
func compareTold(s settings, file, dir string) error {
	ws, err := open(s, dir)
	if err != nil {
		return err
	}
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	wanted := sampler(s.share)
	t := tally{left: s.verbose}
	for scan := bufio.NewScanner(f); scan.Scan(); {
		var line told
		if err := json.Unmarshal(scan.Bytes(), &line); err != nil {
			return fmt.Errorf("reading %s: %w", file, err)
		}
		if !wanted() {
			continue
		}
		at, want := place.Split(line.Query), place.Split(line.Target)
		doc, err := ws.Load(context.Background(), at.Path)
		if err != nil {
			continue
		}
		_, spots := ws.Definition(context.Background(), at.Path, doc.Text.Offset(at.Line, at.Col))
		if wrong := t.compare(want, spots); wrong != "" && t.left > 0 {
			t.left--
			fmt.Printf("%s is at %s; got %s\n    %s\n", at, want, wrong, doc.Text.Line(at.Line))
		}
	}
	t.print("definition")
	return nil
}
