// Package desk holds what every room of the application shares: who asks and
// what they may see, errors in words, the ledger entry of an act, the district's
// zone and its vocabulary.
package desk

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"strings"
	"time"

	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/run/aside"
	"pineledger/run/jobs"
	"pineledger/run/post"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/cutrows"
	"pineledger/store/officerows"
	"pineledger/store/recordrows"
)

// Desk is what every room works at. It is safe for concurrent use.
type Desk struct {
	Store *store.Store
	Now   func() time.Time
	Log   *slog.Logger
	Jobs  *jobs.Runner
	// Aside reads files of strangers in a process of its own; nil: here.
	Aside *aside.Program
	// Mail takes to mailboxes what people are told on Today; nil: nobody is mailed.
	Mail *post.Server
	// MailLinks is the address of the server as people reach it, for links in mail; "" for none.
	MailLinks string

	secret  []byte
	forms   *cache[int64, form.Form]   // sealed, so never stale
	cuts    *cache[int64, []band.Band] // of record, by their id: never stale
	viewers *cache[int64, roster.Viewer]
}

// Config is what a Desk is made of. Secret keys the hashes of PINs and row
// digests and must be the same for one database for good.
type Config struct {
	Store     *store.Store
	Secret    []byte           // 32 bytes at least
	Now       func() time.Time // nil: the system's clock
	Log       *slog.Logger     // nil: the default logger
	Aside     *aside.Program   // reads files of strangers in a process of its own; nil: in this one
	Mail      *post.Server     // as of Desk
	MailLinks string
}

// New makes a desk.
func New(c Config) (*Desk, error) {
	if len(c.Secret) < 32 {
		return nil, errors.New("the secret needs 32 bytes at least")
	}
	d := &Desk{Store: c.Store, secret: c.Secret, Now: c.Now, Log: c.Log, Aside: c.Aside, Mail: c.Mail, MailLinks: c.MailLinks, forms: newCache[int64, form.Form](200), cuts: newCache[int64, []band.Band](200), viewers: newCache[int64, roster.Viewer](20_000)}
	if d.Now == nil {
		d.Now = time.Now
	}
	if d.Log == nil {
		d.Log = slog.Default()
	}
	d.Jobs = jobs.New(d.Log)
	return d, nil
}

// Close stops the work behind the screens and waits until what came of it is kept.
func (a *Desk) Close() { a.Jobs.Close() }

// ErrNotFound is given for what does not exist for who asks.
var ErrNotFound = store.ErrNotFound

// ErrStale is given where somebody else changed a thing since it was read.
var ErrStale = store.ErrStale

// ErrForbidden is given where the role of who asks does not do such a thing at all.
var ErrForbidden = errors.New("your role does not do this")

// FieldError is one thing wrong with an input, at a JSON pointer, in words that a
// person can act on.
type FieldError struct{ Pointer, Message string }

// InvalidError lists what is wrong with an input; nothing was changed.
type InvalidError struct{ Fields []FieldError }

// Add lists one more thing that is wrong.
func (e *InvalidError) Add(pointer, message string) {
	e.Fields = append(e.Fields, FieldError{pointer, message})
}

func (e *InvalidError) Error() string {
	var out []string
	for _, f := range e.Fields {
		out = append(out, f.Message)
	}
	return strings.Join(out, " ")
}

// Invalid makes an InvalidError of one field.
func Invalid(pointer, format string, args ...any) error {
	return &InvalidError{[]FieldError{{pointer, fmt.Sprintf(format, args...)}}}
}

// ConflictError says why the state of things does not allow an act now.
type ConflictError struct{ Detail string }

func (e *ConflictError) Error() string { return e.Detail }

func Conflict(format string, args ...any) error { return &ConflictError{fmt.Sprintf(format, args...)} }

// Act is what a use case did, for its ledger entry.
type Act struct {
	Name    string // "assessment.seal"
	Thing   string
	ID      int64
	Title   string
	Before  any // marshalled; nil for nothing
	After   any
	at      time.Time // zero: now
	NoActor bool      // done by the program, not by who is looking
}

// Record writes the ledger entry of an act inside its transaction.
func (a *Desk) Record(ctx context.Context, tx *store.Tx, v roster.Viewer, d Act) error {
	e := ledger.Entry{At: d.at, ActorID: v.PersonID, Actor: v.Name, Act: d.Name, Thing: d.Thing, ThingID: d.ID, Title: d.Title}
	if d.at.IsZero() {
		e.At = a.Now()
	}
	if d.NoActor {
		e.ActorID, e.Actor = 0, "Pine Ledger"
	}
	var err error
	if e.Before, err = note(d.Before); err != nil {
		return err
	}
	if e.After, err = note(d.After); err != nil {
		return err
	}
	return recordrows.Record(ctx, tx, e)
}

func note(v any) (string, error) {
	if v == nil {
		return "", nil
	}
	data, err := json.Marshal(v)
	return string(data), err
}

// Viewer gives who a signed-in person is, from memory while rosters stay as they are.
func (a *Desk) Viewer(ctx context.Context, person int64) (roster.Viewer, error) {
	ctx = context.WithoutCancel(ctx) // others may wait for the same answer
	read := func() (roster.Viewer, error) { return officerows.Viewer(ctx, a.Store.Reader, person, a.Now()) }
	v, err := a.viewers.get(person, read)
	if err == nil && !v.Until.IsZero() && !a.Now().Before(v.Until) {
		a.viewers.forget(person)
		return a.viewers.get(person, read)
	}
	return v, err
}

// ForgetViewers makes the next look at each person a new one, after rosters changed.
func (a *Desk) ForgetViewers() { a.viewers.clear() }

// FormByID gives a sealed form, read once.
func (a *Desk) FormByID(ctx context.Context, id int64) (form.Form, error) {
	ctx = context.WithoutCancel(ctx) // others may wait for the same answer
	return a.forms.get(id, func() (form.Form, error) {
		row, err := buildrows.FormByID(ctx, a.Store.Reader, id)
		if err != nil {
			return form.Form{}, err
		}
		return form.Read([]byte(row.Document))
	})
}

// OfRecord is a sealed form with the cuts of record.
type OfRecord struct {
	form.Form
	CutsID int64 // 0: those that were sealed with it
}

// FormOfRecord gives a sealed form with the cuts that hold now. Who writes results asks within the transaction, so that
// no change of the cuts comes between.
func (a *Desk) FormOfRecord(ctx context.Context, r store.Reader, id int64) (OfRecord, error) {
	cuts, err := cutrows.Newest(ctx, r, id)
	if err != nil {
		return OfRecord{}, err
	}
	return a.FormWithCuts(ctx, id, cuts)
}

// FormWithCuts gives a sealed form with cuts that were of record; 0 for those that were sealed with it.
func (a *Desk) FormWithCuts(ctx context.Context, id, cuts int64) (OfRecord, error) {
	f, err := a.FormByID(ctx, id)
	if err != nil || cuts == 0 {
		return OfRecord{f, 0}, err
	}
	ctx = context.WithoutCancel(ctx) // others may wait for the same answer
	f.Bands, err = a.cuts.get(cuts, func() ([]band.Band, error) { return cutrows.Cuts(ctx, a.Store.Reader, cuts) })
	return OfRecord{f, cuts}, err
}

// District gives the district's name, zone and year.
func (a *Desk) District(ctx context.Context) (officerows.District, error) {
	d, err := officerows.ReadDistrict(ctx, a.Store.Reader)
	if errors.Is(err, ErrNotFound) {
		return officerows.District{Name: "No roster yet", TimeZone: "UTC"}, nil
	}
	return d, err
}

// Zone is the district's time zone.
func (a *Desk) Zone(ctx context.Context) (*time.Location, error) {
	d, err := a.District(ctx)
	if err != nil {
		return nil, err
	}
	return time.LoadLocation(d.TimeZone)
}
