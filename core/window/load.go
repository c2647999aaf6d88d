package window

import (
	"cmp"
	"slices"
	"time"
)

// Booking is one window as the students of a grade meet it.
type Booking struct {
	Grade    string
	Minutes  int      // for each student; 0: no limit, it weighs nothing
	Students int      // of the grade who sit it
	Days     []string // its school days, as 2026-11-30
}

// Load is the working time that assessments take of the students of a grade in a week.
type Load struct {
	Grade   string
	Week    string  // its Monday
	Minutes float64 // for each student, the mean over the grade
}

// Loads adds up what bookings take of each grade in each week: the minutes of a window are spread evenly over its school days, and
// over all students of the grade. sizes are the students of each grade. They come by grade and week; weeks without load are left out.
func Loads(bookings []Booking, sizes map[string]int) []Load {
	type at struct{ grade, week string }
	sum := map[at]float64{}
	for _, b := range bookings {
		size := sizes[b.Grade]
		if size == 0 || b.Minutes == 0 || b.Students == 0 {
			continue
		}
		share := float64(b.Minutes) * float64(b.Students) / float64(size) / float64(len(b.Days))
		for _, day := range b.Days {
			if week := WeekOf(day); week != "" {
				sum[at{b.Grade, week}] += share
			}
		}
	}
	var out []Load
	for k, minutes := range sum {
		out = append(out, Load{k.grade, k.week, minutes})
	}
	slices.SortFunc(out, func(a, b Load) int {
		return cmp.Or(cmp.Compare(a.Grade, b.Grade), cmp.Compare(a.Week, b.Week))
	})
	return out
}

// WeekOf is the Monday of the week of a date, both as 2026-11-30; "" for what is no date.
func WeekOf(date string) string {
	at, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return ""
	}
	back := (int(at.Weekday()) + 6) % 7
	return at.AddDate(0, 0, -back).Format(time.DateOnly)
}

// Planned is a window that Spread may move, or that stands.
type Planned struct {
	ID     int64
	Grades []string
	From   string // its first school day
	Days   int    // school days that it takes, at least 1
	Fixed  bool
}

// Proposal is where Spread puts a window, and what it could not keep.
type Proposal struct {
	ID       int64
	From, To string // school days
	Kept     bool   // the distance to every neighbor of a grade
	Nearest  int    // school days between it and the nearest window of a grade of its; -1 without one
}

// Spread proposes dates for windows that are not fixed, so that any two of one grade lie at least distance school days apart. days are
// the school days that there are, in order. Windows are placed in the order of their first days, each as near as can be to where it
// stands; where no place keeps the distance, it gets the one that comes nearest to it, and that is said.
func Spread(windows []Planned, days []string, distance int) []Proposal {
	order := slices.Clone(windows)
	slices.SortStableFunc(order, func(a, b Planned) int { return cmp.Compare(a.From, b.From) })
	var placed []placedWindow
	for _, w := range order {
		if w.Fixed {
			placed = append(placed, placedWindow{w, startOf(days, w.From)})
		}
	}
	var out []Proposal
	for _, w := range order {
		if w.Fixed || w.Days < 1 || w.Days > len(days) {
			continue
		}
		wish := min(startOf(days, w.From), len(days)-w.Days)
		best, room := -1, -2
		for off := 0; off <= len(days); off++ {
			for _, at := range []int{wish + off, wish - off} {
				if at < 0 || at+w.Days > len(days) {
					continue
				}
				near := nearest(placed, w, at)
				if near == -1 || near >= distance {
					near = distance
				}
				if near > room {
					best, room = at, near
				}
			}
			if room >= distance {
				break
			}
		}
		placed = append(placed, placedWindow{w, best})
		out = append(out, Proposal{ID: w.ID, From: days[best], To: days[best+w.Days-1]})
	}
	for i, p := range out {
		at := slices.IndexFunc(placed, func(x placedWindow) bool { return x.ID == p.ID && !x.Fixed })
		others := slices.Delete(slices.Clone(placed), at, at+1)
		out[i].Nearest = nearest(others, placed[at].Planned, placed[at].at)
		out[i].Kept = out[i].Nearest == -1 || out[i].Nearest >= distance
	}
	return out
}

type placedWindow struct {
	Planned
	at int // place of its first day
}

// startOf is the place of the first school day that is not before a date.
func startOf(days []string, date string) int {
	at, _ := slices.BinarySearch(days, date)
	return at
}

// nearest is how many school days lie between a window at a place and the nearest placed one of a grade of its; -1 without any. Windows
// that overlap have none between them.
func nearest(placed []placedWindow, w Planned, at int) int {
	out := -1
	for _, p := range placed {
		if !slices.ContainsFunc(p.Grades, func(g string) bool { return slices.Contains(w.Grades, g) }) {
			continue
		}
		gap := max(0, at-(p.at+p.Days), p.at-(at+w.Days))
		if out < 0 || gap < out {
			out = gap
		}
	}
	return out
}

// MovedBy is a moment so many school days later, or earlier below 0, at the same time by the clock on the wall. days are the school days
// that there are, in order; a moment on none of them counts as on the next one. It stays within them.
func MovedBy(at time.Time, by int, days []string, zone *time.Location) time.Time {
	if len(days) == 0 {
		return at
	}
	local := at.In(zone)
	to := max(0, min(len(days)-1, startOf(days, local.Format(time.DateOnly))+by))
	day, err := time.ParseInLocation(time.DateOnly, days[to], zone)
	if err != nil {
		return at
	}
	return time.Date(day.Year(), day.Month(), day.Day(), local.Hour(), local.Minute(), local.Second(), local.Nanosecond(), zone)
}
