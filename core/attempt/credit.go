package attempt

import (
	"pineledger/core/item"
	"pineledger/core/points"
)

// LineCredit is what a student earned on one line.
type LineCredit struct {
	Credit  points.Points
	Outcome item.Outcome
}
