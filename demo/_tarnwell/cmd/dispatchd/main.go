// Command dispatchd is the dispatch service.
package main

import (
	"errors"
	"flag"
	"log"
	"net/http"
	"time"

	"tarnwell/config"
	"tarnwell/dispatch"
	"tarnwell/geo"
	"tarnwell/server"
	"tarnwell/store"
)

func main() {
	path := flag.String("config", "config/tarnwell.yaml", "settings")
	flag.Parse()
	if err := run(*path); err != nil {
		log.Fatal(err)
	}
}

// run builds the service from its settings and serves until it fails.
func run(path string) error {
	settings, err := config.Load(path)
	if err != nil {
		return err
	}
	valleys, err := geo.LoadValleys(settings.Valleys)
	if err != nil {
		return err
	}
	keep, err := openStore(settings)
	if err != nil {
		return err
	}
	roster := dispatch.NewRoster(valleys, dispatch.DefaultTeams())
	roster.RestTime = settings.Rest
	desk := dispatch.NewDesk(chooseAssigner(settings, roster), keep)
	desk.Releaser = roster
	srv := &http.Server{
		Addr:              settings.Listen,
		Handler:           server.New(desk, roster),
		ReadHeaderTimeout: 5 * time.Second,
	}
	log.Printf("listening on %s", settings.Listen)
	return srv.ListenAndServe()
}

func openStore(settings config.Settings) (store.Store, error) {
	if settings.Store == "" {
		return store.NewMemory(), nil
	}
	keep, err := store.OpenFile(settings.Store)
	if errors.Is(err, store.ErrCorrupt) {
		log.Printf("%s is damaged; beginning with an empty one", settings.Store)
		return store.NewMemory(), nil
	}
	return keep, err
}

// chooseAssigner picks the one that the settings name.
func chooseAssigner(settings config.Settings, roster *dispatch.Roster) dispatch.Assigner {
	night := dispatch.Night{Begins: settings.NightBegins, Ends: settings.NightEnds}
	switch settings.Assigner {
	case "rotation":
		return dispatch.NewRotation(roster)
	case "pinned":
		return &dispatch.Pinned{Fallback: roster}
	default:
		return &dispatch.ByHour{Night: night, ByDay: roster, ByNight: dispatch.NewRotation(roster), Now: time.Now}
	}
}
