package store

import (
	"context"

	"pineledger/core/item"
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
func (t *Tx) PutMedia(ctx context.Context, m Media) error {
	return t.exec(ctx, "INSERT OR IGNORE INTO media (hash, type, ending, name, width, height, data, person_id, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
		m.Hash, m.Type, m.Ending, m.Name, m.Width, m.Height, m.Data, m.PersonID, m.At)
}

// MediaByHash gives a file of the shelf.
func (r Reader) MediaByHash(ctx context.Context, hash string) (Media, error) {
	var m Media
	err := r.get(ctx, &m, "SELECT hash, type, ending, name, width, height, data, alt, person_id, at FROM media WHERE hash = ?", hash)
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
func (r Reader) Shelf(ctx context.Context, words string, unused bool, before int64, limit int) ([]MediaListed, error) {
	var w where
	w.add(`(m.name LIKE ? ESCAPE '\' OR m.alt LIKE ? ESCAPE '\')`, "%"+escapeLike(words)+"%", "%"+escapeLike(words)+"%")
	if before > 0 {
		w.add("m.at < ?", before)
	}
	if unused {
		w.add("NOT EXISTS (SELECT 1 FROM item_media u WHERE u.hash = m.hash) AND NOT EXISTS (SELECT 1 FROM passage_media u WHERE u.hash = m.hash)")
	}
	var out []MediaListed
	err := r.list(ctx, &out, mediaListed+w.String()+" ORDER BY m.at DESC, m.hash LIMIT ?", append(w.args, limit)...)
	return out, err
}

// MediaOnShelf gives a file of the shelf without its data.
func (r Reader) MediaOnShelf(ctx context.Context, hash string) (MediaListed, error) {
	var m MediaListed
	err := r.get(ctx, &m, mediaListed+" WHERE m.hash = ?", hash)
	return m, err
}

// ChangeMedia writes a file's name and alternative text at the version that was read.
func (t *Tx) ChangeMedia(ctx context.Context, hash, name, alt string, version int) error {
	return t.changeOne(ctx, "UPDATE media SET name = ?, alt = ?, version = version + 1 WHERE hash = ? AND version = ?", name, alt, hash, version)
}

// ItemsShowing gives the ids of the items whose newest version shows a file.
func (r Reader) ItemsShowing(ctx context.Context, hash string) ([]int64, error) {
	out := []int64{}
	err := r.list(ctx, &out, "SELECT item_id FROM item_media WHERE hash = ? ORDER BY item_id", hash)
	return out, err
}

// PassagesShowing gives the ids of the passages that show a file.
func (r Reader) PassagesShowing(ctx context.Context, hash string) ([]int64, error) {
	out := []int64{}
	err := r.list(ctx, &out, "SELECT passage_id FROM passage_media WHERE hash = ? ORDER BY passage_id", hash)
	return out, err
}

func (t *Tx) noteItemMedia(ctx context.Context, id int64, document string, before bool) error {
	return t.noteMedia(ctx, "item_media", "item_id", id, document, before)
}

func (t *Tx) notePassageMedia(ctx context.Context, id int64, body string, before bool) error {
	return t.noteMedia(ctx, "passage_media", "passage_id", id, body, before)
}

// noteMedia renews what a text shows; before tells that there may be something to renew.
func (t *Tx) noteMedia(ctx context.Context, table, column string, id int64, text string, before bool) error {
	if before {
		if err := t.exec(ctx, "DELETE FROM "+table+" WHERE "+column+" = ?", id); err != nil {
			return err
		}
	}
	for _, hash := range item.MediaIn(text) {
		if err := t.exec(ctx, "INSERT INTO "+table+" (hash, "+column+") VALUES (?, ?)", hash, id); err != nil {
			return err
		}
	}
	return nil
}
