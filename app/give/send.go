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
	accepted := map[string]string{}
	for _, found := range view.Findings {
		accepted[found.Code] = strings.TrimSpace(reasons[found.Code])
	}
	forms, err := a.dealtForms(ctx, tx, row, view.Distribution, view.whom.came)
	if err != nil {
		return err
	}
	s := sending{Give: a, by: v, whom: view.whom, over: view.whom.over(view.Distribution.Deal, len(forms)), accepted: accepted, rooms: map[int64]int64{}}
	for i, f := range forms {
		if err := s.send(ctx, tx, f, i); err != nil {
			return err
		}
	}
	return a.tell(ctx, tx, []int64{v.PersonID}, s.sittings, row.Title, sentOut)
}

// sending is a distribution, or several of twin forms, that go out now.
type sending struct {
	*Give
	by       roster.Viewer
	whom     *resolved
	over     [][]int // the form of each seat, by section
	accepted map[string]string
	rooms    map[int64]int64 // that forms share, by section
	sittings []int64
}

// send gives the form at a place to the seats that are dealt it: one sitting for each section with such a seat.
func (s *sending) send(ctx context.Context, tx *store.Tx, form dealt, place int) error {
	row, d := form.row, form.distribution
	f, err := buildrows.FormOf(ctx, tx.Reader, row.ID, row.Edition)
	if err != nil {
		return err
	}
	d.FormID, d.Reasons, d.Sent = f.ID, s.accepted, s.Now()
	if err := giverows.MarkSent(ctx, tx, d, s.by.PersonID); err != nil {
		return err
	}
	book, err := giverows.BookOf(ctx, tx.Reader, []int64{row.ID})
	if err != nil {
		return err
	}
	zone, err := s.Zone(ctx)
	if err != nil {
		return err
	}
	sections, seats := 0, 0
	for i, t := range s.whom.sections {
		var students []int64
		for k, student := range s.whom.seating.Students[t.ID] {
			if s.over[i][k] == place {
				students = append(students, student)
			}
		}
		if len(students) == 0 && (place > 0 || len(s.over[i]) > 0 || !s.whom.chosen(t)) {
			continue
		}
		at := settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID, School: t.SchoolID, Section: t.ID}
		when := d.Waves.WindowOf(t.SchoolID, t.ID)
		id, err := giverows.AddSitting(ctx, tx, d.ID, t.ID, t.SchoolID, attempt.NewSetup(book.Values(at), book.Shut(at), when.From, when.To, zone), students)
		if err != nil {
			return err
		}
		s.sittings, sections, seats = append(s.sittings, id), sections+1, seats+len(students)
		if d.Deal == roster.BySeat {
			if err := s.share(ctx, tx, id, t.ID); err != nil {
				return err
			}
		}
	}
	if err := desk.Move(&row, assessment.Send); err != nil {
		return err
	}
	if err := buildrows.SetAssessmentState(ctx, tx, row.ID, row.State); err != nil {
		return err
	}
	return s.Record(ctx, tx, s.by, desk.Act{Name: "distribution.send", Thing: "distribution", ID: d.ID, Title: row.Title, After: map[string]any{
		"edition": row.Edition, "fingerprint": f.Fingerprint, "sections": sections, "students": seats, "waves": d.Waves, "deal": d.Deal, "cautions": s.accepted}})
}

// share puts the forms of a section behind one door.
func (s *sending) share(ctx context.Context, tx *store.Tx, sitting, section int64) error {
	if s.rooms[section] == 0 {
		var err error
		if s.rooms[section], err = giverows.AddRoom(ctx, tx, "", 0, s.by.PersonID, s.Now()); err != nil {
			return err
		}
	}
	return giverows.ShareRoom(ctx, tx, sitting, s.rooms[section])
}
