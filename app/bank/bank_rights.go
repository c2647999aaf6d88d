package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/giverows"
)

// banks are those that a viewer may look into, with what rights in them depend on.
type banks struct {
	Rows []bankrows.Bank
	By   map[int64]bank.Bank
}

// BanksFor reads the banks open to a viewer.
func BanksFor(ctx context.Context, r store.Reader, v roster.Viewer) (banks, error) {
	out := banks{By: map[int64]bank.Bank{}}
	rows, err := bankrows.SharedBanks(ctx, r, v.PersonID)
	if err != nil {
		return out, err
	}
	members, err := bankrows.Memberships(ctx, r, v.PersonID)
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
			out.Rows = append(out.Rows, row)
			out.By[row.ID] = b
		}
	}
	return out, nil
}

func coreBank(row bankrows.Bank) bank.Bank {
	return bank.Bank{ID: row.ID, Kind: bank.Kind(row.Kind), SchoolID: row.SchoolID, OwnerID: row.OwnerID, NoCopy: row.NoCopy, NoPrint: row.NoPrint}
}

func (b banks) IDs() []int64 {
	out := []int64{}
	for _, row := range b.Rows {
		out = append(out, row.ID)
	}
	return out
}

func coreHold(h bankrows.Hold) *bank.Hold {
	return &bank.Hold{ByID: h.PersonID, AssessmentID: h.AssessmentID, For: roster.Owned{OwnerID: h.OwnerID, SchoolID: h.SchoolID}}
}

// ItemScope is how far a viewer's searches reach.
func (a *Bank) ItemScope(ctx context.Context, r store.Reader, v roster.Viewer) (bankrows.ItemScope, error) {
	scope := bankrows.ItemScope{}
	open, err := BanksFor(ctx, r, v)
	if err != nil {
		return scope, err
	}
	scope.Banks = open.IDs()
	holds, err := bankrows.HoldsInForce(ctx, r, v.PersonID, store.Millis(a.Now()))
	if err != nil {
		return scope, err
	}
	for _, h := range holds {
		it := bank.Item{OwnerID: h.ItemOwnerID, Held: coreHold(h)}
		if h.Edits {
			it.Editors = []int64{v.PersonID}
		}
		if b, ok := open.By[h.BankID]; ok && !bank.May(v, bank.See, b, it).May {
			scope.Held = append(scope.Held, h.ItemID)
		}
	}
	yet, err := a.yetToSit(ctx, r, v)
	scope.Held = append(scope.Held, yet...)
	return scope, err
}

// yetToSit are the items whose keys a viewer may not read yet: their classes have still to sit them.
func (a *Bank) yetToSit(ctx context.Context, r store.Reader, v roster.Viewer) ([]int64, error) {
	if v.MayReadKeysBefore(false, false) {
		return nil, nil
	}
	return giverows.YetToSit(ctx, r, v.Scope(), a.Now())
}

// ItemRights answers what a viewer may do with some items, by one reading of what that depends on.
type ItemRights struct {
	Viewer roster.Viewer
	Banks  banks
	Holds  map[int64]bankrows.Hold
	edits  map[int64]bool
}

func (a *Bank) RightsTo(ctx context.Context, r store.Reader, v roster.Viewer, items []int64) (ItemRights, error) {
	rights := ItemRights{Viewer: v, edits: map[int64]bool{}}
	var err error
	if rights.Banks, err = BanksFor(ctx, r, v); err != nil {
		return rights, err
	}
	if rights.Holds, err = bankrows.HoldsOf(ctx, r, v.PersonID, store.Millis(a.Now()), items); err != nil {
		return rights, err
	}
	edited, err := bankrows.EditedBy(ctx, r, v.PersonID, items)
	for _, id := range edited {
		rights.edits[id] = true
	}
	return rights, err
}

func (r ItemRights) core(it bankrows.Item) (bank.Bank, bank.Item, bool) {
	b, open := r.Banks.By[it.BankID]
	out := bank.Item{OwnerID: it.OwnerID}
	if r.edits[it.ID] {
		out.Editors = []int64{r.Viewer.PersonID}
	}
	if h, held := r.Holds[it.ID]; held {
		out.Held = coreHold(h)
	}
	return b, out, open
}

// May answers for one act.
func (r ItemRights) May(act bank.Act, it bankrows.Item) bank.Verdict {
	b, its, open := r.core(it)
	if !open {
		return bank.Verdict{Why: "The bank is not open to you."}
	}
	return bank.May(r.Viewer, act, b, its)
}

// MayPlaceOn answers for placing on an assessment.
func (r ItemRights) MayPlaceOn(it bankrows.Item, assessment int64) bank.Verdict {
	b, its, open := r.core(it)
	if !open {
		return bank.Verdict{Why: "The bank is not open to you."}
	}
	return bank.MayPlaceOn(r.Viewer, b, its, assessment)
}

// itemFor gives an item that a viewer may see and do something with. What may not
// be seen does not exist; another refusal is told with its reason.
func (a *Bank) itemFor(ctx context.Context, r store.Reader, v roster.Viewer, id int64, acts ...bank.Act) (bankrows.Item, ItemRights, error) {
	if !v.MayReadKeys() {
		return bankrows.Item{}, ItemRights{}, desk.ErrForbidden
	}
	row, err := bankrows.ItemByID(ctx, r, id)
	if err != nil {
		return row, ItemRights{}, err
	}
	rights, err := a.RightsTo(ctx, r, v, []int64{id})
	if err != nil {
		return row, rights, err
	}
	yet, err := a.yetToSit(ctx, r, v)
	if err != nil {
		return row, rights, err
	}
	if slices.Contains(yet, id) {
		return row, rights, desk.Refusal(bank.Verdict{Why: "This item is on an assessment that your class has yet to sit. It opens when the window is over."})
	}
	if !rights.May(bank.See, row).May {
		offered, err := maySeeOffered(ctx, r, v, rights.Banks, id)
		if err == nil && !offered {
			err = desk.ErrNotFound
		}
		if err != nil {
			return row, rights, err
		}
	}
	for _, act := range acts {
		if verdict := rights.May(act, row); !verdict.May {
			return row, rights, desk.Refusal(verdict)
		}
	}
	return row, rights, nil
}

// tagsFor lists the tags that exist for a viewer.
func tagsFor(ctx context.Context, r store.Reader, v roster.Viewer) ([]bankrows.Tag, error) {
	all, err := bankrows.Tags(ctx, r)
	return slices.DeleteFunc(all, func(t bankrows.Tag) bool { return !bank.SeesTag(v, coreTag(t)) }), err
}

func coreTag(t bankrows.Tag) bank.Tag {
	return bank.Tag{Scope: bank.TagScope(t.Scope), ScopeID: t.ScopeID}
}

func HeldFor(h bankrows.Hold, assessment int64) bool { return h.ID > 0 && h.AssessmentID == assessment }

// OwnersDiffer tells whether in some bank the viewer may place their own items and no others, or the reverse.
func (r ItemRights) OwnersDiffer(assessment int64) bool {
	return slices.ContainsFunc(r.Banks.IDs(), func(id int64) bool {
		own := r.MayPlaceOn(bankrows.Item{BankID: id, OwnerID: r.Viewer.PersonID}, assessment)
		return own.May != r.MayPlaceOn(bankrows.Item{BankID: id}, assessment).May
	})
}
