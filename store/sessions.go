package store

import (
	"context"
	"errors"
	"time"

	"pineledger/store/sqlite"
)

// Sessions keeps browsers' sessions under digests of their tokens, for the session
// library. It writes with others who sign in at the same time.
type Sessions struct {
	store  *Store
	failed func(error)
}

// Sessions are those of this store. failed hears of what could not be written.
func (s *Store) Sessions(failed func(error)) Sessions { return Sessions{s, failed} }

// Find gives what is kept under a token; false where there is nothing, or it is over.
func (s Sessions) Find(token string) (data []byte, found bool, err error) {
	err = s.store.Get(context.Background(), &data, "SELECT data FROM sessions WHERE token = ? AND julianday('now') < expiry", token)
	if errors.Is(err, ErrNotFound) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// Commit keeps a session until it expires, and drops those that have. It does not wait until that is on disk: whoever
// remembers it goes on with it, and one that is lost with the program is a sign-in more.
func (s Sessions) Commit(token string, data []byte, expires time.Time) error {
	ctx := context.Background()
	s.store.WriteSoon(func(tx *sqlite.Tx) error {
		if err := tx.Exec(ctx, "DELETE FROM sessions WHERE expiry < julianday('now')"); err != nil {
			return err
		}
		return tx.Exec(ctx, "REPLACE INTO sessions (token, data, expiry) VALUES (?, ?, julianday(?))", token, data, expires.UTC().Format("2006-01-02T15:04:05.999"))
	}, s.failed)
	return nil
}

// Delete ends a session, soon.
func (s Sessions) Delete(token string) error {
	ctx := context.Background()
	s.store.WriteSoon(func(tx *sqlite.Tx) error { return tx.Exec(ctx, "DELETE FROM sessions WHERE token = ?", token) }, s.failed)
	return nil
}
