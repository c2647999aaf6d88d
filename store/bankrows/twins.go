package bankrows

import (
	"context"

	"pineledger/core/bank"
	"pineledger/store/sqlite"
)

// putSketch renews an item's keys; before tells that there may be some.
func putSketch(ctx context.Context, t *sqlite.Tx, item int64, keys []int64, before bool) error {
	if before {
		if err := t.Exec(ctx, "DELETE FROM item_sketch WHERE item_id = ?", item); err != nil {
			return err
		}
	}
	if len(keys) == 0 {
		return nil
	}
	return t.Exec(ctx, "INSERT OR IGNORE INTO item_sketch (key, item_id) SELECT value, ? FROM json_each(?)", item, sqlite.JsonIDs(keys))
}

// mostCandidates bounds how many items that share keys are compared: those that
// share most of them, for those are the most like.
const mostCandidates = 50

// TwinText is what twins are compared by.
type TwinText struct {
	ItemID  int64  `db:"item_id"`
	Stem    string `db:"stem"`
	Choices string `db:"choices"`
}

// SharingKeys gives the texts of items that share a key of a sketch, own copies left out.
func SharingKeys(ctx context.Context, r sqlite.Reader, keys []int64, without int64) ([]TwinText, error) {
	if len(keys) == 0 {
		return nil, nil
	}
	var out []TwinText
	err := r.List(ctx, &out, `SELECT w.rowid AS item_id, w.stem, w.choices FROM
		(SELECT k.item_id FROM item_sketch k WHERE k.key IN (SELECT value FROM json_each(?)) AND k.item_id <> ?
			GROUP BY k.item_id ORDER BY COUNT(*) DESC, k.item_id LIMIT ?) near
		JOIN item_words w ON w.rowid = near.item_id JOIN item i ON i.id = near.item_id AND i.assessment_id IS NULL`, sqlite.JsonIDs(keys), without, mostCandidates)
	return out, err
}

// TextOf gives what an item's twins are compared by.
func TextOf(ctx context.Context, r sqlite.Reader, item int64) (Words, error) {
	var w TwinText
	err := r.Get(ctx, &w, "SELECT rowid AS item_id, stem, choices FROM item_words WHERE rowid = ?", item)
	return Words{w.Stem, w.Choices}, err
}

// ImportTwin is a new item of an import that is nearly the same as another.
type ImportTwin struct {
	ItemID   int64 `db:"item_id"`
	TwinID   int64 `db:"twin_id"`
	Likeness int   `db:"likeness"`
}

// ImportTwins lists those of an import that are still two items.
func ImportTwins(ctx context.Context, r sqlite.Reader, run int64) ([]ImportTwin, error) {
	var out []ImportTwin
	err := r.List(ctx, &out, `SELECT t.item_id, t.twin_id, t.likeness FROM import_twin t JOIN item a ON a.id = t.item_id JOIN item b ON b.id = t.twin_id
		WHERE t.import_id = ? ORDER BY t.likeness DESC, t.item_id`, run)
	return out, err
}

// AddImportTwin notes one.
func AddImportTwin(ctx context.Context, t *sqlite.Tx, run int64, x ImportTwin) error {
	return t.Exec(ctx, "INSERT OR IGNORE INTO import_twin (import_id, item_id, twin_id, likeness) VALUES (?, ?, ?, ?)", run, x.ItemID, x.TwinID, x.Likeness)
}

// SettleImportTwin forgets that a new item has a twin: both are kept.
func SettleImportTwin(ctx context.Context, t *sqlite.Tx, item int64) error {
	return t.Exec(ctx, "DELETE FROM import_twin WHERE item_id = ?", item)
}

// ItemIsUsed tells whether anything hangs on an item: a line, a sealed form, a
// report, a hold, a copy.
func ItemIsUsed(ctx context.Context, r sqlite.Reader, item int64) (bool, error) {
	var used bool
	err := r.Get(ctx, &used, `SELECT EXISTS (SELECT 1 FROM line WHERE item_id = ?1) OR EXISTS (SELECT 1 FROM form_line WHERE item_id = ?1)
		OR EXISTS (SELECT 1 FROM item_report WHERE item_id = ?1) OR EXISTS (SELECT 1 FROM hold WHERE item_id = ?1) OR EXISTS (SELECT 1 FROM offer WHERE item_id = ?1)
		OR EXISTS (SELECT 1 FROM item c JOIN item_version v ON v.id = c.origin_version_id WHERE v.item_id = ?1)
		OR EXISTS (SELECT 1 FROM item_draft d JOIN item_version v ON v.id = d.origin_version_id WHERE v.item_id = ?1)`, item)
	return used, err
}

// DropItem takes an item that nothing hangs on out of the bank, with its versions.
func DropItem(ctx context.Context, t *sqlite.Tx, item int64) error {
	for _, query := range []string{"DELETE FROM item_words WHERE rowid = ?", "DELETE FROM item_sketch WHERE item_id = ?", "DELETE FROM item_media WHERE item_id = ?",
		"DELETE FROM item_editor WHERE item_id = ?", "DELETE FROM item_comment WHERE item_id = ?", "DELETE FROM tray WHERE item_id = ?", "DELETE FROM item_draft WHERE item_id = ?",
		"DELETE FROM import_twin WHERE item_id = ?", "DELETE FROM item_version WHERE item_id = ?", "DELETE FROM item WHERE id = ?"} {
		if err := t.Exec(ctx, query, item); err != nil {
			return err
		}
	}
	return nil
}

// LinkDraft makes a draft the next version of an item.
func LinkDraft(ctx context.Context, t *sqlite.Tx, draft, item int64, meta bank.DraftMeta) error {
	return t.Exec(ctx, "UPDATE item_draft SET item_id = ?, meta = ?, version = version + 1 WHERE id = ?", item, sqlite.JSON[bank.DraftMeta]{V: meta}, draft)
}
