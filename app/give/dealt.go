package give

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// FormShown is a twin form with how many seats it gets.
type FormShown struct {
	ID       int64
	Letter   string
	Total    points.Points
	Expected int // thousandths of the points that students are expected to get; 0: not known
	Students int
}

// RoomShown is a section with the letters of the forms over its seats.
type RoomShown struct {
	School, Section string
	Letters         []string
}

// mostRooms is how many rooms show the letters of their seats.
const mostRooms = 4

// twinsOf lists the twin forms of an assessment, itself first; it alone where it has none.
func twinsOf(ctx context.Context, r store.Reader, row buildrows.Assessment) ([]buildrows.Assessment, error) {
	if row.FormLetter == "" {
		return []buildrows.Assessment{row}, nil
	}
	all, err := buildrows.TwinForms(ctx, r, cmp.Or(row.TwinOf, row.ID))
	rest := slices.DeleteFunc(all, func(t buildrows.Assessment) bool { return t.ID == row.ID })
	return append([]buildrows.Assessment{row}, rest...), err
}

// byName puts the students of each section in the order in which a room lists them.
func (w *resolved) byName(ctx context.Context, r store.Reader) error {
	ids := make([]int64, len(w.sections))
	for i, s := range w.sections {
		ids[i] = s.ID
	}
	order, err := officerows.NameOrder(ctx, r, ids)
	rank := make(map[int64]int, len(order))
	for i, student := range order {
		rank[student] = i
	}
	for _, students := range w.seating.Students {
		slices.SortFunc(students, func(a, b int64) int { return cmp.Compare(rank[a], rank[b]) })
	}
	return err
}

// over gives the place of a form for each seat, by section in the order of the distribution.
func (w *resolved) over(deal roster.Deal, forms int) [][]int {
	seats := make([]int, len(w.sections))
	for i, s := range w.sections {
		seats[i] = len(w.seating.Students[s.ID])
	}
	return deal.Over(seats, forms)
}

// showDeal tells which form goes over which seats, where there are twin forms.
func (a *Give) showDeal(ctx context.Context, r store.Reader, v roster.Viewer, view *DistributionView, plan *roster.Plan, row buildrows.Assessment, whom *resolved) error {
	forms, err := twinsOf(ctx, r, row)
	if err != nil || len(forms) == 1 {
		return err
	}
	for _, f := range forms {
		planned, err := a.planForm(ctx, r, v, f, whom)
		if err != nil {
			return err
		}
		view.Forms = append(view.Forms, FormShown{ID: f.ID, Letter: f.FormLetter, Total: planned.Total, Expected: planned.Expected})
		if f.ID == row.ID {
			plan.Form = planned
		} else if view.Distribution.Deal != roster.OneForm {
			plan.Twins = append(plan.Twins, planned)
		}
	}
	if view.Distribution.Deal == roster.BySeat {
		if err := whom.byName(ctx, r); err != nil {
			return err
		}
	}
	for i, dealt := range whom.over(view.Distribution.Deal, len(forms)) {
		shown := RoomShown{School: whom.sections[i].School, Section: whom.sections[i].Title}
		for _, form := range dealt {
			view.Forms[form].Students++
			shown.Letters = append(shown.Letters, forms[form].FormLetter)
		}
		if len(dealt) > 0 && len(view.Rooms) < mostRooms {
			view.Rooms = append(view.Rooms, shown)
		}
	}
	return nil
}

// planForm gathers what preflight looks at of a twin form.
func (a *Give) planForm(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, whom *resolved) (roster.PlannedForm, error) {
	out := roster.PlannedForm{Assessment: row.ID, Letter: row.FormLetter, Forbidden: !v.MaySend(row.Owned()), Out: row.State == assessment.Out || row.State == assessment.Closed,
		Plan: &roster.Plan{Sealed: row.State.IsSealed(), HasBands: row.BandSetID > 0, Now: a.Now()}}
	draft, err := giverows.DraftDistribution(ctx, r, row.ID)
	if err != nil && !errors.Is(err, desk.ErrNotFound) {
		return out, err
	}
	out.Prepared = len(draft.Whom.Entries) > 0
	lines, err := buildrows.Lines(ctx, r, row.ID)
	if err != nil {
		return out, err
	}
	var worth, expected int64
	for _, l := range lines {
		out.Total += points.Points(l.Points)
		if l.Difficulty != nil {
			worth, expected = worth+l.Points, expected+l.Points**l.Difficulty
		}
	}
	if worth > 0 {
		out.Expected = int(expected / worth)
	}
	if sealed, err := buildrows.FormOf(ctx, r, row.ID, row.Edition); err == nil {
		f, err := a.FormByID(ctx, sealed.ID)
		if err != nil {
			return out, err
		}
		out.Total = f.Total() // of pools what each student gets
	} else if !errors.Is(err, desk.ErrNotFound) {
		return out, err
	}
	return out, a.planLines(ctx, r, row, whom, out.Plan)
}

// dealt is a form that goes out, with its distribution.
type dealt struct {
	row          buildrows.Assessment
	distribution giverows.Distribution
}

// dealtForms are the forms that go out with a distribution, its own first. Each further one gets a distribution of its own, for the same
// sections in the same windows, and the settings of the first.
func (a *Give) dealtForms(ctx context.Context, tx *store.Tx, row buildrows.Assessment, d giverows.Distribution, aim roster.Aim) ([]dealt, error) {
	out := []dealt{{row, d}}
	if d.Deal == roster.OneForm {
		return out, nil
	}
	forms, err := twinsOf(ctx, tx.Reader, row)
	if err != nil {
		return nil, err
	}
	for _, f := range forms[1:] {
		draft, err := giverows.DraftDistribution(ctx, tx.Reader, f.ID)
		if err == nil {
			err = giverows.DropDraft(ctx, tx, draft) // what was prepared of it alone gives way
		}
		if err != nil && !errors.Is(err, desk.ErrNotFound) {
			return nil, err
		}
		its := giverows.Distribution{AssessmentID: f.ID, Whom: d.Whom, Waves: d.Waves, Deal: d.Deal, DealtWith: d.ID}
		if its.ID, err = giverows.PutDistribution(ctx, tx, its, aim); err != nil {
			return nil, err
		}
		if err := giverows.TakeSettings(ctx, tx, d, its); err != nil {
			return nil, err
		}
		its.Version = 1
		out = append(out, dealt{f, its})
	}
	return out, nil
}

// dealtWith are the distributions that were sent together with one, itself first. One that was sent with another is refused: what is
// done to all of them is done there.
func dealtWith(ctx context.Context, r store.Reader, d giverows.Distribution) ([]giverows.Distribution, error) {
	if d.DealtWith > 0 {
		return nil, desk.Conflict("It was sent together with its twin form. Change it where that one was sent.")
	}
	rest, err := giverows.DealtBy(ctx, r, d.ID)
	return append([]giverows.Distribution{d}, rest...), err
}

// showTogether tells which forms were sent together, and gives at the first the sittings in scope of the others.
func (a *Give) showTogether(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, d giverows.Distribution, out *SentView) ([]giverows.Sat, error) {
	if d.DealtWith > 0 {
		first, err := giverows.SentByID(ctx, r, d.DealtWith)
		out.With = first.AssessmentID
		return nil, err
	}
	rest, err := giverows.DealtBy(ctx, r, d.ID)
	if err != nil || len(rest) == 0 {
		return nil, err
	}
	var sats []giverows.Sat
	out.Letters = []string{row.FormLetter}
	for _, one := range rest {
		twin, err := buildrows.AssessmentByID(ctx, r, one.AssessmentID)
		if err != nil {
			return nil, err
		}
		out.Letters = append(out.Letters, twin.FormLetter)
		theirs, err := giverows.SatOf(ctx, r, v.Scope(), one.ID)
		if err != nil {
			return nil, err
		}
		sats = append(sats, theirs...)
	}
	return sats, nil
}
