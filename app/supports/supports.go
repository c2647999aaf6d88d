// Package supports is the room of accommodations: what each student has, what an assessment can give of it, who
// provides the rest, and what is in force for one student in one sitting.
package supports

import (
	"context"
	"time"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/form"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// Supports is the room of accommodations.
type Supports struct {
	*desk.Desk
	build *build.Build
	looks *looks
	// OnChange is told at which sittings something else is in force for somebody. It is set before the first use; nil
	// tells nobody.
	OnChange func(sittings []int64)
}

// New opens the room.
func New(d *desk.Desk, b *build.Build) *Supports {
	return &Supports{Desk: d, build: b, looks: newLooks()}
}

func (a *Supports) changed(sittings []int64) {
	if a.OnChange != nil && len(sittings) > 0 {
		a.OnChange(sittings)
	}
}

// InForce gives what a student is given at a sitting of a form: what holds of their profile today, and what was added for this
// sitting, less what would break what is measured and nobody allowed.
func (a *Supports) InForce(ctx context.Context, r store.Reader, sitting, assessment int64, f form.Form, student int64) ([]support.Given, error) {
	profile, err := officerows.StandingOf(ctx, r, student)
	if err != nil {
		return nil, err
	}
	added, err := giverows.AddedTo(ctx, r, sitting, student)
	if err != nil || len(profile)+len(added) == 0 {
		return nil, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	rules, rulings, err := ruled(ctx, r, assessment)
	if err != nil {
		return nil, err
	}
	asked := given(profile, added, f.Subject, a.Now().In(zone).Format(time.DateOnly))
	return f.Offer().Lets(asked, rules, rulings), nil
}

// given is what holds of a profile on a day in a subject, with what was added.
func given(profile []officerows.ProfileEntry, added []giverows.AddedSupport, subject, day string) []support.Given {
	haves := make([]support.Have, len(profile))
	for i, e := range profile {
		haves[i] = e.Have
	}
	out := support.Give(support.InForce(haves, subject, day), support.FromProfile)
	for _, one := range added {
		out = support.Add(out, support.Given{Key: one.Key, Value: one.Value, Source: support.FromToday})
	}
	return out
}

// ruled are the district's rules of what supports break, and what was decided for an assessment.
func ruled(ctx context.Context, r store.Reader, assessment int64) ([]support.Construct, map[string]support.Ruling, error) {
	rules, err := officerows.ConstructRules(ctx, r)
	if err != nil {
		return nil, nil, err
	}
	made, err := giverows.Rulings(ctx, r, assessment)
	rulings := map[string]support.Ruling{}
	for _, m := range made {
		rulings[m.Key] = m.Ruling
	}
	return rules, rulings, err
}

// Reapply gives students who work what is new in their profiles. What they began with stays theirs. It gives the sittings
// where something changed.
func (a *Supports) Reapply(ctx context.Context, tx *store.Tx, students []int64) ([]int64, error) {
	var touched []int64
	for _, student := range students {
		working, err := takerows.WorkingOf(ctx, tx.Reader, student)
		if err != nil {
			return nil, err
		}
		for _, id := range working {
			sitting, err := a.reapply(ctx, tx, id)
			if err != nil {
				return nil, err
			}
			if sitting > 0 {
				touched = append(touched, sitting)
			}
		}
	}
	return touched, nil
}

// reapply gives one attempt what is new, and its sitting where that is something.
func (a *Supports) reapply(ctx context.Context, tx *store.Tx, id int64) (int64, error) {
	row, err := takerows.AttemptByID(ctx, tx.Reader, id)
	if err != nil {
		return 0, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return 0, err
	}
	now, err := a.InForce(ctx, tx.Reader, row.SittingID, row.AssessmentID, f, row.StudentID)
	if err != nil {
		return 0, err
	}
	next := support.Keep(row.Terms.Supports, now)
	if support.Same(next, row.Terms.Supports) {
		return 0, nil
	}
	terms := row.Terms
	terms.Supports = next
	return row.SittingID, takerows.AddTerms(ctx, tx, id, terms.Under(terms.Setup), a.Now())
}
