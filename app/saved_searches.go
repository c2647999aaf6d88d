package app

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store"
)

// mostSaved bounds the searches that a person keeps.
const mostSaved = 100

// SavedSearches lists the searches that a person has kept, by name.
func (a *App) SavedSearches(ctx context.Context, v roster.Viewer) ([]store.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	return a.store.SavedSearches(ctx, v.PersonID)
}

// SaveSearch keeps a search under a name; the same name again replaces it. query is
// the search as the address of the bank's screen has it.
func (a *App) SaveSearch(ctx context.Context, v roster.Viewer, name, query string) ([]store.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	name, err := wordsWithin("/name", name, 80)
	if err != nil {
		return nil, err
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		kept, err := tx.SavedSearches(ctx, v.PersonID)
		if err != nil {
			return err
		}
		if len(kept) >= mostSaved {
			return invalid("/name", "You keep %d searches already; drop one first.", mostSaved)
		}
		return tx.SaveSearch(ctx, store.SavedSearch{PersonID: v.PersonID, Name: name, Query: query, At: store.Millis(a.now())})
	})
	if err != nil {
		return nil, err
	}
	return a.store.SavedSearches(ctx, v.PersonID)
}

// DropSearch forgets a kept search.
func (a *App) DropSearch(ctx context.Context, v roster.Viewer, id int64) ([]store.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	if err := a.store.Write(ctx, func(tx *store.Tx) error { return tx.DropSearch(ctx, v.PersonID, id) }); err != nil {
		return nil, err
	}
	return a.store.SavedSearches(ctx, v.PersonID)
}
