// Package recordrows keeps the ledger.
package recordrows

import (
	"context"
	"errors"
	"time"

	"pineledger/core/ledger"
	"pineledger/store/sqlite"
)

type ledgerRow struct {
	Number  int64  `db:"number"`
	At      int64  `db:"at"`
	ActorID int64  `db:"actor_id"`
	Actor   string `db:"actor"`
	Act     string `db:"act"`
	Thing   string `db:"thing"`
	ThingID int64  `db:"thing_id"`
	Title   string `db:"title"`
	Before  string `db:"before"`
	After   string `db:"after"`
	Hash    string `db:"hash"`
}

func (r ledgerRow) entry() ledger.Entry {
	return ledger.Entry{Number: r.Number, At: sqlite.Time(r.At), ActorID: r.ActorID, Actor: r.Actor, Act: r.Act, Thing: r.Thing,
		ThingID: r.ThingID, Title: r.Title, Before: r.Before, After: r.After, Hash: r.Hash}
}

// Record appends an entry, numbered and chained, inside the transaction that does
// what it tells of.
func Record(ctx context.Context, t *sqlite.Tx, e ledger.Entry) error {
	var last struct {
		Number int64  `db:"number"`
		Hash   string `db:"hash"`
	}
	err := t.Get(ctx, &last, "SELECT number, hash FROM ledger ORDER BY number DESC LIMIT 1")
	if errors.Is(err, sqlite.ErrNotFound) {
		last.Hash = ledger.Genesis
	} else if err != nil {
		return err
	}
	e.Number = last.Number + 1
	e.At = e.At.UTC().Truncate(time.Millisecond)
	e.Hash = ledger.Chain(last.Hash, e)
	return t.Exec(ctx, `INSERT INTO ledger (number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		e.Number, sqlite.Millis(e.At), e.ActorID, e.Actor, e.Act, e.Thing, e.ThingID, e.Title, e.Before, e.After, e.Hash)
}

// LedgerFilter narrows the ledger; zero values do not.
type LedgerFilter struct {
	Before  int64 // entries with a smaller number
	Thing   string
	ThingID int64
	Words   []LedgerWord
	Limit   int
}

// LedgerWord is a word that an entry must have in its actor or title, unless it
// is one of the acts that are said with it.
type LedgerWord struct {
	Word string
	Acts []string
}

// Ledger lists entries, newest first.
func Ledger(ctx context.Context, r sqlite.Reader, f LedgerFilter) ([]ledger.Entry, error) {
	var w sqlite.Where
	if f.Before > 0 {
		w.Add("number < ?", f.Before)
	}
	if f.Thing != "" {
		w.Add("thing = ?", f.Thing)
	}
	if f.ThingID > 0 {
		w.Add("thing_id = ?", f.ThingID)
	}
	for _, word := range f.Words {
		like := "%" + sqlite.EscapeLike(word.Word) + "%"
		said, acts := sqlite.In("act", word.Acts)
		w.Add(`(actor LIKE ? ESCAPE '\' OR title LIKE ? ESCAPE '\' OR `+said+")", append([]any{like, like}, acts...)...)
	}
	var rows []ledgerRow
	err := r.List(ctx, &rows, "SELECT number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash FROM ledger"+
		w.String()+" ORDER BY number DESC LIMIT ?", append(w.Args, f.Limit)...)
	out := make([]ledger.Entry, len(rows))
	for i, row := range rows {
		out[i] = row.entry()
	}
	return out, err
}

// EachEntry walks the ledger from its first entry on.
func EachEntry(ctx context.Context, r sqlite.Reader, f func(ledger.Entry) error) (err error) {
	rows, err := r.Query(ctx, "SELECT number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash FROM ledger ORDER BY number")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for rows.Next() {
		var row ledgerRow
		if err := rows.StructScan(&row); err != nil {
			return err
		}
		if err := f(row.entry()); err != nil {
			return err
		}
	}
	return rows.Err()
}

// EachForm walks every sealed form: its id, fingerprint and document.
func EachForm(ctx context.Context, r sqlite.Reader, f func(id int64, fingerprint string, document []byte) error) error {
	var ids []int64
	if err := r.List(ctx, &ids, "SELECT id FROM form ORDER BY id"); err != nil {
		return err
	}
	for _, id := range ids {
		var row struct {
			Fingerprint string `db:"fingerprint"`
			Document    string `db:"document"`
		}
		if err := r.Get(ctx, &row, "SELECT fingerprint, document FROM form WHERE id = ?", id); errors.Is(err, sqlite.ErrNotFound) {
			continue
		} else if err != nil {
			return err
		}
		if err := f(id, row.Fingerprint, []byte(row.Document)); err != nil {
			return err
		}
	}
	return nil
}
