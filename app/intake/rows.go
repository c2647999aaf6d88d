package intake

import (
	"pineledger/store/intakerows"
)

// What this room gives as the store keeps it.
type (
	ImportCounts = intakerows.Counts
	Remark       = intakerows.Remark
)
