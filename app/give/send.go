package give

import (
	"context"
	"strings"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// Send gives the sealed form to the chosen sections: one sitting each. It refuses
// while preflight finds stops, or cautions without a reason.
func (a *Give) Send(ctx context.Context, v roster.Viewer, id int64, version int, reasons map[string]string) (build.Sheet, error) {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MaySend(row.Owned()) {
			return desk.ErrForbidden
		}
		view, err := a.viewDistribution(ctx, v, tx.Reader, row)
		if err != nil {
			return err
		}
		if view.Distribution.ID == 0 || view.Distribution.Version != version {
			return desk.StaleBy("Somebody else")
		}
		if err := mayGo(view.Findings, reasons); err != nil {
			return err
		}
		return a.send(ctx, tx, v, row, view, reasons)
	})
	if err != nil {
		return build.Sheet{}, err
	}
	return a.build.Sheet(ctx, v, id)
}

func mayGo(findings []roster.Finding, reasons map[string]string) error {
	var open []string
	for _, f := range findings {
		if f.Severity == roster.Stop {
			open = append(open, f.Text)
		}
	}
	if len(open) > 0 {
		return desk.Conflict("It cannot go out yet. %s", strings.Join(open, " "))
	}
	for _, f := range roster.Unaccepted(findings, reasons) {
		open = append(open, f.Text)
	}
	if len(open) > 0 {
		return desk.Conflict("Give a reason for each caution first. %s", strings.Join(open, " "))
	}
	return nil
}

func (a *Give) send(ctx context.Context, tx *store.Tx, v roster.Viewer, row buildrows.Assessment, view DistributionView, reasons map[string]string) error {
	f, err := buildrows.FormOf(ctx, tx.Reader, row.ID, row.Edition)
	if err != nil {
		return err
	}
	accepted := map[string]string{}
	for _, found := range view.Findings {
		accepted[found.Code] = strings.TrimSpace(reasons[found.Code])
	}
	d := view.Distribution
	d.FormID, d.Reasons, d.Sent = f.ID, accepted, a.Now()
	if err := giverows.MarkSent(ctx, tx, d, v.PersonID); err != nil {
		return err
	}
	book, err := giverows.BookOf(ctx, tx.Reader, []int64{row.ID})
	if err != nil {
		return err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	var sittings []int64
	for _, t := range view.whom.sections {
		students := view.whom.seating.Students[t.ID]
		if len(students) == 0 && !view.whom.chosen(t) {
			continue
		}
		place := settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID, School: t.SchoolID, Section: t.ID}
		when := d.Waves.WindowOf(t.SchoolID, t.ID)
		id, err := giverows.AddSitting(ctx, tx, d.ID, t.ID, t.SchoolID, attempt.NewSetup(book.Values(place), book.Shut(place), when.From, when.To, zone), students)
		if err != nil {
			return err
		}
		sittings = append(sittings, id)
	}
	if err := a.tell(ctx, tx, []int64{v.PersonID}, sittings, row.Title, sentOut); err != nil {
		return err
	}
	if err := desk.Move(&row, assessment.Send); err != nil {
		return err
	}
	if err := buildrows.SetAssessmentState(ctx, tx, row.ID, row.State); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "distribution.send", Thing: "distribution", ID: d.ID, Title: row.Title, After: map[string]any{
		"edition": row.Edition, "fingerprint": f.Fingerprint, "sections": view.Total.Sections, "students": view.Total.Students,
		"waves": d.Waves, "cautions": accepted}})
}
