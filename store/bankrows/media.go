package bankrows

import (
	"context"

	"pineledger/core/item"
	"pineledger/store/sqlite"
)

// Media is a picture or sound of the shelf. Its hash is the SHA-256 of its data.
type Media struct {
	Hash     string `db:"hash"`
	Type     string `db:"type"`
	Ending   string `db:"ending"`
	Name     string `db:"name"`
	Width    int    `db:"width"`
	Height   int    `db:"height"`
	Data     []byte `db:"data"`
	Alt      string `db:"alt"`
	PersonID int64  `db:"person_id"`
	At       int64  `db:"at"`
}

// PutMedia keeps a file; the same one again changes nothing.
func PutMedia(ctx context.Context, t *sqlite.Tx, m Media) error {
	if _, err := putMedia(ctx, t, m); err != nil {
		return err
	}
	return t.Exec(ctx, "DELETE FROM arriving_media WHERE hash = ?", m.Hash) // it stays, whatever becomes of an import that brings it too
}

// putMedia tells whether the file is new.
func putMedia(ctx context.Context, t *sqlite.Tx, m Media) (bool, error) {
	done, err := t.Run(ctx, "INSERT OR IGNORE INTO media (hash, type, ending, name, width, height, data, person_id, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
		m.Hash, m.Type, m.Ending, m.Name, m.Width, m.Height, m.Data, m.PersonID, m.At)
	if err != nil {
		return false, err
	}
	n, err := done.RowsAffected()
	return n > 0, err
}

// MediaByHash gives a file of the shelf.
func MediaByHash(ctx context.Context, r sqlite.Reader, hash string) (Media, error) {
	var m Media
	err := r.Get(ctx, &m, "SELECT hash, type, ending, name, width, height, data, alt, person_id, at FROM media WHERE hash = ?", hash)
	return m, err
}

// MediaListed is a file of the shelf without its data.
type MediaListed struct {
	Hash    string `db:"hash"`
	Type    string `db:"type"`
	Name    string `db:"name"`
	Alt     string `db:"alt"`
	Width   int    `db:"width"`
	Height  int    `db:"height"`
	Bytes   int    `db:"bytes"`
	Person  string `db:"person"`
	At      int64  `db:"at"`
	Version int    `db:"version"`
	Uses    int    `db:"uses"` // items and passages
}

const mediaListed = `SELECT m.hash, m.type, m.name, m.alt, m.width, m.height, LENGTH(m.data) AS bytes, COALESCE(p.given || ' ' || p.family, '') AS person, m.at, m.version,
	(SELECT COUNT(*) FROM item_media u WHERE u.hash = m.hash) + (SELECT COUNT(*) FROM passage_media u WHERE u.hash = m.hash) AS uses
	FROM media m LEFT JOIN person p ON p.id = m.person_id`

// Shelf lists a page of the media shelf, the newest first: files whose name or
// alternative text holds words, that were put there before a moment (0: all).
func Shelf(ctx context.Context, r sqlite.Reader, words string, unused bool, before int64, limit int) ([]MediaListed, error) {
	var w sqlite.Where
	w.Add("NOT EXISTS (SELECT 1 FROM arriving_media a WHERE a.hash = m.hash)")
	w.Add(`(m.name LIKE ? ESCAPE '\' OR m.alt LIKE ? ESCAPE '\')`, "%"+sqlite.EscapeLike(words)+"%", "%"+sqlite.EscapeLike(words)+"%")
	if before > 0 {
		w.Add("m.at < ?", before)
	}
	if unused {
		w.Add("NOT EXISTS (SELECT 1 FROM item_media u WHERE u.hash = m.hash) AND NOT EXISTS (SELECT 1 FROM passage_media u WHERE u.hash = m.hash)")
	}
	var out []MediaListed
	err := r.List(ctx, &out, mediaListed+w.String()+" ORDER BY m.at DESC, m.hash LIMIT ?", append(w.Args, limit)...)
	return out, err
}

// MediaOnShelf gives a file of the shelf without its data.
func MediaOnShelf(ctx context.Context, r sqlite.Reader, hash string) (MediaListed, error) {
	var m MediaListed
	err := r.Get(ctx, &m, mediaListed+" WHERE m.hash = ?", hash)
	return m, err
}

// ChangeMedia writes a file's name and alternative text at the version that was read.
func ChangeMedia(ctx context.Context, t *sqlite.Tx, hash, name, alt string, version int) error {
	return t.ChangeOne(ctx, "UPDATE media SET name = ?, alt = ?, version = version + 1 WHERE hash = ? AND version = ?", name, alt, hash, version)
}

// ItemsShowing gives the ids of the items whose newest version shows a file.
func ItemsShowing(ctx context.Context, r sqlite.Reader, hash string) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, "SELECT item_id FROM item_media WHERE hash = ? ORDER BY item_id", hash)
	return out, err
}

// PassagesShowing gives the ids of the passages that show a file.
func PassagesShowing(ctx context.Context, r sqlite.Reader, hash string) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, "SELECT passage_id FROM passage_media WHERE hash = ? ORDER BY passage_id", hash)
	return out, err
}

func noteItemMedia(ctx context.Context, t *sqlite.Tx, id int64, document string, before bool) error {
	return noteMedia(ctx, t, "item_media", "item_id", id, document, before)
}

func notePassageMedia(ctx context.Context, t *sqlite.Tx, id int64, body string, before bool) error {
	return noteMedia(ctx, t, "passage_media", "passage_id", id, body, before)
}

// noteMedia renews what a text shows; before tells that there may be something to renew.
func noteMedia(ctx context.Context, t *sqlite.Tx, table, column string, id int64, text string, before bool) error {
	if before {
		if err := t.Exec(ctx, "DELETE FROM "+table+" WHERE "+column+" = ?", id); err != nil {
			return err
		}
	}
	for _, hash := range item.MediaIn(text) {
		if err := t.Exec(ctx, "INSERT INTO "+table+" (hash, "+column+") VALUES (?, ?)", hash, id); err != nil {
			return err
		}
	}
	return nil
}
