package window

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// Stretch is a part of the day, in local time: "08:45" to "11:30", the end exclusive.
type Stretch struct {
	From string `json:"from"`
	To   string `json:"to"` // "24:00" is midnight
}

// Refusal is why hours cannot be: a sentence for the screen.
type Refusal string

func (r Refusal) Error() string { return string(r) }

// Errors of stretches.
const (
	ErrStretch  = Refusal("Hours are written as 08:45 to 11:30, the end after the beginning.")
	ErrOverlaps = Refusal("Two stretches of the day overlap.")
)

const dayMinutes = 24 * 60

// minutes gives the stretch as minutes of the day.
func (s Stretch) minutes() (from, to int, err error) {
	if from, err = minuteOf(s.From); err != nil {
		return 0, 0, err
	}
	if to, err = minuteOf(s.To); err != nil || to <= from {
		return 0, 0, ErrStretch
	}
	return from, to, nil
}

func minuteOf(text string) (int, error) {
	if text == "24:00" {
		return dayMinutes, nil
	}
	t, err := time.Parse("15:04", text)
	if err != nil || t.Format("15:04") != text {
		return 0, ErrStretch
	}
	return t.Hour()*60 + t.Minute(), nil
}

// Minutes is how long the stretch is; 0 for one that cannot be.
func (s Stretch) Minutes() int {
	from, to, err := s.minutes()
	if err != nil {
		return 0
	}
	return to - from
}

// String says it as Americans do: "8:45 to 11:30 am".
func (s Stretch) String() string {
	from, to, err := s.minutes()
	if err != nil {
		return s.From + " to " + s.To
	}
	say := func(minute int) (clock, half string) {
		half = "am"
		if minute/60%24 >= 12 {
			half = "pm"
		}
		hour := minute / 60 % 12
		if hour == 0 {
			hour = 12
		}
		return fmt.Sprintf("%d:%02d", hour, minute%60), half
	}
	first, a := say(from)
	last, b := say(to)
	if a == b {
		return first + " to " + last + " " + b
	}
	return strings.Join([]string{first, a, "to", last, b}, " ")
}

// Ordered puts the stretches of a day in order; errors are ErrStretch and ErrOverlaps. Two that
// touch stay two.
func Ordered(stretches []Stretch) ([]Stretch, error) {
	for _, s := range stretches {
		if _, _, err := s.minutes(); err != nil {
			return nil, err
		}
	}
	out := slices.Clone(stretches)
	slices.SortFunc(out, func(a, b Stretch) int { return strings.Compare(a.From, b.From) })
	for i := 1; i < len(out); i++ {
		if out[i].From < out[i-1].To {
			return nil, ErrOverlaps
		}
	}
	return out, nil
}

// Timetable says at which times of which days a window may be used.
type Timetable struct {
	Hours    []Stretch      // of each day, in order; none: all day
	Weekdays []time.Weekday // none: every day
	Off      []string       // days left out, as 2026-11-30
	Zone     *time.Location // of hours and days; nil: UTC
}

// Always tells whether a timetable leaves nothing out.
func (t Timetable) Always() bool { return len(t.Hours) == 0 && len(t.Weekdays) == 0 && len(t.Off) == 0 }

// mostDays bounds what is looked at: two years.
const mostDays = 2 * 366

// Spans are the times within a window that the timetable allows, in order: none where it allows none, and the window where it leaves
// nothing out. A stretch that the clocks of spring leap
// over has no time, one that those of autumn repeat has it twice. One that cannot be is left out.
func (t Timetable) Spans(w Window) []Window {
	if t.Always() {
		return []Window{w}
	}
	zone := t.Zone
	if zone == nil {
		zone = time.UTC
	}
	hours := t.Hours
	if len(hours) == 0 {
		hours = []Stretch{{"00:00", "24:00"}}
	}
	out := []Window{}
	first := w.From.In(zone)
	for n := range mostDays {
		midnight := time.Date(first.Year(), first.Month(), first.Day()+n, 0, 0, 0, 0, zone)
		if !midnight.Before(w.To) {
			break
		}
		if !t.school(midnight) {
			continue
		}
		for _, s := range hours {
			from, to, err := s.minutes()
			if err != nil {
				continue
			}
			span := Window{atMinute(midnight, from), atMinute(midnight, to)}
			if span.From.Before(w.From) {
				span.From = w.From
			}
			if span.To.After(w.To) {
				span.To = w.To
			}
			if last := len(out) - 1; last >= 0 && out[last].To.Equal(span.From) {
				out[last].To = span.To // a day that follows, or a stretch that touches
			} else if span.To.After(span.From) {
				out = append(out, span)
			}
		}
	}
	return out
}

// school tells whether a day counts.
func (t Timetable) school(midnight time.Time) bool {
	if len(t.Weekdays) > 0 && !slices.Contains(t.Weekdays, midnight.Weekday()) {
		return false
	}
	return !slices.Contains(t.Off, midnight.Format(time.DateOnly))
}

// atMinute is a minute of a local day by the clock on the wall, not by what has passed since midnight. One that the clocks
// of spring leap over is the moment of their leap.
func atMinute(midnight time.Time, minute int) time.Time {
	t := time.Date(midnight.Year(), midnight.Month(), midnight.Day(), 0, minute, 0, 0, midnight.Location())
	if t.Hour()*60+t.Minute() == minute%dayMinutes {
		return t.UTC()
	}
	begins, ends := t.ZoneBounds()
	if leap := begins; !leap.IsZero() && t.Sub(leap) < ends.Sub(t) {
		return leap.UTC()
	}
	return ends.UTC()
}
