package give

import (
	"context"
	"time"

	"pineledger/core/settings"
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
