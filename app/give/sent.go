package give

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// SentView is a distribution that is out, or was.
type SentView struct {
	Distribution giverows.Distribution
	Edition      int
	Entries      []string // in words
	Waves        []WaveView
	Schools      int
	Sections     int
	Students     int
	Begun        int
	Working      int
	CameIn       int      // students since it was sent, by its rule
	Letters      []string // of the twin forms that were sent together, its own first; none where it was sent alone
	With         int64    // the assessment with which it was sent; 0: it was sent by itself
	MayChange    bool     // its dates, and recall it where nobody has begun
}

// Sent lists what was sent of an assessment, the newest first, as far as one may see.
func (a *Give) Sent(ctx context.Context, v roster.Viewer, id int64) ([]SentView, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return nil, err
	}
	sent, err := giverows.SentOf(ctx, a.Store.Reader, row.ID)
	if err != nil {
		return nil, err
	}
	out := []SentView{}
	for _, d := range sent {
		one, err := a.sentView(ctx, a.Store.Reader, v, row, d)
		if err != nil {
			return nil, err
		}
		if one.Sections > 0 {
			out = append(out, one)
		}
	}
	return out, nil
}

func (a *Give) sentView(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, d giverows.Distribution) (SentView, error) {
	out := SentView{Distribution: d}
	zone, err := a.Zone(ctx)
	if err != nil {
		return out, err
	}
	whom, err := a.gather(ctx, r, v, row, d.Whom)
	if err != nil {
		return out, err
	}
	if err := whom.nameStudents(ctx, r, v.Scope()); err != nil {
		return out, err
	}
	names := whom.names()
	for _, e := range d.Whom.Entries {
		words := names.words(e)
		if e.Out {
			words = "without " + words
		}
		out.Entries = append(out.Entries, words)
	}
	sats, err := giverows.SatOf(ctx, r, v.Scope(), d.ID)
	if err != nil {
		return out, err
	}
	all, err := giverows.SatOf(ctx, r, roster.Scope{District: true}, d.ID)
	if err != nil {
		return out, err
	}
	out.MayChange = v.MaySend(row.Owned()) && !row.Shelved && len(sats) == len(all) && d.DealtWith == 0
	twins, err := a.showTogether(ctx, r, v, row, d, &out)
	if err != nil {
		return out, err
	}
	schools := map[int64]string{}
	at := make([]giverows.Sat, len(d.Waves.Waves)) // one sitting of each wave, for its hours
	out.Waves = make([]WaveView, len(d.Waves.Waves))
	counted := map[int64]bool{}
	for _, s := range append(sats, twins...) {
		schools[s.SchoolID] = s.School
		out.Students, out.Begun, out.Working = out.Students+s.Seats, out.Begun+s.Begun, out.Working+s.Working
		i := d.Waves.Of(s.SchoolID, s.SectionID)
		if s.Makeup || i < 0 {
			continue // it has a window of its own
		}
		at[i] = s
		out.Waves[i].Students += s.Seats
		if !counted[s.SectionID] {
			counted[s.SectionID] = true
			out.Sections++
			out.Waves[i].SectionCount++
		}
	}
	out.Schools = len(schools)
	for i, w := range d.Waves.Waves {
		one := &out.Waves[i]
		one.WaveInput = WaveInput{w.Name, desk.FormatLocal(w.From, zone), desk.FormatLocal(w.To, zone), w.Schools, w.Sections}
		for _, s := range w.Schools {
			if name, in := schools[s]; in {
				one.SchoolNames = append(one.SchoolNames, name)
			}
		}
		one.Days = daysShown(at[i].Setup.V.Settings.Timetable(zone), w, one.Students, zone)
		one.Hours = hoursOf(at[i].Setup.V.Settings)
	}
	if out.CameIn, err = giverows.CameIn(ctx, r, v.Scope(), d.ID); err != nil {
		return out, err
	}
	out.Edition, err = giverows.EditionOf(ctx, r, d.ID)
	return out, err
}

// DatesLook is what other dates would change.
type DatesLook struct {
	Sections int
	Students int
	Begun    int // of them
	Working  int
	Changes  []DateChange // of each wave and window of before, in the order of the sections
}

// DateChange is a window that becomes another one for some sections.
type DateChange struct {
	Wave                string
	OpensWas, ClosesWas time.Time
	Opens, Closes       time.Time
	Sections, Students  int
	Working             int
	Examples            []string // three of the sections at most
}

// DatesNote is what the ledger keeps of moved dates, and what takes them back.
type DatesNote struct {
	Schema   int          `json:"schema"`
	Before   window.Waves `json:"before"`
	After    window.Waves `json:"after"`
	Sections int          `json:"sections"`
}

// ChangeDates gives a distribution that is out other waves: at once, or only looked at. Where somebody has begun, a window may
// end later, not earlier, and not begin later.
func (a *Give) ChangeDates(ctx context.Context, v roster.Viewer, id int64, in []WaveInput, version int, apply bool) (DatesLook, error) {
	var look DatesLook
	var touched []int64
	work := func(r store.Reader, tx *store.Tx) error {
		d, row, err := a.sentOne(ctx, r, v, id)
		if err != nil {
			return err
		}
		if d.Version != version {
			return desk.StaleBy("Somebody else")
		}
		if row.State == assessment.Closed {
			return desk.Conflict("Every window of it is over. Send it again to whoever is missing.")
		}
		zone, err := a.Zone(ctx)
		if err != nil {
			return err
		}
		waves, err := wavesOf(in, zone)
		if err != nil {
			return err
		}
		all, err := dealtWith(ctx, r, d)
		if err != nil {
			return err
		}
		var moved []movedSat
		for _, one := range all {
			more, err := a.moved(ctx, r, one, waves)
			if err != nil {
				return err
			}
			moved = append(moved, more...)
		}
		look = lookOf(moved, waves)
		if tx == nil || len(moved) == 0 {
			return nil
		}
		for _, m := range moved {
			if err := a.setUp(ctx, tx, m.Sat, m.Setup.V.Settings, m.Setup.V.Shut, zone); err != nil {
				return err
			}
			touched = append(touched, m.SittingID)
		}
		for _, one := range all {
			if err := giverows.MoveDates(ctx, tx, one, waves); err != nil {
				return err
			}
		}
		if err := a.tell(ctx, tx, []int64{v.PersonID}, touched, row.Title, newDates); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "distribution.dates", Thing: "distribution", ID: id, Title: row.Title,
			After: DatesNote{1, d.Waves, waves, len(moved)}})
	}
	if !apply {
		return look, work(a.Store.Reader, nil)
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error { return work(tx.Reader, tx) })
	if err == nil {
		a.changed(touched)
	}
	return look, err
}

// sentOne gives a distribution that was sent to who may change all of it.
func (a *Give) sentOne(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (giverows.Distribution, buildrows.Assessment, error) {
	d, err := giverows.SentByID(ctx, r, id)
	if err != nil {
		return d, buildrows.Assessment{}, err
	}
	row, err := desk.Assessment(ctx, r, v, d.AssessmentID)
	if err != nil {
		return d, row, err
	}
	if !v.MaySend(row.Owned()) {
		return d, row, desk.ErrForbidden
	}
	if row.Shelved {
		return d, row, desk.Conflict("%s", assessment.ErrShelved)
	}
	all, err := giverows.SatOf(ctx, r, roster.Scope{District: true}, id)
	if err != nil {
		return d, row, err
	}
	theirs, err := giverows.SatOf(ctx, r, v.Scope(), id)
	if err == nil && len(theirs) < len(all) {
		err = &desk.RefusedError{Why: "It went to other schools as well. Ask a district coordinator."}
	}
	return d, row, err
}

// moved are the sittings that get another window, with that window; it refuses what must not be where somebody has begun.
func (a *Give) moved(ctx context.Context, r store.Reader, d giverows.Distribution, waves window.Waves) ([]movedSat, error) {
	sats, err := giverows.SatOf(ctx, r, roster.Scope{District: true}, d.ID)
	if err != nil {
		return nil, err
	}
	var out []movedSat
	for _, s := range sats {
		i := waves.Of(s.SchoolID, s.SectionID)
		if s.Makeup {
			continue // it has a window of its own
		}
		if i < 0 {
			return nil, desk.Invalid("/waves", "%s, %s is in no wave. Put its school into one, or add a wave for all others.", s.School, s.Section)
		}
		w := waves.Waves[i]
		if !w.Dated() || !w.To.After(w.From) {
			return nil, desk.Invalid(fmt.Sprintf("/waves/%d/closes", i), "A window needs a first time, and a last one after it.")
		}
		was := window.Window{From: store.Time(s.OpensAt), To: store.Time(s.ClosesAt)}
		if w.From.Equal(was.From) && w.To.Equal(was.To) {
			continue
		}
		if err := window.MayMove(was, w.Window(), s.Begun > 0, a.Now()); err != nil {
			return nil, desk.Conflict("%s, %s: %s", s.School, s.Section, err)
		}
		m := movedSat{s, was, i}
		m.OpensAt, m.ClosesAt = store.Millis(w.From), store.Millis(w.To)
		out = append(out, m)
	}
	return out, nil
}

// movedSat is a sitting with its new window.
type movedSat struct {
	giverows.Sat
	was  window.Window
	wave int
}

func lookOf(moved []movedSat, waves window.Waves) DatesLook {
	look := DatesLook{Changes: []DateChange{}}
	counted := map[int64]bool{} // twin forms are given to the same sections
	for _, m := range moved {
		look.Students, look.Begun, look.Working = look.Students+m.Seats, look.Begun+m.Begun, look.Working+m.Working
		w := waves.Waves[m.wave]
		at := slices.IndexFunc(look.Changes, func(c DateChange) bool {
			return c.Opens.Equal(w.From) && c.Closes.Equal(w.To) && c.OpensWas.Equal(m.was.From) && c.ClosesWas.Equal(m.was.To)
		})
		if at < 0 {
			at = len(look.Changes)
			look.Changes = append(look.Changes, DateChange{Wave: w.Name, OpensWas: m.was.From, ClosesWas: m.was.To, Opens: w.From, Closes: w.To})
		}
		c := &look.Changes[at]
		c.Students, c.Working = c.Students+m.Seats, c.Working+m.Working
		if counted[m.SectionID] {
			continue
		}
		counted[m.SectionID] = true
		look.Sections, c.Sections = look.Sections+1, c.Sections+1
		if len(c.Examples) < 3 {
			c.Examples = append(c.Examples, m.School+", "+m.Section)
		}
	}
	return look
}

// RecallNote is what the ledger keeps of a distribution that was recalled.
type RecallNote struct {
	Schema   int `json:"schema"`
	Sections int `json:"sections"`
	Students int `json:"students"`
}

// Recall takes back what was sent before anybody has begun: the seats are gone, and what was chosen can be changed and sent again.
func (a *Give) Recall(ctx context.Context, v roster.Viewer, id int64, version int) error {
	var sittings []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		d, row, err := a.sentOne(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if d.Version != version {
			return desk.StaleBy("Somebody else")
		}
		all, err := dealtWith(ctx, tx.Reader, d)
		if err != nil {
			return err
		}
		var sats []giverows.Sat
		for _, one := range all {
			more, err := giverows.SatOf(ctx, tx.Reader, roster.Scope{District: true}, one.ID)
			if err != nil {
				return err
			}
			sats = append(sats, more...)
		}
		note, sections := RecallNote{Schema: 1}, map[int64]bool{}
		for _, s := range sats {
			note.Students, sections[s.SectionID] = note.Students+s.Seats, true
			sittings = append(sittings, s.SittingID)
		}
		note.Sections = len(sections)
		if begun := begunAt(sats); begun > 0 {
			return desk.Conflict("%s. Close the doors instead, or move the dates.", haveBegun(begun))
		}
		other, err := giverows.DraftDistribution(ctx, tx.Reader, row.ID)
		if err != nil && !errors.Is(err, desk.ErrNotFound) {
			return err
		}
		if len(other.Whom.Entries) > 0 {
			return desk.Conflict("Another distribution of it is being prepared. Send that one, or take its entries out, first.")
		}
		if err := a.tell(ctx, tx, []int64{v.PersonID}, sittings, row.Title, recalled); err != nil {
			return err
		}
		for i, one := range all {
			if err := recallOne(ctx, tx, one, i > 0); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "distribution.recall", Thing: "distribution", ID: id, Title: row.Title, After: note})
	})
	if err == nil {
		a.changed(sittings)
	}
	return err
}

// recallOne makes a draft of a distribution again; that of a twin form, which was made by sending, is dropped.
func recallOne(ctx context.Context, tx *store.Tx, d giverows.Distribution, drop bool) error {
	if err := giverows.Recall(ctx, tx, d); err != nil {
		return err
	}
	if drop {
		if err := giverows.DropDraft(ctx, tx, d); err != nil {
			return err
		}
	}
	others, err := giverows.SentOf(ctx, tx.Reader, d.AssessmentID)
	if err != nil || len(others) > 0 {
		return err
	}
	row, err := buildrows.AssessmentByID(ctx, tx.Reader, d.AssessmentID)
	if err != nil || row.State != assessment.Out && row.State != assessment.Closed {
		return err
	}
	if err := desk.Move(&row, assessment.Recall); err != nil {
		return err
	}
	return buildrows.SetAssessmentState(ctx, tx, row.ID, row.State)
}
