// Package icalendar writes and reads calendars in the iCalendar format (RFC 5545).
package icalendar

import (
	"fmt"
	"io"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Event is one entry of a calendar. Key names it for good: a calendar that is read again knows it by that.
type Event struct {
	Key      string
	Title    string
	Text     string
	From, To time.Time // To is exclusive
	WholeDay bool      // then only the dates of From and To count
	Changed  time.Time
}

// Write writes events as one calendar with a name.
func Write(w io.Writer, name string, events []Event) error {
	c := ics.NewCalendarFor("Pine Ledger")
	c.SetMethod(ics.MethodPublish)
	c.SetName(name)
	c.SetXWRCalName(name)
	for _, e := range events {
		one := c.AddEvent(e.Key + "@pineledger")
		one.SetDtStampTime(e.Changed.UTC())
		one.SetSummary(e.Title)
		if e.Text != "" {
			one.SetDescription(e.Text)
		}
		if e.WholeDay {
			one.SetAllDayStartAt(e.From)
			one.SetAllDayEndAt(e.To)
		} else {
			one.SetStartAt(e.From.UTC())
			one.SetEndAt(e.To.UTC())
		}
		one.SetTimeTransparency(ics.TransparencyTransparent) // it takes nobody's time by itself
	}
	if err := c.SerializeTo(w, ics.WithNewLineWindows); err != nil {
		return fmt.Errorf("write a calendar: %w", err)
	}
	return nil
}
