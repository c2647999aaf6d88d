package app

import (
	"context"

	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
)

// EditionListed is a sealed edition of an assessment, with what changed from the one before.
type EditionListed struct {
	Edition     int
	Fingerprint string
	SealedAt    int64
	Lines       int
	Total       points.Points
	Changes     []string
}

// Editions lists what was sealed, the newest first. compare is the edition that each is compared with;
// 0: the one before it.
func (a *App) Editions(ctx context.Context, v roster.Viewer, id int64, compare int) ([]EditionListed, error) {
	if _, err := assessment(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	rows, err := a.store.FormsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	forms := map[int]form.Form{}
	for _, row := range rows {
		if forms[row.Edition], err = a.formByID(ctx, row.ID); err != nil {
			return nil, err
		}
	}
	out := []EditionListed{}
	for i, row := range rows {
		f := forms[row.Edition]
		e := EditionListed{Edition: row.Edition, Fingerprint: row.Fingerprint, SealedAt: row.SealedAt, Lines: len(f.Lines), Total: f.Total(), Changes: []string{}}
		base, has := forms[compare]
		if compare == 0 && i+1 < len(rows) {
			base, has = forms[rows[i+1].Edition], true
		}
		if has && base.Edition != f.Edition {
			e.Changes = append(e.Changes, form.Changes(base, f)...)
		}
		out = append(out, e)
	}
	return out, nil
}
