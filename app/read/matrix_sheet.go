package read

import (
	"context"
	"slices"

	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/results"
	"pineledger/core/roster"
	"pineledger/store/readrows"
)

// MatrixSheet is the whole matrix as it leaves for a spreadsheet.
type MatrixSheet struct {
	Matrix
	Absent    []readrows.Absentee
	Standards []string // that lines are aligned to, in the order of the form
}

// MatrixSheet gives the matrix without pages, with those of whom nothing counts yet.
func (a *Read) MatrixSheet(ctx context.Context, v roster.Viewer, distribution int64, q MatrixQuery) (MatrixSheet, error) {
	q.Offset, q.Limit = 0, 0
	m, err := a.Matrix(ctx, v, distribution, q)
	if err != nil {
		return MatrixSheet{}, err
	}
	sheet := MatrixSheet{Matrix: m}
	for _, l := range m.Head.Lines {
		for _, code := range l.Standards {
			if !slices.Contains(sheet.Standards, code) {
				sheet.Standards = append(sheet.Standards, code)
			}
		}
	}
	sheet.Absent, err = readrows.Absentees(ctx, a.Store.Reader, v.Scope(), distribution, q.MatrixFilter)
	return sheet, err
}

// Shares are what a student earned of the lines of each standard. Lines that wait for a reader
// or were not given to the student are left out.
func (s MatrixSheet) Shares(credits []attempt.LineCredit) []results.Share {
	out := make([]results.Share, len(s.Standards))
	for i, l := range s.Head.Lines {
		if credits[i].Outcome == item.Unread || credits[i].Outcome == item.NotGiven {
			continue
		}
		for _, code := range l.Standards {
			share := &out[slices.Index(s.Standards, code)]
			share.Earned += credits[i].Credit
			share.Possible += l.Points
		}
	}
	return out
}
