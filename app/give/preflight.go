package give

import (
	"cmp"
	"context"
	"time"

	"pineledger/app/build"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// plan gathers what preflight looks at.
func (a *Give) plan(ctx context.Context, r store.Reader, book *settings.Book, row buildrows.Assessment, whom *resolved, d giverows.Distribution) (roster.Plan, error) {
	p := roster.Plan{Sealed: row.State.IsSealed(), HasBands: row.BandSetID > 0, Edition: row.Edition, Now: a.Now(), Nowhere: whom.nowhere(), Targets: whom.targets()}
	if err := a.planLines(ctx, r, row, whom, &p); err != nil {
		return p, err
	}
	if err := a.planWaves(ctx, r, book, row, whom, d, &p); err != nil {
		return p, err
	}
	if err := addGiven(ctx, r, row.ID, p.Targets); err != nil {
		return p, err
	}
	aim := whom.came
	var err error
	if p.Unmet, err = a.supports.Unmet(ctx, r, row, d, aim); err != nil {
		return p, err
	}
	if p.Elsewhere, err = giverows.SeatedElsewhere(ctx, r, row.ID, row.Edition, aim.Sections); err != nil {
		return p, err
	}
	p.NoSignIn, err = officerows.WithoutSecret(ctx, r, aim)
	return p, err
}

// planLines tells of lines that are not ready, and of those that students have met.
func (a *Give) planLines(ctx context.Context, r store.Reader, row buildrows.Assessment, whom *resolved, p *roster.Plan) error {
	lines, err := buildrows.Lines(ctx, r, row.ID)
	if err != nil {
		return err
	}
	p.Lines = len(lines)
	at := map[int64]int{}
	for i, l := range lines {
		at[l.ItemID] = i + 1
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
	if p.Unpermitted, err = giverows.Unpermitted(ctx, r, row.ID); err != nil {
		return err
	}
	held, err := giverows.HeldElsewhere(ctx, r, row.ID, p.Now)
	if err != nil {
		return err
	}
	for _, item := range held {
		p.Held = append(p.Held, at[item])
	}
	seen, err := giverows.SeenBy(ctx, r, row.ID, row.Year, whom.came)
	if err != nil {
		return err
	}
	for _, s := range seen {
		p.Seen = append(p.Seen, roster.Seen{Line: at[s.ItemID], Students: s.Students})
	}
	return nil
}

// planWaves measures each wave by its hours, its days and the time of those who are in it.
func (a *Give) planWaves(ctx context.Context, r store.Reader, book *settings.Book, row buildrows.Assessment, whom *resolved, d giverows.Distribution, p *roster.Plan) error {
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	place := settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID}
	whole := d.Waves.Whole()
	p.Settings = book.Values(place).Quarrels(whole.From, whole.To, zone)
	waves := d.Waves.Waves
	if len(waves) == 0 {
		waves = []window.Wave{{}}
	}
	all := window.Waves{Waves: waves}
	languages := map[string]int{} // with how many students
	p.Waves = make([]roster.PlannedWave, len(waves))
	parts := make([]roster.Aim, len(waves))
	for _, s := range whom.sections {
		students := whom.seating.Students[s.ID]
		if len(students) == 0 {
			continue
		}
		i := all.Of(s.SchoolID, s.ID)
		if i < 0 {
			p.NoWave = append(p.NoWave, s.School+" "+s.Title)
			continue
		}
		p.Waves[i].Students += len(students)
		parts[i].Sections = append(parts[i].Sections, s.ID)
		place.School = s.SchoolID // the hours of one of its schools stand for those of the wave
		if p.Waves[i].Holds == 0 {
			measure(&p.Waves[i], waves[i], book.Values(place), zone)
		}
		at := place
		at.Section = s.ID
		if language := book.Values(at).Text(settings.ItemLanguage); language != "" {
			languages[language] += len(students)
		}
	}
	if err := planLanguages(ctx, r, row, languages, p); err != nil {
		return err
	}
	aim := whom.came
	for i, w := range waves {
		p.Waves[i].Name, p.Waves[i].Opens, p.Waves[i].Closes = w.Name, w.From, w.To
		parts[i].LeftOut = aim.LeftOut
		if !w.Dated() || len(parts[i].Sections) == 0 {
			continue
		}
		clashes, err := giverows.Clashes(ctx, r, parts[i], w.From, w.To, d.ID)
		if err != nil {
			return err
		}
		p.AddClashes(clashes)
		if p.Waves[i].Longer, err = a.longer(ctx, r, row, parts[i], p.Waves[i], zone); err != nil {
			return err
		}
	}
	return nil
}

// planLanguages tells of what is not written in the languages in which some are to have it.
func planLanguages(ctx context.Context, r store.Reader, row buildrows.Assessment, students map[string]int, p *roster.Plan) error {
	if len(students) == 0 {
		return nil
	}
	f, err := build.FormOf(ctx, r, row)
	if err != nil {
		return err
	}
	offer := f.Offer()
	for _, o := range settings.Languages {
		if lacks := offer.Lacks(o.Value); students[o.Value] > 0 && len(lacks) > 0 {
			p.Languages = append(p.Languages, roster.PlannedLanguage{Tag: o.Value, Name: o.Words, Lacks: lacks, Students: students[o.Value]})
		}
	}
	return nil
}

// measure tells what a wave holds under some settings.
func measure(p *roster.PlannedWave, w window.Wave, values settings.Values, zone *time.Location) {
	p.Minutes = values.Number(settings.Minutes)
	if !w.Dated() || !w.To.After(w.From) {
		return
	}
	table := values.Timetable(zone)
	p.Holds = support.TimesOf(p.Minutes, w.Window(), table.Spans(w.Window()), zone).Total
	for _, d := range table.Days(w.Window()) {
		at, err := time.Parse(time.DateOnly, d.Date)
		if d.Off && err == nil && at.Weekday() != time.Saturday && at.Weekday() != time.Sunday {
			p.Lost = append(p.Lost, at.Format("Jan 2"))
		}
	}
}

// longer tells of those in some sections whose time is longer than a wave holds.
func (a *Give) longer(ctx context.Context, r store.Reader, row buildrows.Assessment, aim roster.Aim, w roster.PlannedWave, zone *time.Location) (roster.Longer, error) {
	var out roster.Longer
	if w.Minutes == 0 {
		return out, nil
	}
	entries, err := officerows.StandingEnrolled(ctx, r, aim.Sections)
	if err != nil {
		return out, err
	}
	day := w.Opens.In(zone).Format(time.DateOnly)
	left := map[int64]bool{}
	for _, s := range aim.LeftOut {
		left[s] = true
	}
	of := map[int64][]support.Have{}
	for _, e := range entries {
		if !left[e.StudentID] {
			of[e.StudentID] = append(of[e.StudentID], e.Have)
		}
	}
	for _, haves := range of {
		need := int(support.Allowance(w.Minutes, support.Give(support.InForce(haves, row.Subject, day), support.FromProfile), nil).Time().Minutes())
		if need > w.Holds {
			out.Students, out.Minutes = out.Students+1, max(out.Minutes, need)
		}
	}
	return out, nil
}

// targets are the chosen sections with who gets a seat there.
func (w *resolved) targets() []roster.Target {
	var out []roster.Target
	for _, s := range w.sections {
		if students := w.seating.Students[s.ID]; len(students) > 0 || w.chosen(s) {
			out = append(out, roster.Target{SectionID: s.ID, Section: s.Title, School: s.School, Teachers: s.Teachers, Students: students})
		}
	}
	return out
}

// nowhere names who is chosen by name and in no section.
func (w *resolved) nowhere() []string {
	var out []string
	for _, e := range w.seating.Nowhere {
		out = append(out, cmp.Or(w.named[e], "a student of another school"))
	}
	return out
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
