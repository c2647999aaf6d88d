package give

import (
	"context"
	"errors"
	"fmt"
	"slices"
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
	"pineledger/store/officerows"
)

// DistributionInput is what a person chooses before sending. Opens and Closes are
// in the district's zone, "" while not chosen.
type DistributionInput struct {
	Sections, LeftOut []int64
	Opens, Closes     string
	Version           int // the one that was read; 0 for a new one
}

// DistributionView is a distribution before it goes out, with its preflight.
type DistributionView struct {
	Distribution giverows.Distribution
	Opens        string // in the district's zone
	Closes       string
	Minutes      int // the time limit that the settings say; 0: none
	Aim          roster.Aim
	Candidates   []officerows.Section // sections that could be chosen
	Sections     int
	Students     int
	Findings     []roster.Finding
	LeftOut      []officerows.SectionStudent // of the chosen sections, by name
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
	if view.Candidates, err = candidates(ctx, r, v, row); err != nil {
		return view, err
	}
	view.Aim = roster.Aim{Sections: []int64{}, LeftOut: []int64{}}
	view.Distribution, err = giverows.DraftDistribution(ctx, r, row.ID)
	if errors.Is(err, desk.ErrNotFound) {
		view.Distribution.AssessmentID = row.ID
	} else if err != nil {
		return view, err
	} else if view.Aim, err = giverows.AimOf(ctx, r, view.Distribution.ID); err != nil {
		return view, err
	}
	// The outline may have changed since: a section that does not fit any more is not chosen any more.
	view.Aim.Sections = slices.DeleteFunc(view.Aim.Sections, func(id int64) bool {
		return !slices.ContainsFunc(view.Candidates, func(s officerows.Section) bool { return s.ID == id })
	})
	zone, err := a.Zone(ctx)
	if err != nil {
		return view, err
	}
	view.Opens, view.Closes = desk.FormatLocal(view.Distribution.Opens, zone), desk.FormatLocal(view.Distribution.Closes, zone)
	plan, err := a.plan(ctx, r, row, view)
	if err != nil {
		return view, err
	}
	view.Minutes = plan.Minutes
	view.Sections = len(plan.Targets)
	for _, t := range plan.Targets {
		view.Students += len(t.Students)
	}
	view.LeftOut, err = leftOut(ctx, r, view.Aim)
	if err != nil {
		return view, err
	}
	view.Findings = roster.Preflight(plan)
	return view, nil
}

// candidates are the sections in scope that the assessment may be sent to.
func candidates(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment) ([]officerows.Section, error) {
	return officerows.Sections(ctx, r, v.Scope(), officerows.SectionFilter{Audience: &roster.Audience{Grades: row.Grades, Subject: row.Subject}})
}

// plan gathers what preflight looks at.
func (a *Give) plan(ctx context.Context, r store.Reader, row buildrows.Assessment, view DistributionView) (roster.Plan, error) {
	d := view.Distribution
	book, err := giverows.BookOf(ctx, r, []int64{row.ID})
	if err != nil {
		return roster.Plan{}, err
	}
	values := book.Values(settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID})
	p := roster.Plan{Opens: d.Opens, Closes: d.Closes, Minutes: values.Number(settings.Minutes), Sealed: row.State.IsSealed(), HasBands: row.BandSetID > 0, Edition: row.Edition, Now: a.Now()}
	zone, err := a.Zone(ctx)
	if err != nil {
		return p, err
	}
	p.Settings = values.Quarrels(d.Opens, d.Closes, zone)
	lines, err := buildrows.Lines(ctx, r, row.ID)
	if err != nil {
		return p, err
	}
	p.Lines = len(lines)
	for i, l := range lines {
		if l.KeyShort == "" {
			p.NoKey = append(p.NoKey, i+1)
		}
		if l.Standards == "" {
			p.NoAlign = append(p.NoAlign, i+1)
		}
		if l.WrongKey {
			p.WrongKey = append(p.WrongKey, i+1)
		}
	}
	if p.Targets, err = targets(ctx, r, view); err != nil {
		return p, err
	}
	if err := addGiven(ctx, r, row.ID, p.Targets); err != nil {
		return p, err
	}
	if p.Elsewhere, err = giverows.SeatedElsewhere(ctx, r, row.ID, row.Edition, view.Aim.Sections); err != nil {
		return p, err
	}
	if !d.Opens.IsZero() && !d.Closes.IsZero() && len(view.Aim.Sections) > 0 {
		p.Clashes, err = giverows.Clashes(ctx, r, view.Aim, d.Opens, d.Closes, d.ID)
	}
	return p, err
}

// leftOut are the students of the chosen sections who are left out, each once; where nobody is, no section is read.
func leftOut(ctx context.Context, r store.Reader, aim roster.Aim) ([]officerows.SectionStudent, error) {
	if len(aim.LeftOut) == 0 {
		return nil, nil
	}
	students, err := officerows.StudentsOf(ctx, r, aim.Sections)
	out := map[int64]bool{}
	for _, id := range aim.LeftOut {
		out[id] = true
	}
	var list []officerows.SectionStudent
	for _, s := range students {
		if out[s.ID] {
			list, out[s.ID] = append(list, s), false
		}
	}
	return list, err
}

// addGiven tells of each target which edition it was given last.
func addGiven(ctx context.Context, r store.Reader, assessment int64, targets []roster.Target) error {
	ids := make([]int64, len(targets))
	for i, t := range targets {
		ids[i] = t.SectionID
	}
	had, err := giverows.GivenTo(ctx, r, assessment, ids)
	if err != nil {
		return err
	}
	newest := map[int64]int{}
	for _, h := range had {
		newest[h.SectionID] = max(newest[h.SectionID], h.Edition)
	}
	for i := range targets {
		targets[i].Had = newest[targets[i].SectionID]
	}
	return nil
}

// targets are the chosen sections with their students but those left out.
func targets(ctx context.Context, r store.Reader, view DistributionView) ([]roster.Target, error) {
	students, err := officerows.StudentsOf(ctx, r, view.Aim.Sections)
	if err != nil {
		return nil, err
	}
	leftOut := map[int64]bool{}
	for _, s := range view.Aim.LeftOut {
		leftOut[s] = true
	}
	bySection := map[int64][]int64{}
	for _, s := range students {
		if !leftOut[s.ID] {
			bySection[s.SectionID] = append(bySection[s.SectionID], s.ID)
		}
	}
	var out []roster.Target
	for _, s := range view.Candidates {
		if slices.Contains(view.Aim.Sections, s.ID) {
			out = append(out, roster.Target{SectionID: s.ID, Section: s.Title, School: s.School, Teachers: s.Teachers, Students: bySection[s.ID]})
		}
	}
	return out, nil
}

// PutDistribution keeps what was chosen so far and checks it.
func (a *Give) PutDistribution(ctx context.Context, v roster.Viewer, id int64, in DistributionInput) (DistributionView, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return DistributionView{}, err
	}
	opens, err := desk.ParseLocal("/opens", in.Opens, zone)
	if err != nil {
		return DistributionView{}, err
	}
	closes, err := desk.ParseLocal("/closes", in.Closes, zone)
	if err != nil {
		return DistributionView{}, err
	}
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
		known, err := candidates(ctx, tx.Reader, v, row)
		if err != nil {
			return err
		}
		if err := in.checkWho(ctx, tx.Reader, known); err != nil {
			return err
		}
		d.AssessmentID, d.Opens, d.Closes = id, opens, closes
		if _, err := giverows.PutDistribution(ctx, tx, d, roster.Aim{Sections: in.Sections, LeftOut: in.LeftOut}); err != nil {
			return err
		}
		view, err = a.viewDistribution(ctx, v, tx.Reader, row)
		return err
	})
	return view, err
}

// checkWho refuses sections that cannot be chosen, and forgets people to leave out
// who are in none that can: they may have moved since they were left out.
func (in *DistributionInput) checkWho(ctx context.Context, r store.Reader, known []officerows.Section) error {
	ids := make([]int64, len(known))
	for i, s := range known {
		ids[i] = s.ID
	}
	for i, s := range in.Sections {
		if !slices.Contains(ids, s) {
			return desk.Invalid(fmt.Sprintf("/sections/%d", i), "A chosen section is not one of this assessment's grades and subject.")
		}
		if slices.Contains(in.Sections[:i], s) {
			return desk.Invalid(fmt.Sprintf("/sections/%d", i), "A section is chosen twice.")
		}
	}
	var err error
	in.LeftOut, err = officerows.StudentsAmong(ctx, r, ids, in.LeftOut)
	return err
}

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
	chosen, err := targets(ctx, tx.Reader, view)
	if err != nil {
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
	for _, t := range chosen {
		at := slices.IndexFunc(view.Candidates, func(s officerows.Section) bool { return s.ID == t.SectionID })
		school := view.Candidates[at].SchoolID
		place := settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID, School: school, Section: t.SectionID}
		if _, err := giverows.AddSitting(ctx, tx, d.ID, t.SectionID, school, attempt.NewSetup(book.Values(place), book.Shut(place), d.Opens, d.Closes, zone), t.Students); err != nil {
			return err
		}
	}
	if err := desk.Move(&row, assessment.Send); err != nil {
		return err
	}
	if err := buildrows.SetAssessmentState(ctx, tx, row.ID, row.State); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "distribution.send", Thing: "distribution", ID: d.ID, Title: row.Title, After: map[string]any{
		"edition": row.Edition, "fingerprint": f.Fingerprint, "sections": view.Sections, "students": view.Students,
		"opens": d.Opens.UTC(), "closes": d.Closes.UTC(), "cautions": accepted}})
}
