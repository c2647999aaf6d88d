package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Hold reserves an item, with what the right to know of it depends on.
type Hold struct {
	ID           int64  `db:"id"`
	ItemID       int64  `db:"item_id"`
	AssessmentID int64  `db:"assessment_id"` // 0: for who set it
	Assessment   string `db:"assessment"`    // its title
	Until        int64  `db:"until"`         // ms, 0 without end
	Reason       string `db:"reason"`
	PersonID     int64  `db:"person_id"`
	Person       string `db:"person"`
	At           int64  `db:"at"`
	SchoolID     int64  `db:"school_id"` // of the assessment
	OwnerID      int64  `db:"owner_id"`
	ItemOwnerID  int64  `db:"item_owner_id"`
	BankID       int64  `db:"bank_id"`
	Edits        bool   `db:"edits"` // who asks is an editor of the item
	Identifier   string `db:"identifier"`
	Stem         string `db:"stem"`
	EndedAt      *int64 `db:"ended_at"`
}

const holdSelect = `SELECT h.id, h.item_id, COALESCE(h.assessment_id, 0) AS assessment_id, COALESCE(a.title, '') AS assessment, h.until, h.reason, h.person_id,
	p.given || ' ' || p.family AS person, h.at, COALESCE(a.school_id, 0) AS school_id, COALESCE(a.owner_id, 0) AS owner_id, i.owner_id AS item_owner_id, i.bank_id,
	EXISTS (SELECT 1 FROM item_editor e WHERE e.item_id = h.item_id AND e.person_id = ?) AS edits, i.identifier, i.stem, h.ended_at
	FROM hold h JOIN item i ON i.id = h.item_id JOIN person p ON p.id = h.person_id LEFT JOIN assessment a ON a.id = h.assessment_id`

const inForce = " h.ended_at IS NULL AND (h.until = 0 OR h.until > ?)"

// HoldsInForce lists all holds in force at a moment (ms), for who asks.
func HoldsInForce(ctx context.Context, r sqlite.Reader, person, now int64) ([]Hold, error) {
	var out []Hold
	err := r.List(ctx, &out, holdSelect+" WHERE"+inForce+" ORDER BY h.at, h.id", person, now)
	return out, err
}

// HoldsOf lists the holds in force of some items.
func HoldsOf(ctx context.Context, r sqlite.Reader, person, now int64, items []int64) (map[int64]Hold, error) {
	var rows []Hold
	err := r.List(ctx, &rows, holdSelect+" WHERE"+inForce+" AND h.item_id IN (SELECT value FROM json_each(?))", person, now, sqlite.JsonIDs(items))
	out := map[int64]Hold{}
	for _, h := range rows {
		out[h.ItemID] = h
	}
	return out, err
}

// HistoryOfHolds lists all holds of an item, the newest first.
func HistoryOfHolds(ctx context.Context, r sqlite.Reader, person, item int64) ([]Hold, error) {
	var out []Hold
	err := r.List(ctx, &out, holdSelect+" WHERE h.item_id = ? ORDER BY h.id DESC LIMIT 100", person, item)
	return out, err
}

// EndHold lets an item go.
func EndHold(ctx context.Context, t *sqlite.Tx, item, now int64) error {
	return t.Exec(ctx, "UPDATE hold SET ended_at = ? WHERE item_id = ? AND ended_at IS NULL", now, item)
}

// AddHold reserves an item. One that has passed its date is ended first.
func AddHold(ctx context.Context, t *sqlite.Tx, h Hold) error {
	if err := t.Exec(ctx, "UPDATE hold SET ended_at = until WHERE item_id = ? AND ended_at IS NULL AND until > 0 AND until <= ?", h.ItemID, h.At); err != nil {
		return err
	}
	return t.Exec(ctx, "INSERT INTO hold (item_id, assessment_id, until, reason, person_id, at) VALUES (?, ?, ?, ?, ?, ?)",
		h.ItemID, sqlite.OptionalID(h.AssessmentID), h.Until, h.Reason, h.PersonID, h.At)
}
