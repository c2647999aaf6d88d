package give

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/recordrows"
)

// Spread is where a planned window would go, so that those of a grade keep their distance.
type Spread struct {
	Distribution int64
	Title        string
	Grades       []string
	Was          [2]string // its first and last day now
	window.Proposal
	by int // school days
}

// mostDistance bounds the school days between two windows.
const mostDistance = 60

// SpreadOut proposes dates for the planned windows of some weeks that one may move: any two of a grade lie at least distance school
// days apart, where that can be. What is out stays. Applied, every wave of a window moves by as many school days as its first.
func (a *Give) SpreadOut(ctx context.Context, v roster.Viewer, in CalendarInput, distance int, apply bool) ([]Spread, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	if distance < 0 || distance > mostDistance {
		return nil, desk.Invalid("/distance", "Choose a distance of 0 to %d school days.", mostDistance)
	}
	if !apply {
		out, _, err := a.spread(ctx, a.Store.Reader, v, in, distance)
		return out, err
	}
	var out []Spread
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		var days []string
		var err error
		if out, days, err = a.spread(ctx, tx.Reader, v, in, distance); err != nil {
			return err
		}
		for _, s := range out {
			if err := a.shift(ctx, tx, v, s, days); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// spread gives the proposals, and the school days over which they are made.
func (a *Give) spread(ctx context.Context, r store.Reader, v roster.Viewer, in CalendarInput, distance int) ([]Spread, []string, error) {
	c, err := a.calendar(ctx, r, v, in)
	if err != nil {
		return nil, nil, err
	}
	table, zone, err := a.timetable(ctx, r, in.School)
	if err != nil {
		return nil, nil, err
	}
	from, err := dayOf("/from", max(in.From, c.Today), zone)
	if err != nil {
		return nil, nil, err
	}
	to, err := dayOf("/to", in.To, zone)
	if err != nil {
		return nil, nil, err
	}
	days := table.SchoolDays(window.Window{From: from, To: to.AddDate(0, 0, 1)})
	var planned []window.Planned
	titles := map[int64]CalendarWindow{}
	for _, w := range c.Windows {
		at := slices.IndexFunc(planned, func(p window.Planned) bool { return p.ID == w.Distribution })
		if at >= 0 {
			planned[at].Grades = append(planned[at].Grades, w.Grade)
			continue
		}
		if w.To < c.Today {
			continue
		}
		mine, err := a.mayMove(ctx, r, v, w)
		if err != nil {
			return nil, nil, err
		}
		first, _ := slices.BinarySearch(days, w.From)
		last, found := slices.BinarySearch(days, w.To)
		if found {
			last++
		}
		planned = append(planned, window.Planned{ID: w.Distribution, Grades: []string{w.Grade}, From: w.From, Days: max(1, last-first), Fixed: !mine})
		titles[w.Distribution] = w
	}
	out := []Spread{}
	for _, p := range window.Spread(planned, days, distance) {
		w := titles[p.ID]
		at := slices.IndexFunc(planned, func(o window.Planned) bool { return o.ID == p.ID })
		was, _ := slices.BinarySearch(days, w.From)
		out = append(out, Spread{p.ID, w.Title, planned[at].Grades, [2]string{w.From, w.To}, p, slices.Index(days, p.From) - was})
	}
	return out, days, nil
}

// mayMove tells whether a window is only planned and one's own to move.
func (a *Give) mayMove(ctx context.Context, r store.Reader, v roster.Viewer, w CalendarWindow) (bool, error) {
	if w.State != "planned" {
		return false, nil
	}
	row, err := desk.Assessment(ctx, r, v, w.Assessment)
	if err != nil {
		return false, err
	}
	return v.MaySend(row.Owned()), nil
}

// shift moves all waves of a planned window by as many school days as its first one.
func (a *Give) shift(ctx context.Context, tx *store.Tx, v roster.Viewer, s Spread, days []string) error {
	if s.by == 0 {
		return nil
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	d, err := giverows.DraftByID(ctx, tx.Reader, s.Distribution)
	if err != nil {
		return err
	}
	before := spansOf(d.Waves)
	for i := range d.Waves.Waves {
		w := &d.Waves.Waves[i]
		w.From, w.To = window.MovedBy(w.From, s.by, days, zone).UTC(), window.MovedBy(w.To, s.by, days, zone).UTC()
	}
	return a.putSpread(ctx, tx, v, d, s.Title, before)
}

// SpreadNote is in the ledger what windows of a plan were, and became.
type SpreadNote struct {
	Schema int        `json:"schema"` // 1
	Spans  []SpanNote `json:"spans"`  // of each wave
}

// SpanNote is the window of a wave.
type SpanNote struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

func spansOf(w window.Waves) SpreadNote {
	n := SpreadNote{Schema: 1, Spans: []SpanNote{}}
	for _, wave := range w.Waves {
		n.Spans = append(n.Spans, SpanNote{wave.From, wave.To})
	}
	return n
}

// putSpread keeps a plan with other windows.
func (a *Give) putSpread(ctx context.Context, tx *store.Tx, v roster.Viewer, d giverows.Distribution, title string, before SpreadNote) error {
	aim, err := giverows.AimOf(ctx, tx.Reader, d.ID)
	if err != nil {
		return err
	}
	if _, err := giverows.PutDistribution(ctx, tx, d, aim); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: spreadAct, Thing: "distribution", ID: d.ID, Title: title, Before: before, After: spansOf(d.Waves)})
}

const spreadAct = "distribution.spread"

// UndoSpread brings plans back to the windows that they had before they were last spread, all of them or none: where one has other
// windows by now than it was given then, or is out, it says so.
func (a *Give) UndoSpread(ctx context.Context, v roster.Viewer, distributions []int64) error {
	if !v.MayBuild() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		for _, id := range distributions {
			d, err := giverows.DraftByID(ctx, tx.Reader, id)
			if err != nil {
				return err
			}
			row, err := desk.Assessment(ctx, tx.Reader, v, d.AssessmentID)
			if err != nil {
				return err
			}
			if !v.MaySend(row.Owned()) {
				return desk.ErrForbidden
			}
			entries, err := recordrows.Ledger(ctx, tx.Reader, recordrows.LedgerFilter{Thing: "distribution", ThingID: id, Limit: 1})
			if err != nil {
				return err
			}
			if len(entries) == 0 || entries[0].Act != spreadAct {
				return desk.Conflict("%s has not been spread, or was changed since.", row.Title)
			}
			var was, now SpreadNote
			if err := errors.Join(json.Unmarshal([]byte(entries[0].Before), &was), json.Unmarshal([]byte(entries[0].After), &now)); err != nil {
				return fmt.Errorf("ledger entry %d: %w", entries[0].Number, err)
			}
			if before := spansOf(d.Waves); !slices.Equal(before.Spans, now.Spans) {
				return desk.Conflict("%s has other dates by now than it was given then. Nothing was moved.", row.Title)
			}
			for i, s := range was.Spans {
				d.Waves.Waves[i].From, d.Waves.Waves[i].To = s.From, s.To
			}
			if err := a.putSpread(ctx, tx, v, d, row.Title, now); err != nil {
				return err
			}
		}
		return nil
	})
}
