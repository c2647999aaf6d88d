package app

import (
	"context"
	"fmt"

	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// newestDocument reads an item's newest version.
func (a *App) newestDocument(ctx context.Context, r store.Reader, row store.Item) (item.Item, error) {
	version, err := r.VersionNumbered(ctx, row.ID, row.Version)
	if err != nil {
		return item.Item{}, err
	}
	return item.Read([]byte(version.Document))
}

// sameAs gives a version after an item's newest that does not differ from it yet.
func (a *App) sameAs(ctx context.Context, tx *store.Tx, v roster.Viewer, row store.Item) (store.NewVersion, error) {
	it, err := a.newestDocument(ctx, tx.Reader, row)
	if err != nil {
		return store.NewVersion{}, err
	}
	nv, err := versionOf(it, row.Identifier, v)
	if err != nil {
		return nv, err
	}
	nv.ItemID, nv.Number, nv.BankID, nv.At = row.ID, row.Version+1, row.BankID, store.Millis(a.now())
	nv.Subject, nv.Grade, nv.Course, nv.Language, nv.Depth, nv.Difficulty, nv.PassageID = row.Subject, row.Grade, row.Course, row.Language, row.Depth, row.Difficulty, row.PassageID
	nv.Codes = row.Standards
	if nv.TagList, err = everyonesTags(ctx, tx.Reader, row); err != nil {
		return nv, err
	}
	return nv, a.align(ctx, tx, &nv)
}

// align finds the standards of a version's codes.
func (a *App) align(ctx context.Context, tx *store.Tx, nv *store.NewVersion) error {
	known, err := tx.StandardsCoded(ctx, codes(nv.Codes))
	nv.Standards = nil
	for _, code := range codes(nv.Codes) {
		nv.Standards = append(nv.Standards, known[code].ID)
	}
	return err
}

// digestOf computes the digest that an import of the same item would have.
func (a *App) digestOf(ctx context.Context, tx *store.Tx, nv store.NewVersion) (string, error) {
	in, err := tx.BankByID(ctx, nv.BankID)
	if err != nil {
		return "", err
	}
	passage := ""
	if nv.PassageID > 0 {
		list, err := tx.Passages(ctx, []int64{nv.PassageID})
		if err != nil || len(list) == 0 {
			return "", fmt.Errorf("the passage of %s: %w", nv.Identifier, err)
		}
		passage = list[0].Identifier
	}
	return a.itemDigest(nv, in.Name, passage), nil
}

// nextVersionOf keeps a version of an item that differs from its newest only by
// what change does to it.
func (a *App) nextVersionOf(ctx context.Context, tx *store.Tx, v roster.Viewer, row store.Item, change func(*store.NewVersion) error) error {
	nv, err := a.sameAs(ctx, tx, v, row)
	if err != nil {
		return err
	}
	if err := change(&nv); err != nil {
		return err
	}
	if err := a.align(ctx, tx, &nv); err != nil {
		return err
	}
	if nv.Digest, err = a.digestOf(ctx, tx, nv); err != nil {
		return err
	}
	if _, err := tx.PutItem(ctx, nv); err != nil {
		return err
	}
	return a.record(ctx, tx, v, act{name: "item.version", thing: "item", id: row.ID, title: row.Identifier, before: row.Version, after: nv.Digest})
}
