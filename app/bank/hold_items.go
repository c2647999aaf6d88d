package bank

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// HoldInput reserves items: for an assessment, or for oneself until a date.
type HoldInput struct {
	Items        []int64
	AssessmentID int64  // 0: for oneself
	Until        string // the last day, "2026-12-18"; "" without end, which only an assessment's hold may be
	Reason       string
}

// HoldItems reserves items. An item that is held already is not taken over.
func (a *Word) HoldItems(ctx context.Context, v roster.Viewer, in HoldInput) error {
	if !v.MayBuild() {
		return desk.ErrForbidden
	}
	hold := bankrows.Hold{AssessmentID: in.AssessmentID, Reason: in.Reason, PersonID: v.PersonID, At: store.Millis(a.Now())}
	switch {
	case in.Until == "" && in.AssessmentID == 0:
		return desk.Invalid("/until", "Say until which day, or for which assessment.")
	case in.Until != "":
		day, err := a.StartOfDay(ctx, in.Until)
		if err != nil {
			return desk.Invalid("/until", "%q is not a date like 2026-12-18.", in.Until)
		}
		if hold.Until = store.Millis(day.AddDate(0, 0, 1)); hold.Until <= hold.At {
			return desk.Invalid("/until", "The day has passed.")
		}
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		if in.AssessmentID > 0 {
			row, err := desk.Assessment(ctx, tx.Reader, v, in.AssessmentID)
			if err != nil {
				return err
			}
			if !v.MayChange(row.Owned()) {
				return desk.ErrForbidden
			}
			hold.Assessment = row.Title
		}
		for _, id := range in.Items {
			if err := a.holdItem(ctx, tx, v, id, hold); err != nil {
				return err
			}
		}
		return nil
	})
}

func (a *Word) holdItem(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64, hold bankrows.Hold) error {
	row, rights, err := a.bank.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
	if err != nil {
		return err
	}
	if old, held := rights.Holds[id]; held {
		return desk.Conflict("%s is on hold already, set by %s. Release it first.", row.Identifier, old.Person)
	}
	hold.ItemID = id
	if err := bankrows.AddHold(ctx, tx, hold); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "item.hold", Thing: "item", ID: id, Title: row.Identifier, After: holdNote{hold.AssessmentID, hold.Until, hold.Reason}})
}

type holdNote struct {
	AssessmentID int64  `json:"assessmentId,omitempty"`
	Until        int64  `json:"until,omitempty"`
	Reason       string `json:"reason,omitempty"`
}

// LetGo ends the holds of items.
func (a *Word) LetGo(ctx context.Context, v roster.Viewer, items []int64) error {
	if !v.MayBuild() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		for _, id := range items {
			row, rights, err := a.bank.itemFor(ctx, tx.Reader, v, id)
			if err != nil {
				return err
			}
			old, held := rights.Holds[id]
			if !held {
				continue
			}
			if old.PersonID != v.PersonID {
				if verdict := rights.May(bank.Reserve, row); !verdict.May {
					return desk.Refusal(verdict)
				}
			}
			if err := bankrows.EndHold(ctx, tx, id, store.Millis(a.Now())); err != nil {
				return err
			}
			if err := a.Record(ctx, tx, v, desk.Act{Name: "item.let-go", Thing: "item", ID: id, Title: row.Identifier, Before: holdNote{old.AssessmentID, old.Until, old.Reason}}); err != nil {
				return err
			}
		}
		return nil
	})
}

// ItemHolds lists the holds of an item, the newest first.
func (a *Word) ItemHolds(ctx context.Context, v roster.Viewer, id int64) ([]bankrows.Hold, error) {
	if _, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	return bankrows.HistoryOfHolds(ctx, a.Store.Reader, v.PersonID, id)
}
