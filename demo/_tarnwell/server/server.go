// Package server lets the board talk to the dispatch service.
package server

import (
	"encoding/json"
	"log"
	"net/http"

	"tarnwell/dispatch"
)

// Server answers the board.
type Server struct {
	desk   *dispatch.Desk
	roster *dispatch.Roster
	mux    *http.ServeMux
}

// New makes the server and its routes.
func New(desk *dispatch.Desk, roster *dispatch.Roster) *Server {
	s := &Server{desk: desk, roster: roster, mux: http.NewServeMux()}
	s.routes()
	return s
}

// ServeHTTP implements http.Handler.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	s.mux.ServeHTTP(w, r)
}

func (s *Server) routes() {
	s.mux.HandleFunc("GET /callouts", s.handleWaiting)
	s.mux.HandleFunc("POST /callouts", s.handleOpen)
	s.mux.HandleFunc("POST /callouts/{id}/close", s.handleClose)
	s.mux.HandleFunc("GET /teams", s.handleTeams)
}

// reply writes a value as JSON.
func reply(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	if err := json.NewEncoder(w).Encode(v); err != nil {
		log.Printf("replying: %v", err)
	}
}
