package bankrows

import (
	"context"

	"pineledger/core/bank"
	"pineledger/store/sqlite"
)

// BulkChange is a change to the metadata of many items.
type BulkChange struct {
	ID       int64                        `db:"id"`
	PersonID int64                        `db:"person_id"`
	At       int64                        `db:"at"`
	Change   sqlite.JSON[bank.MetaChange] `db:"change"`
	UndoneAt *int64                       `db:"undone_at"`
}

// BulkItem is an item that a change reached.
type BulkItem struct {
	ItemID  int64                  `db:"item_id"`
	Version int                    `db:"version"` // that the change made
	Before  sqlite.JSON[bank.Meta] `db:"before"`
}

// BulkChangeByID gives a person's change with its items.
func BulkChangeByID(ctx context.Context, r sqlite.Reader, person, id int64) (BulkChange, []BulkItem, error) {
	var c BulkChange
	if err := r.Get(ctx, &c, "SELECT id, person_id, at, change, undone_at FROM bulk_change WHERE id = ? AND person_id = ?", id, person); err != nil {
		return c, nil, err
	}
	var items []BulkItem
	err := r.List(ctx, &items, "SELECT item_id, version, before FROM bulk_change_item WHERE bulk_change_id = ? ORDER BY item_id", id)
	return c, items, err
}

// AddBulkChange keeps a change.
func AddBulkChange(ctx context.Context, t *sqlite.Tx, c BulkChange) (int64, error) {
	return t.Insert(ctx, "INSERT INTO bulk_change (person_id, at, change) VALUES (?, ?, ?)", c.PersonID, c.At, c.Change)
}

// AddBulkItem notes an item that a change reached.
func AddBulkItem(ctx context.Context, t *sqlite.Tx, change int64, i BulkItem) error {
	return t.Exec(ctx, "INSERT INTO bulk_change_item (bulk_change_id, item_id, version, before) VALUES (?, ?, ?, ?)", change, i.ItemID, i.Version, i.Before)
}

// UndoneBulkChange notes that a change was undone.
func UndoneBulkChange(ctx context.Context, t *sqlite.Tx, id, at int64) error {
	return t.Exec(ctx, "UPDATE bulk_change SET undone_at = ? WHERE id = ?", at, id)
}
