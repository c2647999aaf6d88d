package give

import (
	"context"
	"errors"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// DistributionInput is what a person chooses before sending.
type DistributionInput struct {
	Whom    roster.Whom
	Waves   []WaveInput
	Deal    roster.Deal
	Version int // the one that was read; 0 for a new one
}

// DistributionView is a distribution before it goes out, with its preflight.
type DistributionView struct {
	Distribution giverows.Distribution
	Whom         roster.Whom
	Entries      []EntryView
	Waves        []WaveView
	Minutes      int                  // the time limit that the settings say; 0: none
	Candidates   []officerows.Section // sections that could be chosen
	Groups       []Group              // of who asks, and those that entries name
	Total        roster.Count
	Twice        []SeatedOnce // in several chosen sections, and where they are seated
	Nowhere      []string     // named, and in no section
	Findings     []roster.Finding
	LeftOut      []officerows.SectionStudent // of the chosen sections, by name
	Forms        []FormShown                 // twin forms, this one first; none where there is one form
	Rooms        []RoomShown                 // the first of them

	whom *resolved
}

// Distribution gives the assessment's distribution that is being prepared.
func (a *Give) Distribution(ctx context.Context, v roster.Viewer, id int64) (DistributionView, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return DistributionView{}, err
	}
	if !v.MayBuild() {
		return DistributionView{}, desk.ErrForbidden
	}
	return a.viewDistribution(ctx, v, a.Store.Reader, row)
}

func (a *Give) viewDistribution(ctx context.Context, v roster.Viewer, r store.Reader, row buildrows.Assessment) (DistributionView, error) {
	var view DistributionView
	var err error
	view.Distribution, err = giverows.DraftDistribution(ctx, r, row.ID)
	if errors.Is(err, desk.ErrNotFound) {
		view.Distribution.AssessmentID = row.ID
	} else if err != nil {
		return view, err
	}
	whom, err := a.resolve(ctx, r, v, row, view.Distribution.Whom)
	if err != nil {
		return view, err
	}
	return a.showDistribution(ctx, r, v, row, view, whom)
}

// showDistribution shows a distribution with whom it goes to.
func (a *Give) showDistribution(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, view DistributionView, whom *resolved) (DistributionView, error) {
	whom.show(&view)
	zone, err := a.Zone(ctx)
	if err != nil {
		return view, err
	}
	book, err := giverows.BookOf(ctx, r, []int64{row.ID})
	if err != nil {
		return view, err
	}
	view.Minutes = book.Values(settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: view.Distribution.ID}).Number(settings.Minutes)
	view.Waves = wavesShown(book, row, view.Distribution, whom, zone)
	plan, err := a.plan(ctx, r, book, row, whom, view.Distribution)
	if err != nil {
		return view, err
	}
	if view.LeftOut, err = leftOut(ctx, r, whom.came); err != nil {
		return view, err
	}
	if err := a.showDeal(ctx, r, v, &view, &plan, row, whom); err != nil {
		return view, err
	}
	view.Findings = roster.Preflight(plan)
	return view, nil
}

// PutDistribution keeps what was chosen so far and checks it.
func (a *Give) PutDistribution(ctx context.Context, v roster.Viewer, id int64, in DistributionInput) (DistributionView, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return DistributionView{}, err
	}
	waves, err := wavesOf(in.Waves, zone)
	if err != nil {
		return DistributionView{}, err
	}
	if len(in.Whom.Entries) > roster.MostEntries {
		return DistributionView{}, desk.Invalid("/entries", "Choose at most %d entries.", roster.MostEntries)
	}
	if !in.Deal.Known() {
		return DistributionView{}, desk.Invalid("/deal", "Forms go over seats, or over sections.")
	}
	in.Whom.Schema = roster.WhomSchema
	var view DistributionView
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MaySend(row.Owned()) {
			return desk.ErrForbidden
		}
		d, err := giverows.DraftDistribution(ctx, tx.Reader, id)
		if err != nil && !errors.Is(err, desk.ErrNotFound) {
			return err
		}
		if d.Version != in.Version {
			return desk.StaleBy("Somebody else")
		}
		whom, err := a.resolve(ctx, tx.Reader, v, row, in.Whom)
		if err != nil {
			return err
		}
		if err := whom.check(v.PersonID, d.Whom); err != nil {
			return err
		}
		if err := whom.checkWaves(waves); err != nil {
			return err
		}
		d.AssessmentID, d.Whom, d.Waves, d.Deal = id, in.Whom, waves, in.Deal
		if _, err := giverows.PutDistribution(ctx, tx, d, whom.came); err != nil {
			return err
		}
		if view.Distribution, err = giverows.DraftDistribution(ctx, tx.Reader, id); err != nil {
			return err
		}
		view, err = a.showDistribution(ctx, tx.Reader, v, row, view, whom)
		return err
	})
	return view, err
}
