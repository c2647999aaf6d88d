package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/formats/caseframework"
	"pineledger/store"
)

// throughLinks finds the standards of other frameworks whose items a search by some
// standards finds too: those that are the same, related, a newer or older edition of
// one of them, or a part of one.
func throughLinks(ctx context.Context, r store.Reader, standards []int64) ([]store.LinkedStandard, error) {
	links, err := r.LinksOf(ctx, standards)
	return slices.DeleteFunc(links, func(l store.LinkedStandard) bool {
		whole := caseframework.LinkKind(l.Kind) == caseframework.PartOf && l.Forward // what it is a part of says more
		return whole || slices.Contains(standards, l.OtherID)
	}), err
}

// withLinked adds to the standards of a search what is linked to them, with all below.
func (a *App) withLinked(ctx context.Context, standards []int64) ([]int64, []store.LinkedStandard, error) {
	links, err := throughLinks(ctx, a.store.Reader, standards)
	if err != nil {
		return nil, nil, err
	}
	out := slices.Clone(standards)
	for _, l := range links {
		below, err := a.store.StandardsUnder(ctx, l.OtherID)
		if err != nil {
			return nil, nil, err
		}
		out = append(out, below...)
	}
	return out, links, nil
}

// Realignment is a standard of a framework with the items aligned to it, and what
// links propose to align them to instead.
type Realignment struct {
	store.Standard
	Items     int
	Proposals []store.LinkedStandard // the surest first
}

// sureness orders proposals: a new edition's own word, then a match, then a relation.
var sureness = []caseframework.LinkKind{caseframework.ReplacedBy, caseframework.ExactMatch, caseframework.PartOf, caseframework.Related}

// Realignments lists what of a framework has items, with proposals from another framework.
func (a *App) Realignments(ctx context.Context, v roster.Viewer, from, to int64) ([]Realignment, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	standards, err := a.store.Standards(ctx, from)
	if err != nil {
		return nil, err
	}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	counts, err := a.store.AlignedTo(ctx, from, open.ids())
	if err != nil {
		return nil, err
	}
	ids := []int64{}
	for _, s := range standards {
		if counts[s.ID] > 0 {
			ids = append(ids, s.ID)
		}
	}
	links, err := a.store.LinksOf(ctx, ids)
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
		slices.SortStableFunc(r.Proposals, func(x, y store.LinkedStandard) int {
			return slices.Index(sureness, caseframework.LinkKind(x.Kind)) - slices.Index(sureness, caseframework.LinkKind(y.Kind))
		})
		out = append(out, r)
	}
	return out, nil
}

// Realign aligns the items of a standard to others, and takes the old alignment off
// if asked to; with apply false it tells what would happen. It is a change to many
// items, and undone as one.
func (a *App) Realign(ctx context.Context, v roster.Viewer, standard int64, to []string, drop, apply bool) (BulkOutcome, error) {
	if !v.MayBuild() {
		return BulkOutcome{}, ErrForbidden
	}
	s, err := a.store.StandardByID(ctx, standard)
	if err != nil {
		return BulkOutcome{}, err
	}
	ids, err := a.store.ItemsAlignedTo(ctx, standard)
	if err != nil {
		return BulkOutcome{}, err
	}
	scope, err := a.itemScope(ctx, a.store.Reader, v)
	if err != nil {
		return BulkOutcome{}, err
	}
	items, err := a.store.ItemIDs(ctx, store.ItemQuery{Scope: scope, Only: ids, Limit: mostTagged})
	if err != nil || len(items) == 0 {
		return BulkOutcome{}, err
	}
	c := bank.MetaChange{Align: to}
	if drop {
		c.Unalign = []string{s.Code}
	}
	return a.ChangeItems(ctx, v, items, c, apply)
}
