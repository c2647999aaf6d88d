// Package record is the room of the ledger.
package record

import (
	"context"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/store/recordrows"
)

// Record shows the ledger and verifies it.
type Record struct{ *desk.Desk }

// New opens the room.
func New(d *desk.Desk) *Record { return &Record{d} }

// LedgerQuery narrows the ledger; zero values do not.
type LedgerQuery struct {
	Before  int64 // entries with a smaller number
	Thing   string
	ThingID int64
	Words   string // each in actor, act as it is said, or title
	Limit   int
}

// Ledger lists entries, newest first.
func (a *Record) Ledger(ctx context.Context, v roster.Viewer, q LedgerQuery) ([]ledger.Entry, error) {
	if !v.MayReadLedger() {
		return nil, desk.ErrForbidden
	}
	if q.Limit <= 0 || q.Limit > 500 {
		q.Limit = 200
	}
	f := recordrows.LedgerFilter{Before: q.Before, Thing: q.Thing, ThingID: q.ThingID, Limit: q.Limit}
	for _, word := range strings.Fields(q.Words) {
		f.Words = append(f.Words, recordrows.LedgerWord{Word: word, Acts: desk.ActsSaid(word)})
	}
	return recordrows.Ledger(ctx, a.Store.Reader, f)
}
