package server

import (
	"encoding/json"
	"errors"
	"net/http"
	"strconv"

	"tarnwell/dispatch"
	"tarnwell/store"
)

// openRequest is what the board sends to open a call-out.
type openRequest struct {
	Valley string           `json:"valley"`
	Needs  []dispatch.Skill `json:"needs"`
	Note   string           `json:"note"`
}

func (s *Server) handleOpen(w http.ResponseWriter, r *http.Request) {
	var req openRequest
	if err := json.NewDecoder(r.Body).Decode(&req); err != nil || req.Valley == "" {
		fail(w, http.StatusBadRequest, "name the valley")
		return
	}
	c, err := s.desk.Open(req.Valley, req.Needs, req.Note)
	switch {
	case errors.Is(err, dispatch.ErrNoTeam):
		reply(w, http.StatusAccepted, c) // it is open, and waits for a team
	case err != nil:
		fail(w, http.StatusInternalServerError, err.Error())
	default:
		reply(w, http.StatusCreated, c)
	}
}

func (s *Server) handleClose(w http.ResponseWriter, r *http.Request) {
	id, err := strconv.Atoi(r.PathValue("id"))
	if err != nil {
		fail(w, http.StatusBadRequest, "name the call-out by its number")
		return
	}
	c, err := s.desk.Close(id)
	var state *dispatch.StateError
	switch {
	case errors.As(err, &state):
		fail(w, http.StatusConflict, state.Error())
	case errors.Is(err, store.ErrNotFound):
		fail(w, http.StatusNotFound, err.Error())
	case err != nil:
		fail(w, http.StatusInternalServerError, err.Error())
	default:
		reply(w, http.StatusOK, c)
	}
}

func (s *Server) handleWaiting(w http.ResponseWriter, _ *http.Request) {
	waiting, err := s.desk.Waiting()
	if err != nil {
		fail(w, http.StatusInternalServerError, err.Error())
		return
	}
	reply(w, http.StatusOK, waiting)
}

func (s *Server) handleTeams(w http.ResponseWriter, _ *http.Request) {
	reply(w, http.StatusOK, s.roster.Teams())
}

// fail tells the board what went wrong, in words it can show.
func fail(w http.ResponseWriter, status int, words string) {
	reply(w, status, map[string]string{"error": words})
}
