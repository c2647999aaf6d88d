package icalendar

import (
	"fmt"
	"io"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Day is a whole day of a calendar, or several.
type Day struct {
	First, Last time.Time // midnights, UTC; Last is included
	Title       string
}

// Days reads the events of a calendar that last whole days.
func Days(r io.Reader) ([]Day, error) {
	c, err := ics.ParseCalendar(r)
	if err != nil {
		return nil, fmt.Errorf("read a calendar: %w", err)
	}
	var out []Day
	for _, e := range c.Events() {
		start := e.GetProperty(ics.ComponentPropertyDtStart)
		if start == nil || len(start.Value) != len("20261130") {
			continue // it lasts hours
		}
		first, err := e.GetAllDayStartAt()
		if err != nil {
			return nil, fmt.Errorf("read a calendar: %w", err)
		}
		d := Day{First: date(first), Last: date(first)}
		if end, err := e.GetAllDayEndAt(); err == nil && end.After(first) { // exclusive
			d.Last = date(end.AddDate(0, 0, -1))
		}
		if title := e.GetProperty(ics.ComponentPropertySummary); title != nil {
			d.Title = ics.FromText(title.Value)
		}
		out = append(out, d)
	}
	return out, nil
}

func date(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}
