package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"pineledger/core/ledger"
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
	return ledger.Entry{Number: r.Number, At: Time(r.At), ActorID: r.ActorID, Actor: r.Actor, Act: r.Act, Thing: r.Thing,
		ThingID: r.ThingID, Title: r.Title, Before: r.Before, After: r.After, Hash: r.Hash}
}

// Record appends an entry, numbered and chained, inside the transaction that does
// what it tells of.
func (t *Tx) Record(ctx context.Context, e ledger.Entry) error {
	var last struct {
		Number int64  `db:"number"`
		Hash   string `db:"hash"`
	}
	err := t.get(ctx, &last, "SELECT number, hash FROM ledger ORDER BY number DESC LIMIT 1")
	if errors.Is(err, ErrNotFound) {
		last.Hash = ledger.Genesis
	} else if err != nil {
		return err
	}
	e.Number = last.Number + 1
	e.At = e.At.UTC().Truncate(time.Millisecond)
	e.Hash = ledger.Chain(last.Hash, e)
	return t.exec(ctx, `INSERT INTO ledger (number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		e.Number, Millis(e.At), e.ActorID, e.Actor, e.Act, e.Thing, e.ThingID, e.Title, e.Before, e.After, e.Hash)
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
func (r Reader) Ledger(ctx context.Context, f LedgerFilter) ([]ledger.Entry, error) {
	var w where
	if f.Before > 0 {
		w.add("number < ?", f.Before)
	}
	if f.Thing != "" {
		w.add("thing = ?", f.Thing)
	}
	if f.ThingID > 0 {
		w.add("thing_id = ?", f.ThingID)
	}
	for _, word := range f.Words {
		like := "%" + escapeLike(word.Word) + "%"
		said, acts := in("act", word.Acts)
		w.add(`(actor LIKE ? ESCAPE '\' OR title LIKE ? ESCAPE '\' OR `+said+")", append([]any{like, like}, acts...)...)
	}
	var rows []ledgerRow
	err := r.list(ctx, &rows, "SELECT number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash FROM ledger"+
		w.String()+" ORDER BY number DESC LIMIT ?", append(w.args, f.Limit)...)
	out := make([]ledger.Entry, len(rows))
	for i, row := range rows {
		out[i] = row.entry()
	}
	return out, err
}

// EachEntry walks the ledger from its first entry on.
func (s *Store) EachEntry(ctx context.Context, f func(ledger.Entry) error) (err error) {
	rows, err := s.read.QueryxContext(ctx, "SELECT number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash FROM ledger ORDER BY number")
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
func (s *Store) EachForm(ctx context.Context, f func(id int64, fingerprint string, document []byte) error) error {
	var ids []int64
	if err := s.list(ctx, &ids, "SELECT id FROM form ORDER BY id"); err != nil {
		return err
	}
	for _, id := range ids {
		var fingerprint, document string
		row := s.read.QueryRowxContext(ctx, "SELECT fingerprint, document FROM form WHERE id = ?", id)
		if err := row.Scan(&fingerprint, &document); errors.Is(err, sql.ErrNoRows) {
			continue
		} else if err != nil {
			return err
		}
		if err := f(id, fingerprint, []byte(document)); err != nil {
			return err
		}
	}
	return nil
}
