package cuts

import "pineledger/store/cutrows"

// OfficialListed is a table as lists show it, as the store keeps it.
type OfficialListed = cutrows.OfficialTable
