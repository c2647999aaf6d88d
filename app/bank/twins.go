package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
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
func (a *Writing) twinsOf(ctx context.Context, v roster.Viewer, words bankrows.Words, without int64) ([]Twin, error) {
	shingles := bank.Shingles(words.Stem + " " + words.Choices)
	near, err := bankrows.SharingKeys(ctx, a.Store.Reader, bank.Sketch(shingles), without)
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
	q, err := a.bank.query(ctx, v, ItemSearch{Only: ids[:min(len(ids), mostItems)]})
	if err != nil {
		return nil, err
	}
	rows, _, err := bankrows.Items(ctx, a.Store.Reader, q)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(rows, func(x, y bankrows.Item) int { return likeness[y.ID] - likeness[x.ID] })
	rows = rows[:min(len(rows), mostTwins)]
	return a.asTwins(ctx, v, rows, likeness)
}

func (a *Writing) asTwins(ctx context.Context, v roster.Viewer, rows []bankrows.Item, likeness map[int64]int) ([]Twin, error) {
	found, err := a.bank.Found(ctx, v, "", rows)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(rows))
	for i, row := range rows {
		ids[i] = row.ID
	}
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	out := make([]Twin, len(rows))
	for i, row := range rows {
		version, err := bankrows.VersionNumbered(ctx, a.Store.Reader, row.ID, row.Version)
		if err != nil {
			return nil, err
		}
		out[i] = Twin{FoundItem: found[i], Key: version.KeyShort, Likeness: likeness[row.ID], MayJoin: rights.May(bank.Change, row).May}
		if out[i].Document, err = item.Read([]byte(version.Document)); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// ItemTwins finds the twins of an item.
func (a *Writing) ItemTwins(ctx context.Context, v roster.Viewer, id int64) ([]Twin, error) {
	if _, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	words, err := bankrows.TextOf(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	return a.twinsOf(ctx, v, words, id)
}

// DraftTwins finds what is in the bank already of a draft's text, before it is kept.
func (a *Writing) DraftTwins(ctx context.Context, v roster.Viewer, id int64) ([]Twin, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	if err != nil || d.AssessmentID > 0 {
		return []Twin{}, err // an own copy is meant to be like its origin
	}
	return a.twinsOf(ctx, v, bankrows.Words{Stem: d.Document.Stem(), Choices: d.Document.OtherWords()}, d.ItemID)
}

// LinkDraft makes a draft of a new item the next version of an item that it is like.
func (a *Writing) LinkDraft(ctx context.Context, v roster.Viewer, id, version, itemID int64) (ItemDraft, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	switch {
	case err != nil:
		return d, err
	case d.Version != version:
		return d, store.ErrStale
	case d.ItemID > 0 || d.AssessmentID > 0:
		return d, desk.Conflict("This draft belongs to an item already.")
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.bank.itemFor(ctx, tx.Reader, v, itemID, bank.Change)
		if err != nil {
			return err
		}
		meta := d.Meta
		meta.Identifier, meta.Bank, meta.Base = row.Identifier, row.Bank, row.Version
		if meta.BaseTags, err = everyonesTags(ctx, tx.Reader, row); err != nil {
			return err
		}
		return bankrows.LinkDraft(ctx, tx, id, itemID, meta)
	})
	if err != nil {
		return d, err
	}
	return a.ItemDraftByID(ctx, v, id)
}

// JoinItems makes the newest version of one item the next version of another, and
// takes the first out of the bank. Nothing may hang on the first.
func (a *Writing) JoinItems(ctx context.Context, v roster.Viewer, from, into int64) error {
	if from == into {
		return desk.Invalid("/into", "An item cannot be joined to itself.")
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		first, err := a.itemToDrop(ctx, tx, v, from)
		if err != nil {
			return err
		}
		second, _, err := a.bank.itemFor(ctx, tx.Reader, v, into, bank.Change)
		if err != nil {
			return err
		}
		nv, err := a.bank.sameAs(ctx, tx, v, first)
		if err != nil {
			return err
		}
		if err := bankrows.DropItem(ctx, tx, from); err != nil {
			return err
		}
		nv.ItemID, nv.Identifier, nv.Number, nv.BankID = second.ID, second.Identifier, second.Version+1, second.BankID
		if nv.Digest, err = a.bank.digestOf(ctx, tx, nv); err != nil {
			return err
		}
		if _, err := bankrows.PutItem(ctx, tx, nv); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.join", Thing: "item", ID: into, Title: second.Identifier, Before: first.Identifier, After: nv.Digest})
	})
}

// DropItem takes an item out of the bank that nothing hangs on.
func (a *Writing) DropItem(ctx context.Context, v roster.Viewer, id int64) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToDrop(ctx, tx, v, id)
		if err != nil {
			return err
		}
		if err := bankrows.DropItem(ctx, tx, id); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.drop", Thing: "item", ID: id, Title: row.Identifier, Before: row.Digest})
	})
}

// itemToDrop gives an item that may go: the viewer's to change, or of a given bank
// that they keep, and nothing hangs on it.
func (a *Writing) itemToDrop(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (bankrows.Item, error) {
	row, rights, err := a.bank.itemFor(ctx, tx.Reader, v, id)
	if err != nil {
		return row, err
	}
	b := rights.Banks.By[row.BankID]
	if verdict := rights.May(bank.Change, row); !verdict.May && (b.Kind != bank.Given || !rights.May(bank.Keep, row).May) {
		return row, desk.Refusal(verdict)
	}
	used, err := bankrows.ItemIsUsed(ctx, tx.Reader, id)
	if err == nil && used {
		err = desk.Conflict("%s has been used: an assessment, a copy, a report or a hold refers to it, so it stays.", row.Identifier)
	}
	return row, err
}

// ImportTwin is a pair that an import brought: a new item and one that is like it.
type ImportTwin struct{ New, Twin Twin }

// mostImportTwins are shown of an import.
const mostImportTwins = 100

// ImportTwins lists the new items of an import that are nearly the same as another,
// as far as both are still there.
func (a *Writing) ImportTwins(ctx context.Context, v roster.Viewer, run int64) ([]ImportTwin, error) {
	if !v.MayImport() {
		return nil, desk.ErrForbidden
	}
	pairs, err := bankrows.ImportTwins(ctx, a.Store.Reader, run)
	if err != nil {
		return nil, err
	}
	pairs = pairs[:min(len(pairs), mostImportTwins)]
	ids, likeness := []int64{}, map[int64]int{}
	for _, p := range pairs {
		ids = append(ids, p.ItemID, p.TwinID)
		likeness[p.ItemID] = p.Likeness
	}
	q, err := a.bank.query(ctx, v, ItemSearch{Only: ids})
	if err != nil {
		return nil, err
	}
	rows, _, err := bankrows.Items(ctx, a.Store.Reader, q)
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
func (a *Writing) KeepBoth(ctx context.Context, v roster.Viewer, itemID int64) error {
	if !v.MayImport() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error { return bankrows.SettleImportTwin(ctx, tx, itemID) })
}
