package cuts

import (
	"context"
	"errors"
	"maps"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/predict"
	"pineledger/core/roster"
	"pineledger/core/stats"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/cutrows"
)

// calibrating is the kind of work of putting items on one scale.
var calibrating = jobs.Kind{Name: "calibration", Most: 1}

// Calibration is how a calibration stands, with how far it is while it runs.
type Calibration struct {
	cutrows.Calibration
	Read, Of int // attempts
}

// Calibrate puts all items of a subject on one Rasch scale, by all answers so far; forms are linked by the items that they share. It waits
// a moment for the answer; a longer one goes on behind the screen.
func (a *Cuts) Calibrate(ctx context.Context, v roster.Viewer, subject string, wait time.Duration) (Calibration, error) {
	if !v.Scope().District {
		return Calibration{}, desk.ErrForbidden
	}
	forms, err := cutrows.GivenForms(ctx, a.Store.Reader, subject)
	if err != nil {
		return Calibration{}, err
	}
	if len(forms) == 0 {
		return Calibration{}, desk.Conflict("Nothing in %s has been given yet, so there are no answers to go by.", subject)
	}
	place, ok := a.Jobs.Take(calibrating)
	if !ok {
		return Calibration{}, desk.Conflict("A calibration is running. Wait until it has ended, or cancel it.")
	}
	var id int64
	err = a.Store.Write(ctx, func(tx *store.Tx) (err error) {
		id, err = cutrows.AddCalibration(ctx, tx, subject, v.PersonID, store.Millis(a.Now()))
		return err
	})
	if err != nil {
		place.Give()
		return Calibration{}, err
	}
	var came outcome
	job := place.Start(ctx, id, func(ctx context.Context, job *jobs.Job) (err error) {
		came, err = a.scale(ctx, forms, func(read, of int) { job.Tell([2]int{read, of}) })
		return err
	}, func(ctx context.Context, fault error) {
		if err := a.endCalibration(ctx, v, id, subject, came, fault); err != nil {
			a.Log.Error("a calibration could not be kept", "calibration", id, "error", err)
		}
	})
	select {
	case <-job.Done():
	case <-time.After(wait):
	case <-ctx.Done():
	}
	return a.calibration(ctx, id)
}

func (a *Cuts) calibration(ctx context.Context, id int64) (Calibration, error) {
	row, err := cutrows.CalibrationByID(ctx, a.Store.Reader, id)
	return a.told(row), err
}

// told adds how far a calibration is that runs.
func (a *Cuts) told(row cutrows.Calibration) Calibration {
	c := Calibration{Calibration: row}
	if job, running := a.Jobs.Find(calibrating, row.ID); running {
		if far, ok := job.Told().([2]int); ok {
			c.Read, c.Of = far[0], far[1]
		}
	}
	return c
}

// NewestCalibration is the last one of a subject; its ID is 0 before the first.
func (a *Cuts) NewestCalibration(ctx context.Context, v roster.Viewer, subject string) (Calibration, error) {
	if !v.MayBuild() {
		return Calibration{}, desk.ErrForbidden
	}
	row, err := cutrows.NewestCalibration(ctx, a.Store.Reader, subject)
	if errors.Is(err, desk.ErrNotFound) {
		return Calibration{}, nil
	}
	return a.told(row), err
}

// CancelCalibration stops one that runs; nothing of it is kept but that it was begun.
func (a *Cuts) CancelCalibration(ctx context.Context, v roster.Viewer, id int64) (Calibration, error) {
	if !v.Scope().District {
		return Calibration{}, desk.ErrForbidden
	}
	if job, running := a.Jobs.Find(calibrating, id); running {
		job.Stop()
		<-job.Done()
	}
	return a.calibration(ctx, id)
}

// outcome is what came of a calibration.
type outcome struct {
	placed   []cutrows.Calibrated
	attempts int
	because  string // why nothing could be placed
}

// endCalibration keeps what came of one.
func (a *Cuts) endCalibration(ctx context.Context, v roster.Viewer, id int64, subject string, came outcome, fault error) error {
	state, why := cutrows.CalibrationDone, ""
	switch {
	case errors.Is(fault, context.Canceled):
		state, came = cutrows.CalibrationCancelled, outcome{}
	case fault != nil:
		state, why, came = cutrows.CalibrationFailed, desk.Sentence(fault.Error()), outcome{}
	case len(came.placed) == 0:
		state, why = cutrows.CalibrationFailed, desk.Sentence(came.because)
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		for _, p := range came.placed {
			if err := cutrows.AddCalibrated(ctx, tx, id, p); err != nil {
				return err
			}
		}
		if err := cutrows.EndCalibration(ctx, tx, id, state, why, came.attempts, store.Millis(a.Now())); err != nil || state != cutrows.CalibrationDone {
			return err
		}
		note := CalibrationNote{Schema: 1, Subject: subject, Attempts: came.attempts, Items: len(came.placed)}
		return a.Record(ctx, tx, v, desk.Act{Name: "items.calibrate", Thing: "calibration", ID: id, Title: subject, After: note})
	})
}

// CalibrationNote is what the ledger keeps of a calibration.
type CalibrationNote struct {
	Schema   int    `json:"schema"` // 1
	Subject  string `json:"subject"`
	Attempts int    `json:"attempts"`
	Items    int    `json:"items"` // versions on the scale
}

// scale reads all answers to forms and places their items. Forms that are linked by items, one by one, make one scale.
func (a *Cuts) scale(ctx context.Context, forms []cutrows.GivenForm, tell func(read, of int)) (came outcome, err error) {
	sets, err := a.linkedForms(ctx, forms)
	if err != nil {
		return came, err
	}
	of := 0
	for _, f := range forms {
		of += f.Attempts
	}
	for _, set := range sets {
		count := func() error {
			if came.attempts++; came.attempts%1000 == 0 {
				tell(came.attempts, of)
			}
			return ctx.Err()
		}
		if err := a.gather(ctx, set, count); err != nil {
			return came, err
		}
		// A line that links to no other is left out: its answers are read past, and the rest has a scale.
		if linked := set.all.Linked(); len(linked) > 1 && len(linked) < len(set.versions) {
			set.only = linked
			if err := a.gather(ctx, set, ctx.Err); err != nil {
				return came, err
			}
		}
		placed, because := set.placed()
		if because != "" {
			came.because = because
		}
		came.placed = append(came.placed, placed...)
	}
	return came, ctx.Err()
}

// scaling is a set of linked forms with what was gathered of their answers.
type scaling struct {
	forms    []cutrows.GivenForm
	columns  map[int64][]int // by form, then line; -1 for one that is more than right or wrong
	versions []int64         // column by column
	only     []int           // the columns that count, rising; nil for all
	all      *stats.Answers
	byYear   map[string]*stats.Answers
	right    []int // by column
	taken    []int
}

// linkedForms puts forms that share a version of an item, one by one, into sets.
func (a *Cuts) linkedForms(ctx context.Context, forms []cutrows.GivenForm) ([]*scaling, error) {
	var sets []*scaling
	of := map[int64]*scaling{} // by version
	for _, g := range forms {
		f, err := a.FormByID(ctx, g.FormID)
		if err != nil {
			return nil, err
		}
		into := &scaling{columns: map[int64][]int{}}
		sets = append(sets, into)
		for _, l := range f.Lines {
			if other := of[l.VersionID]; other != nil && other != into {
				into.forms = append(into.forms, other.forms...)
				sets = slices.DeleteFunc(sets, func(s *scaling) bool { return s == other })
				for version, set := range of {
					if set == other {
						of[version] = into
					}
				}
			}
			of[l.VersionID] = into
		}
		into.forms = append(into.forms, g)
	}
	for _, s := range sets {
		column := map[int64]int{}
		for _, g := range s.forms {
			f, err := a.FormByID(ctx, g.FormID)
			if err != nil {
				return nil, err
			}
			for _, l := range f.Lines {
				at := -1
				if l.Item.Step(l.Points) == l.Points {
					known := false
					if at, known = column[l.VersionID]; !known {
						at = len(s.versions)
						column[l.VersionID] = at
						s.versions = append(s.versions, l.VersionID)
					}
				}
				s.columns[g.FormID] = append(s.columns[g.FormID], at)
			}
		}
	}
	return sets, nil
}

// gather reads the answers to a set of forms, with those to the columns that count. count hears of each attempt.
func (a *Cuts) gather(ctx context.Context, s *scaling, count func() error) error {
	n := len(s.versions)
	s.all, s.byYear, s.right, s.taken = stats.NewAnswers(n), map[string]*stats.Answers{}, make([]int, n), make([]int, n)
	for _, g := range s.forms {
		if s.byYear[g.Year] == nil {
			s.byYear[g.Year] = stats.NewAnswers(n)
		}
		err := cutrows.EachCredits(ctx, a.Store.Reader, g.FormID, func(credits []attempt.LineCredit) error {
			marks := s.marks(s.columns[g.FormID], credits)
			s.all.Add(marks)
			s.byYear[g.Year].Add(marks)
			return count()
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// marks are one student's, by column.
func (s *scaling) marks(columns []int, credits []attempt.LineCredit) []stats.Mark {
	marks := make([]stats.Mark, len(s.versions))
	for l, c := range credits {
		if l >= len(columns) || columns[l] < 0 || c.Outcome == item.NotGiven || c.Outcome == item.Unread {
			continue
		}
		at := columns[l]
		if _, counts := slices.BinarySearch(s.only, at); s.only != nil && !counts {
			continue
		}
		s.taken[at]++
		marks[at] = stats.Wrong
		if c.Credit > 0 {
			marks[at] = stats.Right
			s.right[at]++
		}
	}
	return marks
}

// placed gives where versions lie. A scale has no origin of its own: its mean is laid where the shares right of the same items put it, so that
// it can stand beside items that are on no scale yet.
func (s *scaling) placed() (out []cutrows.Calibrated, because string) {
	scale, because := s.all.Calibrate()
	if because != "" {
		return nil, because
	}
	var shares []float64
	for i, l := range scale {
		if l != nil {
			shares = append(shares, float64(s.right[i])/float64(s.taken[i]))
		}
	}
	origin := predict.Middling(shares)
	was := s.drifted()
	for i, l := range scale {
		if l == nil {
			continue
		}
		c := cutrows.Calibrated{VersionID: s.versions[i], B: l.B + origin, SE: l.SE, Infit: l.Infit, Outfit: l.Outfit, N: l.N}
		if moved, ok := was[i]; ok {
			c.Was = new(c.B + moved)
		}
		out = append(out, c)
	}
	return out, ""
}

// drifted compares the last two years: by column, how much lower or higher a difficulty was the year before.
func (s *scaling) drifted() map[int]float64 {
	out := map[int]float64{}
	years := slices.Sorted(maps.Keys(s.byYear))
	n := len(years)
	if n < 2 {
		return out
	}
	before, because := s.byYear[years[n-2]].Calibrate()
	if because != "" {
		return out
	}
	after, because := s.byYear[years[n-1]].Calibrate()
	if because != "" {
		return out
	}
	for _, d := range stats.Drifts(before, after) {
		out[d.Line] = d.From - d.To
	}
	return out
}

// endLeft ends calibrations that the program left when it stopped.
func (a *Cuts) endLeft(ctx context.Context) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		return cutrows.EndLeftCalibrations(ctx, tx, "The program stopped before it was done. Start it again.", store.Millis(a.Now()))
	})
}
