// Package edge stands between the network and the handlers: sessions, limits, headers,
// the contract that requests are held against, and problems in the place of errors.
package edge

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net/http"
	"time"

	"github.com/alexedwards/scs/v2"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/labstack/echo/v5"

	"pineledger/app"
	"pineledger/app/desk"
	"pineledger/core/roster"
)

var (
	errNotSignedIn = errors.New("not signed in")
	ErrTooMany     = errors.New("too many tries")
)

// sessionLifetime is a working day with room; students' devices are shared.
const sessionLifetime = 12 * time.Hour

const personKey = "person"

// A student's session ends when it was not used for so long; after a hand-in sooner,
// for the device goes to the next child. Answers are kept either way.
const (
	studentIdle = 90 * time.Minute
	afterHandIn = 5 * time.Minute
)

// Sessions knows who is signed in at which browser.
type Sessions struct {
	Manager *scs.SessionManager
	used    *lru.Cache[string, time.Time] // by token, until when a student's session is good
	now     func() time.Time
}

// NewSessions knows sessions that are kept in a table; secure cookies travel through TLS alone.
func NewSessions(kept scs.Store, secure bool, now func() time.Time, log *slog.Logger) (*Sessions, error) {
	known, err := lru.New[string, rememberedSession](mostSessions)
	if err != nil {
		return nil, err
	}
	used, err := lru.New[string, time.Time](mostSessions)
	if err != nil {
		return nil, err
	}
	m := scs.New()
	m.Store = &rememberedSessions{kept, known}
	m.ErrorFunc = sessionFault(log)
	m.Codec = personCodec{}
	m.Lifetime = sessionLifetime
	m.HashTokenInStore = true
	m.Cookie = scs.SessionCookie{Name: cookieName(secure), HttpOnly: true, Path: "/", Persist: true, SameSite: http.SameSiteLaxMode, Secure: secure}
	return &Sessions{m, used, now}, nil
}

// cookieName of a session. Browsers take the prefix __Host- from secure pages alone,
// and let no other host of the domain set such a cookie.
func cookieName(secure bool) string {
	if secure {
		return "__Host-pineledger"
	}
	return "pineledger"
}

// personCodec writes the one thing that a session holds. The library's own codec
// can hold anything, at a quarter of the server's time where hundreds save at once.
type personCodec struct{}

type keptSession struct {
	Deadline time.Time `json:"deadline"`
	Person   int64     `json:"person,omitempty"`
}

func (personCodec) Encode(deadline time.Time, values map[string]any) ([]byte, error) {
	person, _ := values[personKey].(int64)
	return json.Marshal(keptSession{deadline, person})
}

func (personCodec) Decode(data []byte) (time.Time, map[string]any, error) {
	var kept keptSession
	if err := json.Unmarshal(data, &kept); err != nil {
		return time.Time{}, nil, err
	}
	values := map[string]any{}
	if kept.Person != 0 {
		values[personKey] = kept.Person
	}
	return kept.Deadline, values, nil
}

type viewerKey struct{}

// Viewer finds out who asks. Operations that need nobody look at it themselves.
func (s *Sessions) Viewer(a *app.App) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			ctx := context.WithValue(c.Request().Context(), remoteKey{}, c.RealIP())
			c.SetRequest(c.Request().WithContext(ctx))
			person := s.Manager.GetInt64(ctx, personKey)
			if person == 0 {
				return next(c)
			}
			v, err := a.Viewer(ctx, person)
			if errors.Is(err, desk.ErrNotFound) {
				return next(c) // left the roster meanwhile
			}
			if err != nil {
				return err
			}
			if v.IsStudent() && !v.IsStaff() {
				if !s.stillUsed(ctx) {
					return errors.Join(s.Manager.Destroy(ctx), next(c))
				}
			}
			c.SetRequest(c.Request().WithContext(context.WithValue(ctx, viewerKey{}, v)))
			return next(c)
		}
	}
}

func Who(ctx context.Context) (roster.Viewer, error) {
	v, ok := ctx.Value(viewerKey{}).(roster.Viewer)
	if !ok {
		return v, errNotSignedIn
	}
	return v, nil
}

type managedKey struct{}

// DeviceHeader is where a managed device says that it is one.
const DeviceHeader = "Pine-Ledger-Device"

// Devices notes whether a request comes from a device that the district manages, by what it says and how that is signed.
func Devices(managed func(said string) bool) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			if said := c.Request().Header.Get(DeviceHeader); said != "" && managed(said) {
				c.SetRequest(c.Request().WithContext(context.WithValue(c.Request().Context(), managedKey{}, true)))
			}
			return next(c)
		}
	}
}

// Managed tells whether a request comes from a device that the district manages.
func Managed(ctx context.Context) bool {
	managed, _ := ctx.Value(managedKey{}).(bool)
	return managed
}

// stillUsed tells whether a student's session has not been idle for too long, and counts
// from now on again.
func (s *Sessions) stillUsed(ctx context.Context) bool {
	token, now := s.Manager.Token(ctx), s.now()
	until, known := s.used.Get(token)
	if known && !now.Before(until) {
		return false
	}
	s.used.Add(token, now.Add(studentIdle))
	return true
}

// HandedIn lets a student's session end soon, unless it is used again.
func (s *Sessions) HandedIn(ctx context.Context) {
	s.used.Add(s.Manager.Token(ctx), s.now().Add(afterHandIn))
}

// Begin starts a session under a new token.
func (s *Sessions) Begin(ctx context.Context, v roster.Viewer) error {
	if err := s.Manager.RenewToken(ctx); err != nil {
		return err
	}
	s.Manager.Put(ctx, personKey, v.PersonID)
	return nil
}

// rememberedSessions keeps sessions in memory before the table, so that a
// student's save does not read it. There is one process, so both always agree.
type rememberedSessions struct {
	kept  scs.Store
	known *lru.Cache[string, rememberedSession]
}

type rememberedSession struct {
	data    []byte
	expires time.Time
}

const mostSessions = 100_000

func (r *rememberedSessions) Find(token string) ([]byte, bool, error) {
	if known, ok := r.known.Get(token); ok {
		return known.data, time.Now().Before(known.expires), nil
	}
	data, found, err := r.kept.Find(token)
	if found && err == nil {
		// Its end is in its data too, which the manager checks.
		r.known.Add(token, rememberedSession{data, time.Now().Add(sessionLifetime)})
	}
	return data, found, err
}

func (r *rememberedSessions) Commit(token string, data []byte, expires time.Time) error {
	if err := r.kept.Commit(token, data, expires); err != nil {
		return err
	}
	r.known.Add(token, rememberedSession{data, expires})
	return nil
}

func (r *rememberedSessions) Delete(token string) error {
	r.known.Add(token, rememberedSession{}) // over, also before the table says so
	return r.kept.Delete(token)
}
