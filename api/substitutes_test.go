package api_test

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
)

func TestASubstituteSignsInByTheLink(t *testing.T) {
	s := serve(t, true)
	sitting, _, _ := s.openSitting()
	var session struct{ TimeZone string }
	coordinator := s.as(roster.DistrictCoordinator, 0)
	coordinator.get("/api/session", &session)
	zone, err := time.LoadLocation(session.TimeZone)
	require.NoError(t, err)
	var made struct {
		Secret     string
		Substitute struct{ ID int64 }
	}
	path := fmt.Sprintf("/api/sittings/%d/substitutes", sitting.ID)
	status := coordinator.post(path, fmt.Sprintf(`{"name":"Dana Reyes","day":%q,"sittings":[%d]}`, time.Now().In(zone).Format(time.DateOnly), sitting.ID), &made)
	require.Equal(t, http.StatusOK, status)

	c := s.client()
	ask := func(method, secret string) int {
		status, _ := c.do(method, "/api/session/link", fmt.Sprintf(`{"secret":%q}`, secret))
		return status
	}
	wrong := made.Secret[:len(made.Secret)-1] + "_"
	for range 6 {
		assert.Equal(t, http.StatusNotFound, ask(http.MethodPost, wrong))
	}
	assert.Equal(t, http.StatusTooManyRequests, ask(http.MethodPost, wrong), "guessing is slowed down")
	assert.Equal(t, http.StatusOK, ask(http.MethodPut, made.Secret), "of nobody else's link")
	status, _ = c.do(http.MethodGet, "/api/today", "")
	assert.Equal(t, http.StatusUnauthorized, status, "looking at it lets nobody in")
	require.Equal(t, http.StatusOK, ask(http.MethodPost, made.Secret))
	var today struct{ Sittings []struct{ ID int64 } }
	c.get("/api/today", &today)
	require.Len(t, today.Sittings, 1)
	assert.Equal(t, sitting.ID, today.Sittings[0].ID)
	status, _ = c.do(http.MethodGet, "/api/items", "")
	assert.Equal(t, http.StatusForbidden, status, "no item of the bank")

	status, _ = coordinator.do(http.MethodDelete, fmt.Sprintf("%s/%d", path, made.Substitute.ID), "")
	require.Equal(t, http.StatusNoContent, status)
	status, _ = c.do(http.MethodGet, "/api/today", "")
	assert.Equal(t, http.StatusUnauthorized, status, "taken back at once")
	assert.Equal(t, http.StatusNotFound, ask(http.MethodPost, made.Secret))
}
