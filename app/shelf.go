package app

import (
	"context"
	"strings"
	"unicode/utf8"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// shelfPage is how many files of the shelf are listed at once.
const shelfPage = 60

// Shelf lists the media shelf, which all who build share, the newest first; before
// is the moment of the last one of the page before, 0 for the first page.
func (a *App) Shelf(ctx context.Context, v roster.Viewer, words string, unused bool, before int64) (files []store.MediaListed, next int64, err error) {
	if !v.MayBuild() {
		return nil, 0, ErrForbidden
	}
	files, err = a.store.Shelf(ctx, words, unused, before, shelfPage)
	if len(files) == shelfPage {
		next = files[len(files)-1].At
	}
	return files, next, err
}

// MediaUse is where a file of the shelf is shown. Others counts items and passages
// of banks that are not open to the viewer.
type MediaUse struct {
	store.MediaListed
	Items    []FoundItem
	Passages []store.Passage
	Others   int
}

// MediaUses tells where a file is shown.
func (a *App) MediaUses(ctx context.Context, v roster.Viewer, hash string) (MediaUse, error) {
	if !v.MayBuild() {
		return MediaUse{}, ErrForbidden
	}
	m, err := a.store.MediaOnShelf(ctx, hash)
	if err != nil {
		return MediaUse{}, err
	}
	use := MediaUse{MediaListed: m}
	ids, err := a.store.ItemsShowing(ctx, hash)
	if err != nil {
		return use, err
	}
	q, err := a.query(ctx, v, ItemSearch{Only: ids})
	if err != nil {
		return use, err
	}
	items, _, err := a.store.Items(ctx, q)
	if err != nil {
		return use, err
	}
	if use.Items, err = a.found(ctx, v, "", items); err != nil {
		return use, err
	}
	passages, err := a.store.PassagesShowing(ctx, hash)
	if err != nil {
		return use, err
	}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return use, err
	}
	rows, err := a.store.Passages(ctx, passages)
	for _, p := range rows {
		if _, seen := open.by[p.BankID]; seen {
			use.Passages = append(use.Passages, p)
		}
	}
	use.Others = m.Uses - len(use.Items) - len(use.Passages)
	return use, err
}

// DescribeMedia names a file and gives it the alternative text that is offered
// where it is put into an item.
func (a *App) DescribeMedia(ctx context.Context, v roster.Viewer, hash string, version int, name, alt string) (MediaUse, error) {
	if !v.MayBuild() {
		return MediaUse{}, ErrForbidden
	}
	name, alt = strings.TrimSpace(name), strings.TrimSpace(alt)
	if name == "" || utf8.RuneCountInString(name) > 200 {
		return MediaUse{}, invalid("/name", "A file needs a name of at most 200 characters.")
	}
	if utf8.RuneCountInString(alt) > 1000 {
		return MediaUse{}, invalid("/alt", "An alternative text has at most 1,000 characters.")
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		before, err := tx.MediaOnShelf(ctx, hash)
		if err != nil {
			return err
		}
		if err := tx.ChangeMedia(ctx, hash, name, alt, version); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "media.describe", thing: "media", title: name, before: before.Alt, after: alt})
	})
	if err != nil {
		return MediaUse{}, err
	}
	return a.MediaUses(ctx, v, hash)
}

// Replacement is what putting another file in the place of one comes to.
type Replacement struct {
	Items   []store.Item // that get a new version
	Refused []RefusedItem
}

// RefusedItem is one that an act on several leaves as it is, and why.
type RefusedItem struct {
	Identifier, Why string
}

// ReplaceMedia shows another file wherever items show one: each gets a new version,
// placed lines keep theirs. With apply false it tells what would happen. Items that
// are not the viewer's to change stay as they are, and are named.
func (a *App) ReplaceMedia(ctx context.Context, v roster.Viewer, from, to string, apply bool) (Replacement, error) {
	if !v.MayBuild() {
		return Replacement{}, ErrForbidden
	}
	if from == to {
		return Replacement{}, invalid("/by", "It is the same file.")
	}
	other, err := a.store.MediaByHash(ctx, to)
	if err != nil {
		return Replacement{}, err
	}
	var out Replacement
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		old, err := tx.MediaOnShelf(ctx, from)
		if err != nil {
			return err
		}
		if sort, _, _ := strings.Cut(old.Type, "/"); !strings.HasPrefix(other.Type, sort+"/") {
			return invalid("/by", "%s is no %s.", other.Name, map[string]string{"image": "picture", "audio": "sound"}[sort])
		}
		ids, err := tx.ItemsShowing(ctx, from)
		if err != nil {
			return err
		}
		rights, err := a.rightsTo(ctx, tx.Reader, v, ids)
		if err != nil {
			return err
		}
		items, _, err := tx.Items(ctx, store.ItemQuery{Scope: store.ItemScope{All: true}, Only: ids, Limit: len(ids)})
		if err != nil {
			return err
		}
		for _, row := range items {
			if err := a.replaceIn(ctx, tx, v, rights, row, from, shelved(other), apply, &out); err != nil {
				return err
			}
		}
		if !apply {
			return nil
		}
		return a.record(ctx, tx, v, act{name: "media.replace", thing: "media", title: old.Name, before: from, after: to})
	})
	return out, err
}

func (a *App) replaceIn(ctx context.Context, tx *store.Tx, v roster.Viewer, rights itemRights, row store.Item, from string, to item.Picture, apply bool, out *Replacement) error {
	refuse := func(why string) { out.Refused = append(out.Refused, RefusedItem{row.Identifier, why}) }
	if !rights.may(bank.See, row).May {
		out.Refused = append(out.Refused, RefusedItem{"an item of a bank that is not open to you", "it is not yours to change"})
		return nil
	}
	if verdict := rights.may(bank.Change, row); !verdict.May {
		refuse(verdict.Why)
		return nil
	}
	it, err := a.newestDocument(ctx, tx.Reader, row)
	if err != nil {
		return err
	}
	changed, err := it.WithMedia(from, to)
	if err != nil {
		refuse(err.Error())
		return nil
	}
	out.Items = append(out.Items, row)
	if !apply {
		return nil
	}
	return a.nextVersionOf(ctx, tx, v, row, func(nv *store.NewVersion) error {
		again, err := versionOf(changed, row.Identifier, v)
		nv.Document, nv.Words, nv.Sketch = again.Document, again.Words, again.Sketch
		return err
	})
}
