package store

import "context"

// Media is a picture or sound of the shelf. Its hash is the SHA-256 of its data.
type Media struct {
	Hash     string `db:"hash"`
	Type     string `db:"type"`
	Ending   string `db:"ending"`
	Name     string `db:"name"`
	Width    int    `db:"width"`
	Height   int    `db:"height"`
	Data     []byte `db:"data"`
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
	err := r.get(ctx, &m, "SELECT hash, type, ending, name, width, height, data, person_id, at FROM media WHERE hash = ?", hash)
	return m, err
}
