package panels

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"time"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/panelreport"
	"pineledger/formats/paper"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// Taking says which cuts of a panel are taken, and where to.
type Taking struct {
	Round  int
	Median bool   // else the mean; of ordered items both are the median
	Set    int64  // the band set that gets them; 0 for a new one
	Name   string // of a new one
}

// Take makes the cuts of a closed round those of a band set, as raw scores of the form that was judged.
func (a *Panels) Take(ctx context.Context, v roster.Viewer, id int64, t Taking) (buildrows.BandSet, error) {
	o, err := a.read(ctx, a.Store.Reader, id)
	switch {
	case err != nil:
		return buildrows.BandSet{}, err
	case !v.MayBuild() || !v.MaySee(o.Owned()):
		return buildrows.BandSet{}, desk.ErrNotFound
	case !v.MayChange(o.Owned()):
		return buildrows.BandSet{}, desk.ErrForbidden
	case t.Round < 1 || t.Round > len(o.rounds):
		return buildrows.BandSet{}, desk.ErrNotFound
	case o.rounds[t.Round-1].Training:
		return buildrows.BandSet{}, desk.Conflict("The training round sets no cuts.")
	case o.rounds[t.Round-1].Open():
		return buildrows.BandSet{}, desk.Conflict("Close the round first: judges can still change what they gave.")
	}
	all, err := allGiven(ctx, a.Store.Reader, id)
	if err != nil {
		return buildrows.BandSet{}, err
	}
	result := o.task.Round(o.works(t.Round, all))
	if len(result.Cuts) == 0 {
		return buildrows.BandSet{}, desk.Conflict("No judge is done with all that was asked in this round, so no cut came of it.")
	}
	raw, by := func(c panel.Cut) points.Points { return c.Raw }, "mean"
	if t.Median {
		raw, by = func(c panel.Cut) points.Points { return c.MedianRaw }, "median"
	}
	in, err := a.setFor(ctx, v, o, t, o.bands(raw, result.Cuts))
	if err != nil {
		return buildrows.BandSet{}, err
	}
	set, err := a.plans.PutBandSet(ctx, v, t.Set, in)
	if err != nil {
		return set, err
	}
	return set, a.Store.Write(ctx, func(tx *store.Tx) error {
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.take", Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Round: t.Round, By: by, BandSet: set.ID}})
	})
}

// setFor is a band set with other cuts: a new one for what the form is, or the one that is named, which must have the same bands.
func (a *Panels) setFor(ctx context.Context, v roster.Viewer, o opened, t Taking, bands []band.Band) (build.BandSetInput, error) {
	if t.Set == 0 {
		return build.BandSetInput{Name: t.Name, Subject: o.form.Subject, Grades: o.form.Grades, Rule: o.form.Rule, Bands: bands}, nil
	}
	s, err := a.plans.BandSet(ctx, v, t.Set)
	if err != nil {
		return build.BandSetInput{}, err
	}
	if s.Least > 0 || !slices.EqualFunc(s.Bands, bands, func(x buildrows.Band, y band.Band) bool { return x.Name == y.Name }) {
		return build.BandSetInput{}, desk.Conflict("%s has other bands than the panel set cuts for. Choose another set, or make a new one.", s.Name)
	}
	return build.BandSetInput{Name: s.Name, Subject: s.Subject, Grades: s.Grades, Course: s.Course, Year: s.Year, Purpose: s.Purpose, Rule: band.Rule(s.Rule),
		Bands: bands, Least: points.Points(s.Least), Locked: s.LockedBy != "", Version: s.Version}, nil
}

// Report gathers what a panel did, for who may see it as its chair does.
func (a *Panels) Report(ctx context.Context, v roster.Viewer, id int64) (panelreport.Report, error) {
	opened, err := a.Open(ctx, v, id)
	if err != nil {
		return panelreport.Report{}, err
	}
	o, err := a.read(ctx, a.Store.Reader, id)
	if err != nil {
		return panelreport.Report{}, err
	}
	all, err := allGiven(ctx, a.Store.Reader, id)
	if err != nil {
		return panelreport.Report{}, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return panelreport.Report{}, err
	}
	day := func(ms int64) string { return store.Time(ms).In(zone).Format("Mon, Jan 2, 2006") }
	out := panelreport.Report{Title: o.Title, Method: o.Method, Cuts: opened.Cuts, Booklet: o.task.Booklet(), Asked: asked(o)}
	out.About = fmt.Sprintf("%s, %s, %s. Led by %s since %s.", o.form.Title, edition(o.Edition), desk.Plural(len(o.form.Lines), "line"), o.Chair, day(o.At))
	number := map[int64]int{}
	for i, j := range o.judges {
		left := ""
		if j.LeftAt != nil {
			left = day(*j.LeftAt) + ": " + j.LeftWhy
		}
		out.Judges = append(out.Judges, panelreport.Judge{Name: j.Name, Left: left})
		number[j.PersonID] = i + 1
	}
	for _, l := range o.form.Lines {
		out.Lines = append(out.Lines, panelreport.Line{Item: l.Identifier, Stem: l.Item.Stem(), Points: l.Points})
	}
	for i, told := range opened.Rounds {
		round := panelreport.Round{Name: told.Name, Works: o.works(i+1, all), Result: told.Result, Remarks: Remarks(opened, told)}
		for _, s := range told.Shares {
			round.Shares = append(round.Shares, panelreport.Share{Band: s.Name, Share: s.Share})
		}
		out.Rounds = append(out.Rounds, round)
	}
	for _, n := range opened.Notes {
		out.Notes = append(out.Notes, panelreport.Note{Judge: number[n.PersonID], Line: n.Line + 1, Words: n.Words})
	}
	return out, nil
}

func edition(n int) string {
	if n == 0 {
		return "the lines of a draft"
	}
	return fmt.Sprintf("edition %d", n)
}

// asked says in a sentence what judges were asked.
func asked(o opened) string {
	if o.Method == panel.ByMarks {
		return fmt.Sprintf("Judges went through the items from the easiest to the hardest and marked, for each cut, the last one that a student just at the cut would still get right with a chance of %.0f%%.", 100*o.Probability)
	}
	return "Judges said, for each cut and line, what share of the line's points a student just at the cut would earn."
}

// Remarks say of a round whose work does not count and who contradicts themselves, by number: nobody is dropped without a word.
func Remarks(o Opened, r Told) []string {
	var out []string
	for i, w := range r.Works {
		j := o.Judges[i]
		switch {
		case w.Done:
		case j.LeftAt != nil:
			out = append(out, fmt.Sprintf("Judge %d left with %d of %d given: that is not counted.", j.Number, w.Given, w.Of))
		default:
			out = append(out, fmt.Sprintf("Judge %d is not done, with %d of %d given: that is not counted.", j.Number, w.Given, w.Of))
		}
	}
	for _, d := range r.Result.Disorders {
		out = append(out, fmt.Sprintf("Judge %d puts %s no higher than %s.", o.Judges[d.Judge].Number, o.Cuts[d.Cut+1], o.Cuts[d.Cut]))
	}
	return out
}

// printing is the kind of work of setting a report on pages.
var printing = jobs.Kind{Name: "panel report", Most: 1}

// ReportPDF is the report of a panel on pages.
func (a *Panels) ReportPDF(ctx context.Context, v roster.Viewer, id int64) ([]byte, error) {
	r, err := a.Report(ctx, v, id)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	none := func(string) (string, []byte, error) { return "", nil, desk.ErrNotFound } // a report has no pictures
	err = a.Jobs.Do(ctx, printing, func(ctx context.Context) error {
		return r.WritePDF(ctx, &out, paper.Options{Language: "en", Size: 10, Columns: 1, Made: a.Now().Truncate(time.Second), Media: none})
	})
	return out.Bytes(), err
}

// ReportCSV is all that the judges of a panel gave.
func (a *Panels) ReportCSV(ctx context.Context, v roster.Viewer, id int64) ([]byte, error) {
	r, err := a.Report(ctx, v, id)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = r.WriteCSV(&out)
	return out.Bytes(), err
}
