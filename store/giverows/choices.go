package giverows

import (
	"context"
	"time"

	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// Choice is a choice of whom something goes to, with a name of its owner's.
type Choice struct {
	ID   int64                    `db:"id"`
	Name string                   `db:"name"`
	Whom sqlite.JSON[roster.Whom] `db:"whom"`
}

// ChoicesOf lists those of a person by name.
func ChoicesOf(ctx context.Context, r sqlite.Reader, owner int64) ([]Choice, error) {
	var out []Choice
	err := r.List(ctx, &out, "SELECT id, name, whom FROM whom_choice WHERE owner_id = ? ORDER BY name, id", owner)
	return out, err
}

// PutChoice keeps one, in place of another one of that name.
func PutChoice(ctx context.Context, t *sqlite.Tx, owner int64, name string, whom roster.Whom, at time.Time) (id int64, err error) {
	err = t.Get(ctx, &id, `INSERT INTO whom_choice (owner_id, name, whom, made_at) VALUES (?, ?, ?, ?)
		ON CONFLICT (owner_id, name) DO UPDATE SET whom = excluded.whom RETURNING id`, owner, name, sqlite.JSON[roster.Whom]{V: whom}, sqlite.Millis(at))
	return id, err
}

// DropChoice forgets one of a person's; ErrStale when there is none.
func DropChoice(ctx context.Context, t *sqlite.Tx, owner, id int64) error {
	return t.ChangeOne(ctx, "DELETE FROM whom_choice WHERE id = ? AND owner_id = ?", id, owner)
}
