package window

import (
	"slices"
	"time"
)

// WavesSchema is the version of Plan as it is kept.
const WavesSchema = 1

// MostWaves bounds the waves of one distribution.
const MostWaves = 60

// Wave is a window for some of the schools and sections of a distribution. One that names none is for all the others.
type Wave struct {
	Name     string    `json:"name"`
	From     time.Time `json:"from"` // zero: not chosen yet
	To       time.Time `json:"to"`   // exclusive; zero: not chosen yet
	Schools  []int64   `json:"schools,omitempty"`
	Sections []int64   `json:"sections,omitempty"`
}

// Window is when the wave may be worked on.
func (w Wave) Window() Window { return Window{w.From, w.To} }

// Dated tells whether both ends are chosen.
func (w Wave) Dated() bool { return !w.From.IsZero() && !w.To.IsZero() }

// Rest tells whether it is for all that no other wave names.
func (w Wave) Rest() bool { return len(w.Schools)+len(w.Sections) == 0 }

// Waves are the windows of a distribution.
type Waves struct {
	Schema int    `json:"schema"`
	Waves  []Wave `json:"waves"`
}

// OneWave is a single window for all; zero times are not chosen yet.
func OneWave(from, to time.Time) Waves {
	return Waves{WavesSchema, []Wave{{From: from.UTC(), To: to.UTC()}}}
}

// Of is the place of the wave of a section: of one that names it, else of one that names its school, else of the one for the rest;
// -1 where there is none.
func (w Waves) Of(school, section int64) int {
	for _, names := range []func(Wave) bool{
		func(x Wave) bool { return slices.Contains(x.Sections, section) },
		func(x Wave) bool { return slices.Contains(x.Schools, school) },
		Wave.Rest,
	} {
		if at := slices.IndexFunc(w.Waves, names); at >= 0 {
			return at
		}
	}
	return -1
}

// WindowOf is the window of a section; zero times where it is in no wave, or none is chosen.
func (w Waves) WindowOf(school, section int64) Window {
	if at := w.Of(school, section); at >= 0 {
		return w.Waves[at].Window()
	}
	return Window{}
}

// Whole is from the first beginning to the last end; zero times where none is chosen.
func (w Waves) Whole() Window {
	var out Window
	for _, wave := range w.Waves {
		if !wave.From.IsZero() && (out.From.IsZero() || wave.From.Before(out.From)) {
			out.From = wave.From
		}
		if wave.To.After(out.To) {
			out.To = wave.To
		}
	}
	return out
}

// Faults of waves.
const (
	ErrSchoolTwice  = Refusal("A school is in two waves. Take it out of one of them.")
	ErrSectionTwice = Refusal("A section is in two waves. Take it out of one of them.")
	ErrTwoRests     = Refusal("Two waves are for all others. Choose schools for one of them.")
)

// Fault tells what is wrong with how waves share schools and sections, and with which of them; -1 and nil for nothing.
func (w Waves) Fault() (int, error) {
	schools, sections, rest := map[int64]bool{}, map[int64]bool{}, false
	for i, wave := range w.Waves {
		if wave.Rest() && rest {
			return i, ErrTwoRests
		}
		rest = rest || wave.Rest()
		for _, s := range wave.Schools {
			if schools[s] {
				return i, ErrSchoolTwice
			}
			schools[s] = true
		}
		for _, s := range wave.Sections {
			if sections[s] {
				return i, ErrSectionTwice
			}
			sections[s] = true
		}
	}
	return -1, nil
}

// Day is a day of a window: its date, and the stretches of it in which work may go on.
type Day struct {
	Date  string // as 2026-11-30, in the timetable's zone
	Spans []Window
	Off   bool // left out by the timetable, as a day without school
}

// Days lists the days of a window that a timetable has, and those in it that it leaves out.
func (t Timetable) Days(w Window) []Day {
	zone := t.Zone
	if zone == nil {
		zone = time.UTC
	}
	spans := t.byDay(w)
	var out []Day
	first := w.From.In(zone)
	for n := range mostDays {
		midnight := time.Date(first.Year(), first.Month(), first.Day()+n, 0, 0, 0, 0, zone)
		if !midnight.Before(w.To) {
			break
		}
		date := midnight.Format(time.DateOnly)
		out = append(out, Day{Date: date, Spans: spans[date], Off: !t.school(midnight)})
	}
	return out
}

// byDay are the spans of a window cut at each midnight.
func (t Timetable) byDay(w Window) map[string][]Window {
	zone := t.Zone
	if zone == nil {
		zone = time.UTC
	}
	out := map[string][]Window{}
	for _, span := range t.Spans(w) {
		for span.From.Before(span.To) {
			local := span.From.In(zone)
			midnight := time.Date(local.Year(), local.Month(), local.Day()+1, 0, 0, 0, 0, zone)
			end := span.To
			if midnight.Before(end) {
				end = midnight
			}
			date := local.Format(time.DateOnly)
			out[date] = append(out[date], Window{span.From, end})
			span.From = end
		}
	}
	return out
}

// SchoolDays are the dates of a window on which work may go on, but for Saturdays and Sundays where the timetable says nothing of
// weekdays: students are not expected then.
func (t Timetable) SchoolDays(w Window) []string {
	var out []string
	for _, d := range t.Days(w) {
		at, _ := time.Parse(time.DateOnly, d.Date)
		weekend := at.Weekday() == time.Saturday || at.Weekday() == time.Sunday
		if len(d.Spans) > 0 && (len(t.Weekdays) > 0 || !weekend) {
			out = append(out, d.Date)
		}
	}
	return out
}

// Refusals of a window that moves.
const (
	ErrMovesOver    = Refusal("The new window is over already.")
	ErrEndsEarlier  = Refusal("Somebody has begun there: the window may end later, not earlier. Close the doors to stop.")
	ErrBeginsLater  = Refusal("Somebody has begun there: the window cannot begin later than it did.")
	ErrStaysForGood = Refusal("The window is over, and work of it is handed in. Send it again to whoever is missing.")
)

// MayMove tells whether a window may become another one at a moment; begun tells that somebody has begun in it. Nil means yes.
func MayMove(was, becomes Window, begun bool, now time.Time) error {
	switch {
	case !becomes.To.After(now):
		return ErrMovesOver
	case !begun:
		return nil
	case !was.To.After(now):
		return ErrStaysForGood
	case becomes.To.Before(was.To):
		return ErrEndsEarlier
	case becomes.From.After(was.From):
		return ErrBeginsLater
	}
	return nil
}
