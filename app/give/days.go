package give

import (
	"errors"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/formats/icalendar"
)

// ReadDays reads days without school as they are pasted, or from the text of an iCalendar file, whose whole days count. Nothing is kept.
func (a *Give) ReadDays(v roster.Viewer, text string) ([]DayOff, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	days, err := readDays(text)
	if err != nil {
		return nil, err
	}
	if len(days) == 0 {
		return nil, desk.Invalid("/text", "No weekday stands in it.")
	}
	out := make([]DayOff, len(days))
	for i, d := range days {
		out[i] = DayOff{Day: d.Date, Name: d.Name}
	}
	return out, nil
}

func readDays(text string) ([]window.NamedDay, error) {
	if !strings.HasPrefix(strings.TrimSpace(text), "BEGIN:VCALENDAR") {
		days, err := window.ReadDays(text)
		var fault *window.LineFault
		if errors.As(err, &fault) {
			err = desk.Invalid("/text", "%s", fault)
		}
		return days, err
	}
	events, err := icalendar.Days(strings.NewReader(text))
	if err != nil {
		return nil, desk.Invalid("/text", "This is no iCalendar file that can be read.")
	}
	var out []window.NamedDay
	for _, e := range events {
		days, err := window.DaysBetween(e.First, e.Last, e.Title)
		if err != nil {
			return nil, desk.Invalid("/text", "%s", err)
		}
		if out = append(out, days...); len(out) > window.MostDays {
			return nil, desk.Invalid("/text", "There are at most %d days.", window.MostDays)
		}
	}
	return out, nil
}
