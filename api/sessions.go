package api

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"sync"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/labstack/echo/v5"
	"golang.org/x/time/rate"

	"pineledger/app"
	"pineledger/core/roster"
	"pineledger/store"
)

var (
	errNotSignedIn = errors.New("not signed in")
	errTooMany     = errors.New("too many tries")
)

// sessionLifetime is a working day with room; students' devices are shared.
const sessionLifetime = 12 * time.Hour

const personKey = "person"

type sessions struct {
	manager *scs.SessionManager
	kept    *sqlite3store.SQLite3Store
}

func newSessions(s *store.Store, secure bool) *sessions {
	kept := sqlite3store.NewWithCleanupInterval(s.SessionDB(), 30*time.Minute)
	m := scs.New()
	m.Store = &rememberedSessions{kept: kept, known: map[string]rememberedSession{}}
	m.Codec = personCodec{}
	m.Lifetime = sessionLifetime
	m.HashTokenInStore = true
	m.Cookie = scs.SessionCookie{Name: "pineledger", HttpOnly: true, Path: "/", Persist: true, SameSite: http.SameSiteLaxMode, Secure: secure}
	return &sessions{m, kept}
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

func (s *sessions) close() { s.kept.StopCleanup() }

type viewerKey struct{}

// viewer finds out who asks. Operations that need nobody look at it themselves.
func (s *sessions) viewer(a *app.App) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			ctx := context.WithValue(c.Request().Context(), remoteKey{}, c.Request().RemoteAddr)
			c.SetRequest(c.Request().WithContext(ctx))
			person := s.manager.GetInt64(ctx, personKey)
			if person == 0 {
				return next(c)
			}
			v, err := a.Viewer(ctx, person)
			if errors.Is(err, app.ErrNotFound) {
				return next(c) // left the roster meanwhile
			}
			if err != nil {
				return err
			}
			c.SetRequest(c.Request().WithContext(context.WithValue(ctx, viewerKey{}, v)))
			return next(c)
		}
	}
}

func who(ctx context.Context) (roster.Viewer, error) {
	v, ok := ctx.Value(viewerKey{}).(roster.Viewer)
	if !ok {
		return v, errNotSignedIn
	}
	return v, nil
}

// begin starts a session under a new token.
func (s *sessions) begin(ctx context.Context, v roster.Viewer) error {
	if err := s.manager.RenewToken(ctx); err != nil {
		return err
	}
	s.manager.Put(ctx, personKey, v.PersonID)
	return nil
}

// rememberedSessions keeps sessions in memory before the table, so that a
// student's save does not read it. There is one process, so both always agree.
type rememberedSessions struct {
	kept  *sqlite3store.SQLite3Store
	mu    sync.RWMutex
	known map[string]rememberedSession
}

type rememberedSession struct {
	data    []byte
	expires time.Time
}

const mostRemembered = 100_000

func (r *rememberedSessions) Find(token string) ([]byte, bool, error) {
	r.mu.RLock()
	known, ok := r.known[token]
	r.mu.RUnlock()
	if ok {
		return known.data, time.Now().Before(known.expires), nil
	}
	data, found, err := r.kept.Find(token)
	if found && err == nil {
		// Its end is in its data too, which the manager checks.
		r.remember(token, data, time.Now().Add(sessionLifetime))
	}
	return data, found, err
}

func (r *rememberedSessions) remember(token string, data []byte, expires time.Time) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if len(r.known) >= mostRemembered {
		clear(r.known)
	}
	r.known[token] = rememberedSession{data, expires}
}

func (r *rememberedSessions) Commit(token string, data []byte, expires time.Time) error {
	if err := r.kept.Commit(token, data, expires); err != nil {
		return err
	}
	r.remember(token, data, expires)
	return nil
}

func (r *rememberedSessions) Delete(token string) error {
	r.mu.Lock()
	delete(r.known, token)
	r.mu.Unlock()
	return r.kept.Delete(token)
}

// limits slow down guessing at the door: a few tries a name, and many more an
// address, since a whole school comes from one.
type limits struct {
	mu      sync.Mutex
	byName  map[string]*rate.Limiter
	byPlace map[string]*rate.Limiter
}

const mostLimiters = 50_000

func newLimits() *limits {
	return &limits{byName: map[string]*rate.Limiter{}, byPlace: map[string]*rate.Limiter{}}
}

func (l *limits) allow(name, place string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.byName)+len(l.byPlace) > mostLimiters {
		clear(l.byName)
		clear(l.byPlace)
	}
	return limiter(l.byName, name, rate.Every(12*time.Second), 6).Allow() && limiter(l.byPlace, place, 20, 600).Allow()
}

func limiter(in map[string]*rate.Limiter, key string, every rate.Limit, burst int) *rate.Limiter {
	found, ok := in[key]
	if !ok {
		found = rate.NewLimiter(every, burst)
		in[key] = found
	}
	return found
}
