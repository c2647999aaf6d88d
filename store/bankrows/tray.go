package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Tray lists the ids that a person has picked, in that order.
func Tray(ctx context.Context, r sqlite.Reader, person int64) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, "SELECT item_id FROM tray WHERE person_id = ? ORDER BY at, item_id", person)
	return out, err
}

// PutInTray picks an item; picking it again changes nothing.
func PutInTray(ctx context.Context, t *sqlite.Tx, person, item, at int64) error {
	return t.Exec(ctx, "INSERT OR IGNORE INTO tray (person_id, item_id, at) VALUES (?, ?, ?)", person, item, at)
}

// TakeFromTray puts items back.
func TakeFromTray(ctx context.Context, t *sqlite.Tx, person int64, items []int64) error {
	condition, args := sqlite.In("item_id", items)
	return t.Exec(ctx, "DELETE FROM tray WHERE person_id = ? AND "+condition, append([]any{person}, args...)...)
}
