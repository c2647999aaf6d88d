package supports

import (
	"context"
	"slices"

	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Unmet tells what students cannot be given yet of their supports at an assessment as a distribution would give it to them. Time that a window
// does not hold is left out: preflight measures that itself.
func (a *Supports) Unmet(ctx context.Context, r store.Reader, row buildrows.Assessment, d giverows.Distribution, aim roster.Aim) (roster.Unmet, error) {
	var out roster.Unmet
	seats, err := giverows.EnrolledWithSupports(ctx, r, roster.Scope{District: true}, aim)
	if err != nil || len(seats) == 0 {
		return out, err
	}
	w, err := a.lookAt(ctx, r, row, d)
	if err != nil {
		return out, err
	}
	entries, err := officerows.StandingEnrolled(ctx, r, aim.Sections)
	if err != nil {
		return out, err
	}
	var m Matrix
	m.fill(w, seats, entries, nil)
	concerned := map[int64]bool{}
	for _, g := range m.Gaps {
		if slices.Contains([]string{support.ExtraTime, support.ExtraMinutes}, g.Key) {
			continue
		}
		out.What = append(out.What, g.Title)
		for _, s := range g.Students {
			concerned[s] = true
		}
	}
	out.Students = len(concerned)
	return out, nil
}
