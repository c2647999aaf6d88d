package store

import "context"

// Tray lists the ids that a person has picked, in that order.
func (r Reader) Tray(ctx context.Context, person int64) ([]int64, error) {
	out := []int64{}
	err := r.list(ctx, &out, "SELECT item_id FROM tray WHERE person_id = ? ORDER BY at, item_id", person)
	return out, err
}

// PutInTray picks an item; picking it again changes nothing.
func (t *Tx) PutInTray(ctx context.Context, person, item, at int64) error {
	return t.exec(ctx, "INSERT OR IGNORE INTO tray (person_id, item_id, at) VALUES (?, ?, ?)", person, item, at)
}

// TakeFromTray puts items back.
func (t *Tx) TakeFromTray(ctx context.Context, person int64, items []int64) error {
	condition, args := in("item_id", items)
	return t.exec(ctx, "DELETE FROM tray WHERE person_id = ? AND "+condition, append([]any{person}, args...)...)
}
