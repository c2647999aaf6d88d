package supports

import (
	"cmp"
	"context"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// mostAheadDays bounds how far ahead one can ask.
const mostAheadDays = 60

// AheadPlace is what a section needs of people or paper in a window.
type AheadPlace struct {
	Place
	Assessment int64
	Title      string
	From, To   time.Time
	Students   int // whom it concerns
}

// Lacks tells that less is there than is needed.
func (p AheadPlace) Lacks() bool { return p.Have < p.Need }

// Ahead lists what the sections in scope need of people and paper in the windows that are open or open within so many days, the
// earliest first. It names no student.
func (a *Supports) Ahead(ctx context.Context, v roster.Viewer, days int) ([]AheadPlace, error) {
	if !v.MayReadSupports() {
		return nil, desk.ErrForbidden
	}
	if days < 1 || days > mostAheadDays {
		return nil, desk.Invalid("/days", "Ask for 1 to %d days.", mostAheadDays)
	}
	now := a.Now()
	until := now.AddDate(0, 0, days)
	windows, err := giverows.Windows(ctx, a.Store.Reader, v.Scope(), giverows.WindowFilter{From: now, To: until})
	if err != nil {
		return nil, err
	}
	out, asked := []AheadPlace{}, map[int64]bool{}
	for _, w := range windows {
		if w.State != "sent" || asked[w.AssessmentID] {
			continue
		}
		asked[w.AssessmentID] = true
		places, err := a.aheadOf(ctx, a.Store.Reader, v, w.AssessmentID, now, until)
		if err != nil {
			return nil, err
		}
		out = append(out, places...)
	}
	slices.SortStableFunc(out, func(x, y AheadPlace) int {
		return cmp.Or(x.From.Compare(y.From), cmp.Compare(x.School, y.School), cmp.Compare(x.Section, y.Section))
	})
	return out, nil
}

// aheadOf is what the sections in scope need for an assessment that was given to them, where their windows fall between two moments.
func (a *Supports) aheadOf(ctx context.Context, r store.Reader, v roster.Viewer, id int64, now, until time.Time) ([]AheadPlace, error) {
	row, err := buildrows.AssessmentByID(ctx, r, id)
	if err != nil {
		return nil, err
	}
	w, err := a.lookAround(ctx, r, row)
	if err != nil {
		return nil, err
	}
	var m Matrix
	seats, entries, added, err := a.seats(ctx, r, v, w, &m)
	if err != nil {
		return nil, err
	}
	m.fill(w, seats, entries, added)
	var out []AheadPlace
	for _, p := range m.Places {
		setup := w.setups[p.SectionID]
		if setup.Closes.After(now) && setup.Opens.Before(until) {
			out = append(out, AheadPlace{p, id, row.Title, setup.Opens, setup.Closes, w.need[provided{p.SectionID, p.Key}]})
		}
	}
	return out, nil
}
