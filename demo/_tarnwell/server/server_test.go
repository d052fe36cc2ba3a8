package server

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"tarnwell/dispatch"
	"tarnwell/geo"
	"tarnwell/store"
)

func TestOpenAndCloseOverHTTP(t *testing.T) {
	roster := dispatch.NewRoster(geo.Valleys{"tarn": {}}, dispatch.DefaultTeams())
	desk := dispatch.NewDesk(roster, store.NewMemory())
	desk.Releaser = roster
	s := New(desk, roster)
	for _, step := range []struct {
		method, path, body string
		want               int
	}{
		{"POST", "/callouts", `{"valley":"tarn","needs":["rope"]}`, http.StatusCreated},
		{"POST", "/callouts", `{}`, http.StatusBadRequest},
		{"POST", "/callouts/1/close", "", http.StatusOK},
		{"POST", "/callouts/1/close", "", http.StatusConflict},
		{"POST", "/callouts/9/close", "", http.StatusNotFound},
		{"GET", "/teams", "", http.StatusOK},
	} {
		w := httptest.NewRecorder()
		s.ServeHTTP(w, httptest.NewRequest(step.method, step.path, strings.NewReader(step.body)))
		if w.Code != step.want {
			t.Fatalf("%s %s gave %d: %s", step.method, step.path, w.Code, w.Body)
		}
	}
}
