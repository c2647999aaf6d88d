package api

import (
	"net/http"
	"strconv"
	"time"

	"github.com/labstack/echo/v5"

	"pineledger/api/edge"
	"pineledger/app/desk"
)

// beat keeps a quiet stream from being ended by what stands between.
const beat = 20 * time.Second

// serveEvents tells, as server-sent events, that a sitting has changed: its door was
// moved, or one's own attempt was handed in. It says nothing else; who is told looks.
func (s *Server) serveEvents(c *echo.Context) error {
	ctx := c.Request().Context()
	v, err := edge.Who(ctx)
	if err != nil {
		return err
	}
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return desk.ErrNotFound
	}
	changed, stop, err := s.app.Take.Watch(ctx, v, id)
	if err != nil {
		return err
	}
	defer stop()
	c.Response().Header().Set("Content-Type", "text/event-stream")
	c.Response().WriteHeader(http.StatusOK)
	out := http.NewResponseController(c.Response())
	send := func(text string) error {
		if _, err := c.Response().Write([]byte(text)); err != nil {
			return err
		}
		return out.Flush()
	}
	if err := send("retry: 2000\n\n"); err != nil {
		return err
	}
	ticker := time.NewTicker(beat)
	defer ticker.Stop()
	for {
		text := ": still here\n\n"
		select {
		case <-ctx.Done():
			return nil
		case <-s.stopping:
			return nil
		case <-changed:
			text = "event: changed\ndata: \n\n"
		case <-ticker.C:
		}
		if err := send(text); err != nil {
			return nil // they have gone
		}
	}
}
