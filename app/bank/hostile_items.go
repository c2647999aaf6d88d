package bank

import (
	"context"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// HostileTo lists the items that must not meet an item on a form; those that the
// viewer may not see are left out.
func (a *Word) HostileTo(ctx context.Context, v roster.Viewer, id int64) ([]buildrows.HostilePair, error) {
	if _, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	pairs, err := buildrows.HostileTo(ctx, a.Store.Reader, []int64{id})
	if err != nil {
		return nil, err
	}
	out := []buildrows.HostilePair{}
	for _, p := range pairs {
		if _, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, p.OtherID); err == nil {
			out = append(out, p)
		}
	}
	return out, nil
}

// SetHostile says that an item must not meet another, named by its identifier.
func (a *Word) SetHostile(ctx context.Context, v roster.Viewer, id int64, other, reason string) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.bank.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
		if err != nil {
			return err
		}
		otherID, err := buildrows.ItemIDByIdentifier(ctx, tx.Reader, strings.TrimSpace(other))
		if err == nil {
			_, _, err = a.bank.itemFor(ctx, tx.Reader, v, otherID)
		}
		if err != nil {
			return desk.Invalid("/other", "There is no item %q.", other)
		}
		if otherID == id {
			return desk.Invalid("/other", "An item cannot be apart from itself.")
		}
		if err := buildrows.PutHostile(ctx, tx, id, otherID, reason, v.PersonID, store.Millis(a.Now())); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.apart", Thing: "item", ID: id, Title: row.Identifier, After: apartNote{otherID, reason}})
	})
}

type apartNote struct {
	Other  int64  `json:"other"`
	Reason string `json:"reason,omitempty"`
}

// EndHostile lets two items meet again.
func (a *Word) EndHostile(ctx context.Context, v roster.Viewer, id, other int64) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.bank.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
		if err != nil {
			return err
		}
		if err := buildrows.EndHostile(ctx, tx, id, other); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.meet", Thing: "item", ID: id, Title: row.Identifier, Before: apartNote{Other: other}})
	})
}
