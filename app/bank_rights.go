package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// banks are those that a viewer may look into, with what rights in them depend on.
type banks struct {
	rows []store.Bank
	by   map[int64]bank.Bank
}

// banksFor reads the banks open to a viewer.
func banksFor(ctx context.Context, r store.Reader, v roster.Viewer) (banks, error) {
	out := banks{by: map[int64]bank.Bank{}}
	rows, err := r.SharedBanks(ctx, v.PersonID)
	if err != nil {
		return out, err
	}
	members, err := r.Memberships(ctx, v.PersonID)
	if err != nil {
		return out, err
	}
	standing := map[int64]bank.Standing{}
	for _, m := range members {
		standing[m.BankID] = bank.Standing(m.Standing)
	}
	for _, row := range rows {
		b := coreBank(row)
		if s, named := standing[row.ID]; named {
			b.Members = map[int64]bank.Standing{v.PersonID: s}
		}
		if bank.StandingOf(v, b) != bank.Stranger {
			out.rows = append(out.rows, row)
			out.by[row.ID] = b
		}
	}
	return out, nil
}

func coreBank(row store.Bank) bank.Bank {
	return bank.Bank{ID: row.ID, Kind: bank.Kind(row.Kind), SchoolID: row.SchoolID, OwnerID: row.OwnerID, NoCopy: row.NoCopy, NoPrint: row.NoPrint}
}

func (b banks) ids() []int64 {
	out := []int64{}
	for _, row := range b.rows {
		out = append(out, row.ID)
	}
	return out
}

func coreHold(h store.Hold) *bank.Hold {
	return &bank.Hold{ByID: h.PersonID, AssessmentID: h.AssessmentID, For: roster.Owned{OwnerID: h.OwnerID, SchoolID: h.SchoolID}}
}

// itemScope is how far a viewer's searches reach.
func (a *App) itemScope(ctx context.Context, r store.Reader, v roster.Viewer) (store.ItemScope, error) {
	scope := store.ItemScope{}
	open, err := banksFor(ctx, r, v)
	if err != nil {
		return scope, err
	}
	scope.Banks = open.ids()
	holds, err := r.HoldsInForce(ctx, v.PersonID, store.Millis(a.now()))
	if err != nil {
		return scope, err
	}
	for _, h := range holds {
		it := bank.Item{OwnerID: h.ItemOwnerID, Held: coreHold(h)}
		if h.Edits {
			it.Editors = []int64{v.PersonID}
		}
		if b, ok := open.by[h.BankID]; ok && !bank.May(v, bank.See, b, it).May {
			scope.Held = append(scope.Held, h.ItemID)
		}
	}
	return scope, nil
}

// itemRights answers what a viewer may do with some items, by one reading of what that depends on.
type itemRights struct {
	viewer roster.Viewer
	banks  banks
	holds  map[int64]store.Hold
	edits  map[int64]bool
}

func (a *App) rightsTo(ctx context.Context, r store.Reader, v roster.Viewer, items []int64) (itemRights, error) {
	rights := itemRights{viewer: v, edits: map[int64]bool{}}
	var err error
	if rights.banks, err = banksFor(ctx, r, v); err != nil {
		return rights, err
	}
	if rights.holds, err = r.HoldsOf(ctx, v.PersonID, store.Millis(a.now()), items); err != nil {
		return rights, err
	}
	edited, err := r.EditedBy(ctx, v.PersonID, items)
	for _, id := range edited {
		rights.edits[id] = true
	}
	return rights, err
}

func (r itemRights) core(it store.Item) (bank.Bank, bank.Item, bool) {
	b, open := r.banks.by[it.BankID]
	out := bank.Item{OwnerID: it.OwnerID}
	if r.edits[it.ID] {
		out.Editors = []int64{r.viewer.PersonID}
	}
	if h, held := r.holds[it.ID]; held {
		out.Held = coreHold(h)
	}
	return b, out, open
}

// may answers for one act.
func (r itemRights) may(act bank.Act, it store.Item) bank.Verdict {
	b, its, open := r.core(it)
	if !open {
		return bank.Verdict{Why: "The bank is not open to you."}
	}
	return bank.May(r.viewer, act, b, its)
}

// mayPlaceOn answers for placing on an assessment.
func (r itemRights) mayPlaceOn(it store.Item, assessment int64) bank.Verdict {
	b, its, open := r.core(it)
	if !open {
		return bank.Verdict{Why: "The bank is not open to you."}
	}
	return bank.MayPlaceOn(r.viewer, b, its, assessment)
}

// itemFor gives an item that a viewer may see and do something with. What may not
// be seen does not exist; another refusal is told with its reason.
func (a *App) itemFor(ctx context.Context, r store.Reader, v roster.Viewer, id int64, acts ...bank.Act) (store.Item, itemRights, error) {
	if !v.MayReadKeys() {
		return store.Item{}, itemRights{}, ErrForbidden
	}
	row, err := r.ItemByID(ctx, id)
	if err != nil {
		return row, itemRights{}, err
	}
	rights, err := a.rightsTo(ctx, r, v, []int64{id})
	if err != nil {
		return row, rights, err
	}
	if !rights.may(bank.See, row).May {
		offered, err := maySeeOffered(ctx, r, v, rights.banks, id)
		if err == nil && !offered {
			err = ErrNotFound
		}
		if err != nil {
			return row, rights, err
		}
	}
	for _, act := range acts {
		if verdict := rights.may(act, row); !verdict.May {
			return row, rights, refusal(verdict)
		}
	}
	return row, rights, nil
}

// refusal tells why an act is not allowed.
func refusal(v bank.Verdict) error { return &RefusedError{v.Why} }

// RefusedError says which right is missing for this very thing.
type RefusedError struct{ Why string }

func (e *RefusedError) Error() string { return e.Why }

// Unwrap makes it a kind of ErrForbidden.
func (e *RefusedError) Unwrap() error { return ErrForbidden }

// tagsFor lists the tags that exist for a viewer.
func tagsFor(ctx context.Context, r store.Reader, v roster.Viewer) ([]store.Tag, error) {
	all, err := r.Tags(ctx)
	return slices.DeleteFunc(all, func(t store.Tag) bool { return !bank.SeesTag(v, coreTag(t)) }), err
}

func coreTag(t store.Tag) bank.Tag {
	return bank.Tag{Scope: bank.TagScope(t.Scope), ScopeID: t.ScopeID}
}
