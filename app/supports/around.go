package supports

import (
	"context"
	"errors"
	"strconv"
	"time"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// around is what the supports of an assessment are looked at in.
type around struct {
	row    buildrows.Assessment
	d      giverows.Distribution
	f      form.Form
	offer  support.Offer
	rules  []support.Construct
	ruling map[string]support.Ruling
	made   []giverows.RulingMade
	zone   *time.Location
	day    string
	setups map[int64]attempt.Setup // by section
	book   *settings.Book
	has    map[provided]giverows.Provider
	need   map[provided]int
	told   map[string]answer // what is found of the same supports in the same section, which many share
}

// answer is what an assessment offers to who has some supports in a section.
type answer struct {
	minutes int
	gaps    []support.Gap
	cells   []Cell // but for what is the student's own: letters, and whether it ends by itself
}

// answers works out what an assessment offers.
func (w *around) answers(section int64, asked []support.Given, stand support.Standing) answer {
	key := strconv.FormatInt(section, 10)
	for _, g := range asked {
		key += "\x00" + g.Key + "=" + string(g.Value) + string(g.Source)
	}
	if known, has := w.told[key]; has {
		return known
	}
	out := answer{minutes: support.Needs(stand.Times, w.offer.Lets(asked, w.rules, w.ruling), stand.Shut), gaps: w.offer.Gaps(asked, stand)}
	for _, g := range asked {
		if one, known := support.ByKey(g.Key); known {
			out.cells = append(out.cells, Cell{Key: g.Key, Words: one.Words(g.Value), Short: support.Short(g), Source: g.Source, Still: true,
				Apart: w.ruling[g.Key] == support.Allow && w.offer.Breaks(g, w.rules) != nil})
		}
	}
	w.told[key] = out
	return out
}

type provided struct {
	section int64
	key     string
}

// lookAround gathers what an assessment offers, when it is taken and what was decided.
func (a *Supports) lookAround(ctx context.Context, r store.Reader, row buildrows.Assessment) (*around, error) {
	d, err := giverows.SentLast(ctx, r, row.ID)
	if errors.Is(err, desk.ErrNotFound) {
		if d, err = giverows.DraftDistribution(ctx, r, row.ID); errors.Is(err, desk.ErrNotFound) {
			err = nil
		}
	}
	if err != nil {
		return nil, err
	}
	return a.lookAt(ctx, r, row, d)
}

// lookAt gathers the same as a distribution would give it.
func (a *Supports) lookAt(ctx context.Context, r store.Reader, row buildrows.Assessment, d giverows.Distribution) (*around, error) {
	w := &around{row: row, d: d, setups: map[int64]attempt.Setup{}, has: map[provided]giverows.Provider{}, need: map[provided]int{}, told: map[string]answer{}}
	var err error
	if w.zone, err = a.Zone(ctx); err != nil {
		return nil, err
	}
	if w.d.FormID > 0 {
		w.f, err = a.FormByID(ctx, w.d.FormID)
	} else {
		w.f, err = build.FormOf(ctx, r, row)
	}
	if err != nil {
		return nil, err
	}
	w.offer = w.f.Offer()
	if w.rules, w.ruling, err = ruled(ctx, r, row.ID); err != nil {
		return nil, err
	}
	if w.made, err = giverows.Rulings(ctx, r, row.ID); err != nil {
		return nil, err
	}
	providers, err := giverows.Providers(ctx, r, row.ID)
	if err != nil {
		return nil, err
	}
	for _, p := range providers {
		w.has[provided{p.SectionID, p.Key}] = p
	}
	if w.book, err = giverows.BookOf(ctx, r, []int64{row.ID}); err != nil {
		return nil, err
	}
	day := a.Now()
	if w.d.Opens.After(day) {
		day = w.d.Opens
	}
	w.day = day.In(w.zone).Format(time.DateOnly)
	if w.d.State != "sent" {
		return w, nil
	}
	sats, err := giverows.SatBy(ctx, r, settings.Scope{Level: settings.Distribution, Assessment: row.ID, Thing: w.d.ID}, store.Millis(a.Now()))
	for _, s := range sats {
		if !s.Makeup {
			w.setups[s.SectionID] = s.Setup.V
		}
	}
	return w, err
}

// seats lists who takes it and has supports, with their profiles by student and what was added by seat.
func (a *Supports) seats(ctx context.Context, r store.Reader, v roster.Viewer, w *around, m *Matrix) ([]giverows.SeatOf, []officerows.ProfileEntry, []giverows.AddedSupport, error) {
	if w.d.State == "sent" {
		seats, all, err := giverows.SeatsWithSupports(ctx, r, v.Scope(), w.d.ID)
		if err != nil {
			return nil, nil, nil, err
		}
		m.Students = all
		entries, err := officerows.StandingSeated(ctx, r, v.Scope(), w.d.ID)
		if err != nil {
			return nil, nil, nil, err
		}
		added, err := giverows.AddedIn(ctx, r, v.Scope(), w.d.ID)
		return seats, entries, added, err
	}
	if w.d.ID == 0 {
		return nil, nil, nil, nil
	}
	aim, err := giverows.AimOf(ctx, r, w.d.ID)
	if err != nil {
		return nil, nil, nil, err
	}
	seats, err := giverows.EnrolledWithSupports(ctx, r, v.Scope(), aim)
	if err != nil {
		return nil, nil, nil, err
	}
	if m.Students, err = giverows.Enrolled(ctx, r, v.Scope(), aim); err != nil {
		return nil, nil, nil, err
	}
	entries, err := officerows.StandingEnrolled(ctx, r, aim.Sections)
	return seats, entries, nil, err
}

// setup is what is in force in a section.
func (w *around) setup(s giverows.SeatOf) attempt.Setup {
	if setup, known := w.setups[s.SectionID]; known {
		return setup
	}
	place := settings.Place{Purpose: w.row.Purpose, Assessment: w.row.ID, Distribution: w.d.ID, School: s.SchoolID, Section: s.SectionID}
	when := w.d.Waves.WindowOf(s.SchoolID, s.SectionID)
	setup := attempt.NewSetup(w.book.Values(place), w.book.Shut(place), when.From, when.To, w.zone)
	w.setups[s.SectionID] = setup
	return setup
}

// times are what a section's window holds; nothing where there is no window yet.
func (w *around) times(setup attempt.Setup) support.Times {
	if w.d.Opens.IsZero() || !w.d.Closes.After(w.d.Opens) {
		return support.Times{Minutes: setup.Minutes()}
	}
	return support.TimesOf(setup.Minutes(), window.Window{From: setup.Opens, To: setup.Closes}, setup.Spans, w.zone)
}
