package bankrows

import (
	"context"

	"pineledger/core/bank"
	"pineledger/store/sqlite"
)

// ItemDraft is an item while it is written.
type ItemDraft struct {
	ID     int64 `db:"id"`
	ItemID int64 `db:"item_id"` // 0, or the item of which it will be a version
	// Of an own copy: the assessment, and the version on its line that it began from.
	AssessmentID int64                       `db:"assessment_id"`
	OriginID     int64                       `db:"origin_version_id"`
	AuthorID     int64                       `db:"author_id"`
	Document     string                      `db:"document"`
	Meta         sqlite.JSON[bank.DraftMeta] `db:"meta"`
	Stem         string                      `db:"stem"`
	Kind         string                      `db:"kind"`
	Version      int64                       `db:"version"`
	ChangedAt    int64                       `db:"changed_at"`
}

const draftSelect = "SELECT id, COALESCE(item_id, 0) AS item_id, COALESCE(assessment_id, 0) AS assessment_id, COALESCE(origin_version_id, 0) AS origin_version_id, author_id, document, meta, stem, kind, version, changed_at FROM item_draft"

// ItemDrafts lists an author's drafts, the last changed first.
func ItemDrafts(ctx context.Context, r sqlite.Reader, author int64) ([]ItemDraft, error) {
	var out []ItemDraft
	err := r.List(ctx, &out, draftSelect+" WHERE author_id = ? ORDER BY changed_at DESC, id DESC LIMIT 200", author)
	return out, err
}

// ItemDraftByID gives a draft of an author; another's does not exist.
func ItemDraftByID(ctx context.Context, r sqlite.Reader, author, id int64) (ItemDraft, error) {
	var d ItemDraft
	err := r.Get(ctx, &d, draftSelect+" WHERE id = ? AND author_id = ?", id, author)
	return d, err
}

// AddItemDraft keeps a new draft.
func AddItemDraft(ctx context.Context, t *sqlite.Tx, d ItemDraft) (int64, error) {
	return t.Insert(ctx, "INSERT INTO item_draft (item_id, assessment_id, origin_version_id, author_id, document, meta, stem, kind, version, changed_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, 1, ?)",
		sqlite.OptionalID(d.ItemID), sqlite.OptionalID(d.AssessmentID), sqlite.OptionalID(d.OriginID), d.AuthorID, d.Document, d.Meta, d.Stem, d.Kind, d.ChangedAt)
}

// PutItemDraft keeps a draft as it is now, as its next version.
func PutItemDraft(ctx context.Context, t *sqlite.Tx, d ItemDraft) error {
	return t.Exec(ctx, "UPDATE item_draft SET document = ?, meta = ?, stem = ?, kind = ?, version = version + 1, changed_at = ? WHERE id = ?",
		d.Document, d.Meta, d.Stem, d.Kind, d.ChangedAt, d.ID)
}

// DropItemDraft takes a draft away.
func DropItemDraft(ctx context.Context, t *sqlite.Tx, id int64) error {
	return t.Exec(ctx, "DELETE FROM item_draft WHERE id = ?", id)
}
