// Package api serves the contract in openapi.yaml, sessions and the web part.
// Handlers only translate between the contract and the use cases.
package api

import (
	"context"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"pineledger/app"
	"pineledger/formats/pdf"
	"pineledger/store"
)

// Config is what a Server is made of.
type Config struct {
	App   *app.App
	Store *store.Store // keeps the sessions
	Web   fs.FS        // the built web part
	// Demo offers people to sign in as without a secret. Never on where real people are.
	Demo bool
	// Secure marks cookies for HTTPS only; off where the demo is served on 127.0.0.1.
	Secure bool
	Log    *slog.Logger
}

// Server answers HTTP. Close it when done.
type Server struct {
	handler  http.Handler
	sessions *sessions
	app      *app.App
	log      *slog.Logger
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
	contract, err := newContract()
	if err != nil {
		return nil, err
	}
	pages, err := newPages(c.Web)
	if err != nil {
		return nil, err
	}
	s := &Server{sessions: newSessions(c.Store, c.Secure), app: c.App, log: c.Log}
	e := echo.New()
	e.HTTPErrorHandler = problemHandler(c.Log)
	e.Use(middleware.Recover(), securityHeaders)

	group := e.Group("/api", bodyLimit, s.sessions.viewer(c.App), contract.validate)
	RegisterHandlers(group, NewStrictHandler(&handlers{app: c.App, sessions: s.sessions, demo: c.Demo, limits: newLimits()}, nil))
	e.GET("/api/openapi.json", contract.serve)
	e.GET("/media/:hash", s.serveMedia, s.sessions.viewer(c.App))
	e.GET("/documents/:hash", s.serveDocument, s.sessions.viewer(c.App))
	e.GET("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	e.GET("/*", pages.serve, middleware.Gzip())

	// Browsers say where a request comes from; one from another site is refused (CSRF).
	s.handler = http.NewCrossOriginProtection().Handler(s.sessions.manager.LoadAndSave(e))
	return s, nil
}

// Handler is the whole server as one handler.
func (s *Server) Handler() http.Handler { return s.handler }

// Close stops what runs beside requests.
func (s *Server) Close() { s.sessions.close() }

// tick is how often attempts whose time is over are looked for.
const tick = 5 * time.Second

// Serve answers on a listener until the context ends, then lets requests finish.
func (s *Server) Serve(ctx context.Context, listener net.Listener) error {
	server := &http.Server{Handler: s.handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, ErrorLog: slog.NewLogLogger(s.log.Handler(), slog.LevelWarn)}
	go s.watchClocks(ctx)
	stopped := make(chan error, 1)
	go func() {
		<-ctx.Done()
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
	ticker := time.NewTicker(tick)
	defer ticker.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
			if err := s.app.Tick(ctx); err != nil && ctx.Err() == nil {
				s.log.Error("watching clocks", "error", err)
			}
		}
	}
}

func bodyLimit(next echo.HandlerFunc) echo.HandlerFunc {
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
		return next(c)
	}
}

func securityHeaders(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cache-Control", "no-store")
		return next(c)
	}
}
