package app

import (
	"context"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// HoldInput reserves items: for an assessment, or for oneself until a date.
type HoldInput struct {
	Items        []int64
	AssessmentID int64  // 0: for oneself
	Until        string // the last day, "2026-12-18"; "" without end, which only an assessment's hold may be
	Reason       string
}

// HoldItems reserves items. An item that is held already is not taken over.
func (a *App) HoldItems(ctx context.Context, v roster.Viewer, in HoldInput) error {
	if !v.MayBuild() {
		return ErrForbidden
	}
	hold := store.Hold{AssessmentID: in.AssessmentID, Reason: in.Reason, PersonID: v.PersonID, At: store.Millis(a.now())}
	switch {
	case in.Until == "" && in.AssessmentID == 0:
		return invalid("/until", "Say until which day, or for which assessment.")
	case in.Until != "":
		day, err := a.startOfDay(ctx, in.Until)
		if err != nil {
			return invalid("/until", "%q is not a date like 2026-12-18.", in.Until)
		}
		if hold.Until = store.Millis(day.AddDate(0, 0, 1)); hold.Until <= hold.At {
			return invalid("/until", "The day has passed.")
		}
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		if in.AssessmentID > 0 {
			row, err := assessment(ctx, tx.Reader, v, in.AssessmentID)
			if err != nil {
				return err
			}
			if !v.MayChange(row.Owned()) {
				return ErrForbidden
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

func (a *App) holdItem(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64, hold store.Hold) error {
	row, rights, err := a.itemFor(ctx, tx.Reader, v, id, bank.Reserve)
	if err != nil {
		return err
	}
	if old, held := rights.holds[id]; held {
		return conflict("%s is on hold already, set by %s. Let it go first.", row.Identifier, old.Person)
	}
	hold.ItemID = id
	if err := tx.AddHold(ctx, hold); err != nil {
		return err
	}
	return a.record(ctx, tx, v, act{name: "item.hold", thing: "item", id: id, title: row.Identifier, after: holdNote{hold.AssessmentID, hold.Until, hold.Reason}})
}

type holdNote struct {
	AssessmentID int64  `json:"assessmentId,omitempty"`
	Until        int64  `json:"until,omitempty"`
	Reason       string `json:"reason,omitempty"`
}

// LetGo ends the holds of items.
func (a *App) LetGo(ctx context.Context, v roster.Viewer, items []int64) error {
	if !v.MayBuild() {
		return ErrForbidden
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		for _, id := range items {
			row, rights, err := a.itemFor(ctx, tx.Reader, v, id)
			if err != nil {
				return err
			}
			old, held := rights.holds[id]
			if !held {
				continue
			}
			if old.PersonID != v.PersonID {
				if verdict := rights.may(bank.Reserve, row); !verdict.May {
					return refusal(verdict)
				}
			}
			if err := tx.EndHold(ctx, id, store.Millis(a.now())); err != nil {
				return err
			}
			if err := a.record(ctx, tx, v, act{name: "item.let-go", thing: "item", id: id, title: row.Identifier, before: holdNote{old.AssessmentID, old.Until, old.Reason}}); err != nil {
				return err
			}
		}
		return nil
	})
}

// ItemHolds lists the holds of an item, the newest first.
func (a *App) ItemHolds(ctx context.Context, v roster.Viewer, id int64) ([]store.Hold, error) {
	if _, _, err := a.itemFor(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	return a.store.HistoryOfHolds(ctx, v.PersonID, id)
}
