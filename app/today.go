package app

import (
	"context"
	"slices"

	"pineledger/app/bank"
	"pineledger/app/office"
	"pineledger/core/assessment"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/readrows"
)

// Today is what wants attention now.
type Today struct {
	Sittings []giverows.Sitting           // in scope, whose window is not over
	Drafts   []buildrows.AssessmentListed // unfinished, last changed first; builders only
	Results  []readrows.ResultListed      // newest first; not for proctors
	Notices  []bankrows.Notice            // not seen yet
	Reports  []bank.ItemReport            // open ones on items that are the viewer's to mend
	Offers   []bankrows.Offer             // that wait for the viewer's decision
	Mail     office.MailStanding          // that does not get through; district coordinators only
}

// Today gathers the first screen of a member of staff.
func (a *App) Today(ctx context.Context, v roster.Viewer) (Today, error) {
	var t Today
	var err error
	if t.Sittings, err = a.Take.Sittings(ctx, v); err != nil {
		return t, err
	}
	if v.MayBuild() {
		all, err := a.Build.Listed(ctx, v, buildrows.AssessmentFilter{Limit: 50})
		if err != nil {
			return t, err
		}
		for _, row := range all {
			if row.State == assessment.Draft || row.State == assessment.Sealed {
				t.Drafts = append(t.Drafts, row)
			}
		}
	}
	if t.Notices, err = bankrows.Notices(ctx, a.Store.Reader, v.PersonID, store.Millis(a.Now())); err != nil {
		return t, err
	}
	if v.MayImport() {
		if t.Mail, err = a.Office.MailStanding(ctx, v); err != nil {
			return t, err
		}
	}
	if v.MayBuild() {
		if t.Reports, err = a.Word.Reports(ctx, v); err != nil {
			return t, err
		}
		offers, err := a.Word.Offers(ctx, v)
		if err != nil {
			return t, err
		}
		t.Offers = offers.ToDecide
	}
	if v.MayReadKeys() {
		t.Results, err = readrows.Results(ctx, a.Store.Reader, v.Scope(), 10)
		t.Results = slices.DeleteFunc(t.Results, func(r readrows.ResultListed) bool { return r.Apart })
	}
	return t, err
}
