package give

import (
	"context"
	"errors"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/giverows"
)

// NextYear is what was given, with the days on which its copy would be given a year later.
type NextYear struct {
	Distribution int64
	Assessment   int64
	Title        string
	Grades       []string
	Was, Becomes [2]string // first and last days
	Anew         bool      // whom it went to was chosen by sections or names, which are others then
	Copy         int64     // the draft; 0: only looked at
}

// YearNote is what the ledger keeps of a year that was copied.
type YearNote struct {
	Schema int     `json:"schema"`
	From   string  `json:"from"`
	To     string  `json:"to"`
	Copies []int64 `json:"copies"`
}

// mostCopied bounds how many assessments are copied at once.
const mostCopied = 200

// CopyYear proposes, for what was given in some weeks, the same weekdays a year later, each on a school day of then. Applied, those that
// are chosen become drafts with those dates, all in one transaction; rules of whom they go to go along, sections and names do not.
func (a *Give) CopyYear(ctx context.Context, v roster.Viewer, in CalendarInput, chosen []int64, apply bool) ([]NextYear, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	if !apply {
		return a.nextYear(ctx, a.Store.Reader, v, in, nil)
	}
	if len(chosen) == 0 || len(chosen) > mostCopied {
		return nil, desk.Invalid("/distributions", "Choose between 1 and %d assessments.", mostCopied)
	}
	var out []NextYear
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		var err error
		if out, err = a.nextYear(ctx, tx.Reader, v, in, chosen); err != nil {
			return err
		}
		if len(out) < len(chosen) {
			return desk.ErrNotFound
		}
		note := YearNote{Schema: 1, From: in.From, To: in.To}
		for i := range out {
			if err := a.copyForward(ctx, tx, v, in, &out[i]); err != nil {
				return err
			}
			note.Copies = append(note.Copies, out[i].Copy)
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "calendar.copy", Thing: "calendar", Title: in.From + " to " + in.To, After: note})
	})
	return out, err
}

// nextYear lists what was given in some weeks and may be copied, each assessment once; chosen narrows it to some distributions, nil not.
func (a *Give) nextYear(ctx context.Context, r store.Reader, v roster.Viewer, in CalendarInput, chosen []int64) ([]NextYear, error) {
	c, err := a.calendar(ctx, r, v, in)
	if err != nil {
		return nil, err
	}
	out := []NextYear{}
	for _, w := range c.Windows {
		if w.State == "planned" || chosen != nil && !slices.Contains(chosen, w.Distribution) {
			continue
		}
		at := slices.IndexFunc(out, func(n NextYear) bool { return n.Assessment == w.Assessment })
		if at >= 0 {
			if out[at].Distribution == w.Distribution {
				out[at].Grades = append(out[at].Grades, w.Grade)
			}
			continue
		}
		row, err := desk.Assessment(ctx, r, v, w.Assessment)
		if errors.Is(err, desk.ErrNotFound) || err == nil && !v.MayCopy(row.Owned()) {
			continue
		} else if err != nil {
			return nil, err
		}
		n := NextYear{Distribution: w.Distribution, Assessment: w.Assessment, Title: w.Title, Grades: []string{w.Grade}}
		d, err := giverows.SentByID(ctx, r, w.Distribution)
		if err != nil {
			return nil, err
		}
		_, n.Anew = again(d.Whom)
		waves, zone, err := a.aYearLater(ctx, r, in, d.Waves)
		if err != nil {
			return nil, err
		}
		n.Was, n.Becomes = daysOf(d.Waves, zone), daysOf(waves, zone)
		out = append(out, n)
	}
	return out, nil
}

// again is whom something goes to in another year: sections and names are others then.
func again(whom roster.Whom) (kept roster.Whom, anew bool) {
	kept = roster.Whom{Schema: whom.Schema, Follow: whom.Follow, Entries: []roster.Entry{}}
	for _, e := range whom.Entries {
		if len(e.Sections)+len(e.Students) > 0 {
			anew = true
			continue
		}
		kept.Entries = append(kept.Entries, e)
	}
	return kept, anew
}

// daysOf are the first and the last day of all waves.
func daysOf(w window.Waves, zone *time.Location) [2]string {
	whole := w.Whole()
	return [2]string{whole.From.In(zone).Format(time.DateOnly), whole.To.In(zone).Format(time.DateOnly)}
}

// aYearLater moves waves to the next year, over the school days that are known of it.
func (a *Give) aYearLater(ctx context.Context, r store.Reader, in CalendarInput, w window.Waves) (window.Waves, *time.Location, error) {
	table, zone, err := a.timetable(ctx, r, in.School)
	if err != nil {
		return w, nil, err
	}
	whole := w.Whole()
	then := window.Window{From: whole.From.AddDate(0, 0, 52*7), To: whole.To.AddDate(0, 0, 56*7)} // and a month for days without school
	days := table.SchoolDays(then)
	out := window.Waves{Schema: w.Schema, Waves: slices.Clone(w.Waves)}
	for i, wave := range out.Waves {
		out.Waves[i].From, out.Waves[i].To = window.AYearLater(wave.From, days, zone).UTC(), window.AYearLater(wave.To, days, zone).UTC()
		out.Waves[i].Sections = nil
	}
	return out, zone, nil
}

// copyForward makes the draft of one, with its dates.
func (a *Give) copyForward(ctx context.Context, tx *store.Tx, v roster.Viewer, in CalendarInput, n *NextYear) error {
	d, err := giverows.SentByID(ctx, tx.Reader, n.Distribution)
	if err != nil {
		return err
	}
	if n.Copy, err = a.build.CopyIn(ctx, tx, v, n.Assessment, ""); err != nil {
		return err
	}
	next := giverows.Distribution{AssessmentID: n.Copy}
	next.Whom, _ = again(d.Whom)
	if next.Waves, _, err = a.aYearLater(ctx, tx.Reader, in, d.Waves); err != nil {
		return err
	}
	row, err := desk.Assessment(ctx, tx.Reader, v, n.Copy)
	if err != nil {
		return err
	}
	whom, err := a.resolve(ctx, tx.Reader, v, row, next.Whom)
	if err != nil {
		return err
	}
	_, err = giverows.PutDistribution(ctx, tx, next, whom.came)
	return err
}
