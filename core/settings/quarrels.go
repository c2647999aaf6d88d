package settings

import (
	"fmt"
	"time"
)

// Quarrel is two settings that do not go together.
type Quarrel struct {
	Key, With string // With: "" where it is alone
	Text      string // a sentence that says what to do
	Stop      bool   // it cannot stay so; else a caution
}

// Quarrels tells which of the values in force do not go together, in a window if there is one.
func (v Values) Quarrels(windowFrom, windowTo time.Time, zone *time.Location) []Quarrel {
	var out []Quarrel
	add := func(key, with, text string, a ...any) {
		out = append(out, Quarrel{key, with, fmt.Sprintf(text, a...), false})
	}
	hours := 0
	table := v.Timetable(zone)
	for _, s := range table.Hours {
		hours += s.Minutes()
	}
	minutes := v.Number(Minutes)
	if hours > 0 && minutes > hours {
		add(Minutes, Hours, "The hours of a day hold %d minutes, the time limit is %d. Students will need more than one day.", hours, minutes)
	}
	hasWindow := !windowFrom.IsZero() && windowTo.After(windowFrom)
	if hasWindow && !table.Always() {
		var time time.Duration
		for _, span := range table.Spans(v.windowOf(windowFrom, windowTo)) {
			time += span.To.Sub(span.From)
		}
		switch {
		case time == 0:
			out = append(out, Quarrel{Hours, "window", "No hour of the day lies in the window. Change the hours, the days or the window.", true})
		case minutes > 0 && int(time.Minutes()) < minutes:
			out = append(out, Quarrel{Minutes, Hours, fmt.Sprintf("The window holds %d minutes in its hours, less than the time limit of %d.", int(time.Minutes()), minutes), true})
		}
	}
	if v.Number(Attempts) == 1 {
		for _, key := range []string{Retake, Keep, RetakePenalty} {
			if s := byKey[key]; !s.Same(v[key], nil) {
				add(key, Attempts, "There is one attempt only, so this changes nothing.")
			}
		}
	}
	out = append(out, v.feedbackQuarrels(windowTo, hasWindow, zone)...)
	if late := v.Text(LateWork); late != "penalty" && !byKey[LatePenalty].Same(v[LatePenalty], nil) {
		add(LatePenalty, LateWork, "Late work is %s, so nothing is taken off.", byKey[LateWork].Words(v.Of(LateWork)))
	}
	if v.Text(Screen) == "page" {
		if v.Flag(ForwardOnly) {
			out = append(out, Quarrel{ForwardOnly, Screen, "All items stand on one page, so nobody can go forward only. Show one item a screen, or let students go back.", true})
		}
		if len(v.Picked(AfterEach)) > 0 {
			out = append(out, Quarrel{AfterEach, Screen, "All items stand on one page, so there is no leaving an item. Show one item a screen, or give feedback at hand-in.", true})
		}
	}
	return out
}

func (v Values) feedbackQuarrels(windowTo time.Time, hasWindow bool, zone *time.Location) []Quarrel {
	var out []Quarrel
	for _, key := range []string{AfterEach, AtHandIn} {
		if v.has(key, TellKey) || v.has(key, TellWhy) {
			out = append(out, Quarrel{key, "window", "Students who are done see the key while others have yet to sit. Show it later instead.", false})
		}
	}
	if v.Number(Attempts) > 1 && (v.has(AtHandIn, TellKey) || v.has(AtHandIn, TellRight)) {
		out = append(out, Quarrel{AtHandIn, Attempts, "Students see what was right before they take it again. Show it later instead, or allow one attempt.", false})
	}
	if len(v.Picked(Later)) == 0 || v.Text(LaterWhen) != "date" {
		return out
	}
	at, err := time.ParseInLocation(MomentForm, v.Text(LaterDate), zone)
	switch {
	case err != nil:
		out = append(out, Quarrel{LaterDate, LaterWhen, "Feedback comes from a day that is not chosen yet. Choose the day.", true})
	case hasWindow && at.Before(windowTo):
		out = append(out, Quarrel{LaterDate, "window", "Feedback comes before the window ends, while others have yet to sit.", false})
	}
	return out
}
