package support

import (
	"time"

	"pineledger/core/window"
)

// Allowance is the time that a student with supports has where everyone has minutes, 0 for no limit. A lock on the time limit
// keeps extra time away, as Values says.
func Allowance(minutes int, given []Given, shut []string) window.Allowance {
	a := window.Allowance{Minutes: minutes}
	if minutes == 0 || Shut(ExtraTime, shut) {
		return a
	}
	factor := valueOf[string](given, ExtraTime)
	if factor == Unlimited {
		return window.Allowance{}
	}
	if a.Factor = Hundredths(factor); a.Factor > 0 && a.Factor <= window.LeastFactor {
		a.Factor = 0
	}
	a.Extra = valueOf[int](given, ExtraMinutes)
	return a
}

// Times are what a window holds of time to work in.
type Times struct {
	Minutes int // that everyone has; 0: no limit
	Longest int // minutes that can be worked on one day, of the longest
	Total   int // in the whole window
	Days    int // on which one can work
}

// TimesOf measures a window, with the spans in which time counts, nil for all of it, in a zone.
func TimesOf(minutes int, w window.Window, spans []window.Window, zone *time.Location) Times {
	if spans == nil {
		spans = daily(w, zone)
	}
	t := Times{Minutes: minutes}
	perDay := map[string]time.Duration{}
	var total time.Duration
	for _, s := range spans {
		perDay[s.From.In(zone).Format(time.DateOnly)] += s.To.Sub(s.From)
		total += s.To.Sub(s.From)
	}
	for _, d := range perDay {
		t.Longest = max(t.Longest, int(d.Minutes()))
	}
	t.Total, t.Days = int(total.Minutes()), len(perDay)
	return t
}

// daily parts a window at midnight.
func daily(w window.Window, zone *time.Location) []window.Window {
	var out []window.Window
	for from := w.From; from.Before(w.To); {
		local := from.In(zone)
		next := time.Date(local.Year(), local.Month(), local.Day()+1, 0, 0, 0, 0, zone)
		to := next
		if w.To.Before(to) {
			to = w.To
		}
		out = append(out, window.Window{From: from, To: to})
		from = next
	}
	return out
}

// Needs are the minutes that a student with supports is allowed; 0: no limit.
func Needs(t Times, given []Given, shut []string) int {
	a := Allowance(t.Minutes, given, shut)
	if !a.Limited() {
		return 0
	}
	return int((a.Time() + time.Minute - 1) / time.Minute)
}
