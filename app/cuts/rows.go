package cuts

import "pineledger/store/cutrows"

// What this room gives as the store keeps it.
type (
	OfficialListed = cutrows.OfficialTable
	Holder         = cutrows.Holder
)
