package app

import (
	"context"
	"fmt"

	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/store"
)

// Ledger lists entries, newest first.
func (a *App) Ledger(ctx context.Context, v roster.Viewer, f store.LedgerFilter) ([]ledger.Entry, error) {
	if !v.MayReadLedger() {
		return nil, ErrForbidden
	}
	if f.Limit <= 0 || f.Limit > 500 {
		f.Limit = 200
	}
	return a.store.Ledger(ctx, f)
}

// Verified is what a walk through ledger and seals found in order.
type Verified struct {
	Entries int64
	Forms   int
}

// Verify walks the whole chain and every seal; the error names the first fault.
func (a *App) Verify(ctx context.Context) (Verified, error) {
	var out Verified
	var walk ledger.Walk
	if err := a.store.EachEntry(ctx, walk.Next); err != nil {
		return out, err
	}
	out.Entries = walk.Last()
	err := a.store.EachForm(ctx, func(id int64, fingerprint string, document []byte) error {
		out.Forms++
		got, err := ledger.Fingerprint(document)
		if err != nil {
			return fmt.Errorf("form %d: %w", id, err)
		}
		if got != fingerprint {
			return fmt.Errorf("form %d: its content does not match its fingerprint", id)
		}
		return nil
	})
	return out, err
}
