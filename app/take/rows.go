package take

import (
	"pineledger/store/giverows"
	"pineledger/store/takerows"
)

// What this room gives as the store keeps it.
type (
	Sitting        = giverows.Sitting
	StudentSitting = takerows.StudentSitting
	Unseated       = giverows.Unseated
	Substitute     = giverows.Substitute
)
