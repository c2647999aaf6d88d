package app

import (
	"context"
	"strings"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// HostileTo lists the items that must not meet an item on a form; those that the
// viewer may not see are left out.
func (a *App) HostileTo(ctx context.Context, v roster.Viewer, id int64) ([]store.HostilePair, error) {
	if _, _, err := a.itemFor(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	pairs, err := a.store.HostileTo(ctx, []int64{id})
	if err != nil {
		return nil, err
	}
	out := []store.HostilePair{}
	for _, p := range pairs {
		if _, _, err := a.itemFor(ctx, a.store.Reader, v, p.OtherID); err == nil {
			out = append(out, p)
		}
	}
	return out, nil
}

// SetHostile says that an item must not meet another, named by its identifier.
func (a *App) SetHostile(ctx context.Context, v roster.Viewer, id int64, other, reason string) error {
	return a.store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
		if err != nil {
			return err
		}
		otherID, err := tx.ItemIDByIdentifier(ctx, strings.TrimSpace(other))
		if err == nil {
			_, _, err = a.itemFor(ctx, tx.Reader, v, otherID)
		}
		if err != nil {
			return invalid("/other", "There is no item %q.", other)
		}
		if otherID == id {
			return invalid("/other", "An item cannot be apart from itself.")
		}
		if err := tx.PutHostile(ctx, id, otherID, reason, v.PersonID, store.Millis(a.now())); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.apart", thing: "item", id: id, title: row.Identifier, after: apartNote{otherID, reason}})
	})
}

type apartNote struct {
	Other  int64  `json:"other"`
	Reason string `json:"reason,omitempty"`
}

// EndHostile lets two items meet again.
func (a *App) EndHostile(ctx context.Context, v roster.Viewer, id, other int64) error {
	return a.store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
		if err != nil {
			return err
		}
		if err := tx.EndHostile(ctx, id, other); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.meet", thing: "item", id: id, title: row.Identifier, before: apartNote{Other: other}})
	})
}
