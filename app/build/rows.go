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
	HostilePair      = buildrows.HostilePair
	KeptBlueprint    = buildrows.KeptBlueprint
	Share            = buildrows.Share
)
