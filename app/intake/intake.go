// Package intake is the room where files come in: standards, rosters and items.
package intake

import (
	"context"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/store"
	"pineledger/store/intakerows"
)

// Intake reads files of others into the district.
type Intake struct {
	*desk.Desk
	office *office.Office
	bank   *bank.Bank
	// Reapply gives students who work what is new in their profiles, and OnChange is told at which sittings something else is in
	// force then. They are set before the first use.
	Reapply  func(ctx context.Context, tx *store.Tx, students []int64) (sittings []int64, err error)
	OnChange func(sittings []int64)
	// TakeIn seats who has come to what is out, after rosters have changed. It is set before the first use.
	TakeIn func(ctx context.Context) error
}

// New opens the room. Imports that a stopped program left are ended.
func New(ctx context.Context, d *desk.Desk, o *office.Office, b *bank.Bank) (*Intake, error) {
	a := &Intake{Desk: d, office: o, bank: b}
	if err := a.dropUploads(); err != nil {
		return nil, err
	}
	if err := a.dropArrivals(ctx); err != nil {
		return nil, err
	}
	return a, d.Store.Write(ctx, func(tx *store.Tx) error { return intakerows.AbandonImports(ctx, tx) })
}
