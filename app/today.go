package app

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store"
)

// Today is what wants attention now.
type Today struct {
	Sittings []store.Sitting          // in scope, whose window is not over
	Drafts   []store.AssessmentListed // unfinished, last changed first; builders only
	Results  []store.ResultListed     // newest first; not for proctors
	Notices  []store.Notice           // not seen yet
	Reports  []ItemReport             // open ones on items that are the viewer's to mend
	Offers   []store.Offer            // that wait for the viewer's decision
}

// Today gathers the first screen of a member of staff.
func (a *App) Today(ctx context.Context, v roster.Viewer) (Today, error) {
	var t Today
	var err error
	if t.Sittings, err = a.Sittings(ctx, v); err != nil {
		return t, err
	}
	if v.MayBuild() {
		all, err := a.listed(ctx, v, store.AssessmentFilter{Limit: 50})
		if err != nil {
			return t, err
		}
		for _, row := range all {
			if row.State == Draft || row.State == Sealed {
				t.Drafts = append(t.Drafts, row)
			}
		}
	}
	if t.Notices, err = a.store.Notices(ctx, v.PersonID); err != nil {
		return t, err
	}
	if v.MayBuild() {
		if t.Reports, err = a.Reports(ctx, v); err != nil {
			return t, err
		}
		offers, err := a.Offers(ctx, v)
		if err != nil {
			return t, err
		}
		t.Offers = offers.ToDecide
	}
	if v.MayReadKeys() {
		t.Results, err = a.store.Results(ctx, v.Scope(), 10)
	}
	return t, err
}
