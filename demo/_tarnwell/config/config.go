// Package config reads the settings of the dispatch service.
package config

import (
	"bufio"
	"fmt"
	"os"
	"strconv"
	"strings"
	"time"
)

// Settings are the settings of the dispatch service.
type Settings struct {
	Listen      string
	Store       string
	Assigner    string
	Rest        time.Duration
	NightBegins int
	NightEnds   int
	Valleys     string
}

// Default is what holds if a setting is left out.
func Default() Settings {
	return Settings{Listen: ":8470", Assigner: "nearest", Rest: 45 * time.Minute, NightBegins: 22, NightEnds: 6, Valleys: "config/valleys.yaml"}
}

// Load reads settings of the form "name: value", one a line.
func Load(path string) (Settings, error) {
	s := Default()
	f, err := os.Open(path)
	if err != nil {
		return s, fmt.Errorf("reading the settings: %w", err)
	}
	defer f.Close()
	scanner := bufio.NewScanner(f)
	for n := 1; scanner.Scan(); n++ {
		line, _, _ := strings.Cut(scanner.Text(), "#")
		name, value, ok := strings.Cut(strings.TrimSpace(line), ": ")
		if !ok {
			continue
		}
		if err := s.set(name, strings.TrimSpace(value)); err != nil {
			return s, fmt.Errorf("%s:%d: %w", path, n, err)
		}
	}
	return s, scanner.Err()
}

// set changes one setting.
func (s *Settings) set(name, value string) (err error) {
	switch name {
	case "listen":
		s.Listen = value
	case "store":
		s.Store = value
	case "assigner":
		s.Assigner = value
	case "valleys":
		s.Valleys = value
	case "rest_minutes":
		var minutes int
		minutes, err = strconv.Atoi(value)
		s.Rest = time.Duration(minutes) * time.Minute
	case "night_begins":
		s.NightBegins, err = strconv.Atoi(value)
	case "night_ends":
		s.NightEnds, err = strconv.Atoi(value)
	default:
		err = fmt.Errorf("there is no setting %q", name)
	}
	return err
}
