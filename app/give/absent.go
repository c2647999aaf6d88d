package give

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
)

// Who has not handed in, as the store keeps it.
type (
	Absent       = giverows.Absent
	AbsentFilter = giverows.AbsentFilter
)

// mostAbsent bounds one answer.
const mostAbsent = 100_000

// Absent lists who, in the sections of who asks, has not handed an assessment in, and counts all that the filter leaves. Without a limit it
// lists all.
func (a *Give) Absent(ctx context.Context, v roster.Viewer, id int64, f AbsentFilter) ([]Absent, int, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, 0, err
	}
	if f.Limit <= 0 || f.Limit > mostAbsent {
		f.Limit = mostAbsent
	}
	return giverows.AbsentFrom(ctx, a.Store.Reader, v.Scope(), id, f)
}

// Remind tells the teachers of the sections that should have opened by now, each once, and gives how many sections that concerns.
func (a *Give) Remind(ctx context.Context, v roster.Viewer, id int64) (int, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return 0, err
	}
	if !v.MayBuild() {
		return 0, desk.ErrForbidden
	}
	p, err := a.Progress(ctx, v, id)
	if err != nil {
		return 0, err
	}
	if len(p.Unopened) == 0 {
		return 0, desk.Conflict("Every section that should have opened by now has.")
	}
	sittings := make([]int64, len(p.Unopened))
	for i, u := range p.Unopened {
		sittings[i] = u.Sitting
	}
	return len(sittings), a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := a.tell(ctx, tx, []int64{v.PersonID}, sittings, row.Title, notOpened); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "distribution.remind", Thing: "assessment", ID: id, Title: row.Title, After: map[string]any{"sections": len(sittings)}})
	})
}
