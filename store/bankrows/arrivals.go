package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// ArrivingBank is the kind of the one bank that holds what an import has written so far;
// nobody looks into it.
const ArrivingBank = "arriving"

// BankOfArrivals gives the id of the bank that holds what is arriving.
func BankOfArrivals(ctx context.Context, r sqlite.Reader) (int64, error) {
	var id int64
	err := r.Get(ctx, &id, "SELECT id FROM bank WHERE kind = ?", ArrivingBank)
	return id, err
}

// PutArrivingMedia keeps a file that is not on the shelf before its import is done. One that is there already stays there.
func PutArrivingMedia(ctx context.Context, t *sqlite.Tx, m Media) error {
	fresh, err := putMedia(ctx, t, m)
	if err != nil || !fresh {
		return err
	}
	return t.Exec(ctx, "INSERT INTO arriving_media (hash) VALUES (?)", m.Hash)
}

// SettleItems moves items that have arrived to their bank and puts everyone's tags on them.
func SettleItems(ctx context.Context, t *sqlite.Tx, bank int64, tags []string, items []int64) error {
	ids, err := everyonesIDs(ctx, t, tags)
	if err != nil {
		return err
	}
	set, err := tagSetOf(ctx, t, ids)
	if err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE item SET bank_id = ?, tag_set_id = ? WHERE id IN (SELECT value FROM json_each(?))", bank, set, sqlite.JsonIDs(items))
}

// SettlePassage moves a passage that has arrived to its bank.
func SettlePassage(ctx context.Context, t *sqlite.Tx, bank, passage int64) error {
	return t.Exec(ctx, "UPDATE passage SET bank_id = ? WHERE id = ?", bank, passage)
}

// SettleMedia puts the files that have arrived on the shelf.
func SettleMedia(ctx context.Context, t *sqlite.Tx) error {
	return t.Exec(ctx, "DELETE FROM arriving_media")
}

// Arrivals are what an import left that did not come to its end.
type Arrivals struct {
	Items    []int64
	Passages []int64
	Media    []string // hashes
}

// ArrivalsLeft lists them.
func ArrivalsLeft(ctx context.Context, r sqlite.Reader) (Arrivals, error) {
	var out Arrivals
	bank, err := BankOfArrivals(ctx, r)
	if err != nil {
		return out, err
	}
	if err := r.List(ctx, &out.Items, "SELECT id FROM item WHERE bank_id = ? ORDER BY id", bank); err != nil {
		return out, err
	}
	if err := r.List(ctx, &out.Passages, "SELECT id FROM passage WHERE bank_id = ? ORDER BY id", bank); err != nil {
		return out, err
	}
	err = r.List(ctx, &out.Media, "SELECT hash FROM arriving_media ORDER BY hash")
	return out, err
}

// DropPassage takes a passage that nothing hangs on away, with its versions.
func DropPassage(ctx context.Context, t *sqlite.Tx, passage int64) error {
	for _, query := range []string{"DELETE FROM passage_media WHERE passage_id = ?", "DELETE FROM passage_version WHERE passage_id = ?", "DELETE FROM passage WHERE id = ?"} {
		if err := t.Exec(ctx, query, passage); err != nil {
			return err
		}
	}
	return nil
}

// DropArrivingMedia takes a file of an import away, unless something of others shows it by now.
func DropArrivingMedia(ctx context.Context, t *sqlite.Tx, hash string) error {
	if err := t.Exec(ctx, "DELETE FROM arriving_media WHERE hash = ?", hash); err != nil {
		return err
	}
	return t.Exec(ctx, `DELETE FROM media WHERE hash = ?1 AND NOT EXISTS (SELECT 1 FROM item_media u WHERE u.hash = ?1)
		AND NOT EXISTS (SELECT 1 FROM passage_media u WHERE u.hash = ?1)`, hash)
}
