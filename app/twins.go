package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// Twin is an item of the same or nearly the same text as another.
type Twin struct {
	FoundItem
	Document item.Item
	Key      string
	Likeness int  // thousandths
	MayJoin  bool // the other may become its next version
}

// mostTwins are shown beside an item.
const mostTwins = 10

// twinsOf finds the items like a text that exist for a viewer, the most like first.
func (a *App) twinsOf(ctx context.Context, v roster.Viewer, words store.Words, without int64) ([]Twin, error) {
	shingles := bank.Shingles(words.Stem + " " + words.Choices)
	near, err := a.store.SharingKeys(ctx, bank.Sketch(shingles), without)
	if err != nil {
		return nil, err
	}
	likeness := map[int64]int{}
	ids := []int64{}
	for _, n := range near {
		if like := bank.Likeness(shingles, bank.Shingles(n.Stem+" "+n.Choices)); like >= bank.NearlySame {
			likeness[n.ItemID] = like
			ids = append(ids, n.ItemID)
		}
	}
	if len(ids) == 0 {
		return []Twin{}, nil
	}
	slices.SortStableFunc(ids, func(x, y int64) int { return likeness[y] - likeness[x] })
	q, err := a.query(ctx, v, ItemSearch{Only: ids[:min(len(ids), mostItems)]})
	if err != nil {
		return nil, err
	}
	rows, _, err := a.store.Items(ctx, q)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(rows, func(x, y store.Item) int { return likeness[y.ID] - likeness[x.ID] })
	rows = rows[:min(len(rows), mostTwins)]
	return a.asTwins(ctx, v, rows, likeness)
}

func (a *App) asTwins(ctx context.Context, v roster.Viewer, rows []store.Item, likeness map[int64]int) ([]Twin, error) {
	found, err := a.found(ctx, v, "", rows)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(rows))
	for i, row := range rows {
		ids[i] = row.ID
	}
	rights, err := a.rightsTo(ctx, a.store.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	out := make([]Twin, len(rows))
	for i, row := range rows {
		version, err := a.store.VersionNumbered(ctx, row.ID, row.Version)
		if err != nil {
			return nil, err
		}
		out[i] = Twin{FoundItem: found[i], Key: version.KeyShort, Likeness: likeness[row.ID], MayJoin: rights.may(bank.Change, row).May}
		if out[i].Document, err = item.Read([]byte(version.Document)); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// ItemTwins finds the twins of an item.
func (a *App) ItemTwins(ctx context.Context, v roster.Viewer, id int64) ([]Twin, error) {
	if _, _, err := a.itemFor(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	words, err := a.store.TextOf(ctx, id)
	if err != nil {
		return nil, err
	}
	return a.twinsOf(ctx, v, words, id)
}

// DraftTwins finds what is in the bank already of a draft's text, before it is kept.
func (a *App) DraftTwins(ctx context.Context, v roster.Viewer, id int64) ([]Twin, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	if err != nil || d.AssessmentID > 0 {
		return []Twin{}, err // an own copy is meant to be like its origin
	}
	return a.twinsOf(ctx, v, store.Words{Stem: d.Document.Stem(), Choices: d.Document.OtherWords()}, d.ItemID)
}

// LinkDraft makes a draft of a new item the next version of an item that it is like.
func (a *App) LinkDraft(ctx context.Context, v roster.Viewer, id, version, itemID int64) (ItemDraft, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	switch {
	case err != nil:
		return d, err
	case d.Version != version:
		return d, store.ErrStale
	case d.ItemID > 0 || d.AssessmentID > 0:
		return d, conflict("This draft belongs to an item already.")
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, itemID, bank.Change)
		if err != nil {
			return err
		}
		meta := d.Meta
		meta.Identifier, meta.Bank, meta.Base = row.Identifier, row.Bank, row.Version
		if meta.BaseTags, err = everyonesTags(ctx, tx.Reader, row); err != nil {
			return err
		}
		return tx.LinkDraft(ctx, id, itemID, meta)
	})
	if err != nil {
		return d, err
	}
	return a.ItemDraftByID(ctx, v, id)
}

// JoinItems makes the newest version of one item the next version of another, and
// takes the first out of the bank. Nothing may hang on the first.
func (a *App) JoinItems(ctx context.Context, v roster.Viewer, from, into int64) error {
	if from == into {
		return invalid("/into", "An item cannot be joined to itself.")
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		first, err := a.itemToDrop(ctx, tx, v, from)
		if err != nil {
			return err
		}
		second, _, err := a.itemFor(ctx, tx.Reader, v, into, bank.Change)
		if err != nil {
			return err
		}
		nv, err := a.sameAs(ctx, tx, v, first)
		if err != nil {
			return err
		}
		if err := tx.DropItem(ctx, from); err != nil {
			return err
		}
		nv.ItemID, nv.Identifier, nv.Number, nv.BankID = second.ID, second.Identifier, second.Version+1, second.BankID
		if nv.Digest, err = a.digestOf(ctx, tx, nv); err != nil {
			return err
		}
		if _, err := tx.PutItem(ctx, nv); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.join", thing: "item", id: into, title: second.Identifier, before: first.Identifier, after: nv.Digest})
	})
}

// DropItem takes an item out of the bank that nothing hangs on.
func (a *App) DropItem(ctx context.Context, v roster.Viewer, id int64) error {
	return a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToDrop(ctx, tx, v, id)
		if err != nil {
			return err
		}
		if err := tx.DropItem(ctx, id); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.drop", thing: "item", id: id, title: row.Identifier, before: row.Digest})
	})
}

// itemToDrop gives an item that may go: the viewer's to change, or of a given bank
// that they keep, and nothing hangs on it.
func (a *App) itemToDrop(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (store.Item, error) {
	row, rights, err := a.itemFor(ctx, tx.Reader, v, id)
	if err != nil {
		return row, err
	}
	b := rights.banks.by[row.BankID]
	if verdict := rights.may(bank.Change, row); !verdict.May && (b.Kind != bank.Given || !rights.may(bank.Keep, row).May) {
		return row, refusal(verdict)
	}
	used, err := tx.ItemIsUsed(ctx, id)
	if err == nil && used {
		err = conflict("%s has been used: an assessment, a copy, a report or a hold refers to it, so it stays.", row.Identifier)
	}
	return row, err
}

// ImportTwin is a pair that an import brought: a new item and one that is like it.
type ImportTwin struct{ New, Twin Twin }

// mostImportTwins are shown of an import.
const mostImportTwins = 100

// ImportTwins lists the new items of an import that are nearly the same as another,
// as far as both are still there.
func (a *App) ImportTwins(ctx context.Context, v roster.Viewer, run int64) ([]ImportTwin, error) {
	if !v.MayImport() {
		return nil, ErrForbidden
	}
	pairs, err := a.store.ImportTwins(ctx, run)
	if err != nil {
		return nil, err
	}
	pairs = pairs[:min(len(pairs), mostImportTwins)]
	ids, likeness := []int64{}, map[int64]int{}
	for _, p := range pairs {
		ids = append(ids, p.ItemID, p.TwinID)
		likeness[p.ItemID] = p.Likeness
	}
	q, err := a.query(ctx, v, ItemSearch{Only: ids})
	if err != nil {
		return nil, err
	}
	rows, _, err := a.store.Items(ctx, q)
	if err != nil {
		return nil, err
	}
	twins, err := a.asTwins(ctx, v, rows, likeness)
	if err != nil {
		return nil, err
	}
	at := func(id int64) int { return slices.IndexFunc(twins, func(t Twin) bool { return t.ID == id }) }
	out := []ImportTwin{}
	for _, p := range pairs {
		if i, j := at(p.ItemID), at(p.TwinID); i >= 0 && j >= 0 {
			out = append(out, ImportTwin{twins[i], twins[j]})
		}
	}
	return out, nil
}

// KeepBoth settles that a new item of an import stays beside its twin.
func (a *App) KeepBoth(ctx context.Context, v roster.Viewer, itemID int64) error {
	if !v.MayImport() {
		return ErrForbidden
	}
	return a.store.Write(ctx, func(tx *store.Tx) error { return tx.SettleImportTwin(ctx, itemID) })
}
