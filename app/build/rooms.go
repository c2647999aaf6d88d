// Package build is the room of assessments: outline, blueprint, lines, cuts, draws,
// sealing and sharing.
package build

import (
	"context"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// Build makes assessments.
type Build struct {
	*desk.Desk
	bank    *bank.Bank
	writing *bank.Writing
	present *presences
}

// Draws chooses items by a plan.
type Draws struct {
	*desk.Desk
	bank  *bank.Bank
	build *Build
}

// Plans keeps what assessments are made by: band sets and the library of blueprints.
type Plans struct {
	*desk.Desk
	build *Build
}

// New opens the room. Draws that a stopped program left are ended.
func New(ctx context.Context, d *desk.Desk, b *bank.Bank, w *bank.Writing) (*Build, *Draws, *Plans, error) {
	build := &Build{d, b, w, newPresences()}
	w.KeepCopy = build.keepOwnCopy
	err := d.Store.Write(ctx, func(tx *store.Tx) error { return buildrows.AbandonDraws(ctx, tx) })
	return build, &Draws{d, b, build}, &Plans{d, build}, err
}

// What this room gives as the store keeps it.
type (
	Assessment       = buildrows.Assessment
	AssessmentFilter = buildrows.AssessmentFilter
	AssessmentListed = buildrows.AssessmentListed
	BandSet          = buildrows.BandSet
	DrawAnswer       = buildrows.DrawAnswer
	DrawQuestion     = buildrows.DrawQuestion
	DrawShortage     = buildrows.DrawShortage
	DrawnForm        = buildrows.DrawnForm
	DrawnItem        = buildrows.DrawnItem
	DrawnRow         = buildrows.DrawnRow
	HostilePair      = buildrows.HostilePair
	KindCount        = buildrows.KindCount
	SimpleDraw       = buildrows.SimpleDraw
	KeptBlueprint    = buildrows.KeptBlueprint
	Share            = buildrows.Share
)
