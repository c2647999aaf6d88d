package bank

import (
	"context"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// shelfPage is how many files of the shelf are listed at once.
const shelfPage = 60

// Shelf lists the media shelf, which all who build share, the newest first; before
// is the moment of the last one of the page before, 0 for the first page.
func (a *Shelf) Shelf(ctx context.Context, v roster.Viewer, words string, unused bool, before int64) (files []bankrows.MediaListed, next int64, err error) {
	if !v.MayBuild() {
		return nil, 0, desk.ErrForbidden
	}
	files, err = bankrows.Shelf(ctx, a.Store.Reader, words, unused, before, shelfPage)
	if len(files) == shelfPage {
		next = files[len(files)-1].At
	}
	return files, next, err
}

// MediaUse is where a file of the shelf is shown. Others counts items and passages
// of banks that are not open to the viewer.
type MediaUse struct {
	bankrows.MediaListed
	Items    []FoundItem
	Passages []bankrows.Passage
	Others   int
}

// MediaUses tells where a file is shown.
func (a *Shelf) MediaUses(ctx context.Context, v roster.Viewer, hash string) (MediaUse, error) {
	if !v.MayBuild() {
		return MediaUse{}, desk.ErrForbidden
	}
	m, err := bankrows.MediaOnShelf(ctx, a.Store.Reader, hash)
	if err != nil {
		return MediaUse{}, err
	}
	use := MediaUse{MediaListed: m}
	ids, err := bankrows.ItemsShowing(ctx, a.Store.Reader, hash)
	if err != nil {
		return use, err
	}
	q, err := a.bank.query(ctx, v, ItemSearch{Only: ids})
	if err != nil {
		return use, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, q)
	if err != nil {
		return use, err
	}
	if use.Items, err = a.bank.Found(ctx, v, "", items); err != nil {
		return use, err
	}
	passages, err := bankrows.PassagesShowing(ctx, a.Store.Reader, hash)
	if err != nil {
		return use, err
	}
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return use, err
	}
	rows, err := bankrows.Passages(ctx, a.Store.Reader, passages)
	for _, p := range rows {
		if _, seen := open.By[p.BankID]; seen {
			use.Passages = append(use.Passages, p)
		}
	}
	use.Others = m.Uses - len(use.Items) - len(use.Passages)
	return use, err
}

// DescribeMedia names a file and gives it the alternative text that is offered
// where it is put into an item.
func (a *Shelf) DescribeMedia(ctx context.Context, v roster.Viewer, hash string, version int, name, alt string) (MediaUse, error) {
	if !v.MayBuild() {
		return MediaUse{}, desk.ErrForbidden
	}
	name, alt = strings.TrimSpace(name), strings.TrimSpace(alt)
	if name == "" || utf8.RuneCountInString(name) > 200 {
		return MediaUse{}, desk.Invalid("/name", "A file needs a name of at most 200 characters.")
	}
	if utf8.RuneCountInString(alt) > 1000 {
		return MediaUse{}, desk.Invalid("/alt", "An alternative text has at most 1,000 characters.")
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		before, err := bankrows.MediaOnShelf(ctx, tx.Reader, hash)
		if err != nil {
			return err
		}
		if err := bankrows.ChangeMedia(ctx, tx, hash, name, alt, version); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "media.describe", Thing: "media", Title: name, Before: before.Alt, After: alt})
	})
	if err != nil {
		return MediaUse{}, err
	}
	return a.MediaUses(ctx, v, hash)
}

// Replacement is what putting another file in the place of one comes to.
type Replacement struct {
	Items   []bankrows.Item // that get a new version
	Refused []RefusedItem
}

// RefusedItem is one that an act on several leaves as it is, and why.
type RefusedItem struct {
	Identifier, Why string
}

// ReplaceMedia shows another file wherever items show one: each gets a new version,
// placed lines keep theirs. With apply false it tells what would happen. Items that
// are not the viewer's to change stay as they are, and are named.
func (a *Shelf) ReplaceMedia(ctx context.Context, v roster.Viewer, from, to string, apply bool) (Replacement, error) {
	if !v.MayBuild() {
		return Replacement{}, desk.ErrForbidden
	}
	if from == to {
		return Replacement{}, desk.Invalid("/by", "It is the same file.")
	}
	other, err := bankrows.MediaByHash(ctx, a.Store.Reader, to)
	if err != nil {
		return Replacement{}, err
	}
	var out Replacement
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		old, err := bankrows.MediaOnShelf(ctx, tx.Reader, from)
		if err != nil {
			return err
		}
		if sort, _, _ := strings.Cut(old.Type, "/"); !strings.HasPrefix(other.Type, sort+"/") {
			return desk.Invalid("/by", "%s is no %s.", other.Name, map[string]string{"image": "picture", "audio": "sound"}[sort])
		}
		ids, err := bankrows.ItemsShowing(ctx, tx.Reader, from)
		if err != nil {
			return err
		}
		rights, err := a.bank.RightsTo(ctx, tx.Reader, v, ids)
		if err != nil {
			return err
		}
		items, _, err := bankrows.Items(ctx, tx.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: ids, Limit: len(ids)})
		if err != nil {
			return err
		}
		for _, row := range items {
			if err := a.replaceIn(ctx, tx, v, rights, row, from, Shelved(other), apply, &out); err != nil {
				return err
			}
		}
		if !apply {
			return nil
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "media.replace", Thing: "media", Title: old.Name, Before: from, After: to})
	})
	return out, err
}

func (a *Shelf) replaceIn(ctx context.Context, tx *store.Tx, v roster.Viewer, rights ItemRights, row bankrows.Item, from string, to item.Picture, apply bool, out *Replacement) error {
	refuse := func(why string) { out.Refused = append(out.Refused, RefusedItem{row.Identifier, why}) }
	if !rights.May(bank.See, row).May {
		out.Refused = append(out.Refused, RefusedItem{"an item of a bank that is not open to you", "it is not yours to change"})
		return nil
	}
	if verdict := rights.May(bank.Change, row); !verdict.May {
		refuse(verdict.Why)
		return nil
	}
	it, err := a.bank.newestDocument(ctx, tx.Reader, row)
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
	return a.bank.nextVersionOf(ctx, tx, v, row, func(nv *bankrows.NewVersion) error {
		again, err := VersionOf(changed, row.Identifier, v)
		nv.Document, nv.Words, nv.Sketch = again.Document, again.Words, again.Sketch
		return err
	})
}
