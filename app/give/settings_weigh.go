package give

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/takerows"
)

// Affected is an assessment at which a change of settings changes something, or would.
type Affected struct {
	Assessment int64
	Title      string
	State      string
	Sections   int // where it is out and not over
	Begun      int // attempts there
	Changes    []settings.Change
	Stays      bool   // it is left as it is
	Why        string // it has to be left; "" where it is a choice
}

// weighed is a change with all that it brings about.
type weighed struct {
	rows     []SettingsRow
	sats     []reset
	affected []Affected
}

// reset is a sitting at which something else comes into force.
type reset struct {
	giverows.Sat
	after settings.Values
	shut  []string // settings that are locked against accommodations
}

// weigh checks a change and works out what it brings about. Where it holds for all, assessments that are to stay as they are, or
// have to since somebody has begun, say themselves what held for them before.
func (a *Give) weigh(ctx context.Context, r store.Reader, v roster.Viewer, s standing, changes []SettingChange, keep []int64) (weighed, error) {
	book, err := giverows.BookOf(ctx, r, []int64{s.place.Assessment})
	if err != nil {
		return weighed{}, err
	}
	rows, err := rowsOf(s, book, changes)
	if err != nil {
		return weighed{}, err
	}
	if s.place.Assessment > 0 {
		return a.weighRows(ctx, r, s, rows)
	}
	listed, err := buildrows.Assessments(ctx, r, v, buildrows.AssessmentFilter{Limit: mostAffected})
	if err != nil {
		return weighed{}, err
	}
	w, err := a.weighForAll(ctx, r, s, rows, listed, keep)
	if err != nil {
		return w, err
	}
	affected := w.affected
	w, err = a.weighRows(ctx, r, s, w.rows)
	w.affected = affected
	return w, err
}

// mostAffected bounds how many assessments one change is looked at for.
const mostAffected = 5000

// apply gives the book as it is after rows.
func apply(book *settings.Book, rows []SettingsRow) *settings.Book {
	return book.With(func(b *settings.Book) {
		for _, row := range rows {
			if row.After == nil {
				b.Drop(row.scope(), row.Key)
			} else {
				b.Put(row.scope(), row.Key, settings.Stand{Value: row.After.Value, Lock: row.After.Lock})
			}
		}
	})
}

// weighRows works out at which sittings rows bring something else into force. It refuses what may not change any more, and
// what quarrels so that it cannot stay.
func (a *Give) weighRows(ctx context.Context, r store.Reader, s standing, rows []SettingsRow) (weighed, error) {
	w := weighed{rows: rows}
	sats, err := giverows.SatBy(ctx, r, s.scope, store.Millis(a.Now()))
	if err != nil {
		return w, err
	}
	assessments := append(assessmentsOf(rows), s.place.Assessment)
	for _, sat := range sats {
		if !slices.Contains(assessments, sat.AssessmentID) {
			assessments = append(assessments, sat.AssessmentID)
		}
	}
	before, err := giverows.BookOf(ctx, r, assessments)
	if err != nil {
		return w, err
	}
	after := apply(before, rows)
	for _, sat := range sats {
		next, err := inForceNext(s, sat, rows, after.Values(sat.Place()))
		if err != nil {
			return w, err
		}
		shut := after.Shut(sat.Place())
		if sat.Begun > 0 {
			shut = sat.Setup.V.Shut // nobody who has begun loses what they work with
		}
		if len(settings.Changes(sat.Setup.V.Settings, next)) > 0 || !slices.Equal(shut, sat.Setup.V.Shut) {
			w.sats = append(w.sats, reset{sat, next, shut})
		}
	}
	if s.place.Assessment == 0 {
		return w, nil
	}
	return w, a.refuseQuarrels(ctx, before.Values(s.place), after.Values(s.place), sats)
}

// inForceNext is what is in force at a sitting after rows. Where somebody has begun there, only what the rows speak of changes,
// and only as far as it may: what is said for this place is refused else, and what is said for all passes it by.
func inForceNext(s standing, sat giverows.Sat, rows []SettingsRow, after settings.Values) (settings.Values, error) {
	in := sat.Setup.V.Settings
	if sat.Begun == 0 {
		return after, nil
	}
	next := maps.Clone(in)
	if next == nil {
		next = settings.Values{}
	}
	for _, c := range settings.Changes(in, after) {
		if !slices.ContainsFunc(rows, func(r SettingsRow) bool { return r.Key == c.Key }) {
			continue
		}
		if err := settings.MayChange([]settings.Change{c}); err == nil {
			next[c.Key] = c.After
			if c.After == nil {
				delete(next, c.Key)
			}
		} else if s.place.Assessment > 0 {
			return nil, desk.Conflict("%s in %s, %s. %s", haveBegun(sat.Begun), sat.School, sat.Section, err)
		}
	}
	return next, nil
}

func haveBegun(n int) string {
	if n == 1 {
		return "1 student has begun"
	}
	return fmt.Sprintf("%d students have begun", n)
}

// passedBy tells of sections where somebody has begun and something else is in force than the levels say by now.
func passedBy(book *settings.Book, sats []giverows.Sat) []settings.Quarrel {
	n := map[string]int{}
	words := map[string]string{}
	for _, sat := range sats {
		for _, c := range settings.Changes(sat.Setup.V.Settings, book.Values(sat.Place())) {
			_, before, _ := Said(c)
			n[c.Key]++
			words[c.Key] = before
		}
	}
	var out []settings.Quarrel
	for _, one := range settings.Catalog {
		if n[one.Key] > 0 {
			out = append(out, settings.Quarrel{Key: one.Key, With: "begun", Text: fmt.Sprintf("%s: where somebody has begun it stays %s (%s).", one.Name, words[one.Key], desk.Plural(n[one.Key], "section"))})
		}
	}
	return out
}

// refuseQuarrels refuses a change after which settings quarrel that did not before, and cannot stay so.
func (a *Give) refuseQuarrels(ctx context.Context, before, after settings.Values, sats []giverows.Sat) error {
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	from, to := windowOf(sats)
	had := before.Quarrels(from, to, zone)
	for _, q := range after.Quarrels(from, to, zone) {
		if q.Stop && !slices.Contains(had, q) {
			return desk.Invalid("/changes", "%s", q.Text)
		}
	}
	return nil
}

// weighForAll works out which assessments a change for all reaches, and adds rows for those that stay as they are.
func (a *Give) weighForAll(ctx context.Context, r store.Reader, s standing, rows []SettingsRow, listed []buildrows.AssessmentListed, keep []int64) (weighed, error) {
	w := weighed{rows: rows}
	ids := make([]int64, len(listed))
	for i, l := range listed {
		ids[i] = l.ID
	}
	before, err := giverows.BookOf(ctx, r, ids)
	if err != nil {
		return w, err
	}
	after := apply(before, rows)
	sats, err := giverows.SatBy(ctx, r, s.scope, store.Millis(a.Now()))
	if err != nil {
		return w, err
	}
	out := map[int64][]giverows.Sat{}
	for _, sat := range sats {
		out[sat.AssessmentID] = append(out[sat.AssessmentID], sat)
	}
	for _, l := range listed {
		place := settings.Place{Purpose: l.Purpose, Assessment: l.ID}
		had := before.Values(place)
		changes := settings.Changes(had, after.Values(place))
		if s.scope.Level == settings.Purpose && l.Purpose != s.scope.Purpose || len(changes) == 0 || s.scope.Level == settings.School {
			continue
		}
		one := Affected{Assessment: l.ID, Title: l.Title, State: string(l.State), Sections: len(out[l.ID]), Begun: begunAt(out[l.ID]), Changes: changes, Stays: slices.Contains(keep, l.ID)}
		if err := settings.MayChange(changes); one.Begun > 0 && err != nil {
			one.Stays, one.Why = true, err.Error()
		}
		w.affected = append(w.affected, one)
		if one.Stays {
			w.rows = append(w.rows, pins(before, place, changes)...)
		}
	}
	return w, nil
}

// pins let an assessment say itself what held for it.
func pins(book *settings.Book, place settings.Place, changes []settings.Change) []SettingsRow {
	var out []SettingsRow
	for _, c := range changes {
		value := c.Before
		if value == nil {
			one, _ := settings.ByKey(c.Key)
			value = one.Default
		}
		out = append(out, rowOf(place.Own(), c.Key, said(book, place.Own(), c.Key), &SettingSaid{Value: value}))
	}
	return out
}

// setUp keeps what is in force at a sitting from now on, with hours in a zone, and the terms of those who work there.
func (a *Give) setUp(ctx context.Context, tx *store.Tx, sat giverows.Sat, values settings.Values, shut []string, zone *time.Location) error {
	setup := attempt.NewSetup(values, shut, store.Time(sat.OpensAt), store.Time(sat.ClosesAt), zone)
	if err := giverows.SetSetup(ctx, tx, sat.SittingID, setup); err != nil {
		return err
	}
	if sat.Working == 0 {
		return nil
	}
	working, err := takerows.WorkingIn(ctx, tx.Reader, sat.SittingID)
	if err != nil {
		return err
	}
	for _, id := range working {
		row, err := takerows.AttemptByID(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		if err := takerows.AddTerms(ctx, tx, id, row.Terms.Under(setup), a.Now()); err != nil {
			return err
		}
	}
	return nil
}

// Said is a change in the words of its setting.
func Said(c settings.Change) (name, before, after string) {
	one, ok := settings.ByKey(c.Key)
	if !ok {
		return c.Key, string(c.Before), string(c.After)
	}
	return one.Name, one.Words(c.Before), one.Words(c.After)
}
