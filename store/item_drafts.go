package store

import (
	"context"
	"database/sql"
)

// ItemDraft is an item while it is written.
type ItemDraft struct {
	ID     int64         `db:"id"`
	ItemID sql.NullInt64 `db:"item_id"` // the item of which it will be a version
	// Of an own copy: the assessment, and the version on its line that it began from.
	AssessmentID sql.NullInt64 `db:"assessment_id"`
	OriginID     sql.NullInt64 `db:"origin_version_id"`
	AuthorID     int64         `db:"author_id"`
	Document     string        `db:"document"`
	Meta         string        `db:"meta"` // JSON
	Stem         string        `db:"stem"`
	Kind         string        `db:"kind"`
	Version      int64         `db:"version"`
	ChangedAt    int64         `db:"changed_at"`
}

const draftSelect = "SELECT id, item_id, assessment_id, origin_version_id, author_id, document, meta, stem, kind, version, changed_at FROM item_draft"

// ItemDrafts lists an author's drafts, the last changed first.
func (r Reader) ItemDrafts(ctx context.Context, author int64) ([]ItemDraft, error) {
	var out []ItemDraft
	err := r.list(ctx, &out, draftSelect+" WHERE author_id = ? ORDER BY changed_at DESC, id DESC LIMIT 200", author)
	return out, err
}

// ItemDraft gives a draft of an author; another's does not exist.
func (r Reader) ItemDraft(ctx context.Context, author, id int64) (ItemDraft, error) {
	var d ItemDraft
	err := r.get(ctx, &d, draftSelect+" WHERE id = ? AND author_id = ?", id, author)
	return d, err
}

// AddItemDraft keeps a new draft.
func (t *Tx) AddItemDraft(ctx context.Context, d ItemDraft) (int64, error) {
	return t.insert(ctx, "INSERT INTO item_draft (item_id, assessment_id, origin_version_id, author_id, document, meta, stem, kind, version, changed_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, 1, ?)",
		d.ItemID, d.AssessmentID, d.OriginID, d.AuthorID, d.Document, d.Meta, d.Stem, d.Kind, d.ChangedAt)
}

// PutItemDraft keeps a draft as it is now, as its next version.
func (t *Tx) PutItemDraft(ctx context.Context, d ItemDraft) error {
	return t.exec(ctx, "UPDATE item_draft SET document = ?, meta = ?, stem = ?, kind = ?, version = version + 1, changed_at = ? WHERE id = ?",
		d.Document, d.Meta, d.Stem, d.Kind, d.ChangedAt, d.ID)
}

// DropItemDraft takes a draft away.
func (t *Tx) DropItemDraft(ctx context.Context, id int64) error {
	return t.exec(ctx, "DELETE FROM item_draft WHERE id = ?", id)
}
