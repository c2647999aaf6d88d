package give

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Term is a stretch of the school year by the roster.
type Term = giverows.Term

// CalendarInput says which part of the year is looked at, and for whom. Dates are as 2026-11-30.
type CalendarInput struct {
	From, To string // the days from and to which, both included
	School   int64  // 0: all in scope
	Grade    string
	Subject  string
	Student  int64 // what this one takes; 0: everybody
}

// Calendar is the windows of some weeks with what they take of students.
type Calendar struct {
	From, To string
	Today    string
	Windows  []CalendarWindow
	Off      []DayOff
	Days     int // with school
	Loads    []window.Load
	Clashes  []CalendarClash
	Schools  []officerows.School
	Subjects []string
	MayPlan  bool // days without school
	Terms    []Term
	Student  string // whose calendar it is; "" for everybody's
}

// CalendarWindow is a window in the row of a grade.
type CalendarWindow struct {
	Distribution int64
	Assessment   int64
	Title        string
	Subject      string
	Grade        string
	State        string // over, out, planned
	Opens        time.Time
	Closes       time.Time
	From, To     string // its first and last day
	SchoolDays   int
	Minutes      int
	Sections     int
	Students     int
}

// DayOff is a day without school.
type DayOff struct {
	Day    string
	Name   string
	School bool // of one school, not of the whole district
}

// CalendarClash is two windows at once for some of the same students.
type CalendarClash struct {
	Grade      string
	One, Other int64 // distributions
	From, To   string
	Students   int
}

// mostWeeks bounds what is looked at at once.
const mostWeeks = 62

// Calendar gives the windows between two days, as far as one may see.
func (a *Give) Calendar(ctx context.Context, v roster.Viewer, in CalendarInput) (Calendar, error) {
	if !v.IsStaff() {
		return Calendar{}, desk.ErrForbidden
	}
	return a.calendar(ctx, a.Store.Reader, v, in)
}

func (a *Give) calendar(ctx context.Context, r store.Reader, v roster.Viewer, in CalendarInput) (Calendar, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return Calendar{}, err
	}
	from, err := dayOf("/from", in.From, zone)
	if err != nil {
		return Calendar{}, err
	}
	last, err := dayOf("/to", in.To, zone)
	if err != nil {
		return Calendar{}, err
	}
	to := last.AddDate(0, 0, 1)
	if !to.After(from) || to.After(from.AddDate(0, 0, 7*mostWeeks)) {
		return Calendar{}, desk.Invalid("/to", "Choose a last day after the first one, at most %d weeks later.", mostWeeks)
	}
	out := Calendar{From: in.From, To: in.To, Today: a.Now().In(zone).Format(time.DateOnly), MayPlan: v.MayBuild()}
	if in.Student > 0 {
		pupil, err := officerows.PupilInScope(ctx, r, v.Scope(), in.Student)
		if err != nil {
			return out, err
		}
		out.Student = pupil.Name
	}
	parts, err := giverows.Windows(ctx, r, v.Scope(), giverows.WindowFilter{From: from, To: to, SchoolID: in.School, Grade: in.Grade, Subject: in.Subject, Student: in.Student})
	if err != nil {
		return out, err
	}
	if parts, err = a.visible(ctx, r, v, parts); err != nil {
		return out, err
	}
	book, err := giverows.BookOf(ctx, r, assessmentsIn(parts))
	if err != nil {
		return out, err
	}
	if err := a.daysOff(ctx, r, book, in.School, &out, window.Window{From: from, To: to}, zone); err != nil {
		return out, err
	}
	sizes, err := giverows.GradeSizes(ctx, r, v.Scope(), in.School)
	if err != nil {
		return out, err
	}
	if in.Student > 0 {
		for grade := range sizes {
			sizes[grade] = 1
		}
		for i := range parts {
			parts[i].Sections, parts[i].Students = 1, 1
		}
	}
	var bookings []window.Booking
	for _, p := range parts {
		values := book.Values(settings.Place{Purpose: p.Purpose, Assessment: p.AssessmentID, Distribution: p.DistributionID, School: p.SchoolID, Section: p.SectionID})
		w := window.Window{From: store.Time(p.OpensAt), To: store.Time(p.ClosesAt)}
		days := values.Timetable(zone).SchoolDays(w)
		minutes := values.Number(settings.Minutes)
		bookings = append(bookings, window.Booking{Grade: p.Grade, Minutes: minutes, Students: p.Students, Days: days})
		out.Windows = merge(out.Windows, shownIn(p, w, minutes, len(days), a.Now(), zone))
	}
	out.Loads = window.Loads(bookings, sizes)
	if out.Clashes, err = clashesIn(ctx, r, out.Windows, in.Student); err != nil {
		return out, err
	}
	if out.Terms, err = giverows.Terms(ctx, r, out.Today); err != nil {
		return out, err
	}
	if out.Schools, err = officerows.Schools(ctx, r, v.Scope()); err != nil {
		return out, err
	}
	out.Subjects, err = officerows.Subjects(ctx, r)
	return out, err
}

// visible leaves out what is only planned in an assessment that one may not see; what is out is everybody's whose section it is in.
func (a *Give) visible(ctx context.Context, r store.Reader, v roster.Viewer, parts []giverows.WindowPart) ([]giverows.WindowPart, error) {
	may := map[int64]bool{}
	var out []giverows.WindowPart
	for _, p := range parts {
		if _, known := may[p.AssessmentID]; !known && p.State == "draft" {
			_, err := desk.Assessment(ctx, r, v, p.AssessmentID)
			if err != nil && !errors.Is(err, desk.ErrNotFound) {
				return nil, err
			}
			may[p.AssessmentID] = err == nil
		}
		if p.State != "draft" || may[p.AssessmentID] {
			out = append(out, p)
		}
	}
	return out, nil
}

func assessmentsIn(parts []giverows.WindowPart) []int64 {
	var out []int64
	for _, p := range parts {
		out = append(out, p.AssessmentID)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func dayOf(pointer, text string, zone *time.Location) (time.Time, error) {
	at, err := time.ParseInLocation(time.DateOnly, text, zone)
	if err != nil {
		return at, desk.Invalid(pointer, "Write the day as 2026-11-30.")
	}
	return at, nil
}

func shownIn(p giverows.WindowPart, w window.Window, minutes, days int, now time.Time, zone *time.Location) CalendarWindow {
	state := "planned"
	switch {
	case p.State == "sent" && !w.To.After(now):
		state = "over"
	case p.State == "sent":
		state = "out"
	}
	title := cmp.Or(p.ShortTitle, p.Title)
	return CalendarWindow{Distribution: p.DistributionID, Assessment: p.AssessmentID, Title: title, Subject: p.Subject, Grade: p.Grade, State: state, Opens: w.From, Closes: w.To,
		From: w.From.In(zone).Format(time.DateOnly), To: w.To.Add(-time.Second).In(zone).Format(time.DateOnly), SchoolDays: days, Minutes: minutes, Sections: p.Sections, Students: p.Students}
}

// merge makes one window of the waves of a distribution in a grade.
func merge(windows []CalendarWindow, w CalendarWindow) []CalendarWindow {
	at := slices.IndexFunc(windows, func(o CalendarWindow) bool { return o.Distribution == w.Distribution && o.Grade == w.Grade })
	if at < 0 {
		return append(windows, w)
	}
	o := &windows[at]
	o.Sections, o.Students, o.Minutes, o.SchoolDays = o.Sections+w.Sections, o.Students+w.Students, max(o.Minutes, w.Minutes), max(o.SchoolDays, w.SchoolDays)
	if w.Opens.Before(o.Opens) {
		o.Opens, o.From = w.Opens, w.From
	}
	if w.Closes.After(o.Closes) {
		o.Closes, o.To = w.Closes, w.To
	}
	if w.State == "out" {
		o.State = "out"
	}
	return windows
}

// daysOff adds the days without school and counts those with it.
func (a *Give) daysOff(ctx context.Context, r store.Reader, book *settings.Book, school int64, out *Calendar, w window.Window, zone *time.Location) error {
	names, err := giverows.DayNames(ctx, r, school)
	if err != nil {
		return err
	}
	called := map[string]string{}
	for _, n := range names {
		called[n.Day] = n.Name
	}
	district := book.Values(settings.Place{}).Picked(settings.DaysOff)
	table := book.Values(settings.Place{School: school}).Timetable(zone)
	for _, day := range table.Off {
		if day >= out.From && day <= out.To {
			out.Off = append(out.Off, DayOff{day, called[day], !slices.Contains(district, day)})
		}
	}
	out.Days = len(table.SchoolDays(w))
	return nil
}

// clashesIn finds pairs of windows of one grade that overlap and have students in common; those of one student have that one.
func clashesIn(ctx context.Context, r store.Reader, windows []CalendarWindow, student int64) ([]CalendarClash, error) {
	var out []CalendarClash
	for i, one := range windows {
		for _, other := range windows[i+1:] {
			if one.Grade != other.Grade || one.Distribution == other.Distribution || !one.Opens.Before(other.Closes) || !other.Opens.Before(one.Closes) || one.State == "over" || other.State == "over" {
				continue
			}
			n := 1
			if student == 0 {
				var err error
				if n, err = giverows.InBoth(ctx, r, one.Distribution, other.Distribution, one.Grade); err != nil {
					return nil, err
				}
			}
			if n > 0 {
				out = append(out, CalendarClash{one.Grade, one.Distribution, other.Distribution, max(one.From, other.From), min(one.To, other.To), n})
			}
		}
	}
	return out, nil
}

// PutDaysOff keeps the days without school of the district, or of one school, with what they are called. was are the days as they were
// read. What is out goes by them at once.
func (a *Give) PutDaysOff(ctx context.Context, v roster.Viewer, school int64, days []DayOff, was []string) error {
	place := settings.Place{School: school}
	list, names := []string{}, map[string]string{}
	for i, d := range days {
		if _, err := time.Parse(time.DateOnly, d.Day); err != nil {
			return desk.Invalid(fmt.Sprintf("/days/%d/day", i), "Write the day as 2026-11-30.")
		}
		list = append(list, d.Day)
		if d.Name != "" {
			names[d.Day] = d.Name
		}
	}
	slices.Sort(list)
	change := SettingChange{Key: settings.DaysOff, Value: settings.Raw(slices.Compact(list))}
	if was != nil {
		change.Was = settings.Raw(was)
	}
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := a.stand(ctx, tx.Reader, v, place)
		if err != nil {
			return err
		}
		w, err := a.weigh(ctx, tx.Reader, v, s, []SettingChange{change}, nil)
		if err != nil {
			return err
		}
		if touched, err = a.write(ctx, tx, v, w); err != nil {
			return err
		}
		if err := giverows.PutDayNames(ctx, tx, school, list, names); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "settings.change", Thing: "district", ID: 1, Title: "all assessments", After: SettingsNote{1, w.rows}})
	})
	if err == nil {
		a.changed(touched)
	}
	return err
}
