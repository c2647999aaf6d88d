package give

import (
	"context"
	"time"

	"pineledger/core/settings"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// MoveTo sets the district's time zone. Windows stay the moments that they were; the hours of days that are not over are
// those of the new zone, also for who works.
func (a *Give) MoveTo(ctx context.Context, zone string) error {
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		d, err := officerows.ReadDistrict(ctx, tx.Reader)
		if err != nil || d.TimeZone == zone {
			return err
		}
		if err := officerows.SetTimeZone(ctx, tx, zone); err != nil {
			return err
		}
		in, err := time.LoadLocation(zone)
		if err != nil {
			return err
		}
		sats, err := giverows.SatBy(ctx, tx.Reader, settings.Scope{Level: settings.District}, store.Millis(a.Now()))
		if err != nil {
			return err
		}
		for _, sat := range sats {
			if err := a.setUp(ctx, tx, sat, sat.Setup.V.Settings, sat.Setup.V.Shut, in); err != nil {
				return err
			}
			touched = append(touched, sat.SittingID)
		}
		return nil
	})
	if err == nil {
		a.changed(touched)
	}
	return err
}

// timetable is when there is school: of the district, or of a school; 0 for none.
func (a *Give) timetable(ctx context.Context, r store.Reader, school int64) (window.Timetable, *time.Location, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return window.Timetable{}, nil, err
	}
	book, err := giverows.BookOf(ctx, r, nil)
	if err != nil {
		return window.Timetable{}, nil, err
	}
	return book.Values(settings.Place{School: school}).Timetable(zone), zone, nil
}
