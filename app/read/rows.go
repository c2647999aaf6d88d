package read

import (
	"pineledger/store/readrows"
)

// What this room gives as the store keeps it.
type (
	MatrixFilter = readrows.MatrixFilter
	MatrixRow    = readrows.MatrixRow
	ResultListed = readrows.ResultListed
	Scoring      = readrows.Scoring
)
