package build

import (
	"pineledger/store/buildrows"
)

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
