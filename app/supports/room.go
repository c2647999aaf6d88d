package supports

import (
	"context"
	"time"

	"pineledger/core/form"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// InRoom gives what the students of a sitting are given, by student; who has nothing is not in it.
func (a *Supports) InRoom(ctx context.Context, r store.Reader, s giverows.Sitting, f form.Form) (map[int64][]support.Given, error) {
	entries, err := officerows.StandingAt(ctx, r, s.ID)
	if err != nil {
		return nil, err
	}
	added, err := giverows.AddedAt(ctx, r, s.ID)
	if err != nil || len(entries)+len(added) == 0 {
		return nil, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	rules, rulings, err := ruled(ctx, r, s.AssessmentID)
	if err != nil {
		return nil, err
	}
	profiles, own := map[int64][]officerows.ProfileEntry{}, map[int64][]giverows.AddedSupport{}
	for _, e := range entries {
		profiles[e.StudentID] = append(profiles[e.StudentID], e)
	}
	for _, one := range added {
		own[one.StudentID] = append(own[one.StudentID], one)
		if profiles[one.StudentID] == nil {
			profiles[one.StudentID] = []officerows.ProfileEntry{}
		}
	}
	day, offer, out := a.Now().In(zone).Format(time.DateOnly), f.Offer(), map[int64][]support.Given{}
	for student, profile := range profiles {
		if given := offer.Lets(given(profile, own[student], f.Subject, day), rules, rulings); len(given) > 0 {
			out[student] = given
		}
	}
	return out, nil
}
