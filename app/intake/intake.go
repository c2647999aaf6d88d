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
}

// New opens the room. Imports that a stopped program left are ended.
func New(ctx context.Context, d *desk.Desk, o *office.Office, b *bank.Bank) (*Intake, error) {
	a := &Intake{d, o, b}
	if err := a.dropUploads(); err != nil {
		return nil, err
	}
	if err := a.dropArrivals(ctx); err != nil {
		return nil, err
	}
	return a, d.Store.Write(ctx, func(tx *store.Tx) error { return intakerows.AbandonImports(ctx, tx) })
}
