// Package geo knows where things are and how far apart.
package geo

import (
	"bufio"
	"fmt"
	"os"
	"strings"
)

// Point is a place on the map, in kilometres from the operations room.
type Point struct{ East, North float64 }

// Valleys are the valleys by name.
type Valleys map[string]Point

// LoadValleys reads lines of the form "name: east north".
func LoadValleys(path string) (Valleys, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("reading the valleys: %w", err)
	}
	defer f.Close()
	valleys := Valleys{}
	for s := bufio.NewScanner(f); s.Scan(); {
		line := strings.TrimSpace(s.Text())
		if line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		name, rest, _ := strings.Cut(line, ":")
		var p Point
		if _, err := fmt.Sscan(rest, &p.East, &p.North); err != nil {
			return nil, fmt.Errorf("reading the valley %q: %w", name, err)
		}
		valleys[name] = p
	}
	return valleys, nil
}
