package give

import (
	"context"
	"crypto/rand"
	"fmt"
	"io"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/formats/icalendar"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// feedPurpose keeps digests of addresses apart from others.
const feedPurpose = "calendar feed"

// FeedDays is how far a calendar that is subscribed to looks back and ahead.
const (
	feedBack  = 60
	feedAhead = 365
)

// FeedNote is what the ledger keeps of an address that was made.
type FeedNote struct {
	School  int64  `json:"school"`
	Grade   string `json:"grade"`
	Subject string `json:"subject"`
}

// NewFeed gives the calendar of who asks an address that is read without signing in; the one before it ends. Whoever has it sees titles
// and dates, no names.
func (a *Give) NewFeed(ctx context.Context, v roster.Viewer, in CalendarInput) (token string, err error) {
	if !v.IsStaff() {
		return "", desk.ErrForbidden
	}
	token = rand.Text()
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		f := giverows.Feed{PersonID: v.PersonID, SchoolID: in.School, Grade: in.Grade, Subject: in.Subject}
		if err := giverows.PutFeed(ctx, tx, a.Digest(feedPurpose, token), f, a.Now()); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "calendar.feed", Thing: "person", ID: v.PersonID, Title: v.Name, After: FeedNote{in.School, in.Grade, in.Subject}})
	})
	return token, err
}

// Feed writes the calendar at an address; ErrNotFound where there is none, or its owner is gone.
func (a *Give) Feed(ctx context.Context, w io.Writer, token string) error {
	f, err := giverows.FeedAt(ctx, a.Store.Reader, a.Digest(feedPurpose, token))
	if err != nil {
		return err
	}
	v, err := officerows.Viewer(ctx, a.Store.Reader, f.PersonID, a.Now())
	if err != nil {
		return err
	}
	if !v.IsStaff() {
		return desk.ErrNotFound
	}
	now := a.Now()
	return a.WriteCalendar(ctx, w, v, CalendarInput{From: now.AddDate(0, 0, -feedBack).Format(time.DateOnly), To: now.AddDate(0, 0, feedAhead).Format(time.DateOnly),
		School: f.SchoolID, Grade: f.Grade, Subject: f.Subject})
}

// WriteCalendar writes windows and days without school as iCalendar.
func (a *Give) WriteCalendar(ctx context.Context, w io.Writer, v roster.Viewer, in CalendarInput) error {
	c, err := a.Calendar(ctx, v, in)
	if err != nil {
		return err
	}
	district, err := a.District(ctx)
	if err != nil {
		return err
	}
	var events []icalendar.Event
	for _, one := range c.Windows {
		title := fmt.Sprintf("%s, %s", one.Title, roster.GradeName(one.Grade))
		if one.State == "planned" {
			title += " (planned)"
		}
		events = append(events, icalendar.Event{Key: fmt.Sprintf("window-%d-%s", one.Distribution, one.Grade), Title: title,
			Text: fmt.Sprintf("%s, %s", desk.Plural(one.Sections, "section"), desk.Plural(one.Students, "student")), From: one.Opens, To: one.Closes, Changed: a.Now()})
	}
	for _, d := range c.Off {
		day, err := time.Parse(time.DateOnly, d.Day)
		if err != nil {
			continue // was never a day; it is checked where it is written
		}
		title := "No school"
		if d.Name != "" {
			title += ": " + d.Name
		}
		events = append(events, icalendar.Event{Key: "day-" + d.Day, Title: title, From: day, To: day.AddDate(0, 0, 1), WholeDay: true, Changed: a.Now()})
	}
	return icalendar.Write(w, district.Name, events)
}
