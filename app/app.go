// Package app holds the use cases, one file a step of the job. Each checks the
// right of who asks, calls the core, stores, and writes the ledger entry, all in
// one transaction.
package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"strings"
	"sync"
	"time"

	"pineledger/core/form"
	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/store"
)

// App is the application over one open store. It is safe for concurrent use.
type App struct {
	store  *store.Store
	secret []byte
	now    func() time.Time
	log    *slog.Logger

	forms   *cache[int64, form.Form] // sealed, so never stale
	viewers *cache[int64, roster.Viewer]
	live    *liveAttempts
	jobs    *importJobs
	draws   *drawJobs
	present *presences
}

// Config is what an App is made of. Secret keys the hashes of PINs and row
// digests and must be the same for one database for good.
type Config struct {
	Store  *store.Store
	Secret []byte
	Now    func() time.Time // nil: the system's clock
	Log    *slog.Logger     // nil: the default logger
}

// New makes the application. Imports and draws that a stopped program left are ended.
func New(ctx context.Context, c Config) (*App, error) {
	if len(c.Secret) < 32 {
		return nil, errors.New("the secret needs 32 bytes at least")
	}
	a := &App{store: c.Store, secret: c.Secret, now: c.Now, log: c.Log,
		forms: newCache[int64, form.Form](200), viewers: newCache[int64, roster.Viewer](20_000), live: newLiveAttempts(), jobs: newImportJobs(), draws: newDrawJobs(), present: newPresences()}
	if a.now == nil {
		a.now = time.Now
	}
	if a.log == nil {
		a.log = slog.Default()
	}
	return a, a.store.Write(ctx, func(tx *store.Tx) error { return errors.Join(tx.AbandonImports(ctx), tx.AbandonDraws(ctx)) })
}

// ErrNotFound is given for what does not exist for who asks.
var ErrNotFound = store.ErrNotFound

// ErrForbidden is given where the role of who asks does not do such a thing at all.
var ErrForbidden = errors.New("your role does not do this")

// FieldError is one thing wrong with an input, at a JSON pointer, in words that a
// person can act on.
type FieldError struct{ Pointer, Message string }

// InvalidError lists what is wrong with an input; nothing was changed.
type InvalidError struct{ Fields []FieldError }

func (e *InvalidError) Error() string {
	var out []string
	for _, f := range e.Fields {
		out = append(out, f.Message)
	}
	return strings.Join(out, " ")
}

// invalid makes an InvalidError of one field.
func invalid(pointer, format string, args ...any) error {
	return &InvalidError{[]FieldError{{pointer, fmt.Sprintf(format, args...)}}}
}

// ConflictError says why the state of things does not allow an act now.
type ConflictError struct{ Detail string }

func (e *ConflictError) Error() string { return e.Detail }

func conflict(format string, args ...any) error { return &ConflictError{fmt.Sprintf(format, args...)} }

// act is what a use case did, for its ledger entry.
type act struct {
	name    string // "assessment.seal"
	thing   string
	id      int64
	title   string
	before  any // marshalled; nil for nothing
	after   any
	at      time.Time // zero: now
	noActor bool      // done by the program, not by who is looking
}

// record writes the ledger entry of an act inside its transaction.
func (a *App) record(ctx context.Context, tx *store.Tx, v roster.Viewer, d act) error {
	e := ledger.Entry{At: d.at, ActorID: v.PersonID, Actor: v.Name, Act: d.name, Thing: d.thing, ThingID: d.id, Title: d.title}
	if d.at.IsZero() {
		e.At = a.now()
	}
	if d.noActor {
		e.ActorID, e.Actor = 0, "Pine Ledger"
	}
	var err error
	if e.Before, err = note(d.before); err != nil {
		return err
	}
	if e.After, err = note(d.after); err != nil {
		return err
	}
	return tx.Record(ctx, e)
}

func note(v any) (string, error) {
	if v == nil {
		return "", nil
	}
	data, err := json.Marshal(v)
	return string(data), err
}

// Viewer gives who a signed-in person is, from memory while rosters stay as they are.
func (a *App) Viewer(ctx context.Context, person int64) (roster.Viewer, error) {
	return a.viewers.get(person, func() (roster.Viewer, error) { return a.store.Viewer(ctx, person) })
}

// formByID gives a sealed form, read once.
func (a *App) formByID(ctx context.Context, id int64) (form.Form, error) {
	return a.forms.get(id, func() (form.Form, error) {
		row, err := a.store.FormByID(ctx, id)
		if err != nil {
			return form.Form{}, err
		}
		return form.Read([]byte(row.Document))
	})
}

// District gives the district's name, zone and year.
func (a *App) District(ctx context.Context) (store.District, error) {
	d, err := a.store.District(ctx)
	if errors.Is(err, ErrNotFound) {
		return store.District{Name: "No roster yet", TimeZone: "UTC"}, nil
	}
	return d, err
}

// zone is the district's time zone.
func (a *App) zone(ctx context.Context) (*time.Location, error) {
	d, err := a.District(ctx)
	if err != nil {
		return nil, err
	}
	return time.LoadLocation(d.TimeZone)
}

// cache keeps values that are costly to read. At its size it starts over, which
// is simple and bounds memory.
type cache[K comparable, V any] struct {
	mu     sync.RWMutex
	most   int
	values map[K]V
}

func newCache[K comparable, V any](most int) *cache[K, V] {
	return &cache[K, V]{most: most, values: map[K]V{}}
}

func (c *cache[K, V]) get(key K, load func() (V, error)) (V, error) {
	c.mu.RLock()
	v, ok := c.values[key]
	c.mu.RUnlock()
	if ok {
		return v, nil
	}
	v, err := load()
	if err != nil {
		return v, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if len(c.values) >= c.most {
		clear(c.values)
	}
	c.values[key] = v
	return v, nil
}

func (c *cache[K, V]) clear() {
	c.mu.Lock()
	defer c.mu.Unlock()
	clear(c.values)
}
