package build

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// formLetters name twin forms.
const formLetters = "ABCD"

// PlaceDraw makes lines of what was drawn. Lines that the draw kept stay in their
// places, what is new follows. Further forms become drafts of their own beside
// this one, with the same outline, blueprint and bands.
func (a *Draws) PlaceDraw(ctx context.Context, v roster.Viewer, id, drawID int64, version int) (Sheet, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	switch {
	case err != nil:
		return Sheet{}, err
	case !v.MayChange(row.Owned()):
		return Sheet{}, desk.ErrForbidden
	}
	d, err := a.Draw(ctx, v, id, drawID)
	switch {
	case err != nil:
		return Sheet{}, err
	case d.State != DrawFound:
		return Sheet{}, desk.Conflict("This draw found nothing to place.")
	case d.PlacedAt != nil:
		return Sheet{}, desk.Conflict("This draw has been placed already.")
	}
	return a.build.change(ctx, v, id, version, "assessment.draw", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		old, err := buildrows.Lines(ctx, tx.Reader, id)
		if err != nil {
			return nil, nil, err
		}
		layout := row.Layout.V
		rows, err := a.build.pin(ctx, tx, v, id, old, d.lines(old, 0))
		if err != nil {
			return nil, nil, err
		}
		rows = settled(layout, rows)
		if err := buildrows.PutLines(ctx, tx, id, rows); err != nil {
			return nil, nil, err
		}
		twins, err := a.addTwins(ctx, tx, v, row, d)
		if err != nil {
			return nil, nil, err
		}
		note := drawNote{Draw: drawID, Seed: d.Seed, linesNote: noteOfLines(rows, layout), Twins: twins}
		return noteOfLines(lineRows(old), layout), note, buildrows.PlacedDraw(ctx, tx, drawID, store.Millis(a.Now()))
	})
}

// drawNote is what the ledger says of a placed draw; the question and the whole answer are kept with the draw.
type drawNote struct {
	Draw int64 `json:"draw"`
	Seed int64 `json:"seed"`
	linesNote
	Twins []int64 `json:"twins,omitempty"`
}

func lineRows(lines []buildrows.Line) []buildrows.LineRow {
	out := make([]buildrows.LineRow, len(lines))
	for i, l := range lines {
		out[i] = l.Row()
	}
	return out
}

// lines are the assessment's lines after one form of a draw is placed: those that
// stand and are kept, or were outside of what was drawn, then the drawn ones.
func (d Drawing) lines(old []buildrows.Line, form int) []LineInput {
	drawn := d.Answer.Forms[form].Items
	var out []LineInput
	for _, l := range old {
		inDraw := slices.ContainsFunc(drawn, func(it DrawnItem) bool { return it.ItemID == l.ItemID })
		if inDraw || d.Question.Keep || d.Question.Simple != nil || d.Question.Row > 0 {
			out = append(out, LineInput{ItemID: l.ItemID, VersionID: l.ID, Points: points.Points(l.Points), Part: l.Part, Pool: l.Pool, Without: strings.Fields(l.Without)})
		}
	}
	for _, it := range drawn {
		if !slices.ContainsFunc(out, func(l LineInput) bool { return l.ItemID == it.ItemID }) {
			out = append(out, LineInput{ItemID: it.ItemID, Points: points.One})
		}
	}
	return out
}

// leaving is how many of the lines that stand placing the first form takes out.
func (d Drawing) leaving(standing []buildrows.Line) (n int) {
	after := d.lines(standing, 0)
	for _, l := range standing {
		if !slices.ContainsFunc(after, func(in LineInput) bool { return in.ItemID == l.ItemID }) {
			n++
		}
	}
	return n
}

// addTwins makes a draft for each further form and names the forms by letters.
func (a *Draws) addTwins(ctx context.Context, tx *store.Tx, v roster.Viewer, row *buildrows.Assessment, d Drawing) ([]int64, error) {
	if len(d.Answer.Forms) < 2 {
		return nil, nil
	}
	anchors, err := buildrows.Lines(ctx, tx.Reader, row.ID)
	if err != nil {
		return nil, err
	}
	layout := row.Layout.V
	blueprint, err := buildrows.Blueprint(ctx, tx.Reader, row.ID)
	if err != nil {
		return nil, err
	}
	var out []int64
	for f := 1; f < len(d.Answer.Forms); f++ {
		twin := *row
		letter := formLetters[f : f+1]
		twin.Title, twin.ShortTitle = formTitle(row.Title, letter), formTitle(row.ShortTitle, letter)
		twin.ChangedAt, twin.ChangedBy, twin.OwnerID = store.Millis(a.Now()), v.Name, v.PersonID
		twin.TwinOf, twin.FormLetter = row.ID, letter
		id, err := buildrows.AddAssessment(ctx, tx, twin)
		if err != nil {
			return nil, err
		}
		if err := buildrows.CopyCuts(ctx, tx, row.ID, id); err != nil {
			return nil, err
		}
		twinOnly := slices.DeleteFunc(slices.Clone(anchors), func(l buildrows.Line) bool {
			return !slices.ContainsFunc(d.Answer.Forms[f].Items, func(it DrawnItem) bool { return it.ItemID == l.ItemID })
		})
		lines, err := a.build.pin(ctx, tx, v, id, twinOnly, d.lines(twinOnly, f))
		if err != nil {
			return nil, err
		}
		lines = settled(layout, lines)
		if err := buildrows.PutBlueprint(ctx, tx, id, blueprint); err != nil {
			return nil, err
		}
		if err := buildrows.PutLines(ctx, tx, id, lines); err != nil {
			return nil, err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "assessment.twin", Thing: "assessment", ID: id, Title: twin.Title, After: drawNote{Draw: d.ID, Seed: d.Draw.Seed, linesNote: noteOfLines(lines, layout)}}); err != nil {
			return nil, err
		}
		out = append(out, id)
	}
	row.FormLetter = formLetters[:1]
	return out, nil
}

func formTitle(title, letter string) string {
	return fmt.Sprintf("%s, form %s", title, letter)
}
