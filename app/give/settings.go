package give

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// SettingsView is how an assessment, or all of a purpose, is given at a place.
type SettingsView struct {
	Place    settings.Place
	Purpose  string // of the assessment, or the one that is looked at
	Where    []giverows.Where
	Begun    int // attempts at this place
	Settings []SettingView
	Quarrels []settings.Quarrel
	// MayChange tells whether who asks may change what the place says; WhyNot is a sentence where not.
	MayChange bool
	WhyNot    string
	Wrote     []SettingsRow // what the change just made wrote
	Released  time.Time     // when feedback was released; zero: not
}

// Where is a section that an assessment was sent to.
type Where = giverows.Where

// SettingView is one setting with what every level says.
type SettingView struct {
	settings.Setting
	settings.Resolved
	Usual     json.RawMessage // what purpose and district say
	Differs   bool            // from the usual
	Here      *settings.Stand // what this very place says; nil: nothing
	MayChange bool
	WhyNot    string // where it may not be changed, a sentence
	Meets     string // what a student meets of it and what goes with it; "" where name and value say it all
}

// standing is what a look at settings needs to know of its place.
type standing struct {
	place  settings.Place
	scope  settings.Scope
	row    buildrows.Assessment // zero without one
	where  []giverows.Where
	may    bool
	whyNot string
}

// stand finds a place for a viewer: what it is part of, and whether they may change what it says. What they may
// not see is not found.
func (a *Give) stand(ctx context.Context, r store.Reader, v roster.Viewer, p settings.Place) (standing, error) {
	s := standing{place: p, scope: p.Own()}
	if p.Assessment == 0 {
		return a.standForAll(ctx, r, v, s)
	}
	var err error
	if s.row, err = desk.Assessment(ctx, r, v, p.Assessment); err != nil {
		return s, err
	}
	s.place.Purpose = s.row.Purpose
	if s.where, err = giverows.SentTo(ctx, r, v.Scope(), p.Assessment); err != nil {
		return s, err
	}
	planned, err := giverows.GoesTo(ctx, r, v.Scope(), p.Assessment)
	if err != nil {
		return s, err
	}
	s.where = append(s.where, planned...)
	switch s.scope.Level {
	case settings.Assessment:
		s.may = v.MayChange(s.row.Owned())
	case settings.Distribution:
		s.may = v.MaySend(s.row.Owned())
		if !slices.ContainsFunc(s.where, func(w giverows.Where) bool { return w.DistributionID == p.Distribution }) {
			return s, desk.ErrNotFound
		}
	default:
		at := slices.IndexFunc(s.where, func(w giverows.Where) bool {
			return (p.Section == 0 || w.SectionID == p.Section) && (p.School == 0 || w.SchoolID == p.School)
		})
		if at < 0 {
			return s, desk.ErrNotFound
		}
		w := s.where[at]
		s.place.Distribution, s.place.School = w.DistributionID, w.SchoolID
		s.scope = s.place.Own()
		s.may = v.MayBuild() && (v.Scope().District || slices.Contains(v.Scope().Schools, w.SchoolID))
	}
	if !s.may {
		s.whyNot = "Only its coordinators change this."
	}
	if s.row.Shelved {
		s.may, s.whyNot = false, string(assessment.ErrShelved)
	}
	return s, nil
}

// standForAll is stand for the district, a purpose, or a school whatever the assessment.
func (a *Give) standForAll(ctx context.Context, r store.Reader, v roster.Viewer, s standing) (standing, error) {
	if !v.MayBuild() {
		return s, desk.ErrForbidden
	}
	s.may = v.MayImport()
	switch s.scope.Level {
	case settings.Purpose:
		names, err := buildrows.Purposes(ctx, r)
		if err != nil {
			return s, err
		}
		if !slices.Contains(names, s.scope.Purpose) {
			return s, desk.ErrNotFound
		}
	case settings.School:
		if _, err := officerows.SchoolNamed(ctx, r, s.scope.Thing); err != nil || !v.WorksAt(s.scope.Thing) {
			return s, cmp.Or(err, desk.ErrNotFound)
		}
		s.may = true
	case settings.District:
	default:
		return s, desk.ErrNotFound
	}
	if !s.may {
		s.whyNot = "Only district coordinators change what holds for all."
	}
	return s, nil
}

// Settings tells how things are given at a place, and why.
func (a *Give) Settings(ctx context.Context, v roster.Viewer, p settings.Place) (SettingsView, error) {
	return a.settingsView(ctx, a.Store.Reader, v, p)
}

func (a *Give) settingsView(ctx context.Context, r store.Reader, v roster.Viewer, p settings.Place) (SettingsView, error) {
	s, err := a.stand(ctx, r, v, p)
	if err != nil {
		return SettingsView{}, err
	}
	book, err := giverows.BookOf(ctx, r, []int64{p.Assessment})
	if err != nil {
		return SettingsView{}, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return SettingsView{}, err
	}
	sats, err := a.satAt(ctx, r, s)
	if err != nil {
		return SettingsView{}, err
	}
	view := SettingsView{Place: s.place, Purpose: s.place.Purpose, Where: s.where, Begun: begunAt(sats), MayChange: s.may, WhyNot: s.whyNot}
	if view.Released, err = giverows.ReleasedAt(ctx, r, p.Assessment); err != nil {
		return view, err
	}
	from, to := windowOf(sats)
	values := book.Values(s.place)
	view.Quarrels = append(values.Quarrels(from, to, zone), passedBy(book, sats)...)
	at, usual := book.At(s.place), book.At(settings.Place{Purpose: s.place.Purpose})
	for _, one := range settings.Catalog {
		sv := SettingView{Setting: one, Resolved: at[one.Key], Usual: usual[one.Key].Value, Meets: values.Meets(one.Key)}
		sv.Differs = s.place.Assessment > 0 && !one.Same(sv.Value, sv.Usual)
		if here, says := book.Said(s.scope, one.Key); says {
			sv.Here = &here
		}
		sv.MayChange, sv.WhyNot = s.mayChange(one, sv.Resolved)
		view.Settings = append(view.Settings, sv)
	}
	return view, nil
}

// mayChange tells whether the place of a standing may say something of a setting.
func (s standing) mayChange(one settings.Setting, r settings.Resolved) (bool, string) {
	switch {
	case !s.may:
		return false, s.whyNot
	case !one.At(s.scope.Level):
		return false, "It is the same for all who sit this assessment, so that their results compare."
	case r.LockedAt != "" && above(r.LockedAt, s.scope.Level):
		return false, fmt.Sprintf("%s locked it.", lockedBy(r))
	}
	return true, ""
}

func lockedBy(r settings.Resolved) string {
	if r.LockedBy == "" {
		return "The " + string(r.LockedAt)
	}
	return r.LockedBy
}

// above tells whether a level is more general than another.
func above(a, b settings.Level) bool {
	return slices.Index(settings.Levels, a) < slices.Index(settings.Levels, b)
}

// satAt lists the sittings at a place of an assessment; none where it is for all.
func (a *Give) satAt(ctx context.Context, r store.Reader, s standing) ([]giverows.Sat, error) {
	if s.place.Assessment == 0 {
		return nil, nil
	}
	return giverows.SatBy(ctx, r, s.scope, store.Millis(a.Now()))
}

func begunAt(sats []giverows.Sat) int {
	n := 0
	for _, s := range sats {
		n += s.Begun
	}
	return n
}

// windowOf is from the first beginning to the last end; zero without any.
func windowOf(sats []giverows.Sat) (from, to time.Time) {
	for _, s := range sats {
		opens, closes := store.Time(s.OpensAt), store.Time(s.ClosesAt)
		if from.IsZero() || opens.Before(from) {
			from = opens
		}
		if closes.After(to) {
			to = closes
		}
	}
	return from, to
}
