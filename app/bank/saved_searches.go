package bank

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// mostSaved bounds the searches that a person keeps.
const mostSaved = 100

// SavedSearches lists the searches that a person has kept, by name.
func (a *Bank) SavedSearches(ctx context.Context, v roster.Viewer) ([]bankrows.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	return bankrows.SavedSearches(ctx, a.Store.Reader, v.PersonID)
}

// SaveSearch keeps a search under a name; the same name again replaces it. query is
// the search as the address of the bank's screen has it.
func (a *Bank) SaveSearch(ctx context.Context, v roster.Viewer, name, query string) ([]bankrows.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	name, err := wordsWithin("/name", name, 80)
	if err != nil {
		return nil, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		kept, err := bankrows.SavedSearches(ctx, tx.Reader, v.PersonID)
		if err != nil {
			return err
		}
		if len(kept) >= mostSaved {
			return desk.Invalid("/name", "You keep %d saved searches already; delete one first.", mostSaved)
		}
		return bankrows.SaveSearch(ctx, tx, bankrows.SavedSearch{PersonID: v.PersonID, Name: name, Query: query, At: store.Millis(a.Now())})
	})
	if err != nil {
		return nil, err
	}
	return bankrows.SavedSearches(ctx, a.Store.Reader, v.PersonID)
}

// DropSearch forgets a kept search.
func (a *Bank) DropSearch(ctx context.Context, v roster.Viewer, id int64) ([]bankrows.SavedSearch, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	if err := a.Store.Write(ctx, func(tx *store.Tx) error { return bankrows.DropSearch(ctx, tx, v.PersonID, id) }); err != nil {
		return nil, err
	}
	return bankrows.SavedSearches(ctx, a.Store.Reader, v.PersonID)
}
