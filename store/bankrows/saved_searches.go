package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// SavedSearch is a search of the bank that a person keeps.
type SavedSearch struct {
	ID       int64  `db:"id"`
	PersonID int64  `db:"person_id"`
	Name     string `db:"name"`
	Query    string `db:"query"`
	At       int64  `db:"at"`
}

// SavedSearches lists a person's searches by name.
func SavedSearches(ctx context.Context, r sqlite.Reader, person int64) ([]SavedSearch, error) {
	var out []SavedSearch
	err := r.List(ctx, &out, "SELECT id, person_id, name, query, at FROM saved_search WHERE person_id = ? ORDER BY name", person)
	return out, err
}

// SaveSearch keeps a search under its name.
func SaveSearch(ctx context.Context, t *sqlite.Tx, s SavedSearch) error {
	return t.Exec(ctx, `INSERT INTO saved_search (person_id, name, query, at) VALUES (?, ?, ?, ?)
		ON CONFLICT (person_id, name) DO UPDATE SET query = excluded.query, at = excluded.at`, s.PersonID, s.Name, s.Query, s.At)
}

// DropSearch forgets a person's search.
func DropSearch(ctx context.Context, t *sqlite.Tx, person, id int64) error {
	return t.Exec(ctx, "DELETE FROM saved_search WHERE id = ? AND person_id = ?", id, person)
}
