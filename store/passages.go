package store

import "context"

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
func (r Reader) Passages(ctx context.Context, ids []int64) ([]Passage, error) {
	var out []Passage
	err := r.list(ctx, &out, "SELECT "+passageColumns+", p.body, p.plain FROM passage p WHERE p.id IN (SELECT value FROM json_each(?)) ORDER BY p.id", jsonIDs(ids))
	return out, err
}

// mostPassages are listed at once.
const mostPassages = 100

// PassagesNamed lists passages of some banks whose title or text holds words, the
// last changed first.
func (r Reader) PassagesNamed(ctx context.Context, banks []int64, words string) ([]Passage, error) {
	var out []Passage
	err := r.list(ctx, &out, "SELECT "+passageColumns+`, (SELECT COUNT(*) FROM item i WHERE i.passage_id = p.id) AS items FROM passage p
		WHERE p.bank_id IN (SELECT value FROM json_each(?)) AND (p.title LIKE ? ESCAPE '\' OR p.plain LIKE ? ESCAPE '\') ORDER BY p.changed_at DESC, p.id DESC LIMIT ?`,
		jsonIDs(banks), "%"+escapeLike(words)+"%", "%"+escapeLike(words)+"%", mostPassages)
	return out, err
}

// PutPassage writes a passage that came in a file and gives its id. A new one
// belongs to the bank of the items that it came with.
func (t *Tx) PutPassage(ctx context.Context, p Passage, digest string) (int64, error) {
	id, err := t.putRow(ctx, `INSERT INTO passage (identifier, title, body, plain, words, sentences, syllables, language, source, permission, bank_id, owner_id, changed_at, digest)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET title = excluded.title, body = excluded.body, plain = excluded.plain, words = excluded.words,
			sentences = excluded.sentences, syllables = excluded.syllables, changed_at = excluded.changed_at, version = version + 1, digest = excluded.digest RETURNING id`,
		p.Identifier, p.Title, p.Body, p.Plain, p.Words, p.Sentences, p.Syllables, p.Language, p.Source, p.Permission, optionalID(p.BankID), p.OwnerID, p.ChangedAt, digest)
	if err != nil {
		return 0, err
	}
	return id, t.indexPassage(ctx, id)
}

// indexPassage renews the words of a passage in the search of its items.
func (t *Tx) indexPassage(ctx context.Context, id int64) error {
	return t.exec(ctx, `UPDATE item_words SET passage = (SELECT p.title || ' ' || p.plain FROM passage p WHERE p.id = ?)
		WHERE rowid IN (SELECT id FROM item WHERE passage_id = ?)`, id, id)
}
