package supports

import (
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// What this room gives as the store keeps it.
type (
	ProfileEntry = officerows.ProfileEntry
	RulingMade   = giverows.RulingMade
	Provider     = giverows.Provider
	Ground       = officerows.Ground
)
