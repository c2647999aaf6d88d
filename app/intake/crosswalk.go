package intake

import (
	"context"
	"slices"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/formats/caseframework"
	"pineledger/store/bankrows"
)

// Realignment is a standard of a framework with the items aligned to it, and what
// links propose to align them to instead.
type Realignment struct {
	bankrows.Standard
	Items     int
	Proposals []bankrows.LinkedStandard // the surest first
}

// sureness orders proposals: a new edition's own word, then a match, then a relation.
var sureness = []caseframework.LinkKind{caseframework.ReplacedBy, caseframework.ExactMatch, caseframework.PartOf, caseframework.Related}

// Realignments lists what of a framework has items, with proposals from another framework.
func (a *Intake) Realignments(ctx context.Context, v roster.Viewer, from, to int64) ([]Realignment, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	standards, err := bankrows.StandardsEver(ctx, a.Store.Reader, from)
	if err != nil {
		return nil, err
	}
	open, err := bankroom.BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	counts, err := bankrows.AlignedTo(ctx, a.Store.Reader, from, open.IDs())
	if err != nil {
		return nil, err
	}
	ids := []int64{}
	for _, s := range standards {
		if counts[s.ID] > 0 {
			ids = append(ids, s.ID)
		}
	}
	links, err := bankrows.LinksOf(ctx, a.Store.Reader, ids)
	if err != nil {
		return nil, err
	}
	out := []Realignment{}
	for _, s := range standards {
		if counts[s.ID] == 0 {
			continue
		}
		r := Realignment{Standard: s, Items: counts[s.ID]}
		for _, l := range links {
			backward := caseframework.LinkKind(l.Kind) == caseframework.ReplacedBy && !l.Forward
			if l.ID == s.ID && l.FrameworkID == to && !backward {
				r.Proposals = append(r.Proposals, l)
			}
		}
		slices.SortStableFunc(r.Proposals, func(x, y bankrows.LinkedStandard) int {
			return slices.Index(sureness, caseframework.LinkKind(x.Kind)) - slices.Index(sureness, caseframework.LinkKind(y.Kind))
		})
		out = append(out, r)
	}
	return out, nil
}

// Realign aligns the items of a standard to others, and takes the old alignment off
// if asked to; with apply false it tells what would happen. It is a change to many
// items, and undone as one.
func (a *Intake) Realign(ctx context.Context, v roster.Viewer, standard int64, to []string, drop, apply bool) (bankroom.BulkOutcome, error) {
	if !v.MayBuild() {
		return bankroom.BulkOutcome{}, desk.ErrForbidden
	}
	s, err := bankrows.StandardByID(ctx, a.Store.Reader, standard)
	if err != nil {
		return bankroom.BulkOutcome{}, err
	}
	ids, err := bankrows.ItemsAlignedTo(ctx, a.Store.Reader, standard)
	if err != nil {
		return bankroom.BulkOutcome{}, err
	}
	scope, err := a.bank.ItemScope(ctx, a.Store.Reader, v)
	if err != nil {
		return bankroom.BulkOutcome{}, err
	}
	items, err := bankrows.ItemIDs(ctx, a.Store.Reader, bankrows.ItemQuery{Scope: scope, Only: ids, Limit: bankroom.MostTagged})
	if err != nil || len(items) == 0 {
		return bankroom.BulkOutcome{}, err
	}
	c := bank.MetaChange{Align: to}
	if drop {
		c.Unalign = []string{s.Code}
	}
	return a.bank.ChangeItems(ctx, v, items, c, apply)
}
