package app

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/store"
)

// LedgerQuery narrows the ledger; zero values do not.
type LedgerQuery struct {
	Before  int64 // entries with a smaller number
	Thing   string
	ThingID int64
	Words   string // each in actor, act as it is said, or title
	Limit   int
}

// Ledger lists entries, newest first.
func (a *App) Ledger(ctx context.Context, v roster.Viewer, q LedgerQuery) ([]ledger.Entry, error) {
	if !v.MayReadLedger() {
		return nil, ErrForbidden
	}
	if q.Limit <= 0 || q.Limit > 500 {
		q.Limit = 200
	}
	f := store.LedgerFilter{Before: q.Before, Thing: q.Thing, ThingID: q.ThingID, Limit: q.Limit}
	for _, word := range strings.Fields(q.Words) {
		f.Words = append(f.Words, store.LedgerWord{Word: word, Acts: actsSaid(word)})
	}
	return a.store.Ledger(ctx, f)
}

// Verified is what a walk through ledger and seals found in order.
type Verified struct {
	Entries int64
	Forms   int
}

// Verify walks the whole chain and every seal; the error names the first fault.
// A form's content must match its fingerprint, and its fingerprint the one that
// the ledger kept when it was sealed.
func (a *App) Verify(ctx context.Context) (Verified, error) {
	var out Verified
	var walk ledger.Walk
	sealed := map[string]int{} // two assessments may hold the very same form
	err := a.store.EachEntry(ctx, func(e ledger.Entry) error {
		if e.Act == sealAct {
			var note sealNote
			if err := json.Unmarshal([]byte(e.After), &note); err != nil {
				return fmt.Errorf("ledger entry %d: %w", e.Number, err)
			}
			sealed[note.Fingerprint]++
		}
		return walk.Next(e)
	})
	if err != nil {
		return out, err
	}
	out.Entries = walk.Last()
	err = a.store.EachForm(ctx, func(id int64, fingerprint string, document []byte) error {
		out.Forms++
		got, err := ledger.Fingerprint(document)
		if err != nil {
			return fmt.Errorf("form %d: %w", id, err)
		}
		if got != fingerprint {
			return fmt.Errorf("form %d: its content does not match its fingerprint", id)
		}
		if sealed[fingerprint] == 0 {
			return fmt.Errorf("form %d: its fingerprint is not the one it was sealed with", id)
		}
		sealed[fingerprint]--
		return nil
	})
	if err != nil {
		return out, err
	}
	for fingerprint, missing := range sealed {
		if missing > 0 {
			return out, fmt.Errorf("the form sealed as %s is missing", fingerprint)
		}
	}
	return out, nil
}
