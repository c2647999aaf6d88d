package settings

import (
	"slices"
	"time"

	"pineledger/core/points"
	"pineledger/core/window"
)

// What the values in force mean to those who enforce them.

// Allowance is the time that an attempt has, without what an accommodation adds.
func (v Values) Allowance() window.Allowance {
	return window.Allowance{Minutes: valueOf[int](v, Minutes)}
}

var weekdayOf = map[string]time.Weekday{"sun": time.Sunday, "mon": time.Monday, "tue": time.Tuesday, "wed": time.Wednesday, "thu": time.Thursday, "fri": time.Friday, "sat": time.Saturday}

// Timetable says when in a window students can work, in the district's zone.
func (v Values) Timetable(zone *time.Location) window.Timetable {
	t := window.Timetable{Hours: valueOf[[]window.Stretch](v, Hours), Off: valueOf[[]string](v, DaysOff), Zone: zone}
	if days := valueOf[[]string](v, Weekdays); len(days) < len(weekdayOf) {
		for _, day := range days {
			t.Weekdays = append(t.Weekdays, weekdayOf[day])
		}
	}
	return t
}

// Ends is when work in a window is taken last: later than the window where late work is.
func (v Values) Ends(window time.Time) time.Time {
	switch valueOf[string](v, LateWork) {
	case "take", "penalty":
		return window.AddDate(0, 0, valueOf[int](v, LateDays))
	}
	return window
}

// HandsInByItself tells whether work that was begun is handed in when its window ends. Work whose time
// is used always is.
func (v Values) HandsInByItself() bool { return valueOf[string](v, LateWork) != "refuse" }

// Deductions is what a try loses.
type Deductions struct {
	Retake points.Points
	Late   points.Points
	Days   int // late, each that has begun
}

// Of is what is left of a score.
func (d Deductions) Of(raw points.Points) points.Points { return max(0, raw-d.Retake-d.Late) }

// Any tells whether anything is lost.
func (d Deductions) Any() bool { return d.Retake > 0 || d.Late > 0 }

// Deductions computes what a try loses of a total: a share for each try before it, and for each day that
// has begun since the window ended one where late work is taken with a penalty. Shares are rounded half up.
func (v Values) Deductions(try int, total points.Points, windowEnds, handedIn time.Time) Deductions {
	share := func(percent, times int) points.Points {
		return (total*points.Points(percent*times)*2 + 100) / 200
	}
	d := Deductions{Retake: share(valueOf[int](v, RetakePenalty), max(0, try-1))}
	if handedIn.After(windowEnds) && valueOf[string](v, LateWork) == "penalty" {
		const day = 24 * time.Hour
		d.Days = int((handedIn.Sub(windowEnds) + day - 1) / day)
		d.Late = share(valueOf[int](v, LatePenalty), d.Days)
	}
	return d
}

// Flag gives a yes or no.
func (v Values) Flag(key string) bool { return valueOf[bool](v, key) }

// Number gives a whole number.
func (v Values) Number(key string) int { return valueOf[int](v, key) }

// Text gives a text or an option.
func (v Values) Text(key string) string { return valueOf[string](v, key) }

// Picked lists what is picked.
func (v Values) Picked(key string) []string { return valueOf[[]string](v, key) }

// Things that feedback tells.
const (
	TellScore  = "score"
	TellRight  = "right"
	TellKey    = "key"
	TellWhy    = "why"
	TellGoOver = "goOver"
)

// Facts are what it depends on which feedback is due.
type Facts struct {
	Now        time.Time
	HandedIn   time.Time // zero: not yet
	WindowEnds time.Time
	Released   time.Time // zero: not released
	Zone       *time.Location
}

// Due is the feedback that a student may see.
type Due struct {
	Now []string // what they see, in the catalog's order
	// Next is what comes besides, and when; NextAt is zero where it waits to be released.
	Next   []string
	NextAt time.Time
}

// Sees tells whether something is shown now.
func (d Due) Sees(what string) bool { return slices.Contains(d.Now, what) }

// Feedback is what a student sees of their handed-in work at a moment, and what comes when.
func (v Values) Feedback(f Facts) Due {
	var d Due
	if f.HandedIn.IsZero() {
		return d
	}
	d.Now = v.Picked(AtHandIn)
	later := v.Picked(Later)
	at, ever := v.laterAt(f)
	if ever && !at.IsZero() && !at.After(f.Now) {
		d.Now = union(d.Now, later)
		return d
	}
	if ever {
		for _, what := range later {
			if !slices.Contains(d.Now, what) {
				d.Next = append(d.Next, what)
			}
		}
		if len(d.Next) > 0 {
			d.NextAt = at
		}
	}
	return d
}

// laterAt is when the later feedback comes; zero where it waits to be released, false where it never comes.
func (v Values) laterAt(f Facts) (time.Time, bool) {
	switch v.Text(LaterWhen) {
	case "released":
		return f.Released, true
	case "date":
		at, err := time.ParseInLocation(MomentForm, v.Text(LaterDate), f.Zone)
		return at.UTC(), err == nil
	case "hours":
		return f.WindowEnds.Add(time.Duration(v.Number(LaterHours)) * time.Hour), true
	}
	return time.Time{}, false
}

// union keeps the catalog's order.
func union(a, b []string) []string {
	var out []string
	for _, o := range told {
		if slices.Contains(a, o.Value) || slices.Contains(b, o.Value) {
			out = append(out, o.Value)
		}
	}
	return out
}

// windowOf is the window with the days in which late work is taken.
func (v Values) windowOf(from, to time.Time) window.Window {
	return window.Window{From: from, To: v.Ends(to)}
}
