package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Passage is a text that items hang on.
type Passage struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	Title      string `db:"title"`
	Body       string `db:"body"`
	Plain      string `db:"plain"`
	Words      int    `db:"words"`
	Sentences  int    `db:"sentences"`
	Syllables  int    `db:"syllables"`
	Language   string `db:"language"`
	Source     string `db:"source"`
	Permission string `db:"permission"`
	BankID     int64  `db:"bank_id"`
	Bank       string `db:"bank"`
	OwnerID    int64  `db:"owner_id"`
	Version    int    `db:"version"`
	ChangedAt  int64  `db:"changed_at"`
	Items      int    `db:"items"` // in lists
}

const passageColumns = `p.id, p.identifier, p.title, p.words, p.sentences, p.syllables, p.language, p.source, p.permission, COALESCE(p.bank_id, 0) AS bank_id,
	COALESCE((SELECT b.name FROM bank b WHERE b.id = p.bank_id), '') AS bank, p.owner_id, p.version, p.changed_at`

// Passages gives passages by id.
func Passages(ctx context.Context, r sqlite.Reader, ids []int64) ([]Passage, error) {
	var out []Passage
	err := r.List(ctx, &out, "SELECT "+passageColumns+", p.body, p.plain FROM passage p WHERE p.id IN (SELECT value FROM json_each(?)) ORDER BY p.id", sqlite.JsonIDs(ids))
	return out, err
}

// mostPassages are listed at once.
const mostPassages = 100

// PassagesNamed lists passages of some banks whose title or text holds words, the
// last changed first.
func PassagesNamed(ctx context.Context, r sqlite.Reader, banks []int64, words string) ([]Passage, error) {
	var out []Passage
	err := r.List(ctx, &out, "SELECT "+passageColumns+`, (SELECT COUNT(*) FROM item i WHERE i.passage_id = p.id) AS items FROM passage p
		WHERE p.bank_id IN (SELECT value FROM json_each(?)) AND (p.title LIKE ? ESCAPE '\' OR p.plain LIKE ? ESCAPE '\') ORDER BY p.changed_at DESC, p.id DESC LIMIT ?`,
		sqlite.JsonIDs(banks), "%"+sqlite.EscapeLike(words)+"%", "%"+sqlite.EscapeLike(words)+"%", mostPassages)
	return out, err
}

// PutPassage writes a passage that came in a file and gives its id. A new one
// belongs to the bank of the items that it came with.
func PutPassage(ctx context.Context, t *sqlite.Tx, p Passage, digest string) (int64, error) {
	id, err := t.PutRow(ctx, `INSERT INTO passage (identifier, title, body, plain, words, sentences, syllables, language, source, permission, bank_id, owner_id, changed_at, digest)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET title = excluded.title, body = excluded.body, plain = excluded.plain, words = excluded.words,
			sentences = excluded.sentences, syllables = excluded.syllables, changed_at = excluded.changed_at, version = version + 1, digest = excluded.digest RETURNING id`,
		p.Identifier, p.Title, p.Body, p.Plain, p.Words, p.Sentences, p.Syllables, p.Language, p.Source, p.Permission, sqlite.OptionalID(p.BankID), p.OwnerID, p.ChangedAt, digest)
	if err != nil {
		return 0, err
	}
	return id, passageWritten(ctx, t, id, p)
}

// passageWritten keeps what a passage says now as a version, and renews what is
// found by it.
func passageWritten(ctx context.Context, t *sqlite.Tx, id int64, p Passage) error {
	if err := t.Exec(ctx, `INSERT INTO passage_version (passage_id, number, title, body, author_id, at)
		SELECT id, version, title, body, ?, changed_at FROM passage WHERE id = ?`, p.OwnerID, id); err != nil {
		return err
	}
	if err := notePassageMedia(ctx, t, id, p.Body, true); err != nil {
		return err
	}
	return indexPassage(ctx, t, id)
}

// AddPassage keeps a new passage.
func AddPassage(ctx context.Context, t *sqlite.Tx, p Passage, digest string) (int64, error) {
	id, err := t.Insert(ctx, `INSERT INTO passage (identifier, title, body, plain, words, sentences, syllables, language, source, permission, bank_id, owner_id, changed_at, digest)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, p.Identifier, p.Title, p.Body, p.Plain, p.Words, p.Sentences, p.Syllables, p.Language, p.Source, p.Permission,
		p.BankID, p.OwnerID, p.ChangedAt, digest)
	if err != nil {
		return 0, err
	}
	return id, passageWritten(ctx, t, id, p)
}

// ChangePassage writes a passage at the version that was read; by is who writes.
func ChangePassage(ctx context.Context, t *sqlite.Tx, p Passage, by int64, digest string) error {
	err := t.ChangeOne(ctx, `UPDATE passage SET title = ?, body = ?, plain = ?, words = ?, sentences = ?, syllables = ?, language = ?, source = ?, permission = ?,
		bank_id = ?, changed_at = ?, digest = ?, version = version + 1 WHERE id = ? AND version = ?`,
		p.Title, p.Body, p.Plain, p.Words, p.Sentences, p.Syllables, p.Language, p.Source, p.Permission, p.BankID, p.ChangedAt, digest, p.ID, p.Version)
	if err != nil {
		return err
	}
	p.OwnerID = by
	return passageWritten(ctx, t, p.ID, p)
}

// PassageNamed tells whether an identifier is in use.
func PassageNamed(ctx context.Context, r sqlite.Reader, identifier string) (bool, error) {
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM passage WHERE identifier = ?", identifier)
	return n > 0, err
}

// PassageUses counts the drafts and the sealed forms that hold items of a passage.
func PassageUses(ctx context.Context, r sqlite.Reader, passage int64) (drafts, forms int, err error) {
	var row struct {
		Drafts int `db:"drafts"`
		Forms  int `db:"forms"`
	}
	err = r.Get(ctx, &row, `SELECT (SELECT COUNT(DISTINCT l.assessment_id) FROM line l JOIN item i ON i.id = l.item_id JOIN assessment a ON a.id = l.assessment_id AND a.state = 'draft' AND a.deleted_at IS NULL
			WHERE i.passage_id = ?) AS drafts,
		(SELECT COUNT(DISTINCT l.form_id) FROM form_line l JOIN item i ON i.id = l.item_id WHERE i.passage_id = ?) AS forms`, passage, passage)
	return row.Drafts, row.Forms, err
}

// indexPassage renews the words of a passage in the search of its items.
func indexPassage(ctx context.Context, t *sqlite.Tx, id int64) error {
	return t.Exec(ctx, `UPDATE item_words SET passage = (SELECT p.title || ' ' || p.plain FROM passage p WHERE p.id = ?)
		WHERE rowid IN (SELECT id FROM item WHERE passage_id = ?)`, id, id)
}
