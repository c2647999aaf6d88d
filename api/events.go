package api

import (
	"context"
	"net/http"
	"strconv"
	"time"

	"github.com/labstack/echo/v5"

	"pineledger/api/edge"
	"pineledger/app/desk"
	"pineledger/core/roster"
)

// beat keeps a quiet stream from being ended by what stands between.
const beat = 20 * time.Second

// pace is the least time between two things that one watcher is told: a room of thirty who save all the time is looked at
// once a second.
const pace = time.Second

// watch tells that a thing has changed, as take.Watch and panels.Watch do.
type watch func(ctx context.Context, v roster.Viewer, id int64) (changed <-chan struct{}, stop func(), err error)

// serveEvents tells, as server-sent events, that a thing has changed. It says nothing else; who is told looks.
func (s *Server) serveEvents(watch watch) echo.HandlerFunc {
	return func(c *echo.Context) error { return s.tell(c, watch) }
}

func (s *Server) tell(c *echo.Context, watch watch) error {
	ctx := c.Request().Context()
	v, err := edge.Who(ctx)
	if err != nil {
		return err
	}
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return desk.ErrNotFound
	}
	changed, stop, err := watch(ctx, v, id)
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
	var rest <-chan time.Time // while it lasts nothing is told
	listen := changed
	for {
		text := ": still here\n\n"
		select {
		case <-ctx.Done():
			return nil
		case <-s.stopping:
			return nil
		case <-rest:
			rest, listen = nil, changed
			continue
		case <-listen:
			text = "event: changed\ndata: \n\n"
			rest, listen = time.After(pace), nil
		case <-ticker.C:
		}
		if err := send(text); err != nil {
			return nil // they have gone
		}
	}
}
