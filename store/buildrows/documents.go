package buildrows

import (
	"context"

	"pineledger/store/bankrows"
	"pineledger/store/sqlite"
)

// Document is a document that is keyed. Hash is the SHA-256 of its data.
type Document struct {
	Hash     string `db:"hash"`
	Name     string `db:"name"`
	Pages    int    `db:"pages"`
	Data     []byte `db:"data"`
	PersonID int64  `db:"person_id"`
	At       int64  `db:"at"`
}

// PutDocument keeps a document; the same one again changes nothing.
func PutDocument(ctx context.Context, t *sqlite.Tx, d Document) error {
	return t.Exec(ctx, "INSERT OR IGNORE INTO document (hash, name, pages, data, person_id, at) VALUES (?, ?, ?, ?, ?, ?)",
		d.Hash, d.Name, d.Pages, d.Data, d.PersonID, d.At)
}

// DocumentByHash gives a document with its data.
func DocumentByHash(ctx context.Context, r sqlite.Reader, hash string) (Document, error) {
	var d Document
	err := r.Get(ctx, &d, "SELECT hash, name, pages, data, person_id, at FROM document WHERE hash = ?", hash)
	return d, err
}

// DocumentNamed gives a document without its data.
func DocumentNamed(ctx context.Context, r sqlite.Reader, hash string) (Document, error) {
	var d Document
	err := r.Get(ctx, &d, "SELECT hash, name, pages, person_id, at FROM document WHERE hash = ?", hash)
	return d, err
}

// RewriteVersion writes over an item's newest version, which no form was sealed with.
// It tells whether it did: a sealed version stays as it is.
func RewriteVersion(ctx context.Context, t *sqlite.Tx, version int64, v bankrows.NewVersion) (bool, error) {
	var sealed int
	if err := t.Get(ctx, &sealed, "SELECT COUNT(*) FROM form_line WHERE item_version_id = ?", version); err != nil || sealed > 0 {
		return false, err
	}
	alignment, err := bankrows.AlignmentOf(ctx, t, v.Standards)
	if err != nil {
		return false, err
	}
	if err := t.Exec(ctx, "UPDATE item_version SET document = ?, kind = ?, stem = ?, key_short = ?, standards = ?, author_id = ?, at = ? WHERE id = ?",
		v.Document, v.Kind, v.Stem, v.KeyShort, v.Codes, v.AuthorID, v.At, version); err != nil {
		return false, err
	}
	return true, t.Exec(ctx, "UPDATE item SET kind = ?, stem = ?, alignment_id = ?, changed_at = ?, digest = ? WHERE version_id = ?",
		v.Kind, v.Stem, alignment, v.At, v.Digest, version)
}

// optionalText stores "" as NULL.
func optionalText(s string) any {
	if s == "" {
		return nil
	}
	return s
}
