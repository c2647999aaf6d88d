package give

import (
	"context"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/giverows"
)

// tell gives every teacher of some sittings a note on Today and by mail, once each: what has become of an assessment in their sections, but for
// those who know.
func (a *Give) tell(ctx context.Context, tx *store.Tx, knows []int64, sittings []int64, title, what string) error {
	teachers, err := giverows.TeachersTold(ctx, tx.Reader, sittings)
	if err != nil {
		return err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	for _, t := range teachers {
		if slices.Contains(knows, t.PersonID) {
			continue
		}
		where := t.Section
		if t.Sections > 1 {
			where = desk.Plural(t.Sections, "section") + " of yours"
		}
		words := fmt.Sprintf("%s: %s, %s.", title, what, where)
		if what != recalled {
			words = fmt.Sprintf("%s: %s, %s, from %s to %s.", title, what, where, whenSaid(store.Time(t.OpensAt), zone), whenSaid(store.Time(t.ClosesAt), zone))
		}
		path := fmt.Sprintf("/rooms/%d", t.SittingID)
		if what == recalled {
			path = "/today"
		}
		if err := bankrows.AddNotice(ctx, tx, bankrows.Notice{PersonID: t.PersonID, At: store.Millis(a.Now()), Words: words, Path: path, Until: t.ClosesAt, Mail: a.Mail != nil}); err != nil {
			return err
		}
	}
	return nil
}

// What teachers are told.
const (
	sentOut   = "sent out"
	newDates  = "it has other dates"
	recalled  = "recalled, nobody needs to open it"
	notOpened = "the door has not been opened yet"
)

func whenSaid(at time.Time, zone *time.Location) string {
	return at.In(zone).Format("Mon, Jan 2, 3:04 pm")
}
