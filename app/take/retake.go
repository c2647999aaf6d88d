package take

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/store"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// carryOver lets a retake ask only what was not fully right in the try before it: the rest of that try's answers are its own from
// the beginning, so that they earn what they earned. A draw from pools stays the one that it was.
func carryOver(ctx context.Context, tx *store.Tx, f form.Form, before, id int64) error {
	row, err := takerows.AttemptByID(ctx, tx.Reader, before)
	if err != nil {
		return err
	}
	scorings, err := readrows.Scorings(ctx, tx.Reader, before)
	if err != nil || len(scorings) == 0 {
		return err
	}
	given := row.Given()
	if given != nil {
		if err := takerows.SetGiven(ctx, tx, id, given); err != nil {
			return err
		}
	} else {
		for i := range f.Lines {
			given = append(given, i)
		}
	}
	answers, err := takerows.AnswersBy(ctx, tx.Reader, before, scorings[len(scorings)-1].ID)
	if err != nil {
		return err
	}
	right := map[int]bool{}
	for i, c := range scorings[len(scorings)-1].Credits {
		right[i] = c.Outcome == item.Right
	}
	asked := []int{}
	for _, at := range given {
		if !right[at] {
			asked = append(asked, at)
		}
	}
	if len(asked) == 0 {
		return desk.Conflict("Everything was right already: there is nothing to do again.")
	}
	for _, answer := range answers {
		if right[answer.Line-1] {
			if err := takerows.PutAnswer(ctx, tx, id, answer.Answer, answer.SavedAt); err != nil {
				return err
			}
		}
	}
	return takerows.SetAsked(ctx, tx, id, asked)
}
