package desk

import (
	"context"
	"time"
)

// StartOfDay is when a date begins on the district's wall clock.
func (a *Desk) StartOfDay(ctx context.Context, date string) (time.Time, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return time.Time{}, err
	}
	return time.ParseInLocation(time.DateOnly, date, zone)
}

// localTime is how dates are typed: the district's wall clock.
const localTime = "2006-01-02T15:04"

func FormatLocal(t time.Time, zone *time.Location) string {
	if t.IsZero() {
		return ""
	}
	return t.In(zone).Format(localTime)
}

func ParseLocal(pointer, text string, zone *time.Location) (time.Time, error) {
	if text == "" {
		return time.Time{}, nil
	}
	t, err := time.ParseInLocation(localTime, text, zone)
	if err != nil {
		return t, Invalid(pointer, "%q is not a date and time such as 2026-10-13T08:00.", text)
	}
	return t, nil
}
