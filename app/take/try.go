package take

import (
	"context"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store/giverows"
)

// Preview is an assessment as it stands, as the student with a seed would get it: nothing of keys.
func (a *Take) Preview(ctx context.Context, v roster.Viewer, id, seed int64) (TakeView, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return TakeView{}, err
	}
	f, err := build.FormOf(ctx, a.Store.Reader, row)
	if err != nil {
		return TakeView{}, err
	}
	now := a.Now()
	view := TakeView{Title: row.ShortTitle, Instructions: f.Instructions, Now: now, End: now.AddDate(1, 0, 0), Count: f.Count()}
	book, err := giverows.BookOf(ctx, a.Store.Reader, []int64{id})
	if err != nil {
		return TakeView{}, err
	}
	values := book.Values(settings.Place{Purpose: row.Purpose, Assessment: id})
	terms := attempt.NewTerms(attempt.Setup{Settings: values}, nil)
	view.How = howOf(f, terms, 0)
	view.give(f, f.Given(seed), terms, seed)
	return view, nil
}
