package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"pineledger/core/roster"
	"pineledger/store"
)

// localTime is how dates are typed: the district's wall clock.
const localTime = "2006-01-02T15:04"

// DistributionInput is what a person chooses before sending. Opens and Closes are
// in the district's zone, "" while not chosen.
type DistributionInput struct {
	Sections, LeftOut []int64
	Opens, Closes     string
	Minutes           int // 0: no limit
	Version           int // the one that was read; 0 for a new one
}

// DistributionView is a distribution before it goes out, with its preflight.
type DistributionView struct {
	Distribution store.Distribution
	Opens        string // in the district's zone
	Closes       string
	Targets      store.Targets
	Candidates   []store.Section // sections that could be chosen
	Sections     int
	Students     int
	Findings     []roster.Finding
}

// Distribution gives the assessment's distribution that is being prepared.
func (a *App) Distribution(ctx context.Context, v roster.Viewer, id int64) (DistributionView, error) {
	row, err := assessment(ctx, a.store.Reader, v, id)
	if err != nil {
		return DistributionView{}, err
	}
	if !v.MayBuild() {
		return DistributionView{}, ErrForbidden
	}
	return a.viewDistribution(ctx, v, a.store.Reader, row)
}

func (a *App) viewDistribution(ctx context.Context, v roster.Viewer, r store.Reader, row store.Assessment) (DistributionView, error) {
	var view DistributionView
	var err error
	if view.Candidates, err = candidates(ctx, r, v, row); err != nil {
		return view, err
	}
	view.Targets = store.Targets{Sections: []int64{}, LeftOut: []int64{}}
	view.Distribution, err = r.DraftDistribution(ctx, row.ID)
	if errors.Is(err, ErrNotFound) {
		view.Distribution.AssessmentID = row.ID
	} else if err != nil {
		return view, err
	} else if view.Targets, err = r.TargetsOf(ctx, view.Distribution.ID); err != nil {
		return view, err
	}
	// The outline may have changed since: a section that does not fit any more is not chosen any more.
	view.Targets.Sections = slices.DeleteFunc(view.Targets.Sections, func(id int64) bool {
		return !slices.ContainsFunc(view.Candidates, func(s store.Section) bool { return s.ID == id })
	})
	zone, err := a.zone(ctx)
	if err != nil {
		return view, err
	}
	view.Opens, view.Closes = formatLocal(view.Distribution.Opens, zone), formatLocal(view.Distribution.Closes, zone)
	plan, err := a.plan(ctx, r, row, view)
	if err != nil {
		return view, err
	}
	view.Sections = len(plan.Targets)
	for _, t := range plan.Targets {
		view.Students += len(t.Students)
	}
	view.Findings = roster.Preflight(plan)
	return view, nil
}

// candidates are the sections in scope of the assessment's grades whose course
// teaches its subject.
func candidates(ctx context.Context, r store.Reader, v roster.Viewer, row store.Assessment) ([]store.Section, error) {
	var grades []string
	if err := json.Unmarshal([]byte(row.Grades), &grades); err != nil {
		return nil, err
	}
	return r.Sections(ctx, v.Scope(), store.SectionFilter{Grades: grades, Subject: row.Subject})
}

func formatLocal(t time.Time, zone *time.Location) string {
	if t.IsZero() {
		return ""
	}
	return t.In(zone).Format(localTime)
}

func parseLocal(pointer, text string, zone *time.Location) (time.Time, error) {
	if text == "" {
		return time.Time{}, nil
	}
	t, err := time.ParseInLocation(localTime, text, zone)
	if err != nil {
		return t, invalid(pointer, "%q is not a date and time such as 2026-10-13T08:00.", text)
	}
	return t, nil
}

// plan gathers what preflight looks at.
func (a *App) plan(ctx context.Context, r store.Reader, row store.Assessment, view DistributionView) (roster.Plan, error) {
	d := view.Distribution
	p := roster.Plan{Opens: d.Opens, Closes: d.Closes, Minutes: d.Minutes, Sealed: row.State != Draft, HasBands: row.BandSetID > 0, Now: a.now()}
	lines, err := r.Lines(ctx, row.ID)
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
	}
	if p.Targets, err = targets(ctx, r, view); err != nil {
		return p, err
	}
	if !d.Opens.IsZero() && !d.Closes.IsZero() && len(view.Targets.Sections) > 0 {
		p.Clashes, err = r.Clashes(ctx, view.Targets.Sections, d.Opens, d.Closes, d.ID)
	}
	return p, err
}

// targets are the chosen sections with their students but those left out.
func targets(ctx context.Context, r store.Reader, view DistributionView) ([]roster.Target, error) {
	students, err := r.StudentsOf(ctx, view.Targets.Sections)
	if err != nil {
		return nil, err
	}
	leftOut := map[int64]bool{}
	for _, s := range view.Targets.LeftOut {
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
		if slices.Contains(view.Targets.Sections, s.ID) {
			out = append(out, roster.Target{SectionID: s.ID, Section: s.Title, School: s.School, Teachers: s.Teachers, Students: bySection[s.ID]})
		}
	}
	return out, nil
}

// mostMinutes bounds a time limit to a day.
const mostMinutes = 24 * 60

// PutDistribution keeps what was chosen so far and checks it.
func (a *App) PutDistribution(ctx context.Context, v roster.Viewer, id int64, in DistributionInput) (DistributionView, error) {
	zone, err := a.zone(ctx)
	if err != nil {
		return DistributionView{}, err
	}
	opens, err := parseLocal("/opens", in.Opens, zone)
	if err != nil {
		return DistributionView{}, err
	}
	closes, err := parseLocal("/closes", in.Closes, zone)
	if err != nil {
		return DistributionView{}, err
	}
	if in.Minutes < 0 || in.Minutes > mostMinutes {
		return DistributionView{}, invalid("/minutes", "The time limit is 0 (none) to %d minutes.", mostMinutes)
	}
	var view DistributionView
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MaySend(row.Owned()) {
			return ErrForbidden
		}
		d, err := tx.DraftDistribution(ctx, id)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		if d.Version != in.Version {
			return staleBy("Somebody else")
		}
		known, err := candidates(ctx, tx.Reader, v, row)
		if err != nil {
			return err
		}
		if err := in.checkWho(ctx, tx.Reader, known); err != nil {
			return err
		}
		d.AssessmentID, d.Opens, d.Closes, d.Minutes = id, opens, closes, in.Minutes
		if _, err := tx.PutDistribution(ctx, d, store.Targets{Sections: in.Sections, LeftOut: in.LeftOut}); err != nil {
			return err
		}
		view, err = a.viewDistribution(ctx, v, tx.Reader, row)
		return err
	})
	return view, err
}

// checkWho refuses sections that cannot be chosen, and forgets people to leave out
// who are in none that can: they may have moved since they were left out.
func (in *DistributionInput) checkWho(ctx context.Context, r store.Reader, known []store.Section) error {
	ids := make([]int64, len(known))
	for i, s := range known {
		ids[i] = s.ID
	}
	for i, s := range in.Sections {
		if !slices.Contains(ids, s) {
			return invalid(fmt.Sprintf("/sections/%d", i), "A chosen section is not one of this assessment's grades and subject.")
		}
		if slices.Contains(in.Sections[:i], s) {
			return invalid(fmt.Sprintf("/sections/%d", i), "A section is chosen twice.")
		}
	}
	var err error
	in.LeftOut, err = r.StudentsAmong(ctx, ids, in.LeftOut)
	return err
}

// Send gives the sealed form to the chosen sections: one sitting each. It refuses
// while preflight finds stops, or cautions without a reason.
func (a *App) Send(ctx context.Context, v roster.Viewer, id int64, version int, reasons map[string]string) (Sheet, error) {
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MaySend(row.Owned()) {
			return ErrForbidden
		}
		view, err := a.viewDistribution(ctx, v, tx.Reader, row)
		if err != nil {
			return err
		}
		if view.Distribution.ID == 0 || view.Distribution.Version != version {
			return staleBy("Somebody else")
		}
		if err := mayGo(view.Findings, reasons); err != nil {
			return err
		}
		return a.send(ctx, tx, v, row, view, reasons)
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

func mayGo(findings []roster.Finding, reasons map[string]string) error {
	var open []string
	for _, f := range findings {
		if f.Severity == roster.Stop {
			open = append(open, f.Text)
		}
	}
	if len(open) > 0 {
		return conflict("It cannot go out yet. %s", strings.Join(open, " "))
	}
	for _, f := range roster.Unaccepted(findings, reasons) {
		open = append(open, f.Text)
	}
	if len(open) > 0 {
		return conflict("Give a reason for each caution first. %s", strings.Join(open, " "))
	}
	return nil
}

func (a *App) send(ctx context.Context, tx *store.Tx, v roster.Viewer, row store.Assessment, view DistributionView, reasons map[string]string) error {
	f, err := tx.FormOf(ctx, row.ID, row.Edition)
	if err != nil {
		return err
	}
	accepted := map[string]string{}
	for _, found := range view.Findings {
		accepted[found.Code] = strings.TrimSpace(reasons[found.Code])
	}
	data, err := json.Marshal(accepted)
	if err != nil {
		return err
	}
	d := view.Distribution
	d.FormID, d.Reasons, d.Sent = f.ID, string(data), a.now()
	if err := tx.MarkSent(ctx, d, v.PersonID); err != nil {
		return err
	}
	chosen, err := targets(ctx, tx.Reader, view)
	if err != nil {
		return err
	}
	for _, t := range chosen {
		at := slices.IndexFunc(view.Candidates, func(s store.Section) bool { return s.ID == t.SectionID })
		if _, err := tx.AddSitting(ctx, d.ID, t.SectionID, view.Candidates[at].SchoolID, t.Students); err != nil {
			return err
		}
	}
	if err := tx.SetAssessmentState(ctx, row.ID, Out); err != nil {
		return err
	}
	return a.record(ctx, tx, v, act{name: "distribution.send", thing: "distribution", id: d.ID, title: row.Title, after: map[string]any{
		"edition": row.Edition, "fingerprint": f.Fingerprint, "sections": view.Sections, "students": view.Students,
		"opens": d.Opens.UTC(), "closes": d.Closes.UTC(), "minutes": d.Minutes, "cautions": accepted}})
}

// StudentsOfSection lists a section's students, for leaving some out.
func (a *App) StudentsOfSection(ctx context.Context, v roster.Viewer, section int64) ([]store.SectionStudent, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	sections, err := a.store.Sections(ctx, v.Scope(), store.SectionFilter{IDs: []int64{section}})
	if err != nil {
		return nil, err
	}
	if len(sections) == 0 {
		return nil, ErrNotFound
	}
	return a.store.StudentsOf(ctx, []int64{section})
}

// Schools lists the schools in scope.
func (a *App) Schools(ctx context.Context, v roster.Viewer) ([]store.School, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	return a.store.Schools(ctx, v.Scope())
}

// SectionsOf lists a school's sections in scope.
func (a *App) SectionsOf(ctx context.Context, v roster.Viewer, school int64) ([]store.Section, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	sections, err := a.store.Sections(ctx, v.Scope(), store.SectionFilter{SchoolID: school})
	if err == nil && len(sections) == 0 {
		err = ErrNotFound
	}
	return sections, err
}
