// Package api serves the contract in openapi.yaml, sessions and the web part.
// Handlers only translate between the contract and the use cases.
package api

import (
	"cmp"
	"context"
	"errors"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app"
	"pineledger/formats/pdf"
)

// Config is what a Server is made of.
type Config struct {
	App      *app.App
	Sessions scs.Store // where sessions are kept
	Web      fs.FS     // the built web part
	// Demo offers people to sign in as without a secret. Never on where real people are.
	Demo bool
	// Mailbox is where the mail of the demo can be read; "" where it is sent.
	Mailbox string
	// Secure marks cookies for HTTPS only; off where the demo is served on 127.0.0.1.
	Secure bool
	// Proxies are the addresses of the proxies before the server, whose word on where a
	// request comes from is taken. Without any, each request comes from who connects.
	Proxies []netip.Prefix
	// BodyTime is how long the body of a request may take to come, and a second more for
	// each MiB of its limit; 0 is 20 seconds.
	BodyTime time.Duration
	Log      *slog.Logger
}

// Server answers HTTP. Close it when done.
type Server struct {
	handler  http.Handler
	sessions *edge.Sessions
	app      *app.App
	log      *slog.Logger
	stopping chan struct{} // closed when streams are to end
}

// Bounds on requests. An import's body is streamed to a file.
const (
	mostBody       = 2 << 20
	mostImportBody = 1 << 30
)

// New makes a server.
func New(c Config) (*Server, error) {
	if c.Log == nil {
		c.Log = slog.Default()
	}
	requests, err := edge.NewRequests()
	if err != nil {
		return nil, err
	}
	pages, err := edge.NewPages(c.Web)
	if err != nil {
		return nil, err
	}
	sessions, err := edge.NewSessions(c.Sessions, c.Secure, c.App.Now, c.Log)
	if err != nil {
		return nil, err
	}
	s := &Server{sessions: sessions, app: c.App, log: c.Log, stopping: make(chan struct{})}
	e := echo.New()
	e.HTTPErrorHandler = edge.ProblemHandler(c.Log)
	e.IPExtractor = edge.Addresses(c.Proxies)
	e.Use(middleware.Recover(), edge.SecurityHeaders(c.Secure))

	bodies := func(next echo.HandlerFunc) echo.HandlerFunc {
		return bounded(cmp.Or(c.BodyTime, usualBodyTime), next)
	}
	group := e.Group("/api", bodies, s.sessions.Viewer(c.App), edge.Devices(c.App.ManagedDevice), requests.Validate)
	contract.RegisterHandlers(group, contract.NewStrictHandler(newHandlers(c.App, s.sessions, c.Demo, c.Mailbox), nil))
	e.GET("/api/openapi.json", requests.Serve)
	e.GET("/events/sittings/:id", s.serveEvents(c.App.Take.Watch), s.sessions.Viewer(c.App))
	e.GET("/events/panels/:id", s.serveEvents(c.App.Panels.Watch), s.sessions.Viewer(c.App))
	e.GET("/media/:hash", s.serveMedia, s.sessions.Viewer(c.App))
	e.GET("/documents/:hash", s.serveDocument, s.sessions.Viewer(c.App))
	e.GET("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	e.GET("/*", pages.Serve, middleware.Gzip())

	// Browsers say where a request comes from; one from another site is refused (CSRF).
	s.handler = http.NewCrossOriginProtection().Handler(edge.Once(s.sessions.Manager.LoadAndSave(e)))
	return s, nil
}

// Handler is the whole server as one handler.
func (s *Server) Handler() http.Handler { return s.handler }

// tick is how often attempts whose time is over are looked for.
const tick = 5 * time.Second

// Serve answers on a listener until the context ends, then lets requests finish.
func (s *Server) Serve(ctx context.Context, listener net.Listener) error {
	server := &http.Server{Handler: s.handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, ErrorLog: slog.NewLogLogger(s.log.Handler(), slog.LevelWarn)}
	go s.watchClocks(ctx)
	go s.deliver(ctx)
	stopped := make(chan error, 1)
	go func() {
		<-ctx.Done()
		close(s.stopping)
		graceful, cancel := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
		defer cancel()
		stopped <- server.Shutdown(graceful)
	}()
	if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return <-stopped
}

func (s *Server) watchClocks(ctx context.Context) {
	everyTick(ctx, func() {
		if err := s.app.Take.Tick(ctx); err != nil && ctx.Err() == nil {
			s.log.Error("watching clocks", "error", err)
		}
		if err := s.app.Record.PutAnchor(ctx); err != nil && ctx.Err() == nil {
			s.log.Error("anchoring the ledger", "error", err)
		}
	})
}

// deliver hands mail on beside the clocks, which no slow mail server may hold up.
func (s *Server) deliver(ctx context.Context) {
	everyTick(ctx, func() {
		for sent := 1; sent > 0; {
			var err error
			if sent, err = s.app.Office.Deliver(ctx); err != nil && ctx.Err() == nil {
				s.log.Error("handing mail on", "error", err)
			}
			if err != nil {
				return
			}
		}
	})
}

// everyTick does something again and again until the context ends, never twice at once.
func everyTick(ctx context.Context, do func()) {
	ticker := time.NewTicker(tick)
	defer ticker.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
			do()
		}
	}
}

const (
	usualBodyTime = 20 * time.Second
	slowest       = 1 << 20 // bytes a second of a large body
)

// timedBody lets the connection live on as it was when the whole body has come.
type timedBody struct {
	io.ReadCloser
	control *http.ResponseController
}

func (b *timedBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if errors.Is(err, io.EOF) {
		if deadlineErr := b.control.SetReadDeadline(time.Time{}); deadlineErr != nil {
			return n, deadlineErr
		}
	}
	return n, err
}

// bounded bounds what a body holds and how long it may take.
func bounded(bodyTime time.Duration, next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		limit := int64(mostBody)
		switch {
		case r.URL.Path == "/api/imports":
			limit = mostImportBody
		case r.URL.Path == "/api/media":
			limit = mostMedia
		case strings.HasPrefix(r.URL.Path, "/api/assessments/") && strings.HasSuffix(r.URL.Path, "/document"):
			limit = pdf.MostBytes + 1<<20 // what is a little too large gets the better words of who reads it
		}
		r.Body = http.MaxBytesReader(c.Response(), r.Body, limit)
		if r.ContentLength == 0 {
			return next(c)
		}
		// A body that does not come is not waited for; the time for a large one is longer.
		control := http.NewResponseController(c.Response())
		if err := control.SetReadDeadline(time.Now().Add(bodyTime + time.Duration(limit/slowest)*time.Second)); err != nil {
			return err
		}
		r.Body = &timedBody{r.Body, control}
		return next(c)
	}
}
